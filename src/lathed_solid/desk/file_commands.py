"""What the window does with files and small dialogs: new, open, save, export, properties, help."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import QBuffer, QIODevice, Qt
from PyQt6.QtWidgets import QFileDialog, QMainWindow, QMessageBox

from lathed_solid import scripting
from lathed_solid.desk.dialogs import HelpDialog, ParametersDialog, PropertiesDialog
from lathed_solid.desk.note_line import NoteLine
from lathed_solid.desk.session import Session
from lathed_solid.desk.solid_view import SolidView
from lathed_solid.files import FileError
from lathed_solid.part import templates
from lathed_solid.reports.verdict_csv import write_verdict_csv

FILTER = "Parts (*.lathed part.json *.json)"


class FileCommands(QMainWindow):
    """The base of the main window that knows its session and its solid, and nothing of its layout."""

    session: Session
    solid: SolidView
    note_line: NoteLine

    def tell(self, words: str, bad: bool) -> None:
        """Words for the user; the window shows them."""

    def new_part(self) -> None:
        if self._may_leave():
            self.session.open_value(templates.turned("Untitled part", "mm"), saved=True)

    def open_dialog(self) -> None:
        if self._may_leave():
            name, _ = QFileDialog.getOpenFileName(self, "Open a part", str(self._folder()), FILTER)
            if name:
                self.session.open_file(Path(name))

    def import_dialog(self) -> None:
        """A body from a STEP file, as the next step."""
        name, _ = QFileDialog.getOpenFileName(self, "Import a body", str(self._folder()), "STEP (*.step *.stp)")
        if name:
            self.import_path(Path(name))

    def import_path(self, path: Path) -> None:
        self.session.edit(f"import {path.name}", lambda d: scripting.import_body(d, path))

    def open_path(self, path: Path) -> None:
        if self._may_leave():
            self.session.open_file(path)

    def save(self) -> bool:
        return self.save_as() if self.session.path is None else self.session.save(self.session.path, self._thumbnail())

    def save_as(self) -> bool:
        start = self._folder() / f"{self.session.document.name}.lathed"
        name, _ = QFileDialog.getSaveFileName(self, "Save the part", str(start), FILTER)
        if not name:
            return False
        path = Path(name)
        return self.session.save(path if path.suffix else path.with_suffix(".lathed"), self._thumbnail())

    def export_dialog(self) -> None:
        start = self._folder() / f"{self.session.document.name}.step"
        name, _ = QFileDialog.getSaveFileName(self, "Export the solid", str(start), "STEP (*.step *.stp);;STL (*.stl)")
        if name:
            self.session.export(Path(name))

    def csv_dialog(self) -> None:
        start = self._folder() / f"{self.session.document.name}.csv"
        name, _ = QFileDialog.getSaveFileName(self, "Write the verdict table", str(start), "CSV (*.csv)")
        if name and self.session.reply:
            try:
                write_verdict_csv(Path(name), self.session.reply.report, self.session.document.unit)
                self.tell(f"verdicts written to {Path(name).name}", False)
            except FileError as exc:
                self.tell(exc.message, True)

    def inspection_dialog(self, *, blank: bool = False) -> None:
        """The inspection sheet: with the readings of the log, or blank for the shop."""
        start = self._folder() / f"{self.session.document.name} inspection.pdf"
        kinds = "PDF (*.pdf);;CSV (*.csv);;JSON (*.json)"
        name, _ = QFileDialog.getSaveFileName(self, "Write the inspection sheet", str(start), kinds)
        if name:
            self.session.inspect(Path(name), blank=blank)

    def _folder(self) -> Path:
        return self.session.path.parent if self.session.path else Path.home()

    def _thumbnail(self) -> bytes | None:
        if self.solid.scene is None:
            return None
        image = self.solid.grabFramebuffer().scaledToWidth(320, Qt.TransformationMode.SmoothTransformation)
        buffer = QBuffer()
        buffer.open(QIODevice.OpenModeFlag.WriteOnly)
        image.save(buffer, "PNG")
        return bytes(buffer.data().data())

    def part_properties(self) -> None:
        self._dialog("part properties", PropertiesDialog(self, self.session.document))

    def parameters(self) -> None:
        self._dialog("parameters", ParametersDialog(self, self.session.document))

    def _dialog(self, label: str, dialog: Any) -> None:
        if dialog.exec():
            self.session.commit(dialog.result_document, label)

    def compare_dialog(self) -> None:
        """What changed since an earlier moment, or against a file; the window stays in use beside it."""
        from lathed_solid.desk.compare import CompareDialog

        self._compare = CompareDialog(self, self.session)
        self._compare.faces_hovered.connect(self.solid.light)
        self._compare.show()

    def look_up_dialog(self) -> None:
        """The figures of a standard; the window stays in use beside it."""
        from lathed_solid.desk.look_up import LookUpDialog

        self._look_up = LookUpDialog(self, self.session.document.unit, self.note_line.field.text())
        self._look_up.taken.connect(self._take_designation)
        self._look_up.show()

    def _take_designation(self, text: str) -> None:
        self.note_line.field.setText(text)
        self.note_line.take_focus()

    def show_help(self) -> None:
        HelpDialog(self).exec()

    def _may_leave(self) -> bool:
        """Ask about unsaved work: save, leave it, or stay."""
        if self.session.history.clean:
            return True
        kind = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self, "Unsaved work", f"{self.session.document.name} has edits that are not saved.",
            kind.Save | kind.Discard | kind.Cancel, kind.Save,
        )  # fmt: skip
        if answer == kind.Save:
            return self.save()
        return answer == kind.Discard
