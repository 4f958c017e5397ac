"""Straight extrusion of picked regions: prisms, joined to or cut from the body in one operation."""

from __future__ import annotations

import math

from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
from OCP.gp import gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.build.boolean import cut, join, unified
from lathed_solid.kernel.build.planar import Placed, frame_of, planar_face
from lathed_solid.kernel.checks import check_exact
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shapes import SOLID, Key, box, drained, sub_shapes
from lathed_solid.part.steps import ResolvedExtrude
from lathed_solid.part.steps.regions import RegionFigure

#: how far a cut through all goes past the body, mm
PAST = 1.0


def build_extrude(body: Body | None, step: ResolvedExtrude, prefix: str) -> Body:
    """The body with the regions added or cut. Raises BuildError when there is nothing to cut from."""
    if step.cut and body is None:
        raise BuildError("there is no body to cut from", hint="add material first")
    frame = frame_of(step.picked.plane, body)
    start, end = step.start, step.end
    if step.through and body is not None:
        low, high = box(body.shape)
        reach = math.dist(low, high) + math.dist(frame.origin, [(a + b) / 2 for a, b in zip(low, high, strict=True)])
        start, end = start * (reach + PAST), end * (reach + PAST)
    tools = [_prism(region, Placed(frame), start, end, prefix) for region in step.picked.regions]
    if step.cut and body is not None:
        return unified_cut(body, tools)
    return join([*([body] if body is not None else []), *tools])


def unified_cut(body: Body, tools: list[Body]) -> Body:
    """A cut with the tools' neighbouring faces made one first."""
    return cut(body, [unified(t) for t in tools])


def _prism(region: RegionFigure, placed: Placed, start: float, end: float, prefix: str) -> Body:
    face = planar_face(region, placed)
    n = gp_Vec(placed.normal)
    base, edges = face.shape, face.edges
    if start:
        shift = gp_Trsf()
        shift.SetTranslation(n.Multiplied(start))
        where = TopLoc_Location(shift)
        base, edges = base.Moved(where), [(name, e.Moved(where)) for name, e in edges]
    maker = BRepPrimAPI_MakePrism(base, n.Multiplied(end - start))
    if not maker.IsDone():
        raise BuildError("the kernel cannot extrude a region", hint="run the check on the sketch")
    names: Names = {Key(maker.FirstShape()): frozenset([f"{prefix}start"])}
    names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    for entity, edge in edges:
        for made in drained(maker.Generated(edge)):
            names[Key(made)] = frozenset([prefix + entity])
    solids = sub_shapes(maker.Shape(), SOLID)
    body = Body(solids[0] if len(solids) == 1 else maker.Shape(), names)
    check_exact(volume(body.shape), region.area * (end - start), free=region.free)
    return body
