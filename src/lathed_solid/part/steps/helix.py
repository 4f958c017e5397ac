"""Regions of a sketch led along a helix: springs, coarse threads, augers; added or cut."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.extrude import BodyNumbers, Mode
from lathed_solid.part.steps.regions import Picked, RegionName, picked
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedHelix:
    """``pitch`` mm a turn, ``turns``, turned by ``start`` rad about the axis before it begins."""

    picked: Picked
    axis: str
    pitch: float
    turns: float
    left: bool
    start: float
    run_out: float
    mode: Mode
    on: BodyNumbers


class HelixStep(StepBase):
    """The sketch lies in a plane through the axis; ``run_out`` leads a cut out of the material over that many
    degrees.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("axis",)
    STEPS: ClassVar[tuple[str, ...]] = ("sketch", "on")

    kind: Literal["helix"] = "helix"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    axis: str = Field(default="Z", min_length=1, max_length=900)
    pitch: Cell = "5"
    turns: Cell = "4"
    left: bool = False
    start_angle: Cell = "0"
    run_out: Cell = "0"
    mode: Mode = "add"
    on: BodyNumbers = Field(default=(), max_length=50)

    def title(self) -> str:
        return f"Helix of sketch {self.sketch} about {self.axis}"

    def fields(self) -> tuple[FieldOf, ...]:
        return (
            FieldOf("pitch", self.pitch, "length", Probe(kind="pitch", faces=(f"{self.number}/coil.helix.**",))),
            FieldOf("turns", self.turns, "number", None),
            FieldOf("start angle", self.start_angle, "angle", None), FieldOf("run-out", self.run_out, "angle", None),
        )  # fmt: skip

    def resolve(self, evaluate: Resolver) -> ResolvedHelix:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        chosen, _ = picked(evaluate, self.sketch, self.regions)
        turns = read.any("turns", self.turns, "number")
        if not 0.01 <= turns <= 500:
            raise StepError("the turns must be between 0.01 and 500", where="turns", received=self.turns)
        run_out = read.any("run-out", self.run_out, "angle")
        if not 0 <= run_out < 6.3:
            raise StepError("the run-out must be between 0 and 360°", where="run-out", received=self.run_out)
        return ResolvedHelix(
            chosen, self.axis, read.size("pitch", self.pitch), turns, self.left,
            read.any("start angle", self.start_angle, "angle"), run_out, self.mode, self.on,
        )  # fmt: skip
