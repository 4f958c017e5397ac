"""Looking up a standard beside the work: type a designation, read its figures, put it into the note line."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QLineEdit,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.quantity import LengthUnit
from lathed_solid.standards import StandardError
from lathed_solid.standards.lookup import EXAMPLES, Found, look_up

COLUMNS = ("", "from", "to", "", "by")
WIDTHS = (216, 88, 88, 64)
UNITS: tuple[LengthUnit, LengthUnit] = ("mm", "in")


class LookUpDialog(QDialog):
    """Stays open beside the window; the answer follows the typing."""

    taken = pyqtSignal(str)

    def __init__(self, parent: QWidget, unit: LengthUnit, text: str = "") -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("Look up a standard"))
        self.resize(760, 480)
        self.found: Found | None = None
        self.field = QLineEdit()
        self.field.setFont(theme.drawing(16))
        self.field.setMaxLength(80)
        self.field.setPlaceholderText(spoken("M18x1.5-6g, ⌀25 H7/g6, drill #7, screw M6, key 25 …"))
        self.field.setAccessibleName(spoken("what to look up"))
        self.field.textChanged.connect(self._answer)
        self.field.returnPressed.connect(self._take)
        self.unit = QComboBox()
        self.unit.setAccessibleName(spoken("unit of the figures"))
        self.unit.addItems(UNITS)
        self.unit.setCurrentText(unit)
        self.unit.currentTextChanged.connect(lambda _t: self._answer(self.field.text()))
        top = QHBoxLayout()
        top.addWidget(self.field, 1)
        top.addWidget(self.unit)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.table = QTableWidget(0, len(COLUMNS))
        self.table.setHorizontalHeaderLabels(COLUMNS)
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.setAccessibleName(spoken("figures"))
        header, side = self.table.horizontalHeader(), self.table.verticalHeader()
        if header is not None and side is not None:
            side.hide()
            header.setStretchLastSection(True)
            header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
            header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        for column, width in enumerate(WIDTHS):
            self.table.setColumnWidth(column, width)
        self.take = QPushButton(spoken("To the note line"))
        self.take.setToolTip(spoken("Enter: put the designation into the note line"))
        self.take.clicked.connect(self._take)
        self.take.setAutoDefault(False)
        close = QPushButton(spoken("Close"))
        close.setAutoDefault(False)
        close.clicked.connect(self.reject)
        bottom = QHBoxLayout()
        bottom.addStretch(1)
        bottom.addWidget(self.take)
        bottom.addWidget(close)
        layout = QVBoxLayout(self)
        for part in (top, bottom):
            layout.addLayout(part)
        layout.insertWidget(1, self.words)
        layout.insertWidget(2, self.table, 1)
        self.field.setText(text.strip())
        self._answer(self.field.text())

    def _answer(self, text: str) -> None:
        """Show the figures of what is typed, or what can be asked."""
        self.found = None
        if not text.strip():
            self.words.setText(spoken("For example: " + " · ".join(EXAMPLES)))
        else:
            try:
                self.found = look_up(text)
            except StandardError as exc:
                self.words.setText(spoken(exc.message))
            else:
                assumed = "".join(f" — {a}" for a in self.found.assumed)
                self.words.setText(spoken(f"{self.found.title}{assumed}"))
        self.take.setEnabled(self.found is not None)
        self._fill()

    def _fill(self) -> None:
        figures = self.found.figures if self.found is not None else ()
        unit: LengthUnit = "in" if self.unit.currentText() == "in" else "mm"
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        left = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter
        self.table.setRowCount(len(figures))
        for i, figure in enumerate(figures):
            low, high, shown = figure.texts(unit)
            cells = (figure.label, low, high, shown, figure.source)
            for j, cell in enumerate(cells):
                item = QTableWidgetItem(cell)
                item.setTextAlignment(right if j in (1, 2) else left)
                item.setToolTip(spoken(cell))
                self.table.setItem(i, j, item)

    def _take(self) -> None:
        if self.found is not None:
            self.taken.emit(self.field.text().strip())
