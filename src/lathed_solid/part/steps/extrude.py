"""Picked regions of a sketch pushed straight through space: material added or cut away."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, StepBase
from lathed_solid.part.steps.regions import Picked, RegionName, picked
from lathed_solid.turned import Evaluate


class ExtrudeError(LathedError, ValueError):
    """An impossible extrusion; names the field."""


@dataclass(frozen=True, slots=True)
class ResolvedExtrude:
    """From ``start`` to ``end`` mm along the plane's normal; ``through`` cuts on to the far side of the body."""

    picked: Picked
    cut: bool
    through: bool
    start: float
    end: float


class ExtrudeStep(StepBase):
    """``side``: along the sketch's normal, against it, or half to each side."""

    kind: Literal["extrude"] = "extrude"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    mode: Literal["add", "cut"] = "add"
    distance: Cell | None = "10"
    side: Literal["front", "back", "both"] = "front"

    def title(self) -> str:
        what = "Cut" if self.mode == "cut" else "Extrude"
        return f"{what} sketch {self.sketch}" + (" through" if self.distance is None else "")

    def fields(self) -> tuple[FieldOf, ...]:
        if self.distance is None:
            return ()
        n = self.number
        return (FieldOf("distance", self.distance, "length", Probe(kind="distance", faces=(f"{n}/start", f"{n}/end"))),)

    def resolve(self, evaluate: Evaluate) -> ResolvedExtrude:
        """All figures. Raises ExtrudeError, SketchError, PickError."""
        chosen, _ = picked(evaluate, self.sketch, self.regions)
        if self.distance is None:
            if self.mode == "add":
                raise ExtrudeError("added material needs a distance", where="distance")
            return ResolvedExtrude(chosen, True, True, *((-1.0, 1.0) if self.side == "both" else
                                   (0.0, 1.0) if self.side == "front" else (-1.0, 0.0)))  # fmt: skip
        distance = evaluate(self.distance, "length")
        if not 0 < distance <= 10_000:
            raise ExtrudeError(
                "the distance must be above zero and below 10 m", where="distance", received=f"{distance:g} mm",
                hint="the other side, for a negative distance",
            )  # fmt: skip
        ends = {"front": (0.0, distance), "back": (-distance, 0.0), "both": (-distance / 2, distance / 2)}
        return ResolvedExtrude(chosen, self.mode == "cut", False, *ends[self.side])

    def stands_on(self) -> frozenset[int]:
        return frozenset({self.sketch})

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        return {"sketch": renumber.get(self.sketch, self.sketch)}
