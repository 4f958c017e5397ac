"""What a part cost in work, step by step, and beside another way of making it."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
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
        self.model = self._steps()
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Steps as work"))
        self.view.row_chosen.connect(lambda r: self.chosen.emit(r.number) if r is not None else None)
        layout.addWidget(self.view, 3)
        self.beside = pane_head()
        self.other_model = self._steps()
        self.other_view = RowView(self.other_model)
        self.other_view.setAccessibleName(spoken("Steps of the other way as work"))
        for widget, share in ((self.beside, 0), (self.other_view, 3)):
            widget.hide()
            layout.addWidget(widget, share)
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
        self.sum_view.setAccessibleName(spoken("Ways compared"))
        self.sum_view.setMinimumHeight(112)
        self.sum_view.setToolTip(spoken("Choose a way to see its steps beside those of the part in hand"))
        self.sum_view.row_chosen.connect(self._show_beside)
        layout.addWidget(self.sum_view, 1)
        row = QHBoxLayout()
        self.other = QPushButton(spoken("beside another part…"))
        self.other.setToolTip(spoken("A file with the same part made another way: both are summed up side by side"))
        self.other.setFont(theme.narrow(13))
        self.other.clicked.connect(self.other_asked)
        row.addWidget(self.other)
        row.addStretch(1)
        layout.addLayout(row)

    def _steps(self) -> RowModel:
        """Steps as work."""
        return RowModel([
            Column("step", lambda r: str(r.number), width=46),
            Column("what", lambda r: r.title, width=168, tip=lambda r: r.title),
            Column("entries", lambda r: str(r.entries), look="number", width=56),
            Column("built in", lambda r: f"{r.ms:.0f} ms", look="number", width=66),
            Column("material", self._change, look="number", width=104),
        ])  # fmt: skip

    def _change(self, r: WayRow) -> str:
        if r.volume is None:
            return ""
        sign = "+" if r.volume > 0 else "−" if r.volume < 0 else ""
        return f"{sign}{volume(abs(r.volume), self.unit, 0)}"

    def show_ways(self, found: list[Sums], unit: LengthUnit) -> None:
        """The part in hand, its steps first; and those it is compared with, the steps of the last one beside."""
        self.unit = unit
        self.model.set_rows(found[0].rows)
        self.sums.set_rows(found)
        self._show_beside(found[-1] if len(found) > 1 else None)
        if len(found) > 1:
            a, b = found[0], found[-1]
            said = [f"{a.entries - b.entries:+d} entries", f"{a.steps - b.steps:+d} steps"]
            if a.grams is not None and b.grams is not None:
                said.append(f"{a.grams - b.grams:+.1f} g")
            self.head.setText(spoken(f"This way against {b.name}: {', '.join(said)}."))
        else:
            self.head.setText(spoken("What stood ready from before took no time."))

    def _show_beside(self, way: Sums | None) -> None:
        """The steps of another way than the part in hand."""
        if way is not None and way.rows == self.model.rows:
            return
        for widget in (self.beside, self.other_view):
            widget.setVisible(way is not None)
        if way is not None:
            self.beside.setText(spoken(f"{way.name}:"))
            self.other_model.set_rows(way.rows)
