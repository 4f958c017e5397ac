"""The exercise, marked: what of the drawing is right and what is left to mend, after each build."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.engine.protocol import BuildReply
from lathed_solid.errors import LathedError
from lathed_solid.exercises import Mark, exercise, mark, words_of
from lathed_solid.part import Document


class ExercisePane(QWidget):
    """Emits the balloon that a chosen mark is about, and what is asked for: suspects, or the drawing laid over."""

    chosen = pyqtSignal(int)
    suspects_wanted = pyqtSignal()
    drawing_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.marks: tuple[Mark, ...] = ()
        self.head = QLabel()
        self.head.setWordWrap(True)
        self.head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.suspects, self.overlay = (
            QPushButton(spoken("which slip explains it")),
            QPushButton(spoken("lay the drawing over it")),
        )
        self.suspects.setToolTip(spoken("Turn to the suspects and look for the one slip that explains the difference"))
        self.overlay.setToolTip(spoken("Turn to the drawing laid over the part: it sees what is mirrored or elsewhere"))
        row = QHBoxLayout()
        for button, signal in ((self.suspects, self.suspects_wanted), (self.overlay, self.drawing_wanted)):
            button.clicked.connect(signal)
            row.addWidget(button)
        row.addStretch(1)
        self.model = RowModel([
            Column("", lambda m: "○" if m.ok else "■", width=30),
            Column("what", lambda m: m.words, width=250, tip=lambda m: m.words),
            Column("what helps", lambda m: "" if m.ok else m.hint, width=190, tip=lambda m: m.hint),
        ], alarm=lambda m: not m.ok)  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Marks of the exercise"))
        self.view.row_chosen.connect(lambda m: self.chosen.emit(m.balloon) if m is not None and m.balloon else None)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.head)
        layout.addLayout(row)
        layout.addWidget(self.view, 1)

    def show_part(self, document: Document, reply: BuildReply | None) -> None:
        """Mark the part as it was built last; nothing for a part that is no exercise."""
        if not document.exercise:
            self.marks = ()
            self.model.set_rows(())
            return
        try:
            task = exercise(document.exercise)
        except LathedError as exc:  # begun with a later version
            self.marks = ()
            self.head.setText(spoken(exc.message))
            return
        self.marks = mark(task, document, reply.summary if reply else None, reply.report if reply else None)
        self.head.setText(spoken(f"{task.number} {task.title} — {words_of(self.marks)}"))
        self.model.set_rows(self.marks)
        self.suspects.setEnabled(any(not m.ok and m.kind == "mass" for m in self.marks))
        self.overlay.setEnabled(reply is not None and bool(reply.summary["solids"]))
