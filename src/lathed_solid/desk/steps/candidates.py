"""Why a step could not be built, and what could be meant instead of what it misses: one button for each name."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, pyqtSignal
from PyQt6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.workbench.step_forms.form_row import Failure

MOST_CANDIDATES = 6


class Candidates(QWidget):
    """Emits the lost name with the one taken for it, and the names pointed at."""

    taken = pyqtSignal(str, str)
    pointed = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(0, 0, 0, 0)
        self._layout.setSpacing(4)
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        self._layout.addWidget(self.problem)
        self._buttons: list[QPushButton] = []

    def show_failure(self, failure: Failure | None, unsound: str) -> None:
        """Why: what the build said, else why the step is ``unsound`` as it stands; nothing for neither."""
        while self._buttons:
            self._buttons.pop().deleteLater()
        problem = failure.message if failure is not None else unsound
        self.problem.setText(spoken(problem))
        self.setVisible(bool(problem))
        if failure is None or not failure.missing:
            return
        for name in failure.candidates[:MOST_CANDIDATES]:
            button = _Candidate(name)
            button.pointed.connect(lambda on, n=name: self.pointed.emit((n,) if on else ()))
            button.clicked.connect(lambda _=False, n=name: self.taken.emit(failure.missing, n))
            self._layout.addWidget(button)
            self._buttons.append(button)


class _Candidate(QPushButton):
    """A name that could be meant."""

    pointed = pyqtSignal(bool)

    def __init__(self, name: str) -> None:
        super().__init__(f"take {name}")
        self.setFont(theme.narrow(12))
        self.setToolTip(spoken(name))

    def event(self, event: QEvent | None) -> bool:
        assert event is not None
        if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
            self.pointed.emit(True)
        elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
            self.pointed.emit(False)
        return super().event(event)
