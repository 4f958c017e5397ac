"""A datum axis."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase
from lathed_solid.part.steps.datum import Names, ResolvedDatum, check_names
from lathed_solid.part.steps.resolver import Resolver


class AxisStep(StepBase):
    """of a round face or an edge; where two planes meet; through two points."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["axis"] = "axis"
    way: Literal["of", "planes", "points"] = "of"
    names: Names = Field(default=("X",), max_length=2)

    def title(self) -> str:
        names = " and ".join(self.names)
        return {"of": f"Axis of {names}", "planes": f"Axis where {names} meet", "points": f"Axis through {names}"}[
            self.way
        ]

    def resolve(self, evaluate: Resolver) -> ResolvedDatum:
        """Raises StepError."""
        check_names("axis", self.way, self.names)
        return ResolvedDatum("axis", self.way, self.names)
