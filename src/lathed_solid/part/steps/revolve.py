"""Picked regions of a sketch turned about one of its lines: material added or cut away."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field

from lathed_solid.errors import LathedError
from lathed_solid.part.steps.base import Cell, FieldOf, StepBase
from lathed_solid.part.steps.regions import XY, Picked, RegionName, picked
from lathed_solid.part.steps.sketch import PickError
from lathed_solid.sketch.model import Id, Line
from lathed_solid.turned import Evaluate


class RevolveError(LathedError, ValueError):
    """An impossible turn; names the field."""


@dataclass(frozen=True, slots=True)
class ResolvedRevolve:
    """The axis as a position and a unit direction in the sketch, ``angle`` in rad."""

    picked: Picked
    cut: bool
    axis: tuple[XY, XY]
    angle: float


class RevolveStep(StepBase):
    """``axis``: a line of the sketch, drawn or construction."""

    kind: Literal["revolve"] = "revolve"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    axis: Id
    mode: Literal["add", "cut"] = "add"
    angle: Cell = "360 deg"

    def title(self) -> str:
        return f"{'Turn away' if self.mode == 'cut' else 'Revolve'} sketch {self.sketch}"

    def fields(self) -> tuple[FieldOf, ...]:
        return (FieldOf("angle", self.angle, "angle", None),)

    def resolve(self, evaluate: Evaluate) -> ResolvedRevolve:
        """All figures. Raises RevolveError, SketchError, PickError."""
        chosen, solved = picked(evaluate, self.sketch, self.regions)
        line = solved.sketch.by_id.get(self.axis)
        if not isinstance(line, Line):
            raise PickError(f"the axis {self.axis} is no line of sketch {self.sketch}", hint="pick the axis again")
        a, b = complex(*solved.sketch.at(line.start)), complex(*solved.sketch.at(line.end))
        if abs(b - a) < 1e-9:
            raise RevolveError("the axis has no length", where="axis")
        u = (b - a) / abs(b - a)
        angle = evaluate(self.angle, "angle")
        if not 0 < angle <= 2 * math.pi + 1e-9:
            raise RevolveError("the angle must be above 0 and at most 360°", where="angle", received=self.angle)
        places = [complex(*z) for r in chosen.regions for p in r.outer for z in (p.start, p.middle)]
        heights = [(u.conjugate() * (z - a)).imag for z in places]
        sides = {h > 0 for h in heights if abs(h) > 1e-6}
        if len(sides) > 1:
            raise RevolveError("the regions lie on both sides of the axis", where="axis", hint="regions on one side")
        return ResolvedRevolve(
            chosen, self.mode == "cut", ((a.real, a.imag), (u.real, u.imag)), min(angle, 2 * math.pi)
        )

    def stands_on(self) -> frozenset[int]:
        return frozenset({self.sketch})

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        return {"sketch": renumber.get(self.sketch, self.sketch)}
