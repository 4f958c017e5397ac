"""The left pane of the Shape desk: the editor of the chosen step, made when it is first needed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from lathed_solid.desk.language import spoken
from lathed_solid.desk.one_at_a_time import OneAtATime
from lathed_solid.desk.steps.turned import TurnedEditor
from lathed_solid.engine.results import StepResult
from lathed_solid.part import Document, SketchStep, StepBase, TurnedStep
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.workbench.step_forms import FORMS
from lathed_solid.workbench.step_forms.form_row import Failure

if TYPE_CHECKING:
    from lathed_solid.desk.sketch.editor import SketchEditor
    from lathed_solid.desk.steps.form import StepForm


class ShapePage(QWidget):
    """Passes on what the editors emit: (label, step), words, faces."""

    step_changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)
    step_wanted = pyqtSignal(str, object)
    considered = pyqtSignal(object)
    given_up = pyqtSignal()
    #: Esc in a form: the keyboard belongs to the solid again
    escaped = pyqtSignal()
    #: the sketch's editor was made; it comes when it is first asked for
    sketch_made = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        self.stack = OneAtATime()
        layout.addWidget(self.stack)
        self.nothing = QLabel("")
        self.nothing.setObjectName("quiet")
        self.nothing.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.turned = TurnedEditor()
        self._forms: dict[str, StepForm] = {}
        self._sketch: SketchEditor | None = None
        #: what is picked in the solid: face, plane, edge, axis, point -> name
        self.picked: dict[str, str] = {}
        self._outlines: Mapping[int, tuple[Edge, ...]] = {}
        self._failures: dict[int, Failure] = {}
        self.stack.addWidget(self.nothing)
        self._adopt(self.turned)

    def _adopt(self, editor: Any) -> None:
        self.stack.addWidget(editor)
        editor.changed.connect(self.step_changed)
        editor.told.connect(self.told)
        editor.faces_hovered.connect(self.faces_hovered)

    @property
    def sketch(self) -> SketchEditor:
        """The sketch's editor, made when it is first asked for: a turned part needs none."""
        if self._sketch is None:
            from lathed_solid.desk.sketch.editor import SketchEditor

            self._sketch = editor = SketchEditor()
            self._adopt(editor)
            editor.step_wanted.connect(self.step_wanted)
            editor.take_picked(self.picked.get("plane", ""))
            editor.set_outlines(self._outlines)
            self.sketch_made.emit(editor)
        return self._sketch

    def form(self, kind: str) -> StepForm:
        """The form of a kind of step."""
        if kind not in self._forms:
            from lathed_solid.desk.steps.form import StepForm

            self._forms[kind] = StepForm(kind)
            self._forms[kind].picked = self.picked
            self._forms[kind].considered.connect(self.considered)
            self._forms[kind].given_up.connect(self.given_up)
            self._forms[kind].escaped.connect(self.escaped)
            self._forms[kind].set_failures(self._failures)
            self._adopt(self._forms[kind])
        return self._forms[kind]

    def set_results(self, results: Sequence[StepResult]) -> None:
        """What the last build said of each step: those that failed show what could be meant."""
        self._failures = {r.number: Failure(r.message, r.missing, r.candidates) for r in results if not r.ok}
        for form in self._forms.values():
            form.set_failures(self._failures)

    def set_outlines(self, outlines: Mapping[int, tuple[Edge, ...]]) -> None:
        """The body beneath each sketch, from the last build."""
        self._outlines = outlines
        if self._sketch is not None:
            self._sketch.set_outlines(outlines)

    def set_picked(self, picked: dict[str, str]) -> None:
        """What is picked in the solid, by what it can serve as."""
        self.picked.clear()
        self.picked.update(picked)
        form = self.stack.currentWidget()
        if form in self._forms.values():
            form.take_pick()  # type: ignore[union-attr]
        if self._sketch is not None:
            self._sketch.take_picked(picked.get("plane", ""))

    def show_step(self, document: Document, step: StepBase | None) -> None:
        """Show the editor of ``step``."""
        kind = getattr(step, "kind", "")
        if isinstance(step, TurnedStep):
            self.turned.show_step(document, step)
            self.stack.setCurrentWidget(self.turned)
        elif isinstance(step, SketchStep):
            self.sketch.show_step(document, step)
            self.stack.setCurrentWidget(self.sketch)
        elif step is not None and kind in FORMS:
            self.form(kind).show_step(document, step)
            self.stack.setCurrentWidget(self.form(kind))
        else:
            words = (
                "No step yet: Ctrl+T adds a turned table, Ctrl+K a sketch."
                if step is None
                else f"{step.title()}: kept as it is."
            )
            self.nothing.setText(spoken(words))
            self.stack.setCurrentWidget(self.nothing)

    @property
    def room(self) -> str:
        """What is worked on: a form, or a table."""
        return "form" if self.stack.currentWidget() in self._forms.values() else "table"

    def close_all(self) -> None:
        """End what runs beside."""
        if self._sketch is not None:
            self._sketch.background.close()

    @property
    def kind(self) -> str:
        """What kind of thing is edited: turned, sketch, hole, or another step; empty for none."""
        editor = self.stack.currentWidget()
        if editor is self.turned:
            return "turned"
        if self.sketching:
            return "sketch"
        kind = next((k for k, form in self._forms.items() if form is editor), "")
        return kind if kind in ("", "hole") else "step"

    @property
    def sketching(self) -> bool:
        """Whether a sketch is open."""
        return self._sketch is not None and self.stack.currentWidget() is self._sketch

    def take_focus(self) -> None:
        """The keyboard for the editor that is shown."""
        editor = self.stack.currentWidget()
        if editor is self.turned:
            self.turned.stations.begin_entry()
        elif editor is self._sketch and self._sketch is not None:
            self._sketch.canvas.setFocus()
        elif editor in self._forms.values():
            editor.take_focus()  # type: ignore[union-attr]
