"""What a boundary face is: its kind, place, direction, sizes, and how far it reaches along a direction."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepLProp import BRepLProp_SLProps
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.gp import gp_Cone, gp_Cylinder, gp_Pnt, gp_Sphere, gp_Vec
from OCP.ShapeAnalysis import ShapeAnalysis_CanonicalRecognition
from OCP.TopAbs import TopAbs_Orientation

from lathed_solid.kernel.topology import edges
from lathed_solid.kernel.vectors import Triple, dot, xyz
from lathed_solid.quantity.tolerances import ANGULAR, ROUNDING

_KINDS = {
    GeomAbs_SurfaceType.GeomAbs_Plane: "plane",
    GeomAbs_SurfaceType.GeomAbs_Cylinder: "cylinder",
    GeomAbs_SurfaceType.GeomAbs_Cone: "cone",
    GeomAbs_SurfaceType.GeomAbs_Torus: "torus",
    GeomAbs_SurfaceType.GeomAbs_Sphere: "sphere",
}

#: how far a free surface may be from a round one to be taken for it, mm
ROUND = 1e-6

#: a rise of no more than this is none, mm
EVEN = 1e-9
#: the kernel's rounds are of no higher degree
MOST = 8


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
    def curves(self) -> list[Any]:
        """Under the edges of each face in turn."""
        return [BRepAdaptor_Curve(edge) for face in self.faces for edge in edges(face)]

    @cached_property
    def circles(self) -> list[tuple[Triple, Triple, float]]:
        """(centre, axis, radius) of every circular boundary edge."""
        round_ = [c.Circle() for c in self.curves if c.GetType() == GeomAbs_CurveType.GeomAbs_Circle]
        return [(xyz(c.Location()), xyz(c.Axis().Direction()), c.Radius()) for c in round_]

    def extent(self, direction: Triple) -> tuple[float, float]:
        """Least and greatest coordinate of the boundary edges along ``direction`` (exact for circles)."""
        if direction not in self._extents:
            back = self._extents.get((-direction[0], -direction[1], -direction[2]))
            if back is not None:
                return -back[1], -back[0]
            values = [value for curve in self.curves for value in _curve_extent(curve, direction)]
            self._extents[direction] = (min(values, default=math.inf), max(values, default=-math.inf))
        return self._extents[direction]

    @cached_property
    def _extents(self) -> dict[Triple, tuple[float, float]]:
        return {}


def read_surface(face: Any) -> Surface:
    """The surface under one face."""
    a = BRepAdaptor_Surface(face, False)
    kind = _KINDS.get(a.GetType(), "free surface")
    radius = half = 0.0
    if kind == "plane":
        position = a.Plane().Position()
        direction = xyz(position.Direction())
        if not position.Direct():
            direction = _minus(direction)
        if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            direction = _minus(direction)
        return Surface(kind, xyz(position.Location()), direction, 0.0, 0.0, (face,))
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
    return Surface(kind, xyz(position.Location()), xyz(position.Direction()), radius, half, (face,))


def one_surface(parts: Sequence[Any]) -> Surface:
    """The surface under faces that carry one name (a face cut into pieces has one surface)."""
    first = read_surface(parts[0])
    return Surface(first.kind, first.origin, first.direction, first.radius, first.half_angle, tuple(parts))


def recognised(surface: Surface) -> Surface:
    """A free surface that is round to ``ROUND``, as what it is: the kernel's round of two milled walls is no
    cylinder by its own account. Others as they are.
    """
    if surface.kind != "free surface":
        return surface
    a = BRepAdaptor_Surface(surface.faces[0], False)
    if a.GetType() == GeomAbs_SurfaceType.GeomAbs_BSplineSurface and max(a.UDegree(), a.VDegree()) > MOST:
        return surface  # a thread's flank
    found = [_as_round(face) for face in surface.faces]
    first = found[0]
    if first is None or any(s is None or s.kind != first.kind or abs(s.radius - first.radius) > ROUND for s in found):
        return surface
    return replace(first, faces=surface.faces)


def _as_round(face: Any) -> Surface | None:
    """A face that is a cylinder, sphere or cone to ``ROUND``, as that."""
    look = ShapeAnalysis_CanonicalRecognition(face)
    cylinder, sphere, cone = gp_Cylinder(), gp_Sphere(), gp_Cone()
    if look.IsCylinder(ROUND, cylinder):
        kind, position, radius, half = "cylinder", cylinder.Position(), cylinder.Radius(), 0.0
    elif look.IsSphere(ROUND, sphere):
        kind, position, radius, half = "sphere", sphere.Position(), sphere.Radius(), 0.0
    elif look.IsCone(ROUND, cone):
        kind, position, radius, half = "cone", cone.Position(), cone.RefRadius(), cone.SemiAngle()
    else:
        return None
    return Surface(kind, xyz(position.Location()), xyz(position.Direction()), radius, half, (face,))


def hollow(surface: Surface) -> bool:
    """Whether a round face's material lies outside it (a bore, a hollow rounding)."""
    face = surface.faces[0]
    a = BRepAdaptor_Surface(face)
    u, v = (a.FirstUParameter() + a.LastUParameter()) / 2, (a.FirstVParameter() + a.LastVParameter()) / 2
    at = a.Value(u, v)
    normal = gp_Vec(BRepLProp_SLProps(a, u, v, 1, ROUNDING).Normal())
    if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
        normal.Reverse()
    if surface.kind == "torus":
        return _hollow_torus(a, u, at, normal)
    away = gp_Vec(gp_Pnt(*surface.origin), at)
    if surface.kind != "sphere":
        along = gp_Vec(*surface.direction)
        away = away.Subtracted(along.Multiplied(away.Dot(along)))
    return bool(away.Dot(normal) < 0)


