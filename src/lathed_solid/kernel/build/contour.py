"""Revolving a closed contour of named segments into a named solid."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.BRepPrimAPI import BRepPrimAPI_MakeRevol
from OCP.GC import GC_MakeArcOfCircle
from OCP.gp import gp_Ax1, gp_Pnt
from OCP.TopAbs import TopAbs_ShapeEnum

from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body, Names
from lathed_solid.kernel.shapes import SOLID, Key, sub_shapes
from lathed_solid.turned import Segment


def revolve_contour(
    segments: Sequence[Segment], axis: gp_Ax1, place: Callable[[float, float], gp_Pnt], prefix: str
) -> Body:
    """A full turn of the contour; ``place`` maps (z, r) in mm to space, faces are ``prefix`` + segment name.

    Raises BuildError when the contour is open or the kernel refuses it.
    """
    wire = BRepBuilderAPI_MakeWire()
    stored: list[tuple[str, Any]] = []
    points: dict[tuple[float, float], gp_Pnt] = {}

    def point(p: tuple[float, float]) -> gp_Pnt:
        return points.setdefault((round(p[0], 9), round(p[1], 9)), place(*p))

    for s in segments:
        start, end = point(s.start), point(s.end)
        if s.centre is None:
            maker = BRepBuilderAPI_MakeEdge(start, end)
        else:
            maker = BRepBuilderAPI_MakeEdge(GC_MakeArcOfCircle(start, place(*s.middle), end).Value())
        wire.Add(maker.Edge())
        if not wire.IsDone():
            raise BuildError(f"the contour does not join at {s.name}")
        stored.append((s.name, wire.Edge()))
    if not wire.Wire().Closed():
        raise BuildError("the contour is open", hint="check the table")
    face = BRepBuilderAPI_MakeFace(wire.Wire(), True)
    if not face.IsDone():
        raise BuildError("the contour does not bound an area", hint="check the table")
    maker = BRepPrimAPI_MakeRevol(face.Face(), axis)
    if not maker.IsDone():
        raise BuildError("the kernel cannot revolve this contour", hint="check that it stays off the axis")
    names: Names = {}
    for name, edge in stored:
        made = maker.Revol().Shape(edge)
        if not made.IsNull() and made.ShapeType() == TopAbs_ShapeEnum.TopAbs_FACE:
            names[Key(made)] = frozenset([prefix + name])
    solids = sub_shapes(maker.Shape(), SOLID)
    return Body(solids[0] if len(solids) == 1 else maker.Shape(), names)
