"""The drawing as witness: the sheet laid over the part, what neither explains as places to click, and a verdict."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QPushButton, QSpinBox, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.prove.overlay import Overlay
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.kernel.vectors import Ways
from lathed_solid.ledger.sheet_corners import Corners
from lathed_solid.part import Document
from lathed_solid.sheets.client import read_linework
from lathed_solid.sheets.title_block import zone
from lathed_solid.store import place_of

if TYPE_CHECKING:
    from lathed_solid.sheets.strokes import Linework
    from lathed_solid.sheets.witness import Piece, Witness, WitnessView


def _lines(path: Path, page: int, corners: Corners | None) -> tuple[Linework, Ways]:
    """The linework of a sheet, and how the part is seen on a pictorial one."""
    from lathed_solid.sheets.pictorial import views_of

    lines = read_linework(path, page, corners=corners)
    return lines, views_of(lines)


@dataclass(frozen=True)
class PieceRow:
    """A piece that one has and the other has not."""

    view: WitnessView
    piece: Piece
    drawn: bool

    @property
    def words(self) -> str:
        """Who has it."""
        return "drawn, not in the part" if self.drawn else "in the part, not drawn"


class WitnessPane(QWidget):
    """``sides_wanted`` asks for the six sides of what is shown, or how it is seen from the ways it tells; ``judged``
    tells the verdict: sign and words.
    """

    sides_wanted = pyqtSignal(object)
    judged = pyqtSignal(str)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self._background = background
        self._work = 0
        self._lines: Linework | None = None
        self.found: Witness | None = None
        self._document: Document | None = None
        self._of: Document | None = None
        self._shown: tuple[str, ...] = ()
        self.sheet, self.page = QComboBox(), QSpinBox()
        self.sheet.setAccessibleName(spoken("Sheet to lay over"))
        self.page.setRange(1, 999)
        self.page.setPrefix("page ")
        self.page.setAccessibleName(spoken("Page of the sheet"))
        self.lay = QPushButton(spoken("lay it over the part"))
        self.lay.setToolTip(
            spoken("Compare the drawing's outlines with the part's own views; a scan's lettering is read first")
        )
        self.lay.clicked.connect(self.start)
        bar = QHBoxLayout()
        bar.setSpacing(6)
        bar.addWidget(self.sheet, 1)
        bar.addWidget(self.page)
        bar.addWidget(self.lay)
        self.head = QLabel()
        self.head.setWordWrap(True)
        self.head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.overlay = Overlay()
        self.overlay.pointed.connect(self._choose)
        self.model = RowModel([
            Column("view", lambda r: r.view.side, width=70),
            Column("what", lambda r: r.words, width=170),
            Column("line, mm", lambda r: f"{r.piece.length:.0f}", look="number", width=70),
            Column("zone", self._zone, width=60, tip=self._place),
        ], alarm=lambda r: r.drawn)  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("What neither explains"))
        self.view.row_chosen.connect(lambda r: self.overlay.look(None if r is None else r.piece))
        self.view.setMaximumHeight(190)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addLayout(bar)
        layout.addWidget(self.head)
        layout.addWidget(self.overlay, 1)
        layout.addWidget(self.view)
        self._tell()

    # what it is asked of ---------------------------------------------------------------------------
    def show_part(self, document: Document) -> None:
        """The part as it is: its sheets, and whether what was found is of it."""
        self._document = document
        names = tuple(s.name for s in document.sheets if not s.photograph)
        if names != self._shown:
            self._shown = names
            self.sheet.clear()
            self.sheet.addItems(names)
            self._forget()
        self._tell()

    def _forget(self) -> None:
        self._background.drop(self._work)
        self._lines = self.found = self._of = None
        self.model.set_rows(())
        self.overlay.show_witness(None, None)
        self.judged.emit("")

    def start(self) -> None:
        """Read the sheet's linework; the part's sides are asked for when it is there."""
        document = self._document
        kept = [s for s in document.sheets if not s.photograph] if document is not None else []
        if not kept:
            return
        sheet, page = kept[max(self.sheet.currentIndex(), 0)], self.page.value()
        path, corners = place_of(sheet.file), sheet.corners
        self._forget()
        self.lay.setEnabled(False)
        self.head.setText(spoken("Reading the drawing's lines …"))
        self._work = self._background.run(lambda: _lines(path, page, corners), self._read, self._failed)

    def _read(self, read: tuple[Linework, Ways]) -> None:
        self._lines, ways = read
        self._of = self._document
        seen = "as the sheet shows it" if ways else "from its six sides"
        self.head.setText(spoken(f"Looking at the part {seen} …"))
        self.sides_wanted.emit(ways)

    def take_sides(self, sides: Any) -> None:
        """The sides that were asked for."""
        from lathed_solid.sheets.witness import sides_of, witness

        lines = self._lines
        if lines is None:
            return
        known = sides_of(sides)
        self._work = self._background.run(lambda: witness(lines, known), self._judge, self._failed)

    def _failed(self, why: str) -> None:
        self.lay.setEnabled(True)
        self.head.setText(spoken(f"■ {why}"))

    # what came of it ---------------------------------------------------------------------------------
    def _judge(self, found: Witness) -> None:
        self.found = found
        self.lay.setEnabled(True)
        rows = [PieceRow(v, p, drawn=True) for v in found.views for p in v.drawn]
        rows += [PieceRow(v, p, drawn=False) for v in found.views for p in v.model]
        self.model.set_rows(tuple(rows))
        self.overlay.show_witness(self._lines, found)
        self._tell()

    def _tell(self) -> None:
        found = self.found
        self.view.setVisible(bool(self.model.rows))
        self.lay.setEnabled(bool(self._shown))
        if not self._shown:
            self.head.setText(spoken("The part has no drawing yet: add a sheet at the Read desk."))
            return
        if found is None:
            self.head.setText(
                spoken("The drawing's own views can bear witness on the part, whatever numbers were typed.")
            )
            return
        words = self._words(found)
        stale = self._of is not None and self._of != self._document
        self.head.setText(spoken(("Of the part as it was before the last edit: " if stale else "") + words))
        self.judged.emit("" if stale else words.split(":")[0])

    def _words(self, found: Witness) -> str:
        if not found.views:
            return "■ no view of the part: none of the drawing's views is one of the part's."
        views = ", ".join(f"{v.side} {v.explained:.1%}" for v in found.views)
        pieces = sum(len(v.drawn) for v in found.views)
        many = "place has" if pieces == 1 else "places have"
        what = f"{pieces} {many} lines that are not the part's" if pieces else "every drawn line is the part's"
        doubt = "" if found.by_width else " Outlines and dimensions are drawn alike: a piece may be a dimension."
        sign, word = ("○", "in") if found.agrees else ("■", "out")
        return f"{sign} {word}: {what} ({views} explained).{doubt}"

    def _zone(self, row: PieceRow) -> str:
        sheet, (left, low, right, high) = self._lines, row.piece.box
        if sheet is None:
            return ""
        return zone((left + right) / 2 / sheet.width, 1 - (low + high) / 2 / sheet.height, sheet.width, sheet.height)

    def _place(self, row: PieceRow) -> str:
        left, low, right, high = row.piece.box
        return f"{(left + right) / 2:.0f} mm from the left, {(low + high) / 2:.0f} mm from below"

    def _choose(self, piece: Piece) -> None:
        at = next((i for i, r in enumerate(self.model.rows) if r.piece is piece), None)
        if at is not None:
            self.view.selectRow(at)
