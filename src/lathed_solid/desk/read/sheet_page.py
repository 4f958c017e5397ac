"""The sheets beside the solid: opening, turning the pages, and taking callouts where they stand.

Pages are read by a process of their own (``sheets.worker``): the window never waits, and a hostile file costs a
message.
"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QPointF, QProcess, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.read.sheet_view import Mark, SheetView
from lathed_solid.files import FileError
from lathed_solid.files.attachments import keep_sheet, read_for
from lathed_solid.ledger import Callout, SheetPlace
from lathed_solid.part import Document, Sheet
from lathed_solid.part.edits import changed
from lathed_solid.sheets import SheetError, SheetPage, command, page_of
from lathed_solid.sheets.client import Offer
from lathed_solid.store import place_of

SAME = 0.004
#: a page that takes longer is given up
LIMIT_MS = 45_000


def beside(offer: Offer) -> tuple[float, float]:
    """Where the balloon of a found note stands: at its left."""
    left, top, _right, bottom = offer.box
    return max(left - 0.018, 0.0), (top + bottom) / 2


def _stands_at(callout: Callout, offer: Offer) -> bool:
    """Whether a callout was taken from this very note."""
    x, _y = beside(offer)
    place = callout.place
    return place is not None and abs(place.x - x) < SAME and offer.box[1] - SAME < place.y < offer.box[3] + SAME


class SheetsPage(QWidget):
    """Emits edits (sheets opened, turned), a note with its place, and the balloon that is chosen."""

    edited = pyqtSignal(str, object)
    noted = pyqtSignal(str, object)  # text, SheetPlace
    chosen = pyqtSignal(int)
    told = pyqtSignal(str, bool)
    read = pyqtSignal(object)  # SheetPage

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")
        self.document = Document()
        self.number, self.page = 1, 1
        self.pages = 1
        self.found: SheetPage | None = None
        self._shown: tuple[str, int] | None = None
        self._wanted: tuple[str, int] | None = None
        self._states: dict[int, str] = {}
        self._current: int | None = None
        self._folder = tempfile.TemporaryDirectory(prefix="lathed-solid-sheet-")
        self._process: QProcess | None = None
        self._limit = QTimer(self)
        self._limit.setSingleShot(True)
        self._limit.setInterval(LIMIT_MS)
        self._limit.timeout.connect(self._too_long)
        self._build()

    def _build(self) -> None:
        self.sheets = QComboBox()
        self.sheets.setAccessibleName("sheets")
        self.sheets.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.sheets.setMinimumContentsLength(8)
        self.sheets.activated.connect(lambda i: self.show_sheet(i + 1))
        self.where = QLabel()
        self.where.setFont(theme.narrow(12))
        buttons = (
            ("open a sheet…", self.open_dialog, "a PDF, DXF, PNG or JPEG"),
            ("‹", lambda: self.turn_page(-1), "the page before (PgUp)"),
            ("›", lambda: self.turn_page(1), "the next page (PgDown)"),
            ("turn", self.turn, "turn the sheet by a quarter"),
            ("fit", self._fit, "all of the page"),
        )
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 8)
        row.addWidget(self.sheets, 1)
        self.buttons = {}
        for text, run, tip in buttons:
            button = QPushButton(text)
            button.setFont(theme.narrow(12))
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, run=run: run())
            self.buttons[text] = button
            row.addWidget(button)
            if text == "‹":
                row.addWidget(self.where)
        self.view = SheetView()
        self.view.offered.connect(self._take_offer)
        self.view.pointed.connect(self._ask_here)
        self.view.chosen.connect(self.chosen)
        self.empty = QLabel(
            "No sheet is laid here yet.\n\nOpen a drawing as PDF, DXF, PNG or JPEG: its notes are found and offered as "
            "callouts,\nand a click anywhere else takes a note that you type."
        )
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.entry = QLineEdit(self.view)
        self.entry.setFont(theme.drawing(15))
        self.entry.setFixedWidth(240)
        self.entry.setPlaceholderText("the note, as it stands here")
        self.entry.setAccessibleName("note at this place")
        self.entry.returnPressed.connect(self._enter)
        self.entry.hide()
        self._place: tuple[float, float] | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(row)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.empty, 1)

    # the document ------------------------------------------------------------------------------
    def set_document(self, document: Document) -> None:
        self.document = document
        names = [f"{i}  {s.name}" for i, s in enumerate(document.sheets, 1)]
        if [self.sheets.itemText(i) for i in range(self.sheets.count())] != names:
            self.sheets.clear()
            self.sheets.addItems(names)
        there = bool(document.sheets)
        self.number = min(self.number, len(document.sheets)) or 1
        self.sheets.setVisible(there)
        self.view.setVisible(there)
        self.empty.setVisible(not there)
        for name, button in self.buttons.items():
            button.setEnabled(there or name == "open a sheet…")
        if there:
            self.sheets.setCurrentIndex(self.number - 1)
            self._want(document.sheets[self.number - 1].file, self.page)
        else:
            self._shown = None
        self._mark()

    def set_states(self, states: dict[int, str], current: int | None) -> None:
        """How every callout stands, by balloon; and which one is chosen."""
        self._states, self._current = states, current
        self._mark()

    def _fit(self) -> None:
        self.view.fit()

    def _mark(self) -> None:
        here = [c for c in self.document.callouts
                if c.place is not None and (c.place.sheet, c.place.page) == (self.number, self.page)]  # fmt: skip
        marks = [Mark(c.balloon, c.place.x, c.place.y, self._states.get(c.balloon, "unused")) for c in here if c.place]
        self.view.taken = frozenset(o for o in self.view.offers if any(_stands_at(c, o) for c in here))
        self.view.set_marks(marks, self._current)

    # sheets and pages --------------------------------------------------------------------------
    def open_dialog(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "Open a sheet", "", "Sheets (*.pdf *.dxf *.png *.jpg *.jpeg)")
        if name:
            self.open_file(Path(name))

    def open_file(self, path: Path) -> bool:
        """Lay a file beside the model; False (and words) when it cannot be."""
        try:
            name = keep_sheet(read_for(path), path)
        except FileError as exc:
            self.told.emit(exc.message, True)
            return False
        sheet = Sheet(name=path.name[:200], file=name)
        self.number, self.page = len(self.document.sheets) + 1, 1
        self.edited.emit(f"sheet {path.name}", lambda d: changed(d, sheets=(*d.sheets, sheet)))
        return True

    def show_sheet(self, number: int, page: int = 1) -> None:
        if 1 <= number <= len(self.document.sheets):
            self.number, self.page = number, page
            self.set_document(self.document)

    def turn_page(self, by: int) -> None:
        if 1 <= self.page + by <= self.pages:
            self.show_sheet(self.number, self.page + by)

    def turn(self) -> None:
        """A quarter turn, kept with the sheet."""
        k = self.number - 1
        if k < len(self.document.sheets):
            sheet = self.document.sheets[k]
            turned = sheet.model_copy(update={"turn": (sheet.turn + 90) % 360})
            sheets = (*self.document.sheets[:k], turned, *self.document.sheets[k + 1 :])
            self.edited.emit("turn the sheet", lambda d: changed(d, sheets=sheets))
            self._turn()

    def _turn(self) -> None:
        k = self.number - 1
        if k < len(self.document.sheets):
            self.view.resetTransform()
            self.view.rotate(self.document.sheets[k].turn)
            self.view.fit()

    # reading -----------------------------------------------------------------------------------
    def _want(self, name: str, page: int) -> None:
        if (name, page) in (self._shown, self._wanted):
            return
        self._stop()
        self._wanted = (name, page)
        self.where.setText("reading …")
        program, *args = command(place_of(name), page, self._picture())
        self._process = QProcess(self)
        self._process.finished.connect(self._finished)
        self._process.start(program, args)
        self._limit.start()

    def _picture(self) -> Path:
        return Path(self._folder.name) / "page.png"

    def _stop(self) -> None:
        self._limit.stop()
        if self._process is not None:
            self._process.finished.disconnect()
            self._process.kill()
            self._process.waitForFinished(500)
            self._process.deleteLater()
            self._process = None
        self._wanted = None

    def _too_long(self) -> None:
        self._stop()
        self._failed("it takes too long; the reading was stopped")

    def _failed(self, why: str) -> None:
        self.where.setText("not read")
        self._shown = None
        name = self.document.sheets[self.number - 1].name if self.document.sheets else "the sheet"
        self.told.emit(f"{name}: {why}", True)

    def _finished(self, code: int, _status: object) -> None:
        process, wanted = self._process, self._wanted
        assert process is not None
        out = bytes(process.readAllStandardOutput().data()).decode("utf-8", "replace")
        said = bytes(process.readAllStandardError().data()).decode("utf-8", "replace").strip().splitlines()
        self._limit.stop()
        process.deleteLater()
        self._process = self._wanted = None
        try:
            if code != 0:
                raise SheetError("the sheet cannot be read", rule=said[-1] if said else "its reader stopped")
            found = page_of(out, self.document.unit)
            pixmap = QPixmap(str(self._picture()))
            if pixmap.isNull():
                raise SheetError("the sheet has no picture")
        except SheetError as exc:
            self._failed(exc.message)
            return
        self._shown, self.found, self.pages = wanted, found, found.pages
        self.where.setText(f"{self.page} / {self.pages}")
        self.view.show_page(pixmap, found.offers)
        self._turn()
        self._mark()
        self.read.emit(found)

    # taking callouts ---------------------------------------------------------------------------
    def _take_offer(self, offer: Offer) -> None:
        self._ask(self.view.box_of(offer).bottomLeft(), offer.text, beside(offer))

    def _ask_here(self, x: float, y: float) -> None:
        size = self.view._size
        self._ask(QPointF(x * size.width(), y * size.height()), "", (x, y))

    def _ask(self, at: QPointF, text: str, place: tuple[float, float]) -> None:
        """A field at the place, with the note that was found or empty."""
        p = self.view.mapFromScene(at)
        left = min(max(4, p.x()), max(4, self.view.width() - self.entry.width() - 4))
        top = min(max(4, p.y() + 6), max(4, self.view.height() - self.entry.height() - 4))
        self.entry.move(left, top)
        self.entry.setText(text.replace("\n", " ; "))
        self._place = place
        self.entry.show()
        self.entry.raise_()
        self.entry.setFocus()
        self.entry.selectAll()

    def keyPressEvent(self, event: Any) -> None:
        if event.key() == Qt.Key.Key_Escape and self.entry.isVisible():
            self.entry.hide()
            self._place = None
        elif event.key() == Qt.Key.Key_PageDown:
            self.turn_page(1)
        elif event.key() == Qt.Key.Key_PageUp:
            self.turn_page(-1)
        else:
            super().keyPressEvent(event)

    def _enter(self) -> None:
        text, place = self.entry.text().strip(), self._place
        if text and place is not None:
            self.noted.emit(text, SheetPlace(sheet=self.number, page=self.page, x=place[0], y=place[1]))

    def taken(self) -> None:
        """The note was taken: its field goes."""
        self.entry.hide()
        self._place = None

    def close_all(self) -> None:
        self._stop()
        self._folder.cleanup()
