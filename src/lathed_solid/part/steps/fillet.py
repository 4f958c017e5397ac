"""Rounding edges: one radius, or a radius that changes evenly from one end of each edge to the other."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader
from lathed_solid.part.steps.edges import EdgeStep, ResolvedEdges, resolve_edges
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedFillet:
    """Radii in mm; ``end`` None is a constant radius."""

    edges: ResolvedEdges
    radius: float
    end: float | None


class FilletStep(EdgeStep):
    """Edges that run smoothly on are rounded with those that are picked."""

    kind: Literal["fillet"] = "fillet"
    radius: Cell = "1"
    end_radius: Cell | None = None

    def title(self) -> str:
        return f"Round {self.words()}"

    def resolve(self, evaluate: Resolver) -> ResolvedFillet:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        end = read.maybe("end radius", self.end_radius)
        return ResolvedFillet(
            resolve_edges(self.pick, self.number, evaluate), read.size("radius", self.radius), end
        )  # fmt: skip

    def fields(self) -> tuple[FieldOf, ...]:
        shown = Probe(kind="radius", faces=(f"{self.number}/(**",))
        out = [FieldOf("radius", self.radius, "length", shown if self.end_radius is None else None)]
        if self.end_radius is not None:
            out.append(FieldOf("end radius", self.end_radius, "length", None))
        return tuple(out)
