"""Regions of one sketch led along the curves of another, or along a chain of edges: added, cut, or a body of its
own.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase, StepError
from lathed_solid.part.steps.extrude import BodyNumbers, Mode
from lathed_solid.part.steps.regions import Picked, PieceFigure, RegionName, chain_figure, picked
from lathed_solid.part.steps.resolved import ResolvedPlane
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedSweep:
    """``path``: pieces of the path's sketch in its plane, or else ``edges`` by name."""

    picked: Picked
    path: tuple[PieceFigure, ...]
    plane: ResolvedPlane | None
    edges: tuple[str, ...]
    mode: Mode
    on: BodyNumbers


class SweepStep(StepBase):
    """``path`` is the number of a sketch with one open or closed chain; without it ``edges`` lead."""

    NAMES: ClassVar[tuple[str, ...]] = ("edges",)
    STEPS: ClassVar[tuple[str, ...]] = ("sketch", "path", "on")

    kind: Literal["sweep"] = "sweep"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    path: int | None = Field(default=None, ge=1, le=99_990)
    edges: tuple[str, ...] = Field(default=(), max_length=100)
    mode: Mode = "add"
    on: BodyNumbers = Field(default=(), max_length=50)

    def title(self) -> str:
        along = f"sketch {self.path}" if self.path else "edges"
        return f"Sweep sketch {self.sketch} along {along}"

    def resolve(self, evaluate: Resolver) -> ResolvedSweep:
        """All figures. Raises StepError, SketchError, PickError."""
        chosen, _ = picked(evaluate, self.sketch, self.regions)
        if self.path is None:
            if not self.edges:
                raise StepError("nothing leads the sweep", where="path", hint="a sketch's number, or edges")
            return ResolvedSweep(chosen, (), None, self.edges, self.mode, self.on)
        solved = evaluate.sketch(self.path)
        return ResolvedSweep(chosen, chain_figure(solved.sketch), solved.plane, (), self.mode, self.on)
