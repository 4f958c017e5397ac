"""Questions that need many builds, asked of a crew of workers in a thread of their own; the window goes on."""

from __future__ import annotations

import threading
from collections.abc import Callable, Generator
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal

from lathed_solid.engine.worker_pool import Stopped, WorkerPool
from lathed_solid.errors import LathedError
from lathed_solid.part import Document

Question = Callable[[], Generator[list[Document], list[float | None], Any]]


class Asking(QObject):
    """One question at a time. Signals: builds done and asked for; the answer; why there is none."""

    progressed = pyqtSignal(int, int)
    answered = pyqtSignal(object)
    failed = pyqtSignal(str)
    _over = pyqtSignal(int, object, str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._crew: WorkerPool | None = None
        self._number = 0
        self._over.connect(self._finish)

    @property
    def busy(self) -> bool:
        return self._crew is not None

    def ask(self, question: Question) -> None:
        """Ask; a question that is still open is given up."""
        self.stop()
        self._number += 1
        number = self._number
        try:
            crew = self._crew = WorkerPool()
        except LathedError as exc:
            self.failed.emit(exc.message)
            return

        def run() -> None:
            found, why = None, ""
            try:
                found = crew.answer(question(), lambda done, of: self._tell(number, done, of))
            except Stopped:
                why = "stopped"
            except LathedError as exc:
                why = exc.message
            except Exception as exc:  # noqa: BLE001 - the thread must end with words, not silently
                why = f"{type(exc).__name__}: {exc}"
            finally:
                crew.close()
            self._over.emit(number, found, why)

        threading.Thread(target=run, daemon=True).start()

    def _tell(self, number: int, done: int, of: int) -> None:
        if number == self._number:
            self.progressed.emit(done, of)

    def stop(self) -> None:
        """Give the open question up."""
        if self._crew is not None:
            self._crew.stop.set()
            self._crew = None
            self._number += 1
            self.failed.emit("stopped")

    def _finish(self, number: int, found: object, why: str) -> None:
        if number != self._number:
            return
        self._crew = None
        if why:
            self.failed.emit(why)
        else:
            self.answered.emit(found)
