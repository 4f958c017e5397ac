"""Work on whole bodies: combining, splitting, moving and copying, leaving out. A body is known by the step that
began it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.turned import Evaluate

BodyNumber = int


@dataclass(frozen=True, slots=True)
class ResolvedBodies:
    """``what``: combine, split, move or drop; ``mode`` of a combination; ``names``: a plane, or an axis to turn
    about.
    """

    what: str
    body: int
    others: tuple[int, ...] = ()
    mode: str = ""
    names: tuple[str, ...] = ()
    shift: tuple[float, float, float] = (0.0, 0.0, 0.0)
    turn: float = 0.0
    copy: bool = False
    keep: str = ""


class CombineStep(StepBase):
    """``others`` added to, cut from, or kept in common with ``body``; they are used up unless ``keep``."""

    STEPS: ClassVar[tuple[str, ...]] = ("body", "others")

    kind: Literal["combine"] = "combine"
    body: BodyNumber = Field(default=10, ge=1, le=99_990)
    others: tuple[BodyNumber, ...] = Field(default=(), max_length=100)
    mode: Literal["add", "cut", "common"] = "add"
    keep: bool = False

    def title(self) -> str:
        words = {"add": "Join", "cut": "Cut", "common": "Keep common of"}
        return f"{words[self.mode]} bodies {self.body} and {', '.join(map(str, self.others)) or '…'}"

    def resolve(self, evaluate: Evaluate) -> ResolvedBodies:
        """Raises StepError."""
        if not self.others or self.body in self.others:
            raise StepError("name the other bodies", where="others", hint="numbers of the steps that began them")
        return ResolvedBodies("combine", self.body, self.others, self.mode, copy=self.keep)


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

    def resolve(self, evaluate: Evaluate) -> ResolvedBodies:
        """Never fails."""
        return ResolvedBodies("split", self.body, names=(self.plane,), keep=self.keep)


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

    def resolve(self, evaluate: Evaluate) -> ResolvedBodies:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        shift = (read.any("x", self.x), read.any("y", self.y), read.any("z", self.z))
        turn = read.any("angle", self.angle, "angle")
        if not any(shift) and not turn:
            raise StepError("the body is not moved at all", hint="a distance or an angle")
        return ResolvedBodies("move", self.body, names=(self.about,), shift=shift, turn=turn, copy=self.as_copy)


class DropStep(StepBase):
    """Leaves bodies out."""

    STEPS: ClassVar[tuple[str, ...]] = ("others",)

    kind: Literal["drop"] = "drop"
    others: tuple[BodyNumber, ...] = Field(default=(), max_length=100)

    def title(self) -> str:
        return f"Leave out body {', '.join(map(str, self.others)) or '…'}"

    def resolve(self, evaluate: Evaluate) -> ResolvedBodies:
        """Raises StepError."""
        if not self.others:
            raise StepError("no body is named", where="bodies", hint="the number of the step that began it")
        return ResolvedBodies("drop", 0, self.others)
