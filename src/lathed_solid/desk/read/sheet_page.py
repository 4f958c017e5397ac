"""The sheets beside the solid: opening, turning the pages, and taking callouts where they stand.

A sheet is brought to scale by two points, a view of it goes beneath a sketch, and a new revision is asked callout by
callout.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QPointF, Qt
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QComboBox, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.read.page_reader import PageReader
from lathed_solid.desk.read.revision_pane import RevisionPane
from lathed_solid.desk.read.sheet_view import Mark, SheetView
from lathed_solid.desk.read.sheet_work import SHEET_FILES, SheetWork
from lathed_solid.files import FileError
from lathed_solid.files.attachments import keep_sheet, read_for
from lathed_solid.ledger import Callout, SheetPlace, Span
from lathed_solid.part import Document, Sheet
from lathed_solid.part.edits import changed
from lathed_solid.part.revision import beside
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import NoteCandidate

SAME = 0.004


def _stands_at(callout: Callout, offer: NoteCandidate) -> bool:
    """Whether a callout was taken from this very note."""
    x, _y = beside(offer)
    place = callout.place
    return place is not None and abs(place.x - x) < SAME and offer.box[1] - SAME < place.y < offer.box[3] + SAME


class SheetsPage(SheetWork):
    """Emits edits (sheets opened, turned), a note with its place, and the balloon that is chosen."""

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self.document = Document()
        self.number, self.page = 1, 1
        self.pages = 1
        self.found: SheetPage | None = None
        self._shown: tuple[str, int] | None = None
        self._states: dict[int, str] = {}
        self._current: int | None = None
        self._next: tuple[str, int] | None = None
        #: whether the callouts on the page are compared with what is found on it
        self.asking = False
        self.reader = PageReader(background, self)
        self.reader.came.connect(self._came)
        self.reader.failed.connect(self._failed)
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
        more = (
            ("take all found", self.take_all, "every note found on this page becomes a callout where it stands"),
            ("new revision…", self.new_revision, "another file in this sheet's place; asks what changed"),
            ("what changed", self.ask_changes, "compare the callouts here with the notes on the page"),
            ("scale…", self.start_measuring, "two clicks: measure on the sheet, or bring it to scale"),
            ("crop for a sketch…", self.start_cropping, "a view of the sheet as the picture beneath a sketch"),
        )
        row, second = QHBoxLayout(), QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 4)
        second.setContentsMargins(12, 0, 12, 8)
        row.addWidget(self.sheets, 1)
        self.buttons = {}
        for text, run, tip in more:
            button = QPushButton(text)
            button.setFont(theme.narrow(12))
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, run=run: run())
            self.buttons[text] = button
            second.addWidget(button)
        second.addStretch(1)
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
        self.view.measured.connect(self._measured)
        self.view.cropped.connect(self._cropped)
        self.revision = RevisionPane()
        self.revision.taken.connect(self._take_change)
        self.revision.looked_at.connect(self._look_at)
        self.revision.closed.connect(self._end_asking)
        self.revision.hide()
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
        self._span: Span | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(row)
        layout.addLayout(second)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.revision)
        layout.addWidget(self.empty, 1)

    # the document ------------------------------------------------------------------------------
    def set_document(self, document: Document) -> None:
        """Show the sheets of a document, at the page that was shown."""
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
            self.asking = False
        self._mark()
        self._compare()

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
        """Ask for a sheet and add it."""
        name, _ = QFileDialog.getOpenFileName(self, "Open a sheet", "", SHEET_FILES)
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
        """Turn to a page of a sheet, both from 1; one that is not there is ignored."""
        if 1 <= number <= len(self.document.sheets):
            self.number, self.page = number, page
            self.set_document(self.document)

    def turn_page(self, by: int) -> None:
        """Some pages on, or back."""
        if 1 <= self.page + by <= self.pages:
            self.show_sheet(self.number, self.page + by)

    def turn(self) -> None:
        """A quarter turn, kept with the sheet."""
        sheet = self._sheet()
        if sheet is not None:
            self._put("turn the sheet", turn=(sheet.turn + 90) % 360)
            self._turn()

    def _turn(self) -> None:
        sheet = self._sheet()
        if sheet is not None:
            self.view.resetTransform()
            self.view.rotate(sheet.turn)
            self.view.fit()

    # reading -----------------------------------------------------------------------------------
    def _want(self, name: str, page: int) -> None:
        if (name, page) not in (self._shown, self.reader.wanted):
            self.where.setText("reading …")
            self._next = (name, page)
            self.reader.want(name, page, self.document.unit)

    def _failed(self, why: str) -> None:
        self.where.setText("not read")
        self._shown = None
        name = self.document.sheets[self.number - 1].name if self.document.sheets else "the sheet"
        self.told.emit(f"{name}: {why}", True)

    def _came(self, found: SheetPage, pictures: list[QPixmap]) -> None:
        self._shown, self.found, self.pages = self._next, found, found.pages
        self.where.setText(f"{self.page} / {self.pages}")
        self.view.show_page(pictures, found.offers, found.width, found.height)
        self._turn()
        self._mark()
        self._compare()
        self.read.emit(found)

    # taking callouts ---------------------------------------------------------------------------
    def _take_offer(self, offer: NoteCandidate) -> None:
        self._ask(self.view.box_of(offer).bottomLeft(), offer.text, beside(offer))
        self._span = offer.span

    def _ask_here(self, x: float, y: float) -> None:
        size = self.view.page_size
        self._ask(QPointF(x * size.width(), y * size.height()), "", (x, y))

    def _ask(self, at: QPointF, text: str, place: tuple[float, float]) -> None:
        """A field at the place, with the note that was found or empty."""
        p = self.view.mapFromScene(at)
        left = min(max(4, p.x()), max(4, self.view.width() - self.entry.width() - 4))
        top = min(max(4, p.y() + 6), max(4, self.view.height() - self.entry.height() - 4))
        self.entry.move(left, top)
        self.entry.setText(text.replace("\n", " ; "))
        self._place, self._span = place, None
        self.entry.show()
        self.entry.raise_()
        self.entry.setFocus()
        self.entry.selectAll()

    def keyPressEvent(self, event: Any) -> None:
        if event.key() == Qt.Key.Key_Escape and self.view.mode != "notes":
            self.view.set_mode("notes")
        elif event.key() == Qt.Key.Key_Escape and self.entry.isVisible():
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
            at = SheetPlace(sheet=self.number, page=self.page, x=place[0], y=place[1])
            self.noted.emit(text, at, self._span)

    def taken(self) -> None:
        """The note was taken: its field goes."""
        self.entry.hide()
        self._place = None

    def close_all(self) -> None:
        """End the reading process."""
        self.reader.close()
