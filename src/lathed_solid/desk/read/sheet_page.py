"""The sheets beside the solid: opening, turning the pages, and taking callouts where they stand.

A sheet is brought to scale by two points, a view of it goes beneath a sketch, and a new revision is asked callout by
callout.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice, QPointF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.corners_dialog import CornersAsking
from lathed_solid.desk.read.page_reader import PageReader
from lathed_solid.desk.read.proposal_pane import ProposalPane
from lathed_solid.desk.read.revision_pane import RevisionPane
from lathed_solid.desk.read.sheet_prompts import QtSheetPrompts
from lathed_solid.desk.read.sheet_view import Mark, SheetView
from lathed_solid.ledger import SheetPlace, Span
from lathed_solid.ledger.sheet_corners import Corners
from lathed_solid.part import Document
from lathed_solid.part.revision import Change, beside
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import LeftText, NoteCandidate, ratio
from lathed_solid.workbench.sheet_commands import SheetCommands

#: scales that differ by no more are one
SAME_SCALE = 0.01
#: what was read is shown beside this much of the sheet, pixels wide and high
CROP = QSize(300, 66)
ABSENT = "the lettering of pictures is read by packages that are not installed: pip install 'lathed-solid[lettering]'"


class SheetsPage(QWidget):
    """Emits edits (sheets opened, turned), a note with its place, and the balloon that is chosen."""

    noted = pyqtSignal(str, object, object)  # text, SheetPlace, Span or None
    chosen = pyqtSignal(int)
    marked = pyqtSignal(object, object)  # the balloons on the page, and the chosen one

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self._background = background
        self.commands = SheetCommands(QtSheetPrompts(self))
        self._shown: tuple[str, int, Corners | None] | None = None
        self._states: dict[int, str] = {}
        self._current: int | None = None
        self._next: tuple[str, int, Corners | None] | None = None
        self.corners: CornersAsking = CornersAsking(background, self.commands, self)
        self.reader = PageReader(background, self)
        self.reader.came.connect(self._came)
        self.reader.failed.connect(self._failed)
        self.reader.lettered.connect(self._lettered)
        self.reader.unlettered.connect(self._unlettered)
        self._build()

    def _build(self) -> None:
        self.sheets = QComboBox()
        self.sheets.setAccessibleName(spoken("sheets"))
        self.sheets.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.sheets.setMinimumContentsLength(8)
        self.sheets.activated.connect(lambda i: self.commands.turn_to(i + 1))
        self.where = QLabel()
        self.where.setFont(theme.narrow(12))
        self.where.setContentsMargins(6, 0, 6, 0)
        work = self.commands
        buttons = (
            ("open a sheet…", work.open, "a PDF, DXF, PNG or JPEG"),
            ("‹", lambda: work.turn_page(-1), "the page before (PgUp)"),
            ("›", lambda: work.turn_page(1), "the next page (PgDown)"),
            ("turn", work.turn, "turn the sheet by a quarter"),
            ("fit", lambda: self.view.fit(), "all of the page"),
        )
        more = (
            (
                "take all found",
                work.take_all,
                "every note found on the page becomes a callout where it stands; not those that their lines contradict",
            ),
            (
                "title block",
                work.take_title,
                "name, material, general tolerance, unit, words for the shop as the sheet says them",
            ),
            ("new revision…", work.new_revision, "another file in this sheet's place; asks what changed"),
            (
                "first model…",
                lambda: self.proposal.ask(),
                "a turned part or a plate as the sheet shows and says it",
            ),
            (
                "one by one",
                work.ask_changes,
                "the callouts here against the notes on the page, one by one: Alt+T takes, Alt+K keeps",
            ),
            ("scale…", work.start_measuring, "two clicks: measure on the sheet, or bring it to scale"),
            ("corners…", self.corners.ask, "of a photographed or scanned sheet, put right by hand"),
            ("crop for a sketch…", work.start_cropping, "a view of the sheet as the picture beneath a sketch"),
        )
        row, second = QHBoxLayout(), QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 4)
        second.setContentsMargins(12, 0, 12, 8)
        row.addWidget(self.sheets, 1)
        self.buttons = {}
        for text, run, tip in more:
            button = QPushButton(spoken(text))
            button.setFont(theme.narrow(12))
            button.setToolTip(spoken(tip))
            button.clicked.connect(lambda _=False, run=run: run())
            self.buttons[text] = button
            second.addWidget(button)
        second.addStretch(1)
        for text, run, tip in buttons:
            button = QPushButton(spoken(text))
            button.setFont(theme.narrow(12))
            button.setToolTip(spoken(tip))
            button.setAccessibleName(spoken(tip))
            button.clicked.connect(lambda _=False, run=run: run())
            self.buttons[text] = button
            row.addWidget(button)
            if text == "‹":
                row.addWidget(self.where)
        self.view: SheetView = SheetView()
        self.view.offered.connect(self._take_offer)
        self.view.unread.connect(self._take_left)
        self.view.pointed.connect(self._ask_here)
        self.view.chosen.connect(self.chosen)
        self.view.measured.connect(work.measured)
        self.view.cropped.connect(self._cropped)
        self.revision = RevisionPane()
        self.revision.taken.connect(self._take_change)
        self.revision.looked_at.connect(self._look_at)
        self.revision.closed.connect(work.end_asking)
        self.revision.hide()
        self.proposal: ProposalPane = ProposalPane(self._background, work)
        self.proposal.reading.connect(lambda on: self.buttons["first model…"].setEnabled(not on))
        work.page_wanted.connect(lambda: self.set_document(work.document))
        work.compared.connect(self._show_changes)
        work.mode_wanted.connect(self.view.set_mode)
        self.empty = QLabel(
            spoken(
                "No sheet is laid here yet.\n\nOpen a drawing as PDF, DXF, PNG or JPEG: its notes "
                "are found and offered as "
                "callouts,\nand a click anywhere else takes a note that you type."
            )
        )
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.entry = QLineEdit(self.view)
        self.entry.setFont(theme.drawing(15))
        self.entry.setFixedWidth(240)
        self.entry.setPlaceholderText(spoken("the note, as it stands here"))
        self.entry.setAccessibleName(spoken("note at this place"))
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
        layout.addWidget(self.proposal)
        layout.addWidget(self.empty, 1)

    # the document ------------------------------------------------------------------------------
    def set_document(self, document: Document) -> None:
        """Show the sheets of a document, at the page that was shown."""
        work = self.commands
        turned = work.sheet.turn if work.sheet is not None else None
        work.show_document(document)
        names = [f"{i}  {s.name}" for i, s in enumerate(document.sheets, 1)]
        if [self.sheets.itemText(i) for i in range(self.sheets.count())] != names:
            self.sheets.clear()
            self.sheets.addItems(names)
        there = bool(document.sheets)
        self.sheets.setVisible(there)
        self.view.setVisible(there)
        self.empty.setVisible(not there)
        for name, button in self.buttons.items():
            button.setEnabled(there or name == "open a sheet…")
        if there:
            self.sheets.setCurrentIndex(work.number - 1)
            sheet = document.sheets[work.number - 1]
            self._want(sheet.file, work.page, sheet.corners)
            if work.sheet is not None and turned is not None and work.sheet.turn != turned:
                self._turn()
        else:
            self._shown = None
        self._mark()
        work.compare()

    def set_states(self, states: dict[int, str], current: int | None) -> None:
        """How every callout stands, by balloon; and which one is chosen."""
        self._states, self._current = states, current
        self._mark()

    def _mark(self) -> None:
        here = self.commands.here
        marks = [Mark(c.balloon, c.place.x, c.place.y, self._states.get(c.balloon, "unused")) for c in here if c.place]
        self.view.taken = self.commands.taken(self.view.offers)
        self.view.set_marks(marks, self._current)
        self.marked.emit(self.view.marks, self._current)

    # the page ----------------------------------------------------------------------------------
    def _turn(self) -> None:
        if self.commands.sheet is not None:
            self.view.resetTransform()
            self.view.rotate(self.commands.sheet.turn)
            self.view.fit()

    def _cropped(self, picture: QPixmap, share: float) -> None:
        data = QBuffer()
        data.open(QIODevice.OpenModeFlag.WriteOnly)
        picture.save(data, "PNG")
        self.commands.crop(bytes(data.data().data()), share)

    def _show_changes(self, changes: Sequence[Change] | None, anew: bool) -> None:
        """What a revision asks; None: nothing is asked."""
        if anew:
            self.revision.kept.clear()
        self.revision.setVisible(changes is not None)
        if changes is not None:
            self.revision.show_changes(changes)
        else:
            self.view.show_offer(None)

    def _take_change(self, change: Change, text: str) -> None:
        """An answer, with the note as it was mended."""
        if change.offer is not None and text and text != change.offer.text:
            mended = self.commands.mend(change.offer, text)
            if mended is None:
                return
            change = replace(change, offer=mended, now=text)
            if self.commands.found is not None:
                self.view.show_found(self.commands.found)
        self.commands.take_change(change)

    def _look_at(self, change: Change | None) -> None:
        offer = change.offer if change is not None else None
        self.revision.show_crop(QPixmap() if offer is None else self.view.picture_of(offer, CROP))
        if change is not None:
            self.view.show_offer(change.offer)
            if change.balloon is not None:
                self.chosen.emit(change.balloon)

    # reading -----------------------------------------------------------------------------------
    def _want(self, name: str, page: int, corners: Corners | None) -> None:
        if (name, page, corners) not in (self._shown, self.reader.wanted):
            self.where.setText(spoken("reading …"))
            self._next = (name, page, corners)
            self.reader.want(name, page, self.commands.document.unit, corners)

    def _failed(self, why: str) -> None:
        self.where.setText(spoken("not read"))
        self._shown = None
        sheet = self.commands.sheet
        self.commands.told.emit(f"{sheet.name if sheet is not None else 'the sheet'}: {why}", True)

    def _came(self, found: SheetPage, pictures: list[QPixmap]) -> None:
        self._shown = self._next
        self.view.show_page(pictures, found)
        self._turn()
        self._tell_page(found)
        if found.lettering == "absent":
            self.commands.told.emit(ABSENT, False)

    def _lettered(self, found: SheetPage) -> None:
        """The lettering of the picture that is shown was read."""
        self.view.show_found(found)
        self._tell_page(found)
        unsure = sum(o.sure != "sure" for o in found.offers)
        self.commands.told.emit(
            f"{len(found.offers)} notes read from the picture, {unsure} of them to be looked at: point at them, or go "
            "through them one by one" if found.offers else "no lettering was found on the picture", not found.offers
        )  # fmt: skip

    def _unlettered(self, why: str) -> None:
        self._tell_where(None)
        self.commands.told.emit(f"the lettering of the picture is not read: {why}", True)

    def _tell_where(self, found: SheetPage | None) -> None:
        """Which page is shown, and the scale that its dimension lines agree on."""
        drawn = f"  ·  {ratio(found.scale)}" if found is not None and found.scale is not None and found.sized else ""
        pages = found.pages if found is not None else self.commands.pages
        reading = "  ·  reading its lettering …" if found is not None and found.lettering == "unread" else ""
        pictorial = "  ·  pictorial" if found is not None and found.kind == "pictorial" else ""
        self.where.setText(spoken(f"{self.commands.page} / {pages}{drawn}{pictorial}{reading}"))
        self.where.setToolTip(spoken("the scale that the dimension lines agree on" if drawn else ""))

    def _tell_page(self, found: SheetPage) -> None:
        self._tell_where(found)
        self.buttons["corners…"].setEnabled(found.lettering in ("unread", "read"))
        self._mark()
        self.commands.show_page(found)
        self._tell_title(found)

    def _tell_title(self, found: SheetPage) -> None:
        """What the title block says beside the rest of the sheet and the part."""
        new, said = self.commands.untaken_title, found.title.scale
        self.buttons["title block"].setEnabled(bool(found.title.words))
        if said is not None and found.scale is not None and abs(said / found.scale - 1) > SAME_SCALE:
            words = f"the title block says {ratio(said)}, the dimension lines {ratio(found.scale)}"
            self.commands.told.emit(words, True)
        elif new:
            self.commands.told.emit(f"the sheet says {found.title.words}: take it by the button above", False)

    # taking callouts ---------------------------------------------------------------------------
    def _take_offer(self, offer: NoteCandidate) -> None:
        self._ask(self.view.box_of(offer).bottomLeft(), offer.text, beside(offer))
        self._span = offer.span
        if offer.why:
            self.commands.told.emit(f"{offer.text}: {offer.sure}, {offer.why}", offer.sure == "contradicted")

    def _take_left(self, text: LeftText) -> None:
        """A text that was no note, to be mended into one."""
        self._ask(self.view.box_of(text).bottomLeft(), text.text, beside(text))
        self.commands.told.emit(f"{' '.join(text.text.split())}: no callout, {text.why}", False)

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
            self.commands.turn_page(1)
        elif event.key() == Qt.Key.Key_PageUp:
            self.commands.turn_page(-1)
        else:
            super().keyPressEvent(event)

    def _enter(self) -> None:
        text, place = self.entry.text().strip(), self._place
        if text and place is not None:
            at = SheetPlace(sheet=self.commands.number, page=self.commands.page, x=place[0], y=place[1])
            self.noted.emit(text, at, self._span)

    def taken(self) -> None:
        """The note was taken: its field goes."""
        self.entry.hide()
        self._place = None

    def close_all(self) -> None:
        """End the reading processes."""
        self.reader.stop()
        self.corners.stop()
