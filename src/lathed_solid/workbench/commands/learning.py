"""What the guide leads to: an exercise begun, the guide written to a file."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from lathed_solid.errors import LathedError
from lathed_solid.exercises import begun, exercise
from lathed_solid.files.atomic import write_atomic
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.commands.files import FileCommands
from lathed_solid.workbench.prompts import Background, Prompts, View


class LearningCommands:
    """Exercises and the guide of one workbench."""

    def __init__(self, bench: Workbench, ask: Prompts, view: View, background: Background, files: FileCommands) -> None:
        self.bench, self.ask, self.view, self._background, self.files = bench, ask, view, background, files

    def begin(self, name: str) -> None:
        """An exercise in the place of the present part, once that may be left; its drawing in view."""
        try:
            part = begun(exercise(name))
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        if self.files.may_leave():
            self.bench.session.open_value(part, saved=True)
            self.bench.show_desk("read")
            self.view.focus("sheets")
            self.bench.tell(f"{part.name}: take the notes, build it; the Prove desk marks it")

    def write_guide(self, written: Callable[[str], bytes]) -> None:
        """The guide as PDF or HTML, written beside the window's work; ``written`` makes it, by the ending."""
        path = self.ask.save_path(
            "Write the guide", Path.home() / "lathed-solid-guide.pdf", "PDF (*.pdf);;HTML (*.html)"
        )
        if path is None:
            return
        self.bench.tell("writing the guide …")

        def write() -> str:
            write_atomic(path, written(path.suffix))
            return f"the guide is written to {path.name}"

        self._background.run(write, self.bench.tell, lambda why: self.bench.tell(why, True))
