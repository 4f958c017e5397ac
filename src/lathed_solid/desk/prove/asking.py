"""Questions that need many builds, asked of a pool of workers beside the window; the window goes on."""

from __future__ import annotations

from collections.abc import Callable, Generator
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from lathed_solid.desk.background import Background
from lathed_solid.engine.worker_pool import WorkerPool
from lathed_solid.errors import LathedError
from lathed_solid.part import Document

Question = Callable[[], Generator[list[Document], list[float | None], Any]]


class Asking(QObject):
    """One question at a time. Signals: builds done and asked for; the answer; why there is none."""

    progressed = pyqtSignal(int, int)
    answered = pyqtSignal(object)
    failed = pyqtSignal(str)
    _counted = pyqtSignal(object, int, int)

    def __init__(self, background: Background, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._background = background
        self._pool: WorkerPool | None = None
        self._work = 0
        self._counted.connect(self._tell)

    @property
    def busy(self) -> bool:
        """Whether a question is open."""
        return self._pool is not None

    def ask(self, question: Question) -> None:
        """Ask; a question that is still open is given up."""
        self.stop()
        try:
            pool = self._pool = WorkerPool()
        except LathedError as exc:
            self.failed.emit(exc.message)
            return

        def work() -> Any:
            with pool:
                return pool.answer(question(), lambda done, of: self._counted.emit(pool, done, of))

        self._work = self._background.run(work, self._answer, self._fail)

    def _tell(self, pool: WorkerPool, done: int, of: int) -> None:
        if pool is self._pool:
            self.progressed.emit(done, of)

    def _answer(self, found: object) -> None:
        self._pool = None
        self.answered.emit(found)

    def _fail(self, why: str) -> None:
        self._pool = None
        self.failed.emit(why)

    def stop(self) -> None:
        """Give the open question up."""
        if self._pool is not None:
            self._pool.stop.set()
            self._pool = None
            self._background.drop(self._work)
            self.failed.emit("stopped")
