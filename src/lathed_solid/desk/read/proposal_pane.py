"""A first model as it is proposed from the sheet: station by station, with what the sheet does not fix asked."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.keyed_buttons import keyed_buttons
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.sheets.client import read_linework
from lathed_solid.store import place_of
from lathed_solid.workbench.sheet_commands import SheetCommands

if TYPE_CHECKING:
    from lathed_solid.part.proposals import Placed, Proposal


def _stands(row: Placed) -> str:
    if row.asked:
        return f"? {row.asked.partition(': ')[2] or row.asked}"
    return f"look at {row.doubted}" if row.doubted else "by the sheet"


def _why(row: Placed) -> str:
    return row.asked or row.doubted or "every size of it is a callout of the sheet"


class ProposalPane(QWidget):
    """Reads the page's linework beside the window, shows what it makes, and builds it when that is wanted."""

    reading = pyqtSignal(bool)  # whether it is being asked for

    def __init__(self, background: Background, commands: SheetCommands) -> None:
        super().__init__()
        self._background, self._commands = background, commands
        self.title = QLabel()
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setObjectName("caption")
        self.model = RowModel([
            Column("what", lambda r: r.what, width=130),
            Column("by the callouts", lambda r: r.cells, look="sheet", width=230, tip=lambda r: r.cells),
            Column("", _stands, width=230, tip=_why),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("the first model, as proposed"))
        self.view.setFixedHeight(190)
        self.left = QLabel()
        self.left.setObjectName("quiet")
        self.left.setFont(theme.narrow(12))
        self.left.setWordWrap(True)
        self.build = QPushButton(spoken("build it"))
        leave = QPushButton(spoken("leave it"))
        row = keyed_buttons([(self.build, self._build, "Alt+B"), (leave, self.hide, "Alt+K")])
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        for part in (self.title, self.view, self.left):
            layout.addWidget(part)
        layout.addLayout(row)
        self.hide()

    def ask(self) -> None:
        """What the page that is shown makes."""
        work = self._commands
        if work.sheet is None or (propose := work.proposer()) is None:
            return
        path, page, known = place_of(work.sheet.file), work.page, work.found.lines if work.found else None
        self.reading.emit(True)
        self._background.run(lambda: propose(known or read_linework(path, page)), self._show, self._failed)

    def _show(self, proposal: Proposal) -> None:
        self.reading.emit(False)
        self._commands.end_asking()
        self.show_proposal(proposal)
        self.show()

    def _failed(self, why: str) -> None:
        self.reading.emit(False)
        self.hide()
        self._commands.told.emit(why, True)

    def _build(self) -> None:
        if self._commands.build_proposal():
            self.hide()

    def show_proposal(self, proposal: Proposal) -> None:
        """What would be built, and which notes found no place in it."""
        asked = len(proposal.asked)
        stations = sum(r.what.startswith("station") and "," not in r.what for r in proposal.rows)
        what = "a plate" if proposal.kind == "plate" else f"a turned part of {stations} stations"
        pieces = [what, f"{asked} of it asked" if asked else "all of it by the sheet"]
        if proposal.doubted:
            pieces.append(f"{len(proposal.doubted)} of it to be looked at")
        self.title.setText(f"{spoken('FIRST MODEL')} — {', '.join(map(spoken, pieces))}")
        self.model.set_rows(proposal.rows)
        unplaced = "; ".join(t.replace("\n", " ") for t in proposal.unplaced)
        self.left.setText(
            spoken(f"taken as callouts, but not placed: {unplaced}" if unplaced else "every note has its place")
        )
        self.view.selectRow(next((i for i, r in enumerate(proposal.rows) if r.asked), 0))
