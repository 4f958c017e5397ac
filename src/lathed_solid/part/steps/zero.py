"""The part datum: where its coordinates count from."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase
from lathed_solid.part.steps.datum import ResolvedDatum
from lathed_solid.part.steps.resolver import Resolver


class ZeroStep(StepBase):
    """The part datum, for the people who cut it: which point is zero, along which axis X runs, and Z.

    Exchange files are written, and the envelope is told, in this datum.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("origin", "along_x", "along_z")

    kind: Literal["zero"] = "zero"
    origin: str = Field(default="O", min_length=1, max_length=900)
    along_x: str = Field(default="X", min_length=1, max_length=900)
    along_z: str = Field(default="Z", min_length=1, max_length=900)
    flip_x: bool = False
    flip_z: bool = False

    def title(self) -> str:
        return f"Part datum at {self.origin}"

    def resolve(self, evaluate: Resolver) -> ResolvedDatum:
        """Never fails."""
        flips = f"{'-' if self.flip_x else '+'}{'-' if self.flip_z else '+'}"
        return ResolvedDatum("zero", flips, (self.origin, self.along_x, self.along_z))
