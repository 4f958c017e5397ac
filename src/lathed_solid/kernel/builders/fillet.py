"""Rounding edges with one radius, or with one that changes evenly along each edge."""

from __future__ import annotations

from typing import Any

from OCP.BRepFilletAPI import BRepFilletAPI_MakeFillet

from lathed_solid.kernel.builders.blend import blended
from lathed_solid.kernel.builders.pick import picked_edges
from lathed_solid.kernel.builders.targets import change_bodies
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.steps.fillet import ResolvedFillet


def build_fillet(parts: Parts, step: ResolvedFillet, number: int) -> Parts:
    """The part with the edges rounded. Raises BuildError."""

    def rounded(body: Body) -> Body:
        picked = picked_edges(body, step.edges)
        ratio = None if step.end is None else step.end / step.radius

        def make(radius: float) -> Any:
            maker = BRepFilletAPI_MakeFillet(body.shape)
            for p in picked:
                if ratio is None:
                    maker.Add(radius, p.edge)
                else:
                    maker.Add(radius, radius * ratio, p.edge)
            return maker

        return blended(body, picked, step.radius, make, f"{number}/", "R")

    return change_bodies(parts, step.edges, rounded)
