"""The left pane of the Shape desk: the editor of the chosen step."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QStackedWidget, QVBoxLayout, QWidget

from lathed_solid.desk.steps.hole import HoleEditor
from lathed_solid.desk.steps.regions import RegionsEditor
from lathed_solid.desk.steps.turned import TurnedEditor
from lathed_solid.part import Document, ExtrudeStep, HoleStep, RevolveStep, SketchStep, StepBase, TurnedStep

if TYPE_CHECKING:
    from lathed_solid.desk.sketch.editor import SketchEditor


class ShapePage(QWidget):
    """Passes on what the editors emit: (label, step), words, faces."""

    step_changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)
    step_wanted = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        self.stack = QStackedWidget()
        layout.addWidget(self.stack)
        self.nothing = QLabel("")
        self.nothing.setObjectName("quiet")
        self.nothing.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.turned, self.hole = TurnedEditor(), HoleEditor()
        self.regions = RegionsEditor()
        self._sketch: SketchEditor | None = None
        self.picked_flat = ""
        self._outlines: dict[str, Any] = {}
        for widget in (self.nothing, self.turned, self.hole, self.regions):
            self.stack.addWidget(widget)
        for editor in (self.turned, self.hole, self.regions):
            editor.changed.connect(self.step_changed)
            editor.told.connect(self.told)
            editor.faces_hovered.connect(self.faces_hovered)

    @property
    def sketch(self) -> SketchEditor:
        """The sketch's editor, made when it is first asked for: a turned part needs none."""
        if self._sketch is None:
            from lathed_solid.desk.sketch.editor import SketchEditor

            self._sketch = editor = SketchEditor()
            self.stack.addWidget(editor)
            editor.changed.connect(self.step_changed)
            editor.told.connect(self.told)
            editor.faces_hovered.connect(self.faces_hovered)
            editor.step_wanted.connect(self.step_wanted)
            editor.take_picked(self.picked_flat)
            editor.set_outlines(self._outlines)
        return self._sketch

    def set_outlines(self, outlines: dict[str, Any]) -> None:
        """The body beneath each sketch, from the last build."""
        self._outlines = outlines
        if self._sketch is not None:
            self._sketch.set_outlines(outlines)

    def set_picked(self, face: str, flat: str) -> None:
        """The face picked in the solid, and the same when it is flat."""
        self.hole.picked, self.picked_flat = face, flat
        if self._sketch is not None:
            self._sketch.take_picked(flat)

    def show_step(self, document: Document, step: StepBase | None) -> None:
        """Show the editor of ``step``."""
        if isinstance(step, TurnedStep):
            self.turned.show_step(document, step)
            self.stack.setCurrentWidget(self.turned)
        elif isinstance(step, HoleStep):
            self.hole.show_step(document, step)
            self.stack.setCurrentWidget(self.hole)
        elif isinstance(step, SketchStep):
            self.sketch.show_step(document, step)
            self.stack.setCurrentWidget(self.sketch)
        elif isinstance(step, ExtrudeStep | RevolveStep):
            self.regions.show_step(document, step)
            self.stack.setCurrentWidget(self.regions)
        else:
            words = (
                "No step yet: Ctrl+T adds a turned table, Ctrl+K a sketch."
                if step is None
                else f"{step.title()}: kept as it is."
            )
            self.nothing.setText(words)
            self.stack.setCurrentWidget(self.nothing)

    def take_focus(self) -> None:
        editor = self.stack.currentWidget()
        if editor is self.turned:
            self.turned.stations.setFocus()
        elif editor is self.hole:
            self.hole.fields["diameter"].line.setFocus()
        elif editor is self.regions:
            self.regions.take_focus()
        elif editor is self._sketch and self._sketch is not None:
            self._sketch.canvas.setFocus()
