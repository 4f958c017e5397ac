"""The holes' editor: places on a face, sizes, counterbore; every field takes expressions."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QScrollArea,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.fields import ExpressionField
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, HoleStep, OnCircle, Radial, scope
from lathed_solid.part.edits import changed


class HoleEditor(QWidget):
    """Emits (label, new step) when a field was changed; the face names it stands on."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.step: HoleStep | None = None
        self.document = Document()
        self.picked = ""
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.title = QLabel("HOLES")
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setContentsMargins(12, 10, 12, 0)
        outer.addWidget(self.title)
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        outer.addWidget(self.problem)
        body = QWidget()
        form = QFormLayout(body)
        form.setContentsMargins(16, 12, 16, 12)
        form.setHorizontalSpacing(16)
        form.setVerticalSpacing(8)
        form.setLabelAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        self.face = QLineEdit()
        self.face.setAccessibleName("face")
        self.face.editingFinished.connect(lambda: self._set("face", face=self.face.text().strip()))
        take = QPushButton("take picked")
        take.setToolTip("Use the face that is picked in the solid")
        take.clicked.connect(self._take_face)
        row = QHBoxLayout()
        row.addWidget(self.face, 1)
        row.addWidget(take)
        form.addRow("on face", row)
        self.kind = QComboBox()
        self.kind.addItems(["flat face: bolt circle or axis", "cylinder: radial"])
        self.kind.activated.connect(self._set_kind)
        form.addRow("places", self.kind)
        self.count = QSpinBox()
        self.count.setRange(1, 200)
        self.count.setKeyboardTracking(False)
        self.count.valueChanged.connect(lambda n: self._set_places("count", count=n))
        form.addRow("count", self.count)
        self.fields: dict[str, ExpressionField] = {}
        for name, label, kind, empty in (
            ("bolt_circle", "bolt circle ⌀", "length", "on the axis"),
            ("start_angle", "start angle", "angle", "0"),
            ("at", "from the datum face", "length", ""),
            ("angle", "angle", "angle", "0"),
            ("diameter", "hole ⌀", "length", ""),
            ("depth", "depth", "length", "through"),
            ("point", "drill point", "angle", "flat bottom"),
            ("cbore_diameter", "counterbore ⌀", "length", "none"),
            ("cbore_depth", "counterbore depth", "length", "none"),
        ):
            field = ExpressionField(kind, empty=empty, name=label)  # type: ignore[arg-type]
            field.finished.connect(lambda text, n=name: self._field(n, text))
            self.fields[name] = field
            form.addRow(label, field)
        self.datum = QLineEdit()
        self.datum.setAccessibleName("datum face")
        self.datum.editingFinished.connect(lambda: self._set_places("datum", datum=self.datum.text().strip()))
        form.addRow("datum face", self.datum)
        self.depth_to = QComboBox()
        self.depth_to.addItems(["shoulder", "tip"])
        self.depth_to.activated.connect(lambda _i: self._set("depth to", depth_to=self.depth_to.currentText()))
        form.addRow("depth to the", self.depth_to)
        self.form = form
        area = QScrollArea()
        area.setWidget(body)
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setStyleSheet("QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; }")
        outer.addWidget(area, 1)

    def show_step(self, document: Document, step: HoleStep) -> None:
        """Show ``step`` of ``document``."""
        self.document, self.step = document, step
        self.title.setText(f"HOLES — step {step.number} — {step.title().lower()}")
        problem = ""
        try:
            step.resolve(scope(document))
        except LathedError as exc:
            problem = exc.message
        self.problem.setText(problem)
        self.problem.setVisible(bool(problem))
        radial = isinstance(step.places, Radial)
        self.face.setText(step.face)
        self.kind.setCurrentIndex(1 if radial else 0)
        self.count.blockSignals(True)
        self.count.setValue(step.places.count)
        self.count.blockSignals(False)
        self.depth_to.setCurrentText(step.depth_to)
        values = {n: getattr(step, n) for n in ("diameter", "depth", "point", "cbore_diameter", "cbore_depth")}
        if isinstance(step.places, Radial):
            values |= {"at": step.places.at, "angle": step.places.angle}
            self.datum.setText(step.places.datum)
        else:
            values |= {"bolt_circle": step.places.bolt_circle, "start_angle": step.places.start_angle}
        for name, field in self.fields.items():
            field.set_scope(lambda: scope(self.document))
            field.set_text(values.get(name) or "")
        for name, on in (("at", radial), ("angle", radial), ("bolt_circle", not radial), ("start_angle", not radial),
                         ("point", step.depth is not None)):  # fmt: skip
            self.form.setRowVisible(self.fields[name], on)
        self.form.setRowVisible(self.datum, radial)
        self.form.setRowVisible(self.depth_to, step.depth is not None)
        self.faces_hovered.emit((step.face,))

    # editing -----------------------------------------------------------------------------------
    def _emit(self, label: str, values: dict[str, Any]) -> None:
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

    def _set(self, label: str, **values: Any) -> None:
        self._emit(label, values)

    def _set_places(self, label: str, **values: Any) -> None:
        if self.step is None:
            return
        try:
            places = changed(self.step.places, **values)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        self._emit(label, {"places": places})

    def _field(self, name: str, text: str) -> None:
        if name in ("bolt_circle", "start_angle", "at", "angle"):
            empty = None if name == "bolt_circle" else "0"
            self._set_places(name.replace("_", " "), **{name: text or empty})
        else:
            self._set(name.replace("_", " "), **{name: text or ("" if name == "diameter" else None)})

    def _set_kind(self, index: int) -> None:
        if self.step is None or (index == 1) == isinstance(self.step.places, Radial):
            return
        count = self.step.places.count
        places: OnCircle | Radial = Radial(at="10", count=count) if index else OnCircle(bolt_circle="40", count=count)
        self._emit("places", {"places": places})

    def _take_face(self) -> None:
        if not self.picked:
            self.told.emit("pick a face in the solid first", True)
            return
        self._emit("face", {"face": self.picked})
