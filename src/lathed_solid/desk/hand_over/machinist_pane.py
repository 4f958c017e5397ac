"""What it takes to cut the part, beside its sheet: zero and stock, settings, holes, what cannot be made."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import pane_head, pane_layout
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.quantity.formatting import counted
from lathed_solid.reports.machinist.model import HoleRow, MachinistSheet
from lathed_solid.reports.machinist.saying import sayer

#: so many troubles are seen at once; height of a row, pixels
FEW, LINE = 5, 27


class MachinistPane(QWidget):
    """Asks for writing."""

    write_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._say = sayer("mm")
        layout = pane_layout(self)
        self.head = pane_head()
        self.settings = QLabel()
        self.settings.setWordWrap(True)
        self.settings.setFont(theme.narrow(13))
        layout.addWidget(self.head)
        layout.addWidget(self.settings)
        self.troubles = RowModel([
            Column("", lambda t: "△" if t.hard else "■", width=26, tip=lambda t: t.why),
            Column("cannot be made, or with care", lambda t: t.what, width=170, tip=lambda t: t.why),
            Column("where and why", lambda t: f"{t.where}: {t.why}", width=236, tip=lambda t: f"{t.where}: {t.why}"),
        ], alarm=lambda t: not t.hard)  # fmt: skip
        self.trouble_view = self._view(self.troubles, "What cannot be made", layout)
        self.holes = RowModel([
            Column("hole", lambda h: h.id, width=40),
            Column("X", lambda h: self._say(h.at[0]), look="number", width=66),
            Column("Y", lambda h: self._say(h.at[1]), look="number", width=66),
            Column("Z", lambda h: self._say(h.at[2]), look="number", width=56),
            Column("⌀", lambda h: self._say(h.diameter), look="number", width=60),
            Column("deep", self._deep, look="number", width=70),
            Column("more", self._more, width=82, tip=self._more),
        ])  # fmt: skip
        self.hole_view = self._view(self.holes, "Holes", layout)
        layout.addStretch(1)
        row = QHBoxLayout()
        self.write = QPushButton(spoken("write the machinist's sheet…"))
        self.write.setToolTip(spoken("PDF, CSV or JSON (Ctrl+Shift+K)"))
        self.write.setFont(theme.narrow(13))
        self.write.clicked.connect(self.write_asked)
        row.addWidget(self.write)
        row.addStretch(1)
        layout.addLayout(row)

    def _view(self, model: RowModel, name: str, layout: QVBoxLayout) -> RowView:
        view = RowView(model)
        view.setAccessibleName(spoken(name))
        layout.addWidget(view, 4)
        return view

    def _deep(self, h: HoleRow) -> str:
        return "through" if h.depth is None else self._say(h.depth)

    @staticmethod
    def _more(h: HoleRow) -> str:
        return ", ".join(filter(None, (h.thread, h.entry, h.fit)))

    def show_sheet(self, sheet: MachinistSheet | None, words: str = "") -> None:
        """A sheet, or why there is none."""
        for view in (self.trouble_view, self.hole_view):
            view.setVisible(False)
        self.write.setEnabled(sheet is not None)
        self.settings.setText("")
        if sheet is None:
            self.head.setText(spoken(words))
            return
        self._say = sayer("in" if sheet.unit == "in" else "mm")
        stock = sheet.stock
        size = " x ".join(map(self._say, stock.size))
        grams = "" if stock.grams is None else f", {stock.grams / 1000:.3f} kg"
        kind = spoken(stock.kind)
        self.head.setText(spoken(f"Zero: {sheet.zero.words}. Stock: {kind} {size} {sheet.unit}{grams}, of which "
                          f"{stock.cut_away:.0%} is cut away."))  # fmt: skip
        lines = [f"{n}.  {spoken(s.side)}: {'; '.join(map(spoken, s.does))}" for n, s in enumerate(sheet.settings, 1)]
        self.settings.setText("\n".join([spoken(counted(len(lines), "setting") + ":"), *lines]))
        for model, view, found in ((self.troubles, self.trouble_view, sheet.cannot), (self.holes, self.hole_view,
                                                                                      sheet.holes)):  # fmt: skip
            model.set_rows(list(found))
            view.setVisible(bool(found))
        self.trouble_view.setMaximumHeight(LINE * (2 + min(len(sheet.cannot), FEW)))
