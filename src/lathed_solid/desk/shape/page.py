"""The left pane of the Shape desk: the editor of the chosen step."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QStackedWidget, QVBoxLayout, QWidget

from lathed_solid.desk.steps.hole import HoleEditor
from lathed_solid.desk.steps.turned import TurnedEditor
from lathed_solid.part import Document, HoleStep, StepBase, TurnedStep


class ShapePage(QWidget):
    """Passes on what the editors emit: (label, step), words, faces."""

    step_changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)

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
        for widget in (self.nothing, self.turned, self.hole):
            self.stack.addWidget(widget)
        for editor in (self.turned, self.hole):
            editor.changed.connect(self.step_changed)
            editor.told.connect(self.told)
            editor.faces_hovered.connect(self.faces_hovered)

    def show_step(self, document: Document, step: StepBase | None) -> None:
        """Show the editor of ``step``."""
        if isinstance(step, TurnedStep):
            self.turned.show_step(document, step)
            self.stack.setCurrentWidget(self.turned)
        elif isinstance(step, HoleStep):
            self.hole.show_step(document, step)
            self.stack.setCurrentWidget(self.hole)
        else:
            words = "No step yet: Ctrl+T adds a turned table." if step is None else f"{step.title()}: kept as it is."
            self.nothing.setText(words)
            self.stack.setCurrentWidget(self.nothing)

    def take_focus(self) -> None:
        editor = self.stack.currentWidget()
        if editor is self.turned:
            self.turned.stations.setFocus()
        elif editor is self.hole:
            self.hole.fields["diameter"].line.setFocus()
