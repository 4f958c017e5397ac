"""Dimension chains: between which places each callout runs, what the audit finds, and the stack between two places.

Places are words typed into the table (completed from those used already); a turned table says its own. The audit needs
no solid: contradictions and what the drawing leaves open are told before an hour of modelling.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QLabel, QListWidget, QListWidgetItem, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.stack_view import StackView
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.ledger import Callout, Span
from lathed_solid.ledger.spans import ACROSS, MIDDLE, tidy
from lathed_solid.part import Document
from lathed_solid.part.edits import set_span

if TYPE_CHECKING:
    from lathed_solid.proof.chain import Told

#: shapes of the findings, legible without colour
SIGNS = {"contradiction": "⚡", "open": "?", "twice": "=", "adds up": "○"}
DIRECTIONS = ("x", "y", "z", "the axis", ACROSS, "about the axis")


@dataclass(frozen=True)
class ChainRow:
    """A callout, its span, and what was typed of one that is not complete."""

    callout: Callout
    span: Span | None
    begun: tuple[tuple[str, str], ...] = ()

    @property
    def cells(self) -> dict[str, str]:
        """The texts of along, start and end."""
        empty = {"along": "", "start": "", "end": ""}
        if self.span is None:
            return {**empty, **dict(self.begun)}
        return {k: getattr(self.span, k) for k in empty}

    @property
    def balloon(self) -> int:
        """Of its callout."""
        return self.callout.balloon

    @property
    def own(self) -> bool:
        """Whether its span was told, and not read off a table."""
        return self.callout.span is not None


class ChainsPage(QWidget):
    """Emits edits, and rows hovered and chosen."""

    edited = pyqtSignal(str, object)
    hovered = pyqtSignal(object)
    chosen = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.document = Document()
        self._stale = True
        self._told: tuple[Told, ...] = ()
        self._spans: dict[int, Span] = {}
        #: rows that are not complete yet: what was typed of them
        self._begun: dict[int, dict[str, str]] = {}
        self._last = "x"
        self.title = QLabel()
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setContentsMargins(12, 10, 12, 8)
        self.model = RowModel(self._columns(), alarm=lambda r: r.balloon in self._fighting)
        self._fighting: set[int] = set()
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Places of the callouts"))
        self.view.row_hovered.connect(self.hovered)
        self.view.row_chosen.connect(self.chosen)
        self.found = QListWidget()
        self.found.setAccessibleName(spoken("what the audit finds"))
        self.found.setWordWrap(True)
        self.found.setFont(theme.font(13))
        self.found.currentItemChanged.connect(self._lead)
        self.empty = QLabel(spoken("No callouts yet: enter them in the note line ( / ), or take them from a sheet."))
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.title)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.empty, 1)
        layout.addWidget(self.found)
        layout.addLayout(self._stack_row())
        self.stack = StackView()
        holder = QVBoxLayout()
        holder.setContentsMargins(12, 0, 12, 8)
        holder.addWidget(self.stack)
        layout.addLayout(holder)

    def _columns(self) -> list[Column]:
        def cell(field: str) -> Callable[[ChainRow], str]:
            return lambda row: row.cells[field]

        def put(field: str) -> Callable[[ChainRow, str], None]:
            return lambda row, text: self._put(row, field, text)

        def by(row: ChainRow) -> str:
            return "" if row.own or row.span is None else "as the turned table says; type to say otherwise"

        return [
            Column("balloon", lambda r: str(r.balloon), look="balloon", width=52),
            Column("note", lambda r: r.callout.note.splitlines()[0], look="sheet", width=104,
                   tip=lambda r: f"{r.callout.note}: {r.callout.meaning}"),
            Column("along", cell("along"), edit=put("along"), width=66, choices=self._directions,
                   tip=lambda r: by(r) or "x, y, z, or any word; 'about …' for angles"),
            Column("from (left, low)", cell("start"), edit=put("start"), width=104, choices=self._places,
                   tip=by),
            Column("to (right, high)", cell("end"), edit=put("end"), width=104, choices=self._places,
                   tip=lambda r: by(r) or "'middle' for what is told from the middle or the axis"),
            Column("alike", lambda r: "yes" if r.span is not None and r.span.symmetric else "", edit=self._put_alike,
                   width=44, tip=lambda _r: "yes: both places stand alike about the middle of this direction"),
        ]  # fmt: skip

    def _stack_row(self) -> QHBoxLayout:
        self.along, self.start, self.end = QComboBox(), QComboBox(), QComboBox()
        names = ("direction of the stack", "stack from", "stack to")
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 4)
        row.setSpacing(6)
        label = QLabel(spoken("stack"))
        label.setFont(theme.narrow(12, theme.QFont.Weight.Medium))
        row.addWidget(label)
        for box, name in zip((self.along, self.start, self.end), names, strict=True):
            box.setAccessibleName(spoken(name))
            box.setFont(theme.narrow(12))
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(7)
            row.addWidget(box, 1)
        self.along.activated.connect(lambda _i: self._fill_places())
        self.start.activated.connect(lambda _i: self._show_stack())
        self.end.activated.connect(lambda _i: self._show_stack())
        self.sum = QLabel()
        self.sum.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.sum.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        row.addWidget(self.sum, 2)
        return row

    # the document ------------------------------------------------------------------------------
    def set_document(self, document: Document) -> None:
        """Judge another document, once the page is seen."""
        self.document, self._stale = document, True
        if self.isVisible():
            self._judge()

    def showEvent(self, event: Any) -> None:
        super().showEvent(event)
        self._judge()

    def _judge(self) -> None:
        """The audit; only for somebody who looks."""
        if not self._stale:
            return
        self._stale = False
        from lathed_solid.proof.chain import chains, spans
        from lathed_solid.proof.chain_words import findings

        told, found = spans(self.document), findings(self.document)
        self._told = chains(self.document)
        self._fighting = {b for f in found if f.kind == "contradiction" for b in f.balloons}
        self._spans = told
        self._begun = {b: v for b, v in self._begun.items() if b not in told}
        self._show_rows()
        count = len(self.document.callouts)
        self.title.setText(spoken(f"CHAINS — {len(told)} of {count} callouts say between which places they run"))
        self.view.setVisible(count > 0)
        self.empty.setVisible(count == 0)
        self.found.clear()
        for f in found:
            item = QListWidgetItem(f"{SIGNS[f.kind]}  {f.along}: {f.words}", self.found)
            item.setData(Qt.ItemDataRole.UserRole, f)
        if told and not found:
            QListWidgetItem("○  nothing is told twice, and nothing is left open", self.found)
        self.found.setVisible(bool(told))
        self.found.setFixedHeight(min(150, 12 + 40 * max(1, self.found.count())))
        self._fill(self.along, [t.chain.along for t in self._told])
        self._fill_places()

    def _show_rows(self) -> None:
        begun = {b: tuple(v.items()) for b, v in self._begun.items()}
        self.model.set_rows(
            [ChainRow(c, self._spans.get(c.balloon), begun.get(c.balloon, ())) for c in self.document.callouts]
        )

    @staticmethod
    def _fill(box: QComboBox, texts: Sequence[str]) -> None:
        """Other entries; the chosen one stays while it is there."""
        kept = box.currentText()
        box.clear()
        box.addItems(list(texts))
        box.setCurrentIndex(max(0, box.findText(kept)))

    def _chain(self) -> Told | None:
        return next((t for t in self._told if t.chain.along == self.along.currentText()), None)

    def _fill_places(self) -> None:
        told = self._chain()
        places = [] if told is None else [*told.chain.places, *([MIDDLE] if told.chain.middle else [])]
        first = self.end.count() == 0 or not set(places) >= {self.start.currentText(), self.end.currentText()}
        self._fill(self.start, places)
        self._fill(self.end, places)
        if first and len(places) > 1:
            group = told.chain.groups[0] if told is not None else ()
            self.start.setCurrentText(group[0])
            self.end.setCurrentText(group[-1])
        for box in (self.along, self.start, self.end):
            box.setEnabled(bool(places))
        self._show_stack()

    def _show_stack(self) -> None:
        from lathed_solid.proof.chain import stack_of
        from lathed_solid.proof.chain_words import link_words

        told, start, end = self._chain(), self.start.currentText(), self.end.currentText()
        if told is None or not start or start == end:
            self.sum.setText("")
            self.stack.show_stack(None, self.document.unit)
            return
        stack = stack_of(self.document, told.chain.along, start, end)
        if stack is None:
            self.sum.setText(spoken("? no dimensions join them"))
            self.stack.show_stack(None, self.document.unit)
            return
        words = link_words(self.document, [(b.balloon, b.factor) for b in stack.bars])
        self.sum.setText(spoken(words))
        self.sum.setToolTip(spoken(words))
        self.stack.show_stack(stack if stack.bars else None, self.document.unit, turning=told.chain.turning)

    # edits -------------------------------------------------------------------------------------
    def _directions(self) -> list[str]:
        return list(dict.fromkeys([*(t.chain.along for t in self._told), *DIRECTIONS]))

    def _places(self) -> list[str]:
        return [*dict.fromkeys(p for t in self._told for p in t.chain.places), MIDDLE]

    def _put(self, row: ChainRow, field: str, text: str) -> None:
        """One cell. A row is an edit as soon as it says both places (a round size: its surface)."""
        values = {**row.cells, field: tidy(text)}
        values["along"] = values["along"] or self._last
        self._last = values["along"]
        complete = values["start"] and (values["end"] or row.callout.kind in ("diameter", "radius"))
        self._begun[row.balloon] = values
        if row.span is None and not complete:
            self._show_rows()
            return
        if field == "start" and not text:
            self._begun.pop(row.balloon)
        told = {**(row.span.model_dump() if row.span is not None else {}), **values}
        self.edited.emit(f"places of callout {row.balloon}", lambda d: set_span(d, row.balloon, **told))

    def _put_alike(self, row: ChainRow, text: str) -> None:
        if row.span is not None:
            told = {**row.span.model_dump(), "symmetric": text.lower()[:1] in ("y", "1", "t", "x")}
            label = f"callout {row.balloon} alike about the middle"
            self.edited.emit(label, lambda d: set_span(d, row.balloon, **told))

    def _lead(self, item: QListWidgetItem | None) -> None:
        """A finding leads to its first callout, and to the stack it is about."""
        found = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        if found is None:
            return
        at = next((i for i, r in enumerate(self.model.rows) if r.balloon in found.balloons[:1]), None)
        if at is not None:
            self.view.selectRow(at)
        self.along.setCurrentText(found.along)
        self._fill_places()
