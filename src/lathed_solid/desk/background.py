"""Work beside the window's thread: one way for all, owned by the window and ended with it.

Python's threads, for all that is run here waits for the disk or for another process. What came of it is told by a
signal, so in the window's thread; of work that was given up nothing is told.
"""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable
from typing import Any, TypeVar

from PyQt6.QtCore import QObject, pyqtSignal

from lathed_solid.errors import LathedError

T = TypeVar("T")
log = logging.getLogger(__name__)


class Background(QObject):
    """``run`` starts a work; ``drop`` lets its outcome go; ``close`` ends all."""

    _over = pyqtSignal(int, object, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._next = 0
        self._open: dict[int, tuple[Callable[[Any], object], Callable[[str], object]]] = {}
        self._threads: set[threading.Thread] = set()
        self._over.connect(self._finish)

    def run(self, work: Callable[[], T], done: Callable[[T], object], failed: Callable[[str], object]) -> int:
        """Do ``work``; then ``done`` with its result, or ``failed`` with words. The number to ``drop`` it by."""
        self._next += 1
        number = self._next

        def do() -> None:
            found, why = None, ""
            try:
                found = work()
            except LathedError as exc:
                why = exc.message
            except Exception as exc:
                log.exception("work beside the window failed")
                why = f"{type(exc).__name__}: {exc}"
            self._over.emit(number, found, why)

        thread = threading.Thread(target=do, name=f"work {number}")
        self._open[number] = done, failed
        self._threads = {t for t in self._threads if t.is_alive()} | {thread}
        thread.start()
        return number

    def drop(self, number: int) -> None:
        """Nothing more is told of this work."""
        self._open.pop(number, None)

    def _finish(self, number: int, found: object, why: str) -> None:
        told = self._open.pop(number, None)
        if told is None:
            return
        done, failed = told
        if why:
            failed(why)
        else:
            done(found)

    def close(self) -> None:
        """Wait for what is under way, given up or not: a file half written helps nobody. Nothing more is told."""
        self._open.clear()
        for thread in self._threads:
            thread.join()
        self._threads.clear()
