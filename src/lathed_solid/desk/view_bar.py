"""Switches over the solid: see through, and cut open with a plane that can be dragged along an axis."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QSlider, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.solid_view import SolidView

STEPS = 1000


class ViewBar(QWidget):
    """Drives one SolidView."""

    def __init__(self, solid: SolidView) -> None:
        super().__init__(solid)
        self.solid = solid
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(4)
        self.fit = self._button("fit", "Fit the solid (F)")
        self.fit.clicked.connect(solid.fit)
        self.see_through = self._button("see through", "See through (T)", checkable=True)
        self.see_through.toggled.connect(solid.set_see_through)
        self.section = self._button("cut open", "Cut open by a plane (X)", checkable=True)
        self.section.toggled.connect(self._update_section)
        self.axis = QComboBox()
        self.axis.addItems(["y", "z", "x"])
        self.axis.setFont(theme.narrow(12))
        self.axis.setToolTip("The axis that the cutting plane is square to")
        self.axis.currentIndexChanged.connect(self._update_section)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setValue(STEPS // 2)
        self.slider.setFixedWidth(72)
        self.slider.setToolTip("Where the plane cuts")
        self.slider.valueChanged.connect(self._update_section)
        self.balloons = self._button("balloons", "A balloon on every proven callout (B)", checkable=True)
        self.balloons.setChecked(True)
        self.balloons.hide()
        for w in (self.fit, self.see_through, self.balloons, self.section, self.axis, self.slider):
            layout.addWidget(w)
        self._update_section()

    def _button(self, text: str, tip: str, *, checkable: bool = False) -> QPushButton:
        button = QPushButton(text)
        button.setFont(theme.narrow(12))
        button.setToolTip(tip)
        button.setCheckable(checkable)
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        button.setFixedHeight(26)
        return button

    def _update_section(self) -> None:
        on = self.section.isChecked()
        self.axis.setVisible(on)
        self.slider.setVisible(on)
        self.adjustSize()
        if not on:
            self.solid.set_section(None)
            return
        axis = self.axis.currentText()[-1]
        low, high = self.solid.extent(axis)
        self.solid.set_section(low + (high - low) * self.slider.value() / STEPS, axis)
