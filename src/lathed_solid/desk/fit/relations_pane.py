"""The relations of a fit as a table: what joins what, sizes typed in place, what fights and what is left out."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.workbench.fit.rows import RelationRow

SIGNS = {"holds": "○ holds", "fights": "■ fights", "left out": "? left out", "suspended": "– suspended"}


class RelationsPane(QWidget):
    """Emits the row that is chosen or pointed at, another size for one, and what is asked of the chosen one."""

    chosen = pyqtSignal(object)
    hovered = pyqtSignal(object)
    resized = pyqtSignal(int, str)
    flip_asked = pyqtSignal()
    suspend_asked = pyqtSignal()
    removal_asked = pyqtSignal()
    again_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.model = RowModel([
            Column("no.", lambda r: str(r.number), look="balloon", width=38),
            Column("joins", lambda r: r.first, look="narrow", width=106, tip=self._tip),
            Column("how", lambda r: r.kind, look="narrow", width=88, tip=self._tip),
            Column("to", lambda r: r.second, look="narrow", width=106, tip=self._tip),
            Column("size", lambda r: r.size, edit=self._resize, width=36, tip=self._tip),
            Column("state", lambda r: SIGNS[r.state], look="narrow", width=66, tip=self._tip),
        ], alarm=lambda r: r.state in ("fights", "left out"))  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Relations"))
        self.view.row_chosen.connect(self._choose)
        self.view.row_hovered.connect(self.hovered)
        self.empty = QLabel(spoken("No relations yet: every member stands where it was put."))
        self.empty.setObjectName("quiet")
        self.empty.setContentsMargins(12, 8, 12, 8)
        self.empty.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setFont(theme.narrow(12))
        self.message.setMinimumHeight(34)
        self.message.setAlignment(Qt.AlignmentFlag.AlignTop)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.buttons = {}
        for name, tip, signal in (
            ("other side", "The two directions against each other, or the same way", self.flip_asked),
            ("leave out", "Leave it out for now, or take it in again", self.suspend_asked),
            ("pick again", "Have it hold on to what is picked, where its face is gone", self.again_asked),
            ("remove", "Remove it (Del)", self.removal_asked),
        ):
            button = self.buttons[name] = QPushButton(spoken(name))
            button.setFont(theme.narrow(12))
            button.setToolTip(spoken(tip))
            button.clicked.connect(signal)
            row.addWidget(button)
        row.addStretch(1)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.view, 1)
        layout.addWidget(self.empty, 1)
        layout.addWidget(self.message)
        layout.addLayout(row)
        self._quiet = False
        self.set_rows([], None)

    @staticmethod
    def _tip(row: RelationRow) -> str:
        named = row.relation.words if row.relation is not None else f"{row.first} {row.kind} {row.second}"
        return f"{row.number}: {named}" + (f"\n{row.message}" if row.message else "")

    def _resize(self, row: RelationRow, text: str) -> None:
        if row.sized:
            self.resized.emit(row.number, text)

    def set_rows(self, rows: list[RelationRow], current: int | None) -> None:
        """Show these relations, ``current`` chosen."""
        self._quiet = True
        self.model.set_rows(rows)
        self.view.setVisible(bool(rows))
        self.empty.setVisible(not rows)
        self._quiet = False
        self.choose(current)

    def choose(self, number: int | None) -> None:
        """Show a relation as the chosen one; nothing is emitted."""
        self._quiet = True
        at = next((i for i, r in enumerate(self.model.rows) if r.number == number), None)
        if at is None:
            self.view.clearSelection()
            self.view.setCurrentIndex(self.model.index(-1, -1))
        elif self.view.currentIndex().row() != at:
            self.view.selectRow(at)
        self._quiet = False
        self._tell()

    def _choose(self, row: RelationRow | None) -> None:
        self._tell()
        if not self._quiet:
            self.chosen.emit(row)

    def _tell(self) -> None:
        row = self.view.current_row()
        self.message.setText(spoken(row.message if row is not None else ""))
        for button in self.buttons.values():
            button.setEnabled(row is not None)
        self.buttons["pick again"].setVisible(row is not None and row.state == "left out")
        self.buttons["other side"].setEnabled(row is not None and row.relation is not None)
        self.buttons["leave out"].setEnabled(row is not None and row.relation is not None)
        self.buttons["leave out"].setText(
            spoken("take in" if row is not None and row.state == "suspended" else "leave out")
        )

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Delete:
            self.removal_asked.emit()
        else:
            super().keyPressEvent(event)
