"""Reads pages of sheets in processes of their own (``sheets.worker``): the window never waits, and a hostile file costs
nothing but its own page. The page is shown first; the lettering of a picture is read then, by a second process.
"""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from PyQt6.QtCore import QObject, QProcess, QTimer, pyqtSignal
from PyQt6.QtGui import QImage, QPixmap

from lathed_solid.desk.background import Background
from lathed_solid.ledger.sheet_corners import Corners
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets import SheetError, SheetPage, command, lettered, lettering_command, levels, page_of
from lathed_solid.sheets.client import LETTERING_S
from lathed_solid.store import place_of

#: a page that takes longer is given up
LIMIT_MS = 45_000

#: file, page, unit, corners
_Key = tuple[str, int, LengthUnit, Corners | None]


class PageReader(QObject):
    """One page at a time; a new wish ends the one before. ``flat``: pictures are of sheets, to be straightened."""

    came = pyqtSignal(object, object)  # SheetPage, [QPixmap] from full size down by halves
    lettered = pyqtSignal(object)  # SheetPage, once the lettering of its picture is read
    failed = pyqtSignal(str)
    unlettered = pyqtSignal(str)  # why the lettering is not read

    def __init__(self, background: Background, parent: QObject | None = None, *, flat: bool = True) -> None:
        super().__init__(parent)
        self._background, self._flat = background, flat
        self.wanted: tuple[str, int, Corners | None] | None = None
        #: while a page is read and its picture taken in
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._process: QProcess | None = None
        #: the picture that is being taken in; one that comes too late is dropped
        self._loading = 0
        #: what was read of pictures, by file, page and unit: it takes its time
        self._known: dict[_Key, SheetPage] = {}
        self._limit = QTimer(self)
        self._limit.setSingleShot(True)
        self._limit.timeout.connect(self._too_long)
        self._failing: Callable[[str], object] = self.failed.emit

    @property
    def reads_lettering(self) -> bool:
        """Whether the lettering of the page that is shown is being read."""
        return self.wanted is None and self._process is not None

    def want(self, name: str, page: int, unit: LengthUnit, corners: Corners | None = None) -> None:
        """Read page ``page`` of the stored file ``name``; ``unit`` of the notes on it; ``corners`` put by hand."""
        self.stop()
        self.wanted = (name, page, corners)
        self._folder = tempfile.TemporaryDirectory(prefix="lathed-solid-sheet-")
        line = command(place_of(name), page, self._picture(), unit=unit, flat=self._flat, corners=corners)

        def read(out: str) -> None:
            self.wanted = None
            found = page_of(out)
            paths = levels(self._picture())
            # a large picture takes longer than a frame to take in, and does not need Python's lock for it
            self._loading = self._background.run(
                lambda: [QImage(str(p)) for p in paths],
                lambda images: self._take(found, images, (name, page, unit, corners)),
                self.failed.emit,
            )

        self._start(line, LIMIT_MS, read, self.failed.emit)

    def _start(
        self, line: list[str], limit_ms: int, read: Callable[[str], None], failing: Callable[[str], object]
    ) -> None:
        self._failing = failing
        process = self._process = QProcess(self)
        process.finished.connect(lambda code: self._finished(process, code, read))
        process.start(line[0], line[1:])
        self._limit.start(limit_ms)

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
        failing = self._failing
        self.stop()
        failing("it takes too long; the reading was stopped")

    def _finished(self, process: QProcess, code: int, read: Callable[[str], None]) -> None:
        out = bytes(process.readAllStandardOutput().data()).decode("utf-8", "replace")
        said = bytes(process.readAllStandardError().data()).decode("utf-8", "replace").strip().splitlines()
        self._limit.stop()
        process.deleteLater()
        self._process = None
        try:
            if code != 0:
                raise SheetError("the sheet cannot be read", rule=said[-1] if said else "its reader stopped")
            read(out)
        except SheetError as exc:
            self.wanted = None
            self._clear()
            self._failing(exc.message)

    def _take(self, found: SheetPage, images: list[QImage], key: _Key) -> None:
        pictures = [QPixmap.fromImage(image) for image in images]
        if not pictures or any(p.isNull() for p in pictures):
            self._clear()
            self.failed.emit(SheetError("the sheet has no picture").message)
            return
        found = self._known.get(key, found)
        if found.lettering != "unread":
            self._clear()
        self.came.emit(found, pictures)
        if found.lettering == "unread" and self._folder is not None:
            self._read_lettering(found, key)

    def _read_lettering(self, found: SheetPage, key: _Key) -> None:
        def read(out: str) -> None:
            self._clear()
            self._known[key] = lettered(found, out)
            self.lettered.emit(self._known[key])

        line = lettering_command(self._picture(), found, key[2])
        self._start(line, round(LETTERING_S * 1000), read, self.unlettered.emit)
