"""A step's editor drawn from the rows of its kind (``workbench.step_forms``)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QFormLayout,
    QLabel,
    QLineEdit,
    QScrollArea,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.choice import Choice
from lathed_solid.desk.fields import ExpressionField
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import narrow_choice
from lathed_solid.desk.steps.candidates import Candidates
from lathed_solid.desk.steps.chips import ChipField
from lathed_solid.desk.steps.section_view import SectionView
from lathed_solid.errors import LathedError
from lathed_solid.part import Document, EdgePick, StepBase, scope
from lathed_solid.part.edits import changed
from lathed_solid.part.steps.base import many
from lathed_solid.workbench.step_forms import rows_of
from lathed_solid.workbench.step_forms.form_row import (
    EXPRESSIONS,
    Failure,
    FormRow,
    chosen,
    get,
    mended,
    put,
    text_of,
    value_of,
    with_picked,
    with_typed,
    without,
)
from lathed_solid.workbench.step_forms.section import section_of, usual_sizes

PREVIEW_MS = 300
#: the row whose edges clicks gather, and that which takes a face in its stead
GATHERED, ALL_OF_FACES = "pick.edges", "pick.faces"


class StepForm(QWidget):
    """Emits (label, new step) when a field was changed; the faces the step stands on."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)
    considered = pyqtSignal(object)
    given_up = pyqtSignal()
    escaped = pyqtSignal()

    def __init__(self, kind: str) -> None:
        super().__init__()
        self.rows = rows = rows_of(kind)
        self.step: Any = None
        self.document = Document()
        #: what is picked in the solid: face, plane, edge, axis, point -> name
        self.picked: dict[str, str] = {}
        #: the row whose field was entered last, when a pick can fill it
        self._waiting: FormRow | None = None
        self.fields: dict[str, Any] = {}
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        self.title = QLabel("")
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.title.setContentsMargins(12, 10, 12, 0)
        self.title.setWordWrap(True)
        outer.addWidget(self.title)
        self.candidates = Candidates()
        self.candidates.pointed.connect(self.faces_hovered)
        self.candidates.taken.connect(self._replace)
        outer.addWidget(self.candidates)
        self.drawing = SectionView()
        self.drawing.asked.connect(self._edit)
        self.drawing.hide()
        self.usual = narrow_choice((), "usual sizes", "Fill all sizes at once by what the step is for")
        self.usual.activated.connect(self._take_usual)
        self.usual.hide()
        outer.addWidget(self.drawing)
        holder = QVBoxLayout()
        holder.setContentsMargins(16, 4, 16, 0)
        holder.addWidget(self.usual)
        outer.addLayout(holder)
        self._failures: dict[int, Failure] = {}
        #: why the step cannot be built as it stands in the document
        self._unsound = ""
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(PREVIEW_MS)
        self._timer.timeout.connect(self._consider)
        self._typing: tuple[FormRow, str] | None = None
        body = QWidget()
        self.form = QFormLayout(body)
        self.form.setContentsMargins(16, 12, 16, 12)
        self.form.setHorizontalSpacing(12)
        self.form.setRowWrapPolicy(QFormLayout.RowWrapPolicy.WrapLongRows)
        self.form.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
        self.form.setVerticalSpacing(8)
        self.form.setLabelAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        for row in rows:
            self.form.addRow(spoken(row.label), self._widget(row))
        area = QScrollArea()
        area.setWidget(body)
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setAccessibleName(spoken("fields of the step"))
        area.setStyleSheet("QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; }")
        outer.addWidget(area, 1)

    # widgets -------------------------------------------------------------------------------------
    def _widget(self, row: FormRow) -> QWidget:
        if row.kind in EXPRESSIONS:
            field = ExpressionField(row.kind, empty=row.hint or row.empty, name=row.label)  # type: ignore[arg-type]
            field.finished.connect(lambda text: self._take(row, value_of(row, text)))
            field.left_alone.connect(self._left_alone)
            field.line.textEdited.connect(lambda text: self._type(row, text))
            field.line.installEventFilter(self)
            self.fields[row.path] = field
            return field
        if row.kind == "choice":
            box = Choice()
            box.setAccessibleName(spoken(row.label))
            box.addItems([words for _, words in row.choices])
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            box.setMinimumContentsLength(12)
            box.activated.connect(lambda i: self._choose(row, row.choices[i][0]))
            self.fields[row.path] = box
            return box
        if row.kind == "count":
            spin = QSpinBox()
            spin.setAccessibleName(spoken(row.label))
            spin.setRange(1, row.most)
            spin.setMinimumHeight(28)
            spin.setKeyboardTracking(False)
            spin.valueChanged.connect(lambda n: self._take(row, n))
            self.fields[row.path] = spin
            return spin
        if row.kind == "flag":
            check = QCheckBox(spoken(row.empty))
            check.setAccessibleName(spoken(row.label))
            check.clicked.connect(lambda on: self._take(row, on))
            self.fields[row.path] = check
            return check
        return self._chips(row) if row.picks else self._text(row)

    def _chips(self, row: FormRow) -> QWidget:
        field = ChipField(" or ".join(row.picks), row.empty)
        field.setAccessibleName(spoken(row.label))
        field.dropped.connect(lambda name: self._take_from(row, lambda: without(row, self.step, name)))
        field.typed.connect(lambda text: self._take_from(row, lambda: with_typed(row, self.step, text)))
        field.pointed.connect(lambda names: self.faces_hovered.emit(names or self._shown()))
        field.installEventFilter(self)
        field.line.installEventFilter(self)
        self.fields[row.path] = field
        return field

    def _text(self, row: FormRow) -> QWidget:
        line = QLineEdit()
        line.setAccessibleName(spoken(row.label))
        line.setPlaceholderText(spoken(row.empty))
        line.editingFinished.connect(lambda: self._typed(row, line.text().strip()))
        self.fields[row.path] = line
        line.installEventFilter(self)
        return line

    # showing -------------------------------------------------------------------------------------
    def show_step(self, document: Document, step: StepBase) -> None:
        """Show ``step`` of ``document``."""
        if self.step is None or step.number != self.step.number:
            bare = getattr(step, "pick", None) == EdgePick()  # edges are gathered from the first click
            self._waiting = next((r for r in self.rows if bare and r.path == GATHERED), None)
        self.document, self.step = document, step
        # capitals as in the other captions, but names of faces stay as they are
        words = " ".join(w if "/" in w else w.upper() for w in spoken(step.title()).split())
        self.title.setText(f"{words} — {spoken(f'step {step.number}')}")
        self._unsound = ""
        try:
            step.resolve(scope(document))
        except LathedError as exc:
            self._unsound = exc.message
        for i, row in enumerate(self.rows):
            self.form.setRowVisible(i, row.when(step))
            item = self.form.itemAt(i, QFormLayout.ItemRole.LabelRole) if row.named is not None else None
            label = item.widget() if item is not None else None
            if row.named is not None and isinstance(label, QLabel) and row.when(step):
                label.setText(spoken(row.named(step)))
            self._fill(row, get(step, row.path))
        self._show_candidates()
        self._show_drawing()
        self.faces_hovered.emit(self._shown())
        self._show_waiting()

    def _show_drawing(self) -> None:
        """The section, where the kind has one, and the usual sizes."""
        section = section_of(self.document, self.step)
        if section is not None or not self.drawing.isVisible():
            self.drawing.show_section(section)
        self._usual = usual_sizes(self.document, self.step)
        self.usual.setVisible(bool(self._usual))
        self.usual.clear()
        self.usual.addItems(["usual sizes …", *self._usual])

    def _edit(self, path: str) -> None:
        """A dimension of the section was clicked: its field has the keyboard."""
        field = self.fields[path]
        _to(field)

    def _take_usual(self, index: int) -> None:
        if index == 0 or self.step is None:
            return
        name, values = list(self._usual.items())[index - 1]
        try:
            step = changed(self.step, **values)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        self.changed.emit(f"step {step.number}: {name}", step)

    def _shown(self) -> tuple[str, ...]:
        """Faces that the step stands on, or that it makes."""
        names = [n for row in self.rows if "face" in row.picks for n in many(get(self.step, row.path))]
        return tuple(names) or (f"{self.step.number}/*",)

    def _show_waiting(self) -> None:
        """The field that a pick fills has its mark."""
        for row in self.rows:
            field = self.fields.get(row.path)
            if isinstance(field, ChipField):
                field.set_waiting(row is self._waiting)

    def _fill(self, row: FormRow, value: Any) -> None:
        field = self.fields[row.path]
        if isinstance(field, ExpressionField):
            field.set_scope(lambda: scope(self.document))
            field.set_text(text_of(row, value))
            return
        field.blockSignals(True)
        if isinstance(field, QComboBox):
            key = value.kind if row.make is not None and value is not None else value
            keys = [v for v, _ in row.choices]
            field.setCurrentIndex(keys.index(key) if key in keys else -1)
        elif isinstance(field, QSpinBox):
            field.setValue(value or 1)
        elif isinstance(field, QCheckBox):
            field.setChecked(bool(value))
        elif isinstance(field, ChipField):
            field.set_names(tuple(map(str, many(value))))
        else:
            field.setText(text_of(row, value))
        field.blockSignals(False)

    def set_failures(self, failures: dict[int, Failure]) -> None:
        """What the last build said of steps that failed; shown for this one, with what could be meant instead."""
        self._failures = failures
        self._show_candidates()

    def _show_candidates(self) -> None:
        """One button for each face or edge that could be meant; pointing lights it up, a click takes it."""
        failure = self._failures.get(self.step.number) if self.step is not None else None
        self.candidates.show_failure(failure, self._unsound)
        if failure is not None and failure.missing:
            self.faces_hovered.emit(failure.candidates)

    def _replace(self, old: str, new: str) -> None:
        try:
            step = mended(self.document, self.step, old, new)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        self.changed.emit(f"step {step.number}: {new} for {old}", step)

    def _type(self, row: FormRow, text: str) -> None:
        self._typing = (row, text.strip())
        self._timer.start()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Esc in a field gives up what was typed there, and its preview; entering one says what a pick is for."""
        if event is not None and event.type() == QEvent.Type.FocusIn:
            self._enter(watched)
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Escape:
            self._give_up()
            return True
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Esc in what is no field - a list, a box to tick - gives up in the same way."""
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self._give_up()
        else:
            super().keyPressEvent(event)

    def _give_up(self) -> None:
        self._timer.stop()
        if self.step is not None:
            self.show_step(self.document, self.step)
        self.given_up.emit()
        self.escaped.emit()

    def _left_alone(self) -> None:
        """The old text again: nothing that was typed on the way there stays in the solid."""
        self._timer.stop()
        self.given_up.emit()

    def _consider(self) -> None:
        """Show what a half-typed value would make, when it makes sense."""
        if self._typing is None or self.step is None:
            return
        row, text = self._typing
        try:
            step = put(self.step, row.path, value_of(row, text))
            step.resolve(scope(self.document))
        except LathedError:
            return
        self.considered.emit(step)

    def take_focus(self) -> None:
        """The keyboard for the first size, or number of places."""
        for row in self.rows:
            field = self.fields[row.path]
            if row.when(self.step) and isinstance(field, ExpressionField | QSpinBox):
                _to(field)
                return

    # editing -------------------------------------------------------------------------------------
    def _take(self, row: FormRow, value: Any) -> None:
        self._timer.stop()
        if self.step is None or not row.when(self.step):
            return
        try:
            step = put(self.step, row.path, value)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            self.show_step(self.document, self.step)
            self.given_up.emit()
            return
        if step != self.step:
            self.changed.emit(f"step {step.number} {row.label}", step)
        else:
            self.given_up.emit()

    def _choose(self, row: FormRow, value: Any) -> None:
        if row.make is None or get(self.step, row.path).kind != value:
            self._take_from(row, lambda: chosen(row, value, self.document, self.step, self.picked))

    def _typed(self, row: FormRow, text: str) -> None:
        self._take_from(row, lambda: value_of(row, text))

    def _take_picked(self, row: FormRow) -> None:
        self._take_from(row, lambda: with_picked(row, self.step, self.picked))

    def take_pick(self) -> None:
        """Something was picked in the solid: the field that waits for it takes it, the form stays."""
        row = self._waiting
        if row is not None and row.path == GATHERED and self.picked.get("face") and self.step.pick == EdgePick():
            row = next(r for r in self.rows if r.path == ALL_OF_FACES)
        if row is not None and any(self.picked.get(p) for p in row.picks):
            self._take_picked(row)

    def _enter(self, field: QObject | None) -> None:
        """Another field has the keyboard: whether a pick can fill it. Edges are gathered while a size is typed, too."""
        entered = next((r for r in self.rows if r.picks and self.fields.get(r.path) is field), None)
        if entered is None and self._waiting is not None and self._waiting.path == GATHERED:
            return
        self._waiting = entered
        self._show_waiting()

    def _take_from(self, row: FormRow, value: Callable[[], Any]) -> None:
        """Take a value; why there is none is told, and the field shows what stands."""
        if self.step is None:
            return
        try:
            found = value()
        except LathedError as exc:
            self.told.emit(exc.message, True)
            self.show_step(self.document, self.step)
        else:
            self._take(row, found)


def _to(field: QWidget) -> None:
    """The keyboard to a field; what is typed takes the place of what stands there."""
    line = field.line if isinstance(field, ExpressionField) else field
    line.setFocus()
    if isinstance(line, QLineEdit | QSpinBox):
        line.selectAll()
