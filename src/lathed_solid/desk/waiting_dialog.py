"""The list of unsaved work that waits: taken up, left for later, or thrown away one by one after a question."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import (
    QDialog,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.files.journal import Waiting
from lathed_solid.quantity.formatting import counted


class WaitingDialog(QDialog):
    """``chosen`` after it was accepted."""

    def __init__(
        self, parent: QWidget, found: Sequence[Waiting], asked: str, confirm: Callable[[str, str], bool]
    ) -> None:
        super().__init__(parent)
        self.setWindowTitle(spoken("Unsaved work waits"))
        self.resize(620, 340)
        self.chosen: Waiting | None = None
        self._found, self._confirm = list(found), confirm
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 20)
        layout.setSpacing(12)
        title = QLabel(spoken("A window ended before this was saved."))
        title.setFont(theme.font(17, theme.QFont.Weight.DemiBold))
        then = f"{asked} is shown otherwise. " if asked else ""
        hint = QLabel(spoken(f"{then}What is left for later is offered again, here and in the part's menu."))
        hint.setWordWrap(True)
        self.list = QListWidget()
        self.list.setObjectName("waiting")
        self.list.setAccessibleName(spoken("unsaved work"))
        self.list.itemActivated.connect(lambda _: self._take())
        layout.addWidget(title)
        layout.addWidget(hint)
        layout.addWidget(self.list, 1)
        row = QHBoxLayout()
        self.take = QPushButton(spoken("Take up"))
        self.take.setDefault(True)
        self.take.clicked.connect(self._take)
        self.drop = QPushButton(spoken("Throw away…"))
        self.drop.setAutoDefault(False)
        self.drop.clicked.connect(self._drop)
        later = QPushButton(spoken("Leave for later"))
        later.setAutoDefault(False)
        later.clicked.connect(self.reject)
        row.addWidget(self.take)
        row.addWidget(later)
        row.addStretch(1)
        row.addWidget(self.drop)
        layout.addLayout(row)
        self._fill(0)

    def _fill(self, row: int) -> None:
        self.list.clear()
        for work in self._found:
            item = QListWidgetItem(_words(work))
            item.setToolTip(spoken(str(work.path or "not saved yet")))
            self.list.addItem(item)
        self.list.setCurrentRow(min(row, len(self._found) - 1))
        self.list.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Delete throws the chosen one away, after the question."""
        if event is not None and event.key() == Qt.Key.Key_Delete:
            self._drop()
        else:
            super().keyPressEvent(event)

    def _take(self) -> None:
        row = self.list.currentRow()
        if row >= 0:
            self.chosen = self._found[row]
            self.accept()

    def _drop(self) -> None:
        row = self.list.currentRow()
        if row < 0:
            return
        work = self._found[row]
        if self._confirm("Throw unsaved work away", f"{counted(work.edits, 'edit')} of {work.name} will be gone."):
            work.remove()
            self._found.pop(row)
            if not self._found:
                self.reject()
                return
            self._fill(row)


def _words(work: Waiting) -> str:
    when = time.strftime("%d %B, %H:%M", time.localtime(work.when))
    where = work.path.name if work.path is not None else "not saved yet"
    harm = f"; {counted(work.damaged, 'line')} damaged" if work.damaged else ""
    kind = "fit, " if work.kind == "fit" else ""
    return f"{work.name}\n{kind}{where} · {counted(work.edits, 'edit')}{harm} · last on {when}"