def _hollow_torus(a: Any, u: float, at: Any, normal: Any) -> bool:
    t = a.Torus()
    frame = t.Position()
    x, y = gp_Vec(frame.XDirection()), gp_Vec(frame.YDirection())
    spine = x.Multiplied(math.cos(u)).Added(y.Multiplied(math.sin(u))).Multiplied(t.MajorRadius())
    return bool(gp_Vec(frame.Location().Translated(spine), at).Dot(normal) < 0)


def edge_extent(edge: Any, d: Triple) -> list[float]:
    """Least and greatest coordinate of an edge along a direction, both among the values; exact for circles."""
    return _curve_extent(BRepAdaptor_Curve(edge), d)


def _curve_extent(curve: Any, d: Triple) -> list[float]:
    first, last = curve.FirstParameter(), curve.LastParameter()
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle and abs(last - first - 2 * math.pi) < ANGULAR:
        circle = curve.Circle()
        c, n = dot(xyz(circle.Location()), d), dot(xyz(circle.Axis().Direction()), d)
        reach = circle.Radius() * math.sqrt(max(0.0, 1 - n * n))
        return [c - reach, c + reach]
    steps = 1 if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line or _only_rises(curve, d) else 24

    def along(t: float) -> float:
        return dot(xyz(curve.Value(t)), d)

    at = [first + (last - first) * i / steps for i in range(steps + 1)]
    values = [along(t) for t in at]
    if steps == 1:
        return values
    ends = (min(range(steps + 1), key=values.__getitem__), max(range(steps + 1), key=values.__getitem__))
    # an extreme at the curve's own end is exact as it is
    return [*values, *(_sharpened(along, at[k - 1], at[k + 1], s)
                       for k, s in zip(ends, (1.0, -1.0), strict=True) if 0 < k < steps)]  # fmt: skip


def _only_rises(curve: Any, d: Triple) -> bool:
    """Whether a free curve runs one way along ``d``, as its poles do (they vary no less than it): a thread's rims."""
    if curve.GetType() != GeomAbs_CurveType.GeomAbs_BSplineCurve:
        return False
    poles = curve.BSpline().Poles()
    levels = [dot(xyz(poles.Value(i)), d) for i in range(poles.Lower(), poles.Upper() + 1)]
    steps = [b - a for a, b in itertools.pairwise(levels)]
    return min(steps) > -EVEN or max(steps) < EVEN


def _sharpened(along: Callable[[float], float], a: float, b: float, sign: float) -> float:
    """The least (``sign`` 1) or greatest (-1) value between two parameters, by golden section."""
    golden = (math.sqrt(5) - 1) / 2
    for _ in range(40):
        p, q = b - golden * (b - a), a + golden * (b - a)
        if sign * along(p) < sign * along(q):
            b = q
        else:
            a = p
    return along((a + b) / 2)


def _minus(a: Triple) -> Triple:
    return (-a[0], -a[1], -a[2])
