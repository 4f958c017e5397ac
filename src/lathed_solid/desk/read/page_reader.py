"""Reads pages of sheets in a process of their own (``sheets.worker``): the window never waits, and a hostile file costs
a message.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, QTimer, pyqtSignal
from PyQt6.QtGui import QPixmap

from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets import SheetError, command, page_of
from lathed_solid.store import place_of

#: a page that takes longer is given up
LIMIT_MS = 45_000


class PageReader(QObject):
    """One page at a time; a new wish ends the one before."""

    came = pyqtSignal(object, object)  # SheetPage, QPixmap
    failed = pyqtSignal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.wanted: tuple[str, int] | None = None
        self._unit: LengthUnit = "mm"
        self._folder = tempfile.TemporaryDirectory(prefix="lathed-solid-sheet-")
        self._process: QProcess | None = None
        self._limit = QTimer(self)
        self._limit.setSingleShot(True)
        self._limit.setInterval(LIMIT_MS)
        self._limit.timeout.connect(self._too_long)

    def want(self, name: str, page: int, unit: LengthUnit) -> None:
        """Read page ``page`` of the stored file ``name``; ``unit`` of the notes on it."""
        self.stop()
        self.wanted, self._unit = (name, page), unit
        program, *args = command(place_of(name), page, self._picture())
        self._process = QProcess(self)
        self._process.finished.connect(self._finished)
        self._process.start(program, args)
        self._limit.start()

    def _picture(self) -> Path:
        return Path(self._folder.name) / "page.png"

    def stop(self) -> None:
        self._limit.stop()
        if self._process is not None:
            self._process.finished.disconnect()
            self._process.kill()
            self._process.waitForFinished(500)
            self._process.deleteLater()
            self._process = None
        self.wanted = None

    def close(self) -> None:
        self.stop()
        self._folder.cleanup()

    def _too_long(self) -> None:
        self.stop()
        self.failed.emit("it takes too long; the reading was stopped")

    def _finished(self, code: int, _status: object) -> None:
        process = self._process
        assert process is not None
        out = bytes(process.readAllStandardOutput().data()).decode("utf-8", "replace")
        said = bytes(process.readAllStandardError().data()).decode("utf-8", "replace").strip().splitlines()
        self._limit.stop()
        process.deleteLater()
        self._process = self.wanted = None
        try:
            if code != 0:
                raise SheetError("the sheet cannot be read", rule=said[-1] if said else "its reader stopped")
            found = page_of(out, self._unit)
            pixmap = QPixmap(str(self._picture()))
            if pixmap.isNull():
                raise SheetError("the sheet has no picture")
        except SheetError as exc:
            self.failed.emit(exc.message)
            return
        self.came.emit(found, pixmap)
