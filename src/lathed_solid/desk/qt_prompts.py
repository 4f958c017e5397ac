"""The questions that commands put, as dialogs."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Literal, cast

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.dialogs import ParametersDialog, PropertiesDialog
from lathed_solid.desk.language import spoken
from lathed_solid.files.journal import Waiting
from lathed_solid.part import Document
from lathed_solid.workbench.beginning import Beginning


class QtPrompts:
    """Dialogs over one window."""

    def __init__(self, window: QWidget) -> None:
        self.window = window

    def open_path(self, title: str, folder: Path, kinds: str) -> Path | None:
        """A file to read; None when given up."""
        name, _ = QFileDialog.getOpenFileName(self.window, spoken(title), str(folder), kinds)
        return Path(name) if name else None

    def save_path(self, title: str, start: Path, kinds: str) -> Path | None:
        """A file to write; None when given up."""
        name, _ = QFileDialog.getSaveFileName(self.window, spoken(title), str(start), kinds)
        return Path(name) if name else None

    def unsaved(self, name: str) -> Literal["save", "leave", "stay"]:
        """What becomes of edits that are not saved."""
        kind = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self.window, spoken("Unsaved work"), spoken(f"{name} has edits that are not saved."),
            kind.Save | kind.Discard | kind.Cancel, kind.Save,
        )  # fmt: skip
        if answer == kind.Save:
            return "save"
        return "leave" if answer == kind.Discard else "stay"

    def confirm(self, title: str, words: str) -> bool:
        """Whether to go on."""
        kind = QMessageBox.StandardButton
        return QMessageBox.question(self.window, spoken(title), spoken(words), kind.Ok | kind.Cancel) != kind.Cancel

    def choose(self, title: str, words: str, answers: Sequence[str]) -> str | None:
        """One of several answers, the first of which is the safe one; None when given up."""
        cancel = QMessageBox.StandardButton.Cancel
        box = QMessageBox(QMessageBox.Icon.Question, spoken(title), spoken(words), cancel, self.window)
        buttons = {box.addButton(spoken(a), QMessageBox.ButtonRole.AcceptRole): a for a in answers}
        theme.by_words(box)
        box.setDefaultButton(next(iter(buttons), None))
        box.exec()
        return buttons.get(cast("QPushButton", box.clickedButton()))

    def take_up(self, found: Sequence[Waiting], asked: str) -> Waiting | None:
        """Which unsaved work is taken up; None for none of it. ``asked``: what will be shown then."""
        from lathed_solid.desk.waiting_dialog import WaitingDialog

        dialog = WaitingDialog(self.window, found, asked, self.confirm)
        return dialog.chosen if dialog.exec() else None

    def text(self, title: str, label: str, text: str) -> str | None:
        """A line of text; None when given up."""
        said, ok = QInputDialog.getText(self.window, spoken(title), spoken(label), text=text)
        return said if ok else None

    def properties(self, document: Document) -> Document | None:
        """The document with other properties; None when given up."""
        dialog = PropertiesDialog(self.window, document)
        return dialog.result_document if dialog.exec() else None

    def redress(self, document: Document, balloon: int) -> Document | None:
        """The document with a decision on the disputed note of a callout; None when given up."""
        from lathed_solid.desk.dialogs import RedressDialog

        dialog = RedressDialog(self.window, document, balloon)
        return dialog.result_document if dialog.exec() else None

    def beginning(self, last: Beginning) -> tuple[Beginning, Document] | None:
        """What is in the hand, and the new part that follows; None when given up."""
        from lathed_solid.desk.begin_dialog import BeginDialog

        dialog = BeginDialog(self.window, last)
        return (dialog.answer, dialog.document) if dialog.exec() and dialog.document is not None else None

    def parameters(self, document: Document) -> Document | None:
        """The document with other parameters; None when given up."""
        dialog = ParametersDialog(self.window, document)
        return dialog.result_document if dialog.exec() else None
