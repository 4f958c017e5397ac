"""What can be done with the route: adding, moving, suspending and removing steps."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import ValidationError

from lathed_solid.errors import LathedError
from lathed_solid.part import DatumPlane, Document, DocumentError, FacePlane, HoleStep, SketchStep, edits
from lathed_solid.part.hole_proposals import proposed_places
from lathed_solid.part.steps import KINDS, ExtrudeStep, PlaneStep, Radial
from lathed_solid.quantity.formatting import length
from lathed_solid.workbench.beginning import first_table
from lathed_solid.workbench.bench import Workbench
from lathed_solid.workbench.picks import note_picks
from lathed_solid.workbench.prompts import Prompts, View
from lathed_solid.workbench.step_forms.begin import Missing, small
from lathed_solid.workbench.step_forms.new import NewStep, new_step

#: makes a step for a document and a free number
MakeStep = Callable[[Document, int], Any]


def _side_before(document: Document, sketch: int | None) -> str:
    """To which side the last material on the same sketch was added."""
    made = [s for s in document.steps if isinstance(s, ExtrudeStep) and s.sketch == sketch and s.mode == "add"]
    return made[-1].side if made and made[-1].side != "into" else "front"


class RouteCommands:
    """The route of one workbench. What acts on a step acts on the chosen one."""

    def __init__(self, bench: Workbench, ask: Prompts, view: View) -> None:
        self.bench, self.session, self.ask, self.view = bench, bench.session, ask, view

    # adding ------------------------------------------------------------------------------------
    @property
    def can_add_turned(self) -> bool:
        """A turned table begins a route."""
        return not self.bench.document.steps

    def add_turned(self) -> None:
        """A first turned table: one station to change."""
        self._add("add a turned table", first_table)

    def add_hole(self) -> None:
        """A hole on the picked face, or on the right end."""
        picks = note_picks(self.bench.document, self.bench.picks)
        face = picks.face or f"{self.bench.document.steps[0].number}/face.right"

        def hole(d: Document, number: int) -> HoleStep:
            values: dict[str, Any] = {}
            if picks.round and picks.radial_at is not None:
                values["places"] = Radial(at=length(picks.radial_at, d.unit), datum=picks.datum)
            elif not picks.round:
                told = proposed_places(d, picks.points or len(picks.rims) or 1, picks)
                values |= {"places": told} if told is not None else {}
            first = {"diameter": small(d, "5", "1/4"), "depth": small(d, "10", "1/2")}
            return HoleStep(number=number, face=face, **first, **values)

        self._add("add holes", hole)

    def add_sketch(self) -> None:
        """A sketch on the picked face when it is flat or beside the picked edge, on the chosen datum plane, else on XY.

        On a face that stands Z runs up. Once more on an empty sketch: it lies on the next of the part's planes.
        """
        chosen = self.bench.chosen_step
        if isinstance(chosen, SketchStep) and not chosen.sketch.entities:
            names = ("XY", "XZ", "YZ")
            on = chosen.plane.plane if isinstance(chosen.plane, DatumPlane) else ""
            at = (names.index(on) + 1) % 3 if on in names else 0
            turned = edits.changed(chosen, plane=DatumPlane(plane=names[at]))
            self.change(f"sketch {chosen.number} on {names[at]}", turned)
            return
        made = f"{chosen.number}/plane" if isinstance(chosen, PlaneStep) else ""
        served = self.bench.served
        face = served.get("plane", "") or served.get("beside", "") or made
        toppled = any(p.toppled for p in self.bench.picks[-1:])
        plane = FacePlane(face=face, turn="180°" if toppled else "0") if face else DatumPlane()
        self._add("add a sketch", lambda _d, n: SketchStep(number=n, plane=plane))

    def add_new(self, new: NewStep) -> None:
        """Begin a step of any kind, from what is picked."""
        picked = dict(self.bench.served)
        picked["edges"] = "; ".join(note_picks(self.bench.document, self.bench.picks).edges)

        def make(d: Document, number: int) -> Any:
            try:
                return new_step(new, d, picked, number)
            except Missing as exc:
                raise DocumentError(f"{new.entry.title}: {exc}") from None
            except ValidationError as exc:
                raise edits.plain_error(exc) from None

        self._add(new.entry.title.lower(), make)

    def add_on_regions(self, kind: str, values: dict[str, Any]) -> None:
        """A step on the regions picked in a sketch: extrude, cut, revolve, turn away."""

        def make(d: Document, number: int) -> Any:
            if kind.startswith("revolve"):
                more: dict[str, Any] = {"mode": "cut" if kind.endswith("cut") else "add"}
            elif kind == "cut":
                more = {"mode": "cut", "distance": None, "side": "into"}
            else:
                more = {"distance": small(d, "10", "0.5"), "side": _side_before(d, values.get("sketch"))}
            return KINDS["revolve" if kind.startswith("revolve") else "extrude"](number=number, **more, **values)

        self._add({"cut": "cut the regions"}.get(kind, f"{kind.split('-')[0]} the regions"), make)

    def lay_beneath(self, picture: bytes, width: float, to_scale: bool) -> None:
        """A picture (PNG), ``width`` mm wide, beneath the sketch that is chosen, or beneath a new one."""
        from lathed_solid.files.attachments import keep_picture
        from lathed_solid.part.steps.sketch import Underlay

        try:
            name = keep_picture(picture, Path("the sheet"))
        except LathedError as exc:
            self.bench.tell(exc.message, True)
            return
        under = Underlay(picture=name, width=f"{width:.9g} mm")
        chosen = self.bench.chosen_step
        if isinstance(chosen, SketchStep):
            step = edits.changed(chosen, underlay=under)
            self.session.edit(f"step {chosen.number}: the sheet beneath", lambda d: edits.put_step(d, step))
        else:
            self._add("sketch over the sheet", lambda _d, n: SketchStep(number=n, underlay=under))
        self.bench.show_desk("shape")
        self.bench.tell("the view lies beneath the sketch" + ("" if to_scale else "; bring it to scale by two points"))

    def _add(self, label: str, make: MakeStep) -> None:
        """Add a step after where work stands, choose it, and turn to its editor."""
        made: list[int] = []

        def change(d: Document) -> Document:
            d, number = edits.place_after(d, self.session.stand)
            made[:] = [number]
            return edits.put_step(d, make(d, number))

        stand = self.session.stand
        if self.session.edit(label, change):
            self.bench.use_picks()
            if stand is not None:
                self.session.stand_at(made[0])
            self.bench.choose_step(made[0])
            self.edit()

    # the chosen step ---------------------------------------------------------------------------
    @property
    def has_step(self) -> bool:
        """Whether there is a step to act on."""
        return self.bench.step is not None

    def edit(self) -> None:
        """Turn to the chosen step's editor."""
        self.bench.show_desk("shape")
        self.view.focus("editor")

    def change(self, label: str, step: Any) -> None:
        """Another value of a step, as its editor gives it."""
        self.session.edit(label, lambda d: edits.put_step(d, step))

    def consider(self, step: Any) -> None:
        """What a half-typed value would make, shown while it is typed; nothing for one that cannot be."""
        try:
            document = edits.put_step(self.session.standing, step)
        except LathedError:
            return
        self.session.preview(document)

    def duplicate(self) -> None:
        """The chosen step once more, after it."""
        number = self.bench.step
        if number is not None:
            self.session.edit(f"duplicate step {number}", lambda d: edits.duplicate_step(d, number))

    def stand_here(self) -> None:
        """Build up to the chosen step only; new steps come after it."""
        if self.bench.step is not None:
            self.session.stand_at(self.bench.step)
            where = f"work stands at step {self.bench.step}" if self.session.stand else "work stands at the end"
            self.bench.tell(f"{where}; new steps come after it")

    def stand_at_end(self) -> None:
        """Build all of the route again."""
        self.session.stand_at(None)

    def name_step(self) -> None:
        """A name of the chosen step, by which its body goes too; empty takes it away."""
        step = self.bench.chosen_step
        name = self.ask.text("Name a step", f"step {step.number}, {step.title()}", step.remark) if step else None
        if step is not None and name is not None:
            self.change(f"name of step {step.number}", edits.changed(step, remark=name.strip()))

    def toggle_suspended(self) -> None:
        """Leave the chosen step out, or take it in again; asked first when others stand on it."""
        step = self.bench.chosen_step
        if step is None:
            return
        number, off = step.number, not step.suspended
        carried = edits.dependents(self.bench.document, number) if off else []
        if carried:
            words = f"Step {number} carries step {', '.join(map(str, carried))}: those may not build without it."
            if not self.ask.confirm("Suspend a step", words):
                return
        self.session.edit(
            f"{'suspend' if off else 'resume'} step {number}", lambda d: edits.suspend_step(d, number, off)
        )

    def drop(self) -> None:
        """Remove the chosen step. Refused while others need it."""
        number = self.bench.step
        if number is not None:
            self.session.edit(f"remove step {number}", lambda d: edits.drop_step(d, number))

    def move(self, by: int) -> None:
        """The chosen step some rows down (or up)."""
        numbers = [s.number for s in self.bench.document.steps]
        if self.bench.step is not None:
            self.move_to(self.bench.step, numbers.index(self.bench.step) + by)

    def move_to(self, number: int, row: int) -> None:
        """A step to another row. Steps are numbered by their rows; the moved one stays the chosen one."""
        if self.session.edit(f"move step {number}", lambda d: edits.move_step(d, number, row)):
            steps = self.bench.document.steps
            self.bench.choose_step(steps[min(max(row, 0), len(steps) - 1)].number)
