"""Bodies left out."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.bodies import BodyNumber, ResolvedBodies
from lathed_solid.part.steps.resolver import Resolver


class DropStep(StepBase):
    """Leaves bodies out."""

    STEPS: ClassVar[tuple[str, ...]] = ("others",)

    kind: Literal["drop"] = "drop"
    others: tuple[BodyNumber, ...] = Field(default=(), max_length=100)

    def title(self) -> str:
        return f"Leave out body {', '.join(map(str, self.others)) or '…'}"

    def resolve(self, evaluate: Resolver) -> ResolvedBodies:
        """Raises StepError."""
        if not self.others:
            raise StepError("no body is named", where="bodies", hint="the number of the step that began it")
        return ResolvedBodies("drop", 0, self.others)
