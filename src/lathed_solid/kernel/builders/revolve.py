"""Revolving picked regions about a line of their sketch."""

from __future__ import annotations

import math

from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
from OCP.gp import gp_Ax1, gp_Trsf
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.contour import turned_names
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.planar import Placed, frame_of, planar_face
from lathed_solid.kernel.checks import check_exact
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, swept
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.topology import Key, drained
from lathed_solid.part.steps import ResolvedRevolve
from lathed_solid.part.steps.regions import RegionFigure
from lathed_solid.quantity.tolerances import ANGULAR


def build_revolve(parts: Parts, step: ResolvedRevolve, number: int) -> Parts:
    """The part with the turned regions added, cut or kept. Raises BuildError."""
    found = revolved_regions(parts, step, f"{number}/")
    return apply(parts, number, found.mode, found.tools, found.on)


def revolved_regions(parts: Parts, step: ResolvedRevolve, prefix: str, motion: gp_Trsf | None = None) -> Material:
    """The step's material, at a moved place when ``motion`` is given. Raises BuildError."""
    if step.mode in ("cut", "common") and not parts.bodies:
        raise BuildError("there is no body to cut from", hint="add material first")
    placed = Placed(frame_of(step.picked.plane, parts, motion))
    return Material(step.mode, [_turned(region, placed, step, prefix) for region in step.picked.regions], step.on)


def _turned(region: RegionFigure, placed: Placed, step: ResolvedRevolve, prefix: str) -> Body:
    face = planar_face(region, placed)
    (ax, ay), (ux, uy) = step.axis
    axis = gp_Ax1(placed.exact((ax, ay)), placed.direction((ux, uy)))
    full = step.angle >= 2 * math.pi - ANGULAR
    base, edges = face.shape, face.edges
    if step.start and not full:
        turn = gp_Trsf()
        turn.SetRotation(axis, step.start)
        where = TopLoc_Location(turn)
        base, edges = base.Moved(where), [(name, e.Moved(where)) for name, e in edges]
    maker = BRepPrimAPI_MakeRevol(base, axis) if full else BRepPrimAPI_MakeRevol(base, axis, step.angle)
    if not maker.IsDone():
        raise BuildError("the kernel cannot revolve a region", hint="keep it off the axis, on one side")
    names: Names = {}
    if full:
        names |= turned_names(maker, edges, prefix)
    else:
        names[Key(maker.FirstShape())] = frozenset([f"{prefix}start"])
        names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
        for entity, edge in edges:
            for made in drained(maker.Generated(edge)):
                names[Key(made)] = frozenset([prefix + entity])
    body = swept(maker.Shape(), names)
    # Pappus: the first moment about the axis, times the angle
    moment = abs(ux * (region.moment_y - ay * region.area) - uy * (region.moment_x - ax * region.area))
    check_exact(volume(body.shape), moment * min(step.angle, 2 * math.pi), free=region.free)
    return body
