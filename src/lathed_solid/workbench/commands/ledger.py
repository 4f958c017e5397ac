"""What can be done with notes and callouts: taking notes, editing them, what drives a callout, where it is measured."""

from __future__ import annotations

from typing import Literal

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe, SheetPlace, Span
from lathed_solid.part import Document, FromWalls, HoleStep, SketchStep, TurnedStep, driving_value, edits
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.note_plan import NotePlan, placed, plan_note
from lathed_solid.workbench.picks import note_picks, probe_between
from lathed_solid.workbench.prompts import Prompts, View


class LedgerCommands:
    """The ledger of one workbench. What acts on a callout acts on the chosen one."""

    def __init__(self, bench: Workbench, ask: Prompts, view: View) -> None:
        self.bench, self.session, self.ask, self.view = bench, bench.session, ask, view
        self._plan: NotePlan | None = None

    # notes -------------------------------------------------------------------------------------
    def plan(self, text: str) -> NotePlan:
        """The note as it is understood with what is picked now; read once while its text stays the same."""
        picks = note_picks(self.bench.document, self.bench.picks)
        self._plan = plan_note(text, self.bench.document.unit, picks, self._plan)
        return self._plan

    def preview(self, text: str) -> None:
        """Show in the solid what the note would make with what is picked; an empty text ends it."""
        plan = self.plan(text) if text else None
        if plan is None or not plan.makes:
            self.session.end_preview()
            return
        try:
            self.session.preview(plan.applied(self.session.standing))
        except LathedError:
            self.session.end_preview()

    def take(self, text: str, place: SheetPlace | None = None, span: Span | None = None) -> bool:
        """A note into the ledger, with its step, where work stands, when something fitting is picked.

        False when it is refused.
        """
        plan, stand = self.plan(text), self.session.stand
        row = [s.number for s in self.session.standing.steps].index(stand) + 1 if stand is not None else -1
        before = self.bench.document
        if not self.session.edit(text, lambda d: placed(d, plan.applied(d, stand), place, span)):
            return False
        if plan.makes:
            self.bench.use_picks()
            made = self.bench.document.steps[row].number
            if stand is not None:
                self.session.stand_at(made)
            self.bench.choose_step(made)
        if self.bench.document.notes == before.notes:
            self.bench.tell(f"{plan.taken}: {text}")
            return True
        self.bench.choose_balloon(self.bench.document.callouts[-1].balloon)
        step = self.bench.chosen_step if plan.makes else None
        if isinstance(step, HoleStep) and isinstance(step.places, FromWalls):
            # the distances are proposed, and wait to be typed over
            self.bench.show_desk("shape")
            self.view.focus("editor")
        return True

    def note_typed_sizes(self) -> None:
        """The sizes that were typed into the chosen step become callouts, which drive it."""
        number = self.bench.step
        if number is None:
            return
        before = len(self.bench.document.callouts)

        def change(document: Document) -> Document:
            from lathed_solid.part.noted_sizes import note_typed_sizes

            return note_typed_sizes(document, number)

        if self.session.edit(f"callouts of the sizes of step {number}", change):
            made = self.bench.document.callouts[before:]
            self.bench.tell(f"{len(made)} callout{'s' * (len(made) > 1)}: {', '.join(c.note for c in made[:6])}")
            if not isinstance(self.bench.chosen_step, SketchStep | TurnedStep):
                # the sizes are done: what is typed next is not meant for their fields
                self.view.focus("solid")

    def edit_note(self, balloon: int, text: str) -> None:
        """Another text of the note that owns a callout: all callouts that it states follow."""
        self.session.edit(f"note of callout {balloon}", lambda d: edits.edit_note(d, balloon, text))

    # the chosen callout ------------------------------------------------------------------------
    @property
    def has_callout(self) -> bool:
        """Whether there is a callout to act on."""
        return self.bench.balloon is not None

    def drop(self) -> None:
        """Remove the chosen callout. Refused while a field holds it."""
        balloon = self.bench.balloon
        if balloon is not None:
            self.session.edit(f"remove callout {balloon}", lambda d: edits.drop_callout(d, balloon))

    def redress(self) -> None:
        """The chosen callout's note is disputed: another is decided on, with the reason; the drawing's text is kept."""
        balloon = self.bench.balloon
        decided = None if balloon is None else self.ask.redress(self.bench.document, balloon)
        if decided is not None:
            self.session.edit(f"decision on callout {balloon}", lambda d: decided)

    def toggle_drive(self, by: Literal["measured", "middle"] = "measured") -> None:
        """The chosen callout as measured, or by the middle of its limits; by its nominal when it is so already."""
        balloon = self.bench.balloon
        if balloon is None:
            return

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            if callout is None:
                return document
            drive = "nominal" if callout.drive == by else by
            if drive == "measured" and document.reading(balloon) is None:
                raise edits.DocumentError(f"callout {balloon} has no reading yet", hint="log one at the Read desk")
            driven = edits.changed(callout, drive=drive)
            driving_value(document, driven)
            return edits.put_callout(document, driven)

        self.session.edit(f"what drives callout {balloon}", change)

    def measure_between_picks(self) -> None:
        """The chosen callout is measured between the last two picked faces, a diameter on the last, from now on."""
        balloon = self.bench.balloon
        callout = self.bench.document.callout(balloon) if balloon is not None else None
        probe = probe_between(self.bench.picks, callout.kind) if callout is not None else None
        if balloon is None or probe is None:
            self.bench.tell("pick two faces in the solid, flat or round, one after the other", True)
            return
        self.prove_by(balloon, probe)

    def prove_by(self, balloon: int, probe: Probe) -> None:
        """The callout is measured this way from now on."""

        def change(document: Document) -> Document:
            callout = document.callout(balloon)
            return document if callout is None else edits.put_callout(document, edits.changed(callout, measure=probe))

        self.session.edit(f"where callout {balloon} is measured", change)
