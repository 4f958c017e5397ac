"""A body moved, turned or copied."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.bodies import BodyNumber, ResolvedBodies
from lathed_solid.part.steps.resolver import Resolver


class MoveStep(StepBase):
    """Moves ``body``, then turns it about an axis; as a copy it begins a body of its own."""

    NAMES: ClassVar[tuple[str, ...]] = ("about",)
    STEPS: ClassVar[tuple[str, ...]] = ("body",)

    kind: Literal["move"] = "move"
    body: BodyNumber = Field(default=10, ge=1, le=99_990)
    x: Cell = "0"
    y: Cell = "0"
    z: Cell = "0"
    about: str = Field(default="Z", min_length=1, max_length=900)
    angle: Cell = "0"
    as_copy: bool = False

    def title(self) -> str:
        return f"{'Copy' if self.as_copy else 'Move'} body {self.body}"

    def fields(self) -> tuple[FieldOf, ...]:
        return (
            *(FieldOf(n, getattr(self, n), "length", None) for n in "xyz"),
            FieldOf("angle", self.angle, "angle", None),
        )

    def resolve(self, evaluate: Resolver) -> ResolvedBodies:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        shift = (read.any("x", self.x), read.any("y", self.y), read.any("z", self.z))
        turn = read.any("angle", self.angle, "angle")
        if not any(shift) and not turn:
            raise StepError("the body is not moved at all", hint="a distance or an angle")
        return ResolvedBodies("move", self.body, names=(self.about,), shift=shift, turn=turn, copy=self.as_copy)
