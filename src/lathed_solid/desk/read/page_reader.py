"""Reads pages of sheets in a process of their own (``sheets.worker``): the window never waits, and a hostile file costs
a message.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, QTimer, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap

from lathed_solid.desk.background import Background
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets import SheetError, SheetPage, command, levels, page_of
from lathed_solid.store import place_of

#: a page that takes longer is given up
LIMIT_MS = 45_000


class PageReader(QObject):
    """One page at a time; a new wish ends the one before."""

    came = pyqtSignal(object, object)  # SheetPage, [QPixmap] from full size down by halves
    failed = pyqtSignal(str)

    def __init__(self, background: Background, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._background = background
        self.wanted: tuple[str, int] | None = None
        #: while a page is read and its picture taken in
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._process: QProcess | None = None
        #: the picture that is being taken in; one that comes too late is dropped
        self._loading = 0
        self._limit = QTimer(self)
        self._limit.setSingleShot(True)
        self._limit.setInterval(LIMIT_MS)
        self._limit.timeout.connect(self._too_long)

    def want(self, name: str, page: int, unit: LengthUnit) -> None:
        """Read page ``page`` of the stored file ``name``; ``unit`` of the notes on it."""
        self.stop()
        self.wanted = (name, page)
        self._folder = tempfile.TemporaryDirectory(prefix="lathed-solid-sheet-")
        program, *args = command(place_of(name), page, self._picture(), unit=unit)
        self._process = QProcess(self)
        self._process.finished.connect(self._finished)
        self._process.start(program, args)
        self._limit.start()

    def _picture(self) -> Path:
        assert self._folder is not None
        return Path(self._folder.name) / "page.bmp"

    def _clear(self) -> None:
        if self._folder is not None:
            self._folder.cleanup()
            self._folder = None

    def stop(self) -> None:
        """Give the wish up: its process ends, its picture is dropped, no file is left."""
        self._limit.stop()
        if self._process is not None:
            self._process.finished.disconnect()
            self._process.kill()
            self._process.waitForFinished(500)
            self._process.deleteLater()
            self._process = None
        self.wanted = None
        self._background.drop(self._loading)
        self._clear()

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
            found = page_of(out)
        except SheetError as exc:
            self._clear()
            self.failed.emit(exc.message)
            return
        paths = levels(self._picture())
        # a large picture takes longer than a frame to take in, and does not need Python's lock for it
        self._loading = self._background.run(
            lambda: [QImage(str(p)) for p in paths], lambda images: self._take(found, images), self.failed.emit
        )

    def _take(self, found: SheetPage, images: list[QImage]) -> None:
        self._clear()
        pictures = [QPixmap.fromImage(image) for image in images]
        if not pictures or any(p.isNull() for p in pictures):
            self.failed.emit(SheetError("the sheet has no picture").message)
        else:
            self.came.emit(found, pictures)
