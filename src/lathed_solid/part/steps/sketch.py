"""A sketch on a plane: makes nothing itself, later steps pick its regions."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, Literal

from pydantic import Field

from lathed_solid.errors import LathedError
from lathed_solid.part.names import renamed, steps_in
from lathed_solid.part.steps.base import Cell, FieldOf, StepBase
from lathed_solid.part.steps.planes import DatumPlane, FacePlane, Plane, plane_fields, resolve_plane
from lathed_solid.part.steps.resolved import ResolvedSketch
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity import LengthUnit
from lathed_solid.record import Record
from lathed_solid.sketch.constraints import KINDS
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Coordinate, Sketch

if TYPE_CHECKING:
    pass


class Underlay(Record):
    """A picture to draw over: the SHA-256 of its file, its width in the sketch, its lower left corner and turn."""

    picture: str = Field(pattern=r"^[0-9a-f]{64}$")
    width: Cell = "200"
    x: Coordinate = 0.0
    y: Coordinate = 0.0
    turn: Cell = "0"


class SketchStep(StepBase):
    """A constrained sketch, held by its callouts."""

    kind: Literal["sketch"] = "sketch"
    plane: Plane = DatumPlane()
    sketch: Sketch = Sketch()
    underlay: Underlay | None = None

    def title(self) -> str:
        where = f"{self.plane.plane} plane" if isinstance(self.plane, DatumPlane) else f"face {self.plane.face}"
        return f"Sketch on the {where}"

    def fields(self) -> tuple[FieldOf, ...]:
        dims = self.sketch.driving
        named = [FieldOf(f"{KINDS[c.kind].words} {c.id}", c.value, KINDS[c.kind].dimension, None) for c in dims]  # type: ignore[arg-type]
        return (*plane_fields(self.plane), *named)

    def resolve(self, evaluate: Resolver) -> ResolvedSketch:
        """Solve. Raises SketchError when the sketch fights or cannot be solved."""
        # imported here: the window's start needs no solver
        from lathed_solid.quantity.formatting import angle, length
        from lathed_solid.sketch.examine import dimension_values, examine
        from lathed_solid.sketch.solve import moved, sane, solve

        values = dimension_values(self.sketch, evaluate)  # type: ignore[arg-type]
        solution = solve(self.sketch, values)
        if not solution.ok or not sane(solution):
            unit: LengthUnit = evaluate.unit
            seen = examine(
                self.sketch, values, show=lambda v, angular: angle(v) if angular else f"{length(abs(v), unit)} {unit}"
            )
            raise SketchError("; ".join(seen.messages), hint="edit the sketch")
        return ResolvedSketch(resolve_plane(self.plane, evaluate), moved(self.sketch, solution.x))

    def stands_on(self) -> frozenset[int]:
        names = [self.plane.face] if isinstance(self.plane, FacePlane) else []
        names += [e.source for e in self.sketch.entities if e.source]
        return frozenset().union(*(steps_in(n) for n in names))

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        out: dict[str, Any] = {}
        if isinstance(self.plane, FacePlane):
            out["plane"] = self.plane.model_copy(update={"face": renamed(self.plane.face, renumber)})
        if any(e.source for e in self.sketch.entities):
            moved = tuple(
                e.model_copy(update={"source": renamed(e.source, renumber)}) if e.source else e
                for e in self.sketch.entities
            )
            out["sketch"] = Sketch(entities=moved, constraints=self.sketch.constraints)
        return out


class PickError(LathedError, ValueError):
    """A step's pick on a sketch no longer fits it."""
