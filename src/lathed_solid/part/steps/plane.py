"""A datum plane."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.datum import Names, ResolvedDatum, check_names
from lathed_solid.part.steps.resolver import Resolver


class PlaneStep(StepBase):
    """offset from a plane; midway between two; at an ``angle`` to a plane through an edge or axis; through three
    points;
    tangent to a cylinder at an angle; square to an edge (or axis) at a point."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["plane"] = "plane"
    way: Literal["offset", "midway", "angle", "points", "tangent", "square"] = "offset"
    names: Names = Field(default=("XY",), max_length=3)
    distance: Cell = "10"
    angle: Cell = "45°"

    def title(self) -> str:
        words = {"offset": "offset from", "midway": "midway between", "angle": "at an angle through",
                 "points": "through", "tangent": "tangent to", "square": "square to"}  # fmt: skip
        return f"Plane {words[self.way]} {' and '.join(self.names)}"

    def fields(self) -> tuple[FieldOf, ...]:
        out = []
        if self.way == "offset":
            out.append(FieldOf("distance", self.distance, "length", None))
        if self.way in ("angle", "tangent"):
            out.append(FieldOf("angle", self.angle, "angle", None))
        return tuple(out)

    def resolve(self, evaluate: Resolver) -> ResolvedDatum:
        """All figures. Raises StepError."""
        check_names("plane", self.way, self.names)
        read = Reader(evaluate)
        distance = read.any("distance", self.distance) if self.way == "offset" else 0.0
        angle = read.any("angle", self.angle, "angle") if self.way in ("angle", "tangent") else 0.0
        return ResolvedDatum("plane", self.way, self.names, distance, math.remainder(angle, 2 * math.pi))
