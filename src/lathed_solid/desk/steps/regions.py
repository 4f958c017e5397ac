"""The editor of steps on picked regions: extrude and revolve."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QComboBox, QFormLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.fields import ExpressionField
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, ExtrudeStep, RevolveStep, scope
from lathed_solid.part.edits import changed

SIDES = ("front", "back", "both")
MODES = ("add", "cut")


class RegionsEditor(QWidget):
    """Emits (label, new step) when a field was changed."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.step: ExtrudeStep | RevolveStep | None = None
        self.document = Document()
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.title = QLabel("")
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setContentsMargins(12, 10, 12, 0)
        outer.addWidget(self.title)
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        outer.addWidget(self.problem)
        self.form = QFormLayout()
        self.form.setContentsMargins(16, 12, 16, 12)
        self.form.setHorizontalSpacing(16)
        self.form.setVerticalSpacing(8)
        self.form.setLabelAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.mode = QComboBox()
        self.mode.addItems(["add material", "cut material away"])
        self.mode.activated.connect(lambda i: self._set("mode", mode=MODES[i]))
        self.form.addRow("does", self.mode)
        self.distance = ExpressionField("length", empty="through all", name="distance")
        self.distance.finished.connect(lambda text: self._set("distance", distance=text or None))
        self.form.addRow("distance", self.distance)
        self.side = QComboBox()
        self.side.addItems(["in front of the plane", "behind the plane", "half to each side"])
        self.side.activated.connect(lambda i: self._set("side", side=SIDES[i]))
        self.form.addRow("side", self.side)
        self.angle = ExpressionField("angle", empty="360°", name="angle")
        self.angle.finished.connect(lambda text: self._set("angle", angle=text or "360 deg"))
        self.form.addRow("angle", self.angle)
        self.axis = QLineEdit()
        self.axis.setAccessibleName("axis")
        self.axis.editingFinished.connect(lambda: self._set("axis", axis=self.axis.text().strip()))
        self.form.addRow("about the line", self.axis)
        self.regions = QLabel("")
        self.regions.setWordWrap(True)
        self.form.addRow("regions", self.regions)
        self.all = QPushButton("take all that is material")
        self.all.clicked.connect(lambda: self._set("regions", regions=()))
        self.form.addRow("", self.all)
        outer.addLayout(self.form)
        outer.addStretch(1)

    def show_step(self, document: Document, step: ExtrudeStep | RevolveStep) -> None:
        """Show ``step`` of ``document``."""
        self.document, self.step = document, step
        self.title.setText(f"{step.title().upper()} — step {step.number}")
        problem = ""
        try:
            step.resolve(scope(document))
        except LathedError as exc:
            problem = exc.message
        self.problem.setText(problem)
        self.problem.setVisible(bool(problem))
        self.mode.setCurrentIndex(MODES.index(step.mode))
        extrude = isinstance(step, ExtrudeStep)
        for widget, on in ((self.distance, extrude), (self.side, extrude), (self.angle, not extrude),
                           (self.axis, not extrude)):  # fmt: skip
            self.form.setRowVisible(widget, on)
        for field in (self.distance, self.angle):
            field.set_scope(lambda: scope(self.document))
        if isinstance(step, ExtrudeStep):
            self.distance.set_text(step.distance or "")
            self.side.setCurrentIndex(SIDES.index(step.side))
        else:
            self.angle.set_text(step.angle)
            self.axis.setText(step.axis)
        bounded = "; ".join(f"between {name}" for name in step.regions)
        self.regions.setText(bounded or f"all that is material in sketch {step.sketch}")
        self.all.setVisible(bool(step.regions))

    def take_focus(self) -> None:
        (self.distance if isinstance(self.step, ExtrudeStep) else self.angle).line.setFocus()

    def _set(self, label: str, **values: Any) -> None:
        if self.step is None:
            return
        try:
            step = changed(self.step, **values)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            self.show_step(self.document, self.step)
            return
        if step != self.step:
            self.changed.emit(f"step {step.number} {label}", step)
