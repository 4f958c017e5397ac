"""What a boundary face is: its kind, place, direction, sizes, and how far it reaches along a direction."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.TopAbs import TopAbs_Orientation

from lathed_solid.kernel.shapes import edges
from lathed_solid.kernel.vectors import Triple, dot

_KINDS = {
    GeomAbs_SurfaceType.GeomAbs_Plane: "plane",
    GeomAbs_SurfaceType.GeomAbs_Cylinder: "cylinder",
    GeomAbs_SurfaceType.GeomAbs_Cone: "cone",
    GeomAbs_SurfaceType.GeomAbs_Torus: "torus",
    GeomAbs_SurfaceType.GeomAbs_Sphere: "sphere",
}


@dataclass(frozen=True)
class Surface:
    """A face read from the boundary: mm and radians.

    ``direction`` is a plane's outward normal, else the axis. ``radius`` is a cylinder's, a cone's at its
    ``origin``, a torus's minor radius. ``half_angle`` is a cone's.
    """

    kind: str
    origin: Triple
    direction: Triple
    radius: float
    half_angle: float
    faces: tuple[Any, ...]

    @cached_property
    def circles(self) -> list[tuple[Triple, Triple, float]]:
        """(centre, axis, radius) of every circular boundary edge."""
        out = []
        for face in self.faces:
            for edge in edges(face):
                curve = BRepAdaptor_Curve(edge)
                if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
                    circle = curve.Circle()
                    out.append((_xyz(circle.Location()), _xyz(circle.Axis().Direction()), circle.Radius()))
        return out

    def extent(self, direction: Triple) -> tuple[float, float]:
        """Least and greatest coordinate of the boundary edges along ``direction`` (exact for circles)."""
        low, high = math.inf, -math.inf
        for face in self.faces:
            for edge in edges(face):
                for value in _edge_extent(edge, direction):
                    low, high = min(low, value), max(high, value)
        return low, high


def read_surface(face: Any) -> Surface:
    """The surface under one face."""
    a = BRepAdaptor_Surface(face, False)
    kind = _KINDS.get(a.GetType(), "free surface")
    radius = half = 0.0
    if kind == "plane":
        position = a.Plane().Position()
        direction = _xyz(position.Direction())
        if not position.Direct():
            direction = _minus(direction)
        if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            direction = _minus(direction)
        return Surface(kind, _xyz(position.Location()), direction, 0.0, 0.0, (face,))
    if kind == "cylinder":
        position, radius = a.Cylinder().Position(), a.Cylinder().Radius()
    elif kind == "cone":
        position, radius, half = a.Cone().Position(), a.Cone().RefRadius(), a.Cone().SemiAngle()
    elif kind == "torus":
        position, radius = a.Torus().Position(), a.Torus().MinorRadius()
    elif kind == "sphere":
        position, radius = a.Sphere().Position(), a.Sphere().Radius()
    else:
        return Surface(kind, (0.0, 0.0, 0.0), (0.0, 0.0, 0.0), 0.0, 0.0, (face,))
    return Surface(kind, _xyz(position.Location()), _xyz(position.Direction()), radius, half, (face,))


def one_surface(parts: Sequence[Any]) -> Surface:
    """The surface under faces that carry one name (a face cut into pieces has one surface)."""
    first = read_surface(parts[0])
    return Surface(first.kind, first.origin, first.direction, first.radius, first.half_angle, tuple(parts))


def _edge_extent(edge: Any, d: Triple) -> list[float]:
    curve = BRepAdaptor_Curve(edge)
    first, last = curve.FirstParameter(), curve.LastParameter()
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle and abs(last - first - 2 * math.pi) < 1e-9:
        circle = curve.Circle()
        c, n = dot(_xyz(circle.Location()), d), dot(_xyz(circle.Axis().Direction()), d)
        reach = circle.Radius() * math.sqrt(max(0.0, 1 - n * n))
        return [c - reach, c + reach]
    steps = 1 if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line else 24
    return [dot(_xyz(curve.Value(first + (last - first) * i / steps)), d) for i in range(steps + 1)]


def _xyz(p: Any) -> Triple:
    return (p.X(), p.Y(), p.Z())


def _minus(a: Triple) -> Triple:
    return (-a[0], -a[1], -a[2])
