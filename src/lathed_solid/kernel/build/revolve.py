"""Revolving picked regions about a line of their sketch."""

from __future__ import annotations

import math

from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
from OCP.gp import gp_Ax1

from lathed_solid.kernel.build.boolean import applied
from lathed_solid.kernel.build.contour import turned_names
from lathed_solid.kernel.build.planar import Placed, frame_of, planar_face
from lathed_solid.kernel.checks import check_exact
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shapes import Key, drained
from lathed_solid.part.steps import ResolvedRevolve
from lathed_solid.part.steps.regions import RegionFigure


def build_revolve(body: Body | None, step: ResolvedRevolve, prefix: str) -> Body:
    """The body with the turned regions added or cut. Raises BuildError."""
    placed = Placed(frame_of(step.picked.plane, body))
    tools = [_turned(region, placed, step, prefix) for region in step.picked.regions]
    return applied(body, tools, cutting=step.cut)


def _turned(region: RegionFigure, placed: Placed, step: ResolvedRevolve, prefix: str) -> Body:
    face = planar_face(region, placed)
    (ax, ay), (ux, uy) = step.axis
    axis = gp_Ax1(placed.exact((ax, ay)), placed.direction((ux, uy)))
    full = step.angle >= 2 * math.pi - 1e-9
    maker = BRepPrimAPI_MakeRevol(face.shape, axis) if full else BRepPrimAPI_MakeRevol(face.shape, axis, step.angle)
    if not maker.IsDone():
        raise BuildError("the kernel cannot revolve a region", hint="keep it off the axis, on one side")
    names: Names = {}
    if not full:
        names[Key(maker.FirstShape())] = frozenset([f"{prefix}start"])
        names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    if full:
        names |= turned_names(maker, face.edges, prefix)
    else:
        for entity, edge in face.edges:
            for made in drained(maker.Generated(edge)):
                names[Key(made)] = frozenset([prefix + entity])
    body = swept(maker.Shape(), names)
    # Pappus: the first moment about the axis, times the angle
    moment = abs(ux * (region.moment_y - ay * region.area) - uy * (region.moment_x - ax * region.area))
    check_exact(volume(body.shape), moment * min(step.angle, 2 * math.pi), free=region.free)
    return body
