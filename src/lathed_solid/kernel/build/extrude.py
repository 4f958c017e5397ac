"""Straight extrusion of picked regions: prisms, joined to or cut from the body in one operation."""

from __future__ import annotations

import math

from OCP.BRepPrimAPI import BRepPrimAPI_MakePrism
from OCP.gp import gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.build.boolean import applied
from lathed_solid.kernel.build.planar import Placed, frame_of, planar_face
from lathed_solid.kernel.checks import check_exact
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shapes import Key, box, drained
from lathed_solid.part.steps import ResolvedExtrude
from lathed_solid.part.steps.regions import RegionFigure

#: how far a cut through all goes past the body, mm
PAST = 1.0


def build_extrude(body: Body | None, step: ResolvedExtrude, prefix: str) -> Body:
    """The body with the regions added or cut. Raises BuildError when there is nothing to cut from."""
    frame = frame_of(step.picked.plane, body)
    start, end = step.start, step.end
    if step.through and body is not None:
        low, high = box(body.shape)
        reach = math.dist(low, high) + math.dist(frame.origin, [(a + b) / 2 for a, b in zip(low, high, strict=True)])
        start, end = start * (reach + PAST), end * (reach + PAST)
    tools = [_prism(region, Placed(frame), start, end, prefix) for region in step.picked.regions]
    return applied(body, tools, cutting=step.cut)


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
    body = swept(maker.Shape(), names)
    check_exact(volume(body.shape), region.area * (end - start), free=region.free)
    return body
