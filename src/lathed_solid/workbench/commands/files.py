"""What can be done with files: new, open, import, save, export, reports, properties."""

from __future__ import annotations

from pathlib import Path

from lathed_solid import scripting
from lathed_solid.engine.protocol import Viewed
from lathed_solid.files import FileError
from lathed_solid.part import Document
from lathed_solid.reports.verdict_csv import write_verdict_csv
from lathed_solid.workbench.beginning import GENERAL, LEADS, Beginning
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands.saving import save_asking
from lathed_solid.workbench.filed import Consent
from lathed_solid.workbench.prompts import PARTS, Background, Prompts, View


class FileCommands:
    """Files of one workbench; ``ask`` puts the questions, ``view`` gives the thumbnail."""

    def __init__(self, bench: Workbench, ask: Prompts, view: View, background: Background) -> None:
        self.bench, self.session, self.ask, self.view = bench, bench.session, ask, view
        self._background = background
        #: where the sheet that is asked for goes, whether it is blank, and of which document
        self._sheet: tuple[Path, bool, Document] | None = None
        self.session.builds.viewed.connect(self._write_sheet)

    def new(self) -> None:
        """A new part of what is in the hand, once the present one may be left."""
        if not self.may_leave():
            return
        settings = self.session.settings
        last = Beginning(unit=settings.unit, material=settings.material, general=settings.general)
        found = self.ask.beginning(last if last.general in GENERAL else Beginning())
        if found is None:
            return
        answer, document = found
        kept = {"unit": answer.unit, "material": answer.material, "general": answer.general}
        self.session.set_settings(settings.model_copy(update=kept))
        self.session.open_value(document, saved=True)
        desk, place = LEADS[answer.hand]
        if document.steps:
            self.bench.choose_step(document.steps[0].number)
        self.bench.show_desk(desk)
        self.view.focus(place)

    def open(self) -> None:
        """Ask for a part and show it."""
        if self.may_leave() and (path := self.ask.open_path("Open a part", self._folder(), PARTS)) is not None:
            self.session.open_file(path)

    def open_path(self, path: Path) -> None:
        """Show a part whose file is known."""
        if self.may_leave():
            self.session.open_file(path)

    def import_body(self) -> None:
        """A body from a STEP file, as the next step."""
        path = self.ask.open_path("Import a body", self._folder(), "STEP (*.step *.stp)")
        if path is not None:
            self.import_path(path)

    def import_path(self, path: Path) -> None:
        """A body from this STEP file."""
        self.session.edit(f"import {path.name}", lambda d: scripting.import_body(d, path))

    def save(self) -> bool:
        """Save where the part was saved before; else ask. False when it was not saved."""
        if self.session.path is None:
            return self.save_as()
        return self._save(self.session.path)

    def save_as(self) -> bool:
        """Ask for a name and save; without an ending it is an archive."""
        path = self._ask_to_save("Save the part", ".lathed", PARTS)
        if path is None:
            return False
        return self._save(path if path.suffix else path.with_suffix(".lathed"))

    def _save(self, path: Path) -> bool:
        thumbnail = self.view.thumbnail()

        def save(to: Path, consent: Consent) -> None:
            self.session.save(to, thumbnail, consent)

        outcome = save_asking(save, path, self.ask, self.bench.tell, compare=True)
        if outcome == "compare":
            self.view.show_panel("compare the file")
        return outcome == "saved"

    def export(self) -> None:
        """STEP, STL, 3MF or GLB, by the ending."""
        path = self._ask_to_save(
            "Export the solid", ".step", "STEP (*.step *.stp);;3MF (*.3mf);;STL (*.stl);;GLB (*.glb)"
        )
        if path is not None:
            self.session.builds.export(self.session.document, path)

    def verdicts(self) -> None:
        """The verdict table as CSV."""
        path = self._ask_to_save("Write the verdict table", ".csv", "CSV (*.csv)")
        if path is None or self.session.reply is None:
            return
        try:
            write_verdict_csv(path, self.session.reply.report, self.session.document.unit)
        except FileError as exc:
            self.bench.tell(exc.message, True)
        else:
            self.bench.tell(f"verdicts written to {path.name}")

    def inspection(self, *, blank: bool = False) -> None:
        """The inspection sheet: with the readings of the log, or blank for the shop."""
        kinds = "PDF (*.pdf);;CSV (*.csv);;JSON (*.json)"
        path = self._ask_to_save("Write the inspection sheet", " inspection.pdf", kinds)
        if path is not None:
            self._sheet = path, blank, self.session.document
            self.session.builds.draw_views(self.session.document)

    def _write_sheet(self, drawn: Viewed) -> None:
        """The views have come: the sheet is written beside the window."""
        if self._sheet is None:
            return
        (path, blank, document), self._sheet = self._sheet, None
        self.bench.tell("writing the sheet …")

        def write() -> str:
            from lathed_solid.reports.inspection import write_inspection

            write_inspection(path, document, drawn.report, drawn.views, blank=blank, spoken=self.bench.spoken)
            return f"inspection sheet written to {path.name}"

        self._background.run(write, self.bench.tell, lambda why: self.bench.tell(why, True))

    def properties(self) -> None:
        """Name, unit, material, general tolerance, stated mass."""
        self._take(self.ask.properties(self.session.document), "part properties")

    def parameters(self) -> None:
        """Named sizes."""
        self._take(self.ask.parameters(self.session.document), "parameters")

    def _take(self, document: Document | None, label: str) -> None:
        if document is not None:
            self.session.commit(document, label)

    def may_leave(self) -> bool:
        """Whether the present part may be left: saved, or given up by its owner."""
        if self.session.history.clean:
            return True
        answer = self.ask.unsaved(self.session.document.name)
        return self.save() if answer == "save" else answer == "leave"

    def _folder(self) -> Path:
        return self.session.path.parent if self.session.path else Path.home()

    def _ask_to_save(self, title: str, ending: str, kinds: str) -> Path | None:
        return self.ask.save_path(title, self._folder() / f"{self.session.document.name}{ending}", kinds)
