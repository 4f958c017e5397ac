"""Picked regions of a sketch turned about one of its lines: material added, cut away, kept, or a body of its own."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.extrude import BodyNumbers, Mode
from lathed_solid.part.steps.regions import XY, Picked, RegionName, picked
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.part.steps.sketch import PickError
from lathed_solid.quantity.tolerances import LINEAR, ROUNDING
from lathed_solid.sketch.model import Id, Line

MODE_WORDS = {
    "add": "Revolve",
    "cut": "Turn away",
    "common": "Keep within the turn of",
    "new": "Separate body, turned from",
}


@dataclass(frozen=True, slots=True)
class ResolvedRevolve:
    """The axis as a position and a unit direction in the sketch; from ``start`` through ``angle``, rad."""

    picked: Picked
    mode: Mode
    axis: tuple[XY, XY]
    start: float
    angle: float
    on: BodyNumbers


class RevolveStep(StepBase):
    """``axis``: a line of the sketch, drawn or construction; ``side``: which way a partial turn goes."""

    STEPS: ClassVar[tuple[str, ...]] = ("sketch", "on")

    kind: Literal["revolve"] = "revolve"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    axis: Id
    mode: Mode = "add"
    angle: Cell = "360 deg"
    side: Literal["front", "back", "both"] = "front"
    on: BodyNumbers = Field(default=(), max_length=50)

    def title(self) -> str:
        return f"{MODE_WORDS[self.mode]} sketch {self.sketch}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        return (FieldOf("angle", self.angle, "angle", Probe(kind="turn", faces=(f"{n}/start", f"{n}/end"))),)

    def resolve(self, evaluate: Resolver) -> ResolvedRevolve:
        """All figures. Raises StepError, SketchError, PickError."""
        chosen, solved = picked(evaluate, self.sketch, self.regions)
        line = solved.sketch.by_id.get(self.axis)
        if not isinstance(line, Line):
            raise PickError(f"the axis {self.axis} is no line of sketch {self.sketch}", hint="pick the axis again")
        a, b = complex(*solved.sketch.at(line.start)), complex(*solved.sketch.at(line.end))
        if abs(b - a) < ROUNDING:
            raise StepError("the axis has no length", where="axis")
        u = (b - a) / abs(b - a)
        angle = min(Reader(evaluate).angle("the angle", self.angle, 0, 360), 2 * math.pi)
        places = [complex(*z) for r in chosen.regions for p in r.outer for z in (p.start, p.middle)]
        heights = [(u.conjugate() * (z - a)).imag for z in places]
        sides = {h > 0 for h in heights if abs(h) > LINEAR}
        if len(sides) > 1:
            raise StepError("the regions lie on both sides of the axis", where="axis", hint="regions on one side")
        start = {"front": 0.0, "back": -angle, "both": -angle / 2}[self.side]
        return ResolvedRevolve(
            chosen, self.mode, ((a.real, a.imag), (u.real, u.imag)), start, angle, self.on
        )  # fmt: skip
