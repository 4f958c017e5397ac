"""A first model as it is proposed from the sheet: station by station, with what the sheet does not fix asked."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.part.proposals import Placed, Proposal


def _stands(row: Placed) -> str:
    return f"? {row.asked.partition(': ')[2] or row.asked}" if row.asked else "by the sheet"


class ProposalPane(QWidget):
    """Emits that it is to be built, or left."""

    wanted = pyqtSignal()
    closed = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.title = QLabel()
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setObjectName("caption")
        self.model = RowModel([
            Column("what", lambda r: r.what, width=130),
            Column("by the callouts", lambda r: r.cells, look="sheet", width=230, tip=lambda r: r.cells),
            Column("", _stands, width=230, tip=lambda r: r.asked or "every size of it is a callout of the sheet"),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName("the first model, as proposed")
        self.view.setFixedHeight(190)
        self.left = QLabel()
        self.left.setObjectName("quiet")
        self.left.setFont(theme.narrow(12))
        self.left.setWordWrap(True)
        self.build = QPushButton("build it")
        leave = QPushButton("leave it")
        row = QHBoxLayout()
        row.setSpacing(6)
        for button, signal, keys in ((self.build, self.wanted, "Alt+B"), (leave, self.closed, "Alt+K")):
            button.setFont(theme.narrow(12))
            button.setToolTip(keys)
            button.setShortcut(keys)
            button.clicked.connect(lambda _=False, signal=signal: signal.emit())
            row.addWidget(button)
        row.addStretch(1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        for part in (self.title, self.view, self.left):
            layout.addWidget(part)
        layout.addLayout(row)

    def show_proposal(self, proposal: Proposal) -> None:
        """What would be built, and which notes found no place in it."""
        asked = len(proposal.asked)
        stations = sum(r.what.startswith("station") and "," not in r.what for r in proposal.rows)
        questions = f", {asked} of it asked" if asked else ", all of it by the sheet"
        self.title.setText(f"FIRST MODEL — a turned part of {stations} stations{questions}")
        self.model.set_rows(proposal.rows)
        unplaced = "; ".join(t.replace("\n", " ") for t in proposal.unplaced)
        self.left.setText(f"taken as callouts, but not placed: {unplaced}" if unplaced else "every note has its place")
        self.view.selectRow(next((i for i, r in enumerate(proposal.rows) if r.asked), 0))
