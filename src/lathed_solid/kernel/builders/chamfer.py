"""Bevelling edges: equal legs, two legs, a leg and an angle."""

from __future__ import annotations

from typing import Any

from OCP.BRepFilletAPI import BRepFilletAPI_MakeChamfer

from lathed_solid.kernel.builders.blend import blended
from lathed_solid.kernel.builders.pick import PickedEdge, picked_edges
from lathed_solid.kernel.builders.targets import change_bodies
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.steps.chamfer import ResolvedChamfer


def build_chamfer(parts: Parts, step: ResolvedChamfer, number: int) -> Parts:
    """The part with the edges bevelled. Raises BuildError."""

    def bevelled(body: Body) -> Body:
        picked = picked_edges(body, step.edges)
        if step.on and not any(step.on in label.split("+") for p in picked for label in p.labels):
            raise BuildError(f"no edge that is bevelled lies on {step.on}", hint="one of the two faces beside the edge")

        def make(leg: float) -> Any:
            maker = BRepFilletAPI_MakeChamfer(body.shape)
            for p in picked:
                face = _first(p, step.on)
                if step.angle is not None:
                    maker.AddDA(leg, step.angle, p.edge, face)
                elif step.second is not None:
                    maker.Add(leg, leg * step.second / step.leg, p.edge, face)
                else:
                    maker.Add(leg, p.edge)
            return maker

        return blended(body, picked, step.leg, make, f"{number}/", "a bevel of ")

    return change_bodies(parts, step.edges, bevelled)


def _first(p: PickedEdge, on: str) -> Any:
    """The face that the first leg lies on."""
    if on and on in p.labels[1].split("+") and on not in p.labels[0].split("+"):
        return p.sides[1]
    return p.sides[0]
