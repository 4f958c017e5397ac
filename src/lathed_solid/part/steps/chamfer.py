"""Bevelling edges: equal legs, two legs, or a leg and an angle.

The first leg and the angle lie on the face that an edge's name has first, or on ``on`` where that is one of the two.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from lathed_solid.ledger import Probe, ProbeKind
from lathed_solid.part.names import renamed, steps_in
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepError
from lathed_solid.part.steps.edges import EdgeStep, ResolvedEdges, resolve_edges
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedChamfer:
    """Legs in mm, the angle in rad from the face with the first leg."""

    edges: ResolvedEdges
    leg: float
    second: float | None
    angle: float | None
    on: str


class ChamferStep(EdgeStep):
    """``second`` is the other leg, or ``angle`` the bevel's angle from the face with the first leg."""

    kind: Literal["chamfer"] = "chamfer"
    leg: Cell = "1"
    second: Cell | None = None
    angle: Cell | None = None
    on: str = ""

    def title(self) -> str:
        return f"Bevel {self.words()}"

    def resolve(self, evaluate: Resolver) -> ResolvedChamfer:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        if self.second is not None and self.angle is not None:
            raise StepError("a second leg and an angle say the same twice", hint="empty one of them")
        angle = None if self.angle is None else read.angle("angle", self.angle, 1, 89)
        return ResolvedChamfer(
            resolve_edges(self.pick, self.number, evaluate), read.size("leg", self.leg),
            read.maybe("second leg", self.second), angle, self.on,
        )  # fmt: skip

    def fields(self) -> tuple[FieldOf, ...]:
        bevels = f"{self.number}/(**"
        first = (f"on:{self.on}",) if self.on else ()

        def shown(kind: ProbeKind) -> Probe:
            return Probe(kind=kind, faces=(bevels, *first))

        out = [FieldOf("leg", self.leg, "length", shown("leg"))]
        if self.second is not None:
            out.append(FieldOf("second leg", self.second, "length", shown("second_leg")))
        if self.angle is not None:
            out.append(FieldOf("angle", self.angle, "angle", shown("bevel_angle")))
        return tuple(out)

    def stands_on(self) -> frozenset[int]:
        return super().stands_on() | (steps_in(self.on) if self.on else frozenset())

    def renumbered(self, renumber: Any) -> dict[str, Any]:
        return {**super().renumbered(renumber), "on": renamed(self.on, renumber)}
