"""The ledger drawer at the bottom: one row a callout; collapses to one line of totals."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import RowModel, RowView
from lathed_solid.workbench.tables.ledger_rows import LedgerRow, alarming, ledger_columns, totals


class LedgerDrawer(QWidget):
    """Emits rows hovered and chosen; a note edited in its cell."""

    hovered = pyqtSignal(object)
    chosen = pyqtSignal(object)
    toggled = pyqtSignal(bool)
    note_edited = pyqtSignal(int, str)

    def __init__(self) -> None:
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
        self.handle = QPushButton(spoken("close ledger"))
        self.handle.setFont(theme.narrow(12))
        self.handle.setFixedHeight(22)
        self.handle.setStyleSheet("padding: 0 8px;")
        self.handle.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.handle.setToolTip(spoken("Open or close the ledger (F9)"))
        self.handle.clicked.connect(self.toggle)
        bar.addWidget(self.totals, 1)
        bar.addWidget(self.handle)
        layout.addLayout(bar)
        self.model = RowModel(ledger_columns(lambda row, text: self.note_edited.emit(row.balloon, text)), alarming)
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Ledger"))
        self.view.row_hovered.connect(self.hovered)
        self.view.row_chosen.connect(self.chosen)
        layout.addWidget(self.view, 1)
        self.empty = QLabel(
            spoken("No callouts yet. Type a drawing note above ( / ), such as  ⌀25 h6  or  4X ⌀6.6 THRU.")
        )
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self.empty, 1)

    def set_rows(self, rows: tuple[LedgerRow, ...]) -> None:
        """Show these rows, and their totals."""
        self.model.set_rows(rows)
        self._show_parts()
        self.totals.setText(spoken(totals(rows)))

    def toggle(self) -> None:
        """Open or close."""
        self.set_open(not self.is_open)

    def set_open(self, is_open: bool) -> None:
        """Open, or close to one line."""
        self.is_open = is_open
        self._show_parts()
        self.handle.setText(spoken("close ledger" if is_open else "open ledger"))
        self.setMaximumHeight(16777215 if is_open else 28)
        self.toggled.emit(is_open)

    def _show_parts(self) -> None:
        some = bool(self.model.rows)
        self.view.setVisible(self.is_open and some)
        self.empty.setVisible(self.is_open and not some)

    def choose(self, balloon: int) -> None:
        """Choose the row of a balloon."""
        for i, row in enumerate(self.model.rows):
            if row.balloon == balloon:
                self.view.selectRow(i)
