"""What can be done at the Prove desk: suspects shown and taken, sizes by hand."""

from __future__ import annotations

from typing import TYPE_CHECKING

from lathed_solid.errors import LathedError
from lathed_solid.kernel.figures import Picked
from lathed_solid.part import edits
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.picks import things_of
from lathed_solid.workbench.prompts import View

if TYPE_CHECKING:
    from lathed_solid.proof.suspects import Suspect


class ProveCommands:
    """The proof of one workbench."""

    def __init__(self, bench: Workbench, view: View) -> None:
        self.bench, self.session, self.view = bench, bench.session, view
        bench.picked.connect(self._measure_picked)

    def _measure_picked(self, _picked: Picked | None) -> None:
        if self.bench.desk == "prove" and self.bench.picks and self.view.measures_by_hand():
            self.measure()

    def show_suspect(self, suspect: Suspect | None) -> None:
        """The part without the slip, as a preview; None: as it is."""
        document = None
        if suspect is not None:
            try:
                document = suspect.document(self.bench.document)
            except LathedError as exc:
                self.bench.tell(exc.message, True)
        if document is None:
            self.session.end_preview()
        else:
            self.session.preview(document)

    def take_suspect(self, suspect: Suspect) -> None:
        """The part without the slip, from now on."""
        label = f"{suspect.target}: {' and '.join(k.now for k in suspect.slips)}"
        if self.session.edit(label, lambda d: suspect.document(d) or d):
            self.bench.tell(f"{suspect.slips[0].kind} undone at {suspect.target}")

    def answer_pieces(self, body: int, meant: bool) -> None:
        """Whether a body is meant to stand in several pieces."""
        label = f"body {body} {'may stand in pieces' if meant else 'must be one piece'}"
        self.session.edit(label, lambda d: edits.set_in_pieces(d, body, meant))

    def measure(self, *, mesh: bool = False) -> None:
        """The last one or two picks, and the section; a pick beside the solid begins anew."""
        self.session.builds.measure(things_of(self.bench.picks), self.view.section(), mesh=mesh)
