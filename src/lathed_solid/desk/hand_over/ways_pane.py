"""What a part cost in work, step by step, and beside another way of making it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.pane_parts import pane_head, pane_layout
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import volume
from lathed_solid.workbench.describe import grams
from lathed_solid.workbench.hand_over.rows import Sums, WayRow


class WaysPane(QWidget):
    """Asks for another part to stand beside this one."""

    other_asked = pyqtSignal()
    chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.unit: LengthUnit = "mm"
        layout = pane_layout(self, 8)
        self.model = RowModel([
            Column("step", lambda r: str(r.number), width=46),
            Column("what", lambda r: r.title, width=168, tip=lambda r: r.title),
            Column("entries", lambda r: str(r.entries), look="number", width=56),
            Column("built in", lambda r: f"{r.ms:.0f} ms", look="number", width=66),
            Column("material", self._change, look="number", width=104),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName("Steps as work")
        self.view.row_chosen.connect(lambda r: self.chosen.emit(r.number) if r is not None else None)
        layout.addWidget(self.view, 3)
        self.head = pane_head()
        layout.addWidget(self.head)
        self.sums = RowModel([
            Column("way", lambda s: s.name, width=112, tip=lambda s: s.name),
            Column("steps", lambda s: str(s.steps), look="number", width=48),
            Column("entries", lambda s: str(s.entries), look="number", width=58),
            Column("callouts", lambda s: str(s.callouts), look="number", width=64),
            Column("built in", lambda s: f"{s.ms:.0f} ms", look="number", width=68),
            Column("mass", lambda s: grams(s.grams), look="number", width=84),
        ])  # fmt: skip
        self.sum_view = RowView(self.sums)
        self.sum_view.setAccessibleName("Ways compared")
        layout.addWidget(self.sum_view, 1)
        row = QHBoxLayout()
        self.other = QPushButton("beside another part…")
        self.other.setToolTip("A file with the same part made another way: both are summed up side by side")
        self.other.setFont(theme.narrow(13))
        self.other.clicked.connect(self.other_asked)
        row.addWidget(self.other)
        row.addStretch(1)
        layout.addLayout(row)

    def _change(self, r: WayRow) -> str:
        if r.volume is None:
            return ""
        sign = "+" if r.volume > 0 else "−" if r.volume < 0 else ""
        return f"{sign}{volume(abs(r.volume), self.unit, 0)}"

    def show_ways(self, rows: list[WayRow], found: list[Sums], unit: LengthUnit) -> None:
        """The steps of the part in hand; the sums of it and of those it is compared with."""
        self.unit = unit
        self.model.set_rows(rows)
        self.sums.set_rows(found)
        if len(found) > 1:
            a, b = found[0], found[-1]
            said = [f"{a.entries - b.entries:+d} entries", f"{a.steps - b.steps:+d} steps"]
            if a.grams is not None and b.grams is not None:
                said.append(f"{a.grams - b.grams:+.1f} g")
            self.head.setText(f"This way against {b.name}: {', '.join(said)}.")
        else:
            self.head.setText("What stood ready from before took no time.")
