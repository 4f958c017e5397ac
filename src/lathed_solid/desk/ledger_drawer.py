"""The ledger drawer at the bottom: one row a callout; collapses to one line of totals."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.describe import limits_text, shown_deviation, shown_value
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.ledger import Callout
from lathed_solid.part import Document
from lathed_solid.proof import Report, VerdictRow


@dataclass(frozen=True)
class LedgerRow:
    """A callout with its limits in words and its verdict, if proven yet."""

    callout: Callout
    limits: str
    verdict: VerdictRow | None

    @property
    def balloon(self) -> int:
        return self.callout.balloon


def ledger_rows(document: Document, report: Report | None) -> tuple[LedgerRow, ...]:
    """Rows in balloon order."""
    rows = {r.balloon: r for r in report.rows} if report is not None else {}
    return tuple(LedgerRow(c, limits_text(c, document.limits(c)), rows.get(c.balloon)) for c in document.callouts)


def verdict_columns() -> list[Column]:
    """Measured, deviation, verdict: shared by the drawer and the Prove desk."""

    def of(row: LedgerRow, show: Callable[[VerdictRow], str]) -> str:
        return show(row.verdict) if row.verdict is not None else ""

    return [
        Column(
            "measured",
            lambda r: of(r, lambda v: shown_value(v.measured, v.kind, r.callout.unit)),
            look="number",
            width=74,
            tip=lambda r: of(r, lambda v: f"on {', '.join(v.faces)}" if v.faces else v.reason),
        ),
        Column(
            "deviation",
            lambda r: of(r, lambda v: shown_deviation(v.deviation, v.kind, r.callout.unit)),
            look="number",
            width=74,
        ),
        Column(
            "verdict",
            lambda r: of(r, lambda v: v.verdict),
            look="verdict",
            width=92,
            tip=lambda r: of(r, lambda v: "\n".join(w for w in (v.reason, v.detail) if w) or v.verdict),
        ),
    ]


class LedgerDrawer(QWidget):
    """Emits rows hovered and chosen; a note edited in its cell."""

    hovered = pyqtSignal(object)
    chosen = pyqtSignal(object)
    toggled = pyqtSignal(bool)

    def __init__(self, edit_note: Callable[[LedgerRow, str], None]) -> None:
        super().__init__()
        self.setObjectName("drawer")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.is_open = True
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 1, 0, 0)
        layout.setSpacing(0)
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 2, 8, 2)
        self.totals = QLabel("")
        self.totals.setObjectName("quiet")
        self.totals.setFont(theme.narrow(12, theme.QFont.Weight.Medium))
        self.handle = QPushButton("close ledger")
        self.handle.setFont(theme.narrow(12))
        self.handle.setFixedHeight(22)
        self.handle.setStyleSheet("padding: 0 8px;")
        self.handle.setToolTip("Open or close the ledger (F9)")
        self.handle.clicked.connect(self.toggle)
        bar.addWidget(self.totals, 1)
        bar.addWidget(self.handle)
        layout.addLayout(bar)
        self.model = RowModel(
            [
                Column("balloon", lambda r: str(r.balloon), look="balloon", width=58),
                Column(
                    "note as written", lambda r: r.callout.note, edit=edit_note, look="sheet", width=196,
                    tip=lambda r: f"{r.callout.note}\nF2 edits the note",
                ),
                Column("meaning", lambda r: r.callout.meaning, width=168),
                Column("limits", lambda r: r.limits, width=112,
                       tip=lambda r: r.verdict.limits_source if r.verdict else ""),
                Column("driven by", lambda r: r.callout.drive, width=70),
                Column("used by", lambda r: _used(r), width=58,
                       tip=lambda r: "\n".join(r.verdict.used_by) if r.verdict else ""),
                *verdict_columns(),
            ],
            alarm=lambda r: r.verdict is not None and r.verdict.verdict == "out",
        )  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName("Ledger")
        self.view.row_hovered.connect(self.hovered)
        self.view.row_chosen.connect(self.chosen)
        layout.addWidget(self.view, 1)
        self.empty = QLabel("No callouts yet. Type a drawing note above ( / ), such as  ⌀25 h6  or  4X ⌀6.6 THRU.")
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self.empty, 1)

    def set_rows(self, rows: tuple[LedgerRow, ...]) -> None:
        self.model.set_rows(rows)
        self._show_parts()
        counts: dict[str, int] = {}
        for row in rows:
            word = row.verdict.verdict if row.verdict else "not proven"
            counts[word] = counts.get(word, 0) + 1
        words = " · ".join(f"{n} {w}" for w, n in counts.items())
        plural = "s" if len(rows) != 1 else ""
        self.totals.setText(f"LEDGER   {len(rows)} callout{plural}" + (f" · {words}" if words else ""))

    def toggle(self) -> None:
        self.set_open(not self.is_open)

    def set_open(self, is_open: bool) -> None:
        self.is_open = is_open
        self._show_parts()
        self.handle.setText("close ledger" if is_open else "open ledger")
        self.setMaximumHeight(16777215 if is_open else 28)
        self.toggled.emit(is_open)

    def _show_parts(self) -> None:
        some = bool(self.model.rows)
        self.view.setVisible(self.is_open and some)
        self.empty.setVisible(self.is_open and not some)

    def choose(self, balloon: int) -> None:
        for i, row in enumerate(self.model.rows):
            if row.balloon == balloon:
                self.view.selectRow(i)


def _used(row: LedgerRow) -> str:
    if row.verdict is None:
        return ""
    numbers = dict.fromkeys(w.split()[1] for w in row.verdict.used_by if w.startswith("step"))
    return ", ".join(numbers)
