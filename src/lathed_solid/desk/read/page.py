"""The Read desk: the sheets, the caliper log, the dimension chains; one of them beside the solid."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from lathed_solid.desk.background import Background
from lathed_solid.desk.ledger_drawer import LedgerRow
from lathed_solid.desk.read.chains_page import ChainsPage
from lathed_solid.desk.read.log_page import LogPage
from lathed_solid.desk.read.sheet_page import SheetsPage
from lathed_solid.desk.tab_row import tab_row
from lathed_solid.part import Document

SOURCES = ("caliper log", "sheets", "chains")


class ReadPage(QWidget):
    """Holds the sources; starts with the sheets where a document has some."""

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self.log, self.sheets, self.chains = LogPage(background), SheetsPage(background), ChainsPage()
        self.stack = QStackedWidget()
        for page in (self.log, self.sheets, self.chains):
            self.stack.addWidget(page)
        row, self.buttons = tab_row(self, [(name, "") for name in SOURCES], self.show_source, margins=(12, 8, 12, 0))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addLayout(row)
        layout.addWidget(self.stack, 1)
        self._drawings = False
        self.show_source(0)

    @property
    def room(self) -> str:
        """A photograph beside the log wants a room of its own."""
        beside = self.stack.currentWidget() is self.log and not self.log.photo.isHidden()
        return "photograph" if beside else "read"

    def show_source(self, index: int) -> None:
        """Turn to a source: log, sheets, chains."""
        self.buttons[index].setChecked(True)
        self.stack.setCurrentIndex(index)

    @property
    def source(self) -> str:
        """The source that is shown, by its name."""
        return SOURCES[self.stack.currentIndex()]

    def turn_to(self, source: str) -> None:
        """Turn to the log or the sheets, and give it the keyboard."""
        self.show_source(("log", "sheets").index(source))
        shown = self.stack.currentWidget()
        if shown is not None:
            shown.setFocus()

    def set_document(self, document: Document) -> None:
        """Another document; one with sheets starts with them."""
        self.log.set_document(document)
        self.sheets.set_document(document)
        self.chains.set_document(document)
        drawings = any(not s.photograph for s in document.sheets)
        if drawings != self._drawings:
            self.show_source(1 if drawings else 0)
        self._drawings = drawings

    def set_rows(self, rows: Sequence[LedgerRow], used: set[int], current: int | None) -> None:
        """How the callouts stand, for the balloons on the sheets."""
        states: dict[int, str] = {}
        for row in rows:
            verdict = row.verdict
            if verdict is not None and verdict.measured is not None:
                states[row.balloon] = verdict.verdict
            elif row.balloon in used:
                states[row.balloon] = "not found" if verdict is not None else "used"
        self.sheets.set_states(states, current)
