"""A datum point."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.datum import Names, ResolvedDatum, check_names
from lathed_solid.part.steps.resolver import Resolver


class PointStep(StepBase):
    """at coordinates; a corner or the centre of a round edge; where an axis meets a plane."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["point"] = "point"
    way: Literal["at", "of", "meet"] = "at"
    names: Names = Field(default=(), max_length=2)
    x: Cell = "0"
    y: Cell = "0"
    z: Cell = "0"

    def title(self) -> str:
        if self.way == "at":
            return f"Point at {self.x}, {self.y}, {self.z}"
        names = " and ".join(self.names)
        return f"Point of {names}" if self.way == "of" else f"Point where {names} meet"

    def fields(self) -> tuple[FieldOf, ...]:
        return tuple(FieldOf(n, getattr(self, n), "length", None) for n in "xyz") if self.way == "at" else ()

    def resolve(self, evaluate: Resolver) -> ResolvedDatum:
        """All figures. Raises StepError."""
        check_names("point", self.way, self.names)
        read = Reader(evaluate)
        at: Any = tuple(read.any(n, getattr(self, n)) for n in "xyz") if self.way == "at" else (0.0, 0.0, 0.0)
        return ResolvedDatum("point", self.way, self.names, at=at)
