"""A field for expressions: shows what the text comes to, and why it does not."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.errors import LathedError
from lathed_solid.part import Scope
from lathed_solid.quantity import Kind
from lathed_solid.quantity.formatting import angle, length


class ExpressionField(QWidget):
    """Emits ``finished`` with the text when it was changed and left, or Enter was pressed."""

    finished = pyqtSignal(str)
    #: left, or entered, with the text that it had
    left_alone = pyqtSignal()

    def __init__(self, kind: Kind = "length", *, empty: str = "", name: str = "") -> None:
        super().__init__()
        self.kind: Kind = kind
        self.empty = empty
        self._scope: Callable[[], Scope] | None = None
        self._last = ""
        layout = QHBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(8)
        self.line = QLineEdit()
        self.line.setPlaceholderText(spoken(empty))
        self.line.setAccessibleName(spoken(name))
        self.line.setMaxLength(400)
        self.value = QLabel("")
        self.value.setObjectName("quiet")
        self.value.setFont(theme.narrow(12))
        self.value.setMinimumWidth(84)
        layout.addWidget(self.line, 1)
        layout.addWidget(self.value)
        self.line.textChanged.connect(lambda _t: self.refresh())
        self.line.editingFinished.connect(self._finish)

    def set_scope(self, scope: Callable[[], Scope]) -> None:
        """Where values come from; asked anew at every key."""
        self._scope = scope
        self.refresh()

    def set_text(self, text: str) -> None:
        """Show a text without announcing it."""
        self._last = text
        if self.line.text() != text:
            self.line.blockSignals(True)
            self.line.setText(text)
            self.line.blockSignals(False)
        self.refresh()

    def text(self) -> str:
        """The expression as it stands."""
        return self.line.text().strip()

    def refresh(self) -> None:
        """Evaluate and show, or mark as bad with the reason."""
        text = self.text()
        if not text or self._scope is None:
            self._mark("", "")
            return
        try:
            scope = self._scope()
            number = scope(text, self.kind)
        except LathedError as exc:
            self._mark("", exc.message)
            return
        if self.kind == "angle":
            shown = angle(number)
        elif self.kind == "length":
            shown = f"{length(number, scope.unit)} {scope.unit}"
        else:
            shown = f"{number:g}"
        self._mark(f"= {shown}" if shown.split()[0] != text else "", "")

    def _mark(self, value: str, problem: str) -> None:
        self.value.setText(spoken(value if not problem else "not understood"))
        self.line.setToolTip(spoken(problem))
        self.line.setProperty("bad", "true" if problem else "false")
        style = self.line.style()
        if style is not None:
            style.unpolish(self.line)
            style.polish(self.line)

    def _finish(self) -> None:
        if self.text() != self._last:
            self._last = self.text()
            self.finished.emit(self._last)
        else:
            self.left_alone.emit()
