"""The new part's question: what is in the hand. Everything else begins as it was the last time."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QDialog,
    QFormLayout,
    QGridLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.part.document import UNNAMED
from lathed_solid.standards import materials
from lathed_solid.workbench.beginning import GENERAL, HANDS, Beginning, InHand, begun, general_of


class BeginDialog(QDialog):
    """Unit, material and tolerance, then one of four answers: a click, or its digit where nothing is typed."""

    def __init__(self, parent: QWidget, last: Beginning) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("A new part"))
        self.setFixedWidth(560)
        self.answer = last
        self.document: Document | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 20)
        layout.setSpacing(14)
        form = QFormLayout()
        form.setHorizontalSpacing(16)
        self.name = QLineEdit()
        self.name.setPlaceholderText(spoken(UNNAMED))
        self.unit = QComboBox()
        self.unit.addItems(["mm", "in"])
        self.unit.setCurrentText(last.unit)
        self.unit.currentTextChanged.connect(self._turn_unit)
        self.material = QComboBox()
        self.material.setEditable(True)
        self.material.setToolTip(spoken("From the table, or your own with its density: oak 0.70 g/cm3 ±8 %"))
        self.material.addItems(list(materials()))
        self.material.setCurrentText(last.material)
        self.general = QComboBox()
        self.general.addItems(list(GENERAL))
        self.general.setCurrentText(last.general)
        for label, field in (
            ("unit of the sheet", self.unit), ("general tolerance", self.general), ("material", self.material),
            ("name", self.name),
        ):  # fmt: skip
            field.setAccessibleName(spoken(label))
            form.addRow(spoken(label), field)
        layout.addLayout(form)
        title = QLabel(spoken("What is in the hand?"))
        title.setFont(theme.font(17, theme.QFont.Weight.DemiBold))
        layout.addWidget(title)
        layout.addLayout(self._answers())
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        layout.addWidget(self.problem)
        self.problem.hide()

    def _answers(self) -> QGridLayout:
        grid = QGridLayout()
        grid.setSpacing(10)
        group = QButtonGroup(self)
        self.buttons: list[QPushButton] = []
        for i, (hand, (what, then)) in enumerate(HANDS.items()):
            button = QPushButton(spoken(f"{i + 1}   {what}\n{then}"))
            button.setStyleSheet("text-align: left; padding: 10px 14px;")
            button.setMinimumHeight(58)
            button.setAutoDefault(hand == self.answer.hand)
            button.setDefault(hand == self.answer.hand)
            button.clicked.connect(lambda _=False, h=hand: self._begin(h))
            group.addButton(button)
            self.buttons.append(button)
            grid.addWidget(button, i // 2, i % 2)
        next(b for b, h in zip(self.buttons, HANDS, strict=True) if h == self.answer.hand).setFocus()
        return grid

    def _turn_unit(self, unit: str) -> None:
        """Another unit brings the tolerances that its sheets mostly have."""
        self.general.setCurrentText(general_of("in" if unit == "in" else "mm"))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """A digit answers."""
        if event is not None and event.text() in ("1", "2", "3", "4") and not event.modifiers():
            self._begin(list(HANDS)[int(event.text()) - 1])
        else:
            super().keyPressEvent(event)

    def _begin(self, hand: InHand) -> None:
        """Take the answer; what cannot be is told, and the question stays."""
        self.answer = replace(
            self.answer, hand=hand, name=self.name.text(), unit="in" if self.unit.currentText() == "in" else "mm",
            material=self.material.currentText(), general=self.general.currentText(),
        )  # fmt: skip
        try:
            self.document = begun(self.answer)
        except LathedError as exc:
            self.problem.setText(spoken(exc.message))
            self.problem.show()
            return
        self.accept()
