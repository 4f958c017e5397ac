"""Leaning faces for the mould: turned by an angle about where they meet a neutral plane."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedDraft:
    """Faces that lean about where they meet the neutral plane; ``angle`` in rad."""

    faces: tuple[str, ...]
    neutral: str
    angle: float


class DraftStep(StepBase):
    """Faces lean inwards along the neutral plane's normal; a negative angle leans them outwards."""

    NAMES: ClassVar[tuple[str, ...]] = ("faces", "neutral")

    kind: Literal["draft"] = "draft"
    faces: tuple[str, ...] = Field(default=(), max_length=200)
    neutral: str = Field(default="XY", min_length=1, max_length=400)
    angle: Cell = "2°"

    def title(self) -> str:
        return f"Draft {len(self.faces)} face{'s' if len(self.faces) != 1 else ''}"

    def fields(self) -> tuple[FieldOf, ...]:
        sides = tuple(Probe(kind="draft", faces=(self.neutral, f)) for f in self.faces)
        return tuple(FieldOf("angle", self.angle, "angle", p) for p in sides) or (
            FieldOf("angle", self.angle, "angle", None),
        )

    def resolve(self, evaluate: Resolver) -> ResolvedDraft:
        """All figures. Raises StepError."""
        if not self.faces:
            raise StepError("no face is named", where="faces", hint="pick faces in the solid")
        angle = Reader(evaluate).any("angle", self.angle, "angle")
        if not 1e-4 < abs(angle) < 1.2:
            raise StepError("the angle must be within 70° either way, and not 0", where="angle", received=self.angle)
        return ResolvedDraft(self.faces, self.neutral, angle)
