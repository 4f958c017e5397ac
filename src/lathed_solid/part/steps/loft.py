"""A skin through the regions of two or more sketches: smooth, or ruled from one to the next."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.extrude import BodyNumbers, Mode
from lathed_solid.part.steps.regions import Picked, picked
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedLoft:
    """Sections in their order; ``ruled``: straight between them."""

    sections: tuple[Picked, ...]
    ruled: bool
    mode: Mode
    on: BodyNumbers


class LoftStep(StepBase):
    """``sketches`` in order; each encloses one region without holes."""

    STEPS: ClassVar[tuple[str, ...]] = ("sketches", "on")

    kind: Literal["loft"] = "loft"
    sketches: tuple[int, ...] = Field(default=(), max_length=50)
    ruled: bool = False
    mode: Mode = "add"
    on: BodyNumbers = Field(default=(), max_length=50)

    def title(self) -> str:
        return f"Loft through sketches {', '.join(map(str, self.sketches)) or '…'}"

    def resolve(self, evaluate: Resolver) -> ResolvedLoft:
        """All figures. Raises StepError, SketchError, PickError."""
        if len(self.sketches) < 2:
            raise StepError("a loft needs two sketches or more", where="sketches", hint="their numbers, such as 10; 20")
        sections = tuple(picked(evaluate, n, ())[0] for n in self.sketches)
        for n, s in zip(self.sketches, sections, strict=True):
            if len(s.regions) != 1 or s.regions[0].holes:
                raise StepError(f"sketch {n} must enclose one region without holes", where="sketches")
        return ResolvedLoft(sections, self.ruled, self.mode, self.on)
