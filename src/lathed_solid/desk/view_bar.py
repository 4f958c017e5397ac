"""Switches over the solid: see through, and cut open with a plane that can be dragged along an axis."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QComboBox, QHBoxLayout, QMenu, QPushButton, QSlider, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.solid_view import SolidView
from lathed_solid.kernel.figures import SketchMark

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
        self.axis.setToolTip(spoken("The axis that the cutting plane is square to"))
        self.axis.currentIndexChanged.connect(self._update_section)
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(0, STEPS)
        self.slider.setValue(STEPS // 2)
        self.slider.setFixedWidth(72)
        self.slider.setToolTip(spoken("Where the plane cuts"))
        self.slider.valueChanged.connect(self._update_section)
        self.balloons = self._button("balloons", "A balloon on every proven callout (B)", checkable=True)
        self.balloons.setChecked(True)
        self.balloons.hide()
        self.sketches = self._button("sketches", "The route's sketches over the solid", checkable=True)
        self.sketches.toggled.connect(lambda _on: self._show_sketches())
        self.sketches.hide()
        self._sketches: tuple[SketchMark, ...] = ()
        self.bodies = self._button("bodies ▾", "Hide bodies, or show one alone")
        self.bodies.clicked.connect(self._ask_bodies)
        self.bodies.hide()
        self._bodies: dict[int, str] = {}
        self._hidden: frozenset[int] = frozenset()
        for w in (self.fit, self.see_through, self.balloons, self.section, self.axis, self.slider,
                  self.sketches, self.bodies):  # fmt: skip
            layout.addWidget(w)
        self._update_section()

    def _button(self, text: str, tip: str, *, checkable: bool = False) -> QPushButton:
        button = QPushButton(spoken(text))
        button.setFont(theme.narrow(12))
        button.setToolTip(spoken(tip))
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

    # sketches ------------------------------------------------------------------------------------
    def set_sketches(self, marks: tuple[SketchMark, ...]) -> None:
        """The sketches that can be shown."""
        if marks == self._sketches:
            return
        self._sketches = marks
        self.sketches.setVisible(bool(marks))
        self.adjustSize()
        if self.sketches.isChecked():
            self._show_sketches()

    def _show_sketches(self) -> None:
        self.solid.show_sketches(self._sketches if self.sketches.isChecked() else ())

    # bodies --------------------------------------------------------------------------------------
    def set_bodies(self, bodies: dict[int, str]) -> None:
        """The bodies of the part, number -> name; a part of one has nothing to hide."""
        if bodies != self._bodies:
            self._bodies = bodies
            self.bodies.setVisible(len(bodies) > 1)
            self.adjustSize()
        self.hide_bodies(self._hidden & frozenset(bodies))

    def hide_bodies(self, numbers: frozenset[int]) -> None:
        """Show all bodies but these; never none."""
        if len(numbers) >= len(self._bodies) > 0:
            return
        self.bodies.setText(spoken(f"bodies {len(self._bodies) - len(numbers)} of {len(self._bodies)} ▾"))
        if numbers != self._hidden:
            self._hidden = numbers
            self.solid.hide_bodies(numbers)

    def bodies_menu(self) -> QMenu:
        """A line for each body to show or hide it, and to show it alone."""
        menu = QMenu(self)
        for number, name in self._bodies.items():
            shown = menu.addAction(name)
            assert shown is not None
            shown.setCheckable(True)
            shown.setChecked(number not in self._hidden)
            shown.triggered.connect(lambda _=False, n=number: self.hide_bodies(self._hidden ^ {n}))
        menu.addSeparator()
        for number, name in self._bodies.items():
            menu.addAction(f"only {name}", lambda n=number: self.hide_bodies(frozenset(self._bodies) - {n}))
        menu.addAction("all", lambda: self.hide_bodies(frozenset()))
        return menu

    def _ask_bodies(self) -> None:
        self.bodies_menu().exec(self.bodies.mapToGlobal(self.bodies.rect().topLeft()))
