"""A body split at a plane."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase
from lathed_solid.part.steps.bodies import BodyNumber, ResolvedBodies
from lathed_solid.part.steps.resolver import Resolver


class SplitStep(StepBase):
    """Cuts ``body`` at a plane or flat face; the piece in front of it becomes a body of its own."""

    NAMES: ClassVar[tuple[str, ...]] = ("plane",)
    STEPS: ClassVar[tuple[str, ...]] = ("body",)

    kind: Literal["split"] = "split"
    body: BodyNumber = Field(default=10, ge=1, le=99_990)
    plane: str = Field(default="YZ", min_length=1, max_length=400)
    keep: Literal["both", "front", "back"] = "both"

    def title(self) -> str:
        return f"Split body {self.body} at {self.plane}"

    def resolve(self, evaluate: Resolver) -> ResolvedBodies:
        """Never fails."""
        return ResolvedBodies("split", self.body, names=(self.plane,), keep=self.keep)
