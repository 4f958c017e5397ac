"""Leading regions along a helix, by a pipe whose section keeps its place to the axis."""

from __future__ import annotations

import math
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
from OCP.BRepLib import BRepLib
from OCP.BRepOffsetAPI import BRepOffsetAPI_MakePipeShell
from OCP.collections import Array1_gp_Pnt
from OCP.Geom import Geom_CylindricalSurface
from OCP.Geom2d import Geom2d_Line
from OCP.GeomAPI import GeomAPI_PointsToBSpline
from OCP.gp import gp_Ax1, gp_Ax3, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location

from lathed_solid.kernel.build.boolean import apply
from lathed_solid.kernel.build.planar import Placed, frame_of, planar_wire
from lathed_solid.kernel.build.refs import axis_of
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names, moved, swept
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shapes import Key, drained
from lathed_solid.part.steps.helix import ResolvedHelix
from lathed_solid.part.steps.regions import RegionFigure

#: how far a run-out ends clear of the region's own depth, mm
CLEAR = 0.5


def build_helix(parts: Parts, step: ResolvedHelix, number: int) -> Parts:
    """The part with the coiled regions. Raises BuildError."""
    placed = Placed(frame_of(step.picked.plane, parts))
    tools = [_coiled(parts, region, placed, step, f"{number}/") for region in step.picked.regions]
    return apply(parts, number, step.mode, tools, step.on)


def _coiled(parts: Parts, region: RegionFigure, placed: Placed, step: ResolvedHelix, prefix: str) -> Body:
    if region.holes:
        raise BuildError("a coiled region must have no holes", hint="cut a second helix instead")
    axis = axis_of(parts, step.axis)
    o, d = gp_Pnt(*axis.origin), gp_Vec(*axis.direction)
    if abs(d.Dot(gp_Vec(placed.normal))) > 1e-9:
        raise BuildError("the sketch's plane does not hold the axis", hint="a plane through the axis")
    xs = [p.start for p in region.outer]
    middle = placed.exact((sum(x for x, _ in xs) / len(xs), sum(y for _, y in xs) / len(xs)))
    out = gp_Vec(o, middle)
    level = out.Dot(d)
    out = out.Subtracted(d.Multiplied(level))
    radius = out.Magnitude()
    if radius < 1e-6:
        raise BuildError("the region lies on the axis", hint="draw it beside the axis")
    axes = gp_Ax3(o.Translated(d.Multiplied(level)), gp_Dir(d), gp_Dir(out))
    maker_of_spine = BRepBuilderAPI_MakeWire(_helix(axes, radius, step.pitch, step.turns, step.left))
    if step.run_out:
        maker_of_spine.Add(_run_out(axes, radius, _reach(region, placed, axes) + CLEAR, step))
    wire, edges = planar_wire(region.outer, placed)
    maker = BRepOffsetAPI_MakePipeShell(maker_of_spine.Wire())
    maker.SetMode(axes.Direction())  # the section keeps its place to the axis
    maker.Add(wire)
    try:
        maker.Build()
        done = maker.IsDone() and maker.MakeSolid()
    except Exception:  # noqa: BLE001 - the kernel raises bare Exceptions of its own
        done = False
    if not done:
        raise BuildError("the region cannot be led along this helix", hint="a larger pitch, or a smaller region")
    names: Names = {}
    for entity, edge in edges:
        for made in drained(maker.Generated(edge)):
            names[Key(made)] = frozenset([f"{prefix}coil.helix.{entity}"])
    names[Key(maker.FirstShape())] = frozenset([f"{prefix}start"])
    names[Key(maker.LastShape())] = frozenset([f"{prefix}end"])
    body = swept(maker.Shape(), names)
    if volume(body.shape) < 0:
        body = Body(body.shape.Reversed(), body.names)
    if step.start:
        turn = gp_Trsf()
        turn.SetRotation(gp_Ax1(o, gp_Dir(d)), step.start)
        body = moved(body, TopLoc_Location(turn), lambda a: a)
    return body


def _reach(region: RegionFigure, placed: Placed, axes: gp_Ax3) -> float:
    """How far the region reaches along the radius, mm."""
    out = gp_Vec(axes.XDirection())
    depths = [gp_Vec(axes.Location(), placed.exact(q)).Dot(out) for p in region.outer for q in (p.start, p.middle)]
    return max(depths) - min(depths)


def _run_out(axes: gp_Ax3, radius: float, rise: float, step: ResolvedHelix) -> Any:
    """The edge that goes on from the helix's end, led outwards by ``rise``, starting and ending smoothly."""
    hand = -1.0 if step.left else 1.0
    first = 2 * math.pi * step.turns
    count = 33
    places = Array1_gp_Pnt(1, count)
    for i in range(count):
        t = i / (count - 1)
        angle, r = hand * (first + step.run_out * t), radius + rise * t * t * (3 - 2 * t)
        z = step.pitch * (first + step.run_out * t) / (2 * math.pi)
        x, y, d = (gp_Vec(v) for v in (axes.XDirection(), axes.YDirection(), axes.Direction()))
        off = x.Multiplied(r * math.cos(angle)).Added(y.Multiplied(r * math.sin(angle))).Added(d.Multiplied(z))
        places.SetValue(i + 1, axes.Location().Translated(off))
    return BRepBuilderAPI_MakeEdge(GeomAPI_PointsToBSpline(places).Curve()).Edge()


def _helix(axes: gp_Ax3, radius: float, pitch: float, turns: float, left: bool) -> Any:
    """The edge of a helix on a cylinder: a straight line on the unrolled surface."""
    surface = Geom_CylindricalSurface(axes, radius)
    hand = -1.0 if left else 1.0
    reach = math.hypot(2 * math.pi, pitch) * turns
    line = Geom2d_Line(gp_Pnt2d(0.0, 0.0), gp_Dir2d(hand * 2 * math.pi, pitch))
    edge = BRepBuilderAPI_MakeEdge(line, surface, 0.0, reach).Edge()
    BRepLib.BuildCurves3d_s(edge)
    return edge
