"""Asking for a few sizes at once: a small dialog of expression fields that stays open until all are understood."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QDialog, QDialogButtonBox, QFormLayout, QLabel, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.fields import ExpressionField
from lathed_solid.desk.language import spoken
from lathed_solid.errors import LathedError
from lathed_solid.part import Scope
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes


class SizesDialog(QDialog):
    """One field a size; ``given`` after it was accepted."""

    def __init__(self, parent: QWidget, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken(title))
        self.setMinimumWidth(340)
        self.given: GivenSizes | None = None
        self._scope = scope
        outer, form = QVBoxLayout(self), QFormLayout()
        self.fields = {}
        for size in sizes:
            field = ExpressionField(size.kind, name=size.label)
            field.set_scope(scope)
            field.set_text(size.start)
            self.fields[size.label] = field
            form.addRow(spoken(size.label), field)
        self.problem = QLabel("")
        self.problem.setObjectName("caution")
        self.problem.setWordWrap(True)
        self.problem.hide()
        kind = QDialogButtonBox.StandardButton
        buttons = QDialogButtonBox(kind.Ok | kind.Cancel)
        theme.by_words(buttons)
        buttons.accepted.connect(self._take)
        buttons.rejected.connect(self.reject)
        outer.addLayout(form)
        outer.addWidget(self.problem)
        outer.addWidget(buttons)
        next(iter(self.fields.values())).line.selectAll()

    def _take(self) -> None:
        texts, values = {}, {}
        for label, field in self.fields.items():
            try:
                values[label] = self._scope()(field.text(), field.kind)
            except LathedError as exc:
                self.problem.setText(spoken(f"{label}: {exc.message}"))
                self.problem.show()
                field.line.setFocus()
                return
            texts[label] = field.text()
        self.given = GivenSizes(texts, values)
        self.accept()


def ask_sizes(parent: QWidget, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
    """The sizes a person gave; None when given up."""
    dialog = SizesDialog(parent, title, sizes, scope)
    dialog.exec()
    return dialog.given
