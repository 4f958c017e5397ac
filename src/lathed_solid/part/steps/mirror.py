"""The mirror image of what steps made, or of whole bodies."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.pattern import Source, StepNumbers, sources_of
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedMirror:
    """Steps and bodies to mirror, and the plane's name."""

    sources: tuple[Source, ...]
    bodies: tuple[int, ...]
    plane: str
    separate: bool


class MirrorStep(StepBase):
    """Mirrors ``steps`` (rebuilt on the other side when asked), or else ``bodies`` (all, when none are named)."""

    NAMES: ClassVar[tuple[str, ...]] = ("plane",)
    STEPS: ClassVar[tuple[str, ...]] = ("steps", "bodies")

    kind: Literal["mirror"] = "mirror"
    steps: StepNumbers = Field(default=(), max_length=50)
    bodies: StepNumbers = Field(default=(), max_length=50)
    plane: str = Field(default="YZ", min_length=1, max_length=400)
    rebuilt: bool = False
    separate: bool = False

    def title(self) -> str:
        what = f"step {', '.join(map(str, self.steps))}" if self.steps else "the body"
        return f"Mirror {what} at {self.plane}"

    def resolve(self, evaluate: Resolver) -> ResolvedMirror:
        """All figures. Raises StepError."""
        if self.steps and self.bodies:
            raise StepError("either steps or bodies are mirrored", where="bodies", hint="empty one of them")
        sources = sources_of(self.steps, self.number, self.rebuilt, evaluate) if self.steps else ()
        return ResolvedMirror(sources, self.bodies, self.plane, self.separate)
