"""What flat faces add to the figures of their solid, in closed form: a plate of two hundred holes is one such face.

Of the region that a face covers in its plane (s, t), bounded by lines and arcs, Green's theorem gives the moments

    A = 1/2 c(s dt - t ds)    int s = 1/2 c s^2 dt    int t = -1/2 c t^2 ds
    int s^2 = 1/3 c s^3 dt    int t^2 = -1/3 c t^3 ds    int s t = 1/2 c s^2 t dt

along its boundary: exact by three Gauss points on a line, by equal steps around a circle, by twenty on an arc. The cone
from the origin over a face in the plane n x = d holds, of a homogeneous polynomial f of degree k, d / (k + 3) int f dA.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS

from lathed_solid.quantity.tolerances import NOTHING

#: volume, its three first and nine second moments about the origin, and the area: mm3, mm4, mm5, mm2
Moments = tuple[float, Any, Any, float]

_LINE = np.polynomial.legendre.leggauss(3)
_ARC = np.polynomial.legendre.leggauss(20)
_ROUND = 16


def flat_moments(face: Any) -> Moments | None:
    """What a flat face adds to its solid; None for a face that is not flat, or bounded by other curves."""
    surface = BRepAdaptor_Surface(face, False)
    if surface.GetType() != GeomAbs_SurfaceType.GeomAbs_Plane:
        return None
    position = surface.Plane().Position()
    p0, u, v = (np.array([x.X(), x.Y(), x.Z()]) for x in (
        position.Location(), position.XDirection(), position.YDirection()))  # fmt: skip
    total = np.zeros(6)
    explorer = TopExp_Explorer(face.Oriented(TopAbs_Orientation.TopAbs_FORWARD), TopAbs_ShapeEnum.TopAbs_EDGE)
    while explorer.More():
        edge = TopoDS.Edge(explorer.Current())
        explorer.Next()
        added = _along(edge, p0, u, v)
        if added is None:
            return None
        total += added if edge.Orientation() != TopAbs_Orientation.TopAbs_REVERSED else -added
    area, s, t, ss, tt, st = total if total[0] > 0 else -total
    n = np.cross(u, v)
    if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
        n = -n
    # u x v is the surface's own normal, also where its axes are left-handed
    d = float(n @ p0)
    first = area * p0 + s * u + t * v
    cross = np.outer(p0, s * u + t * v)
    second = area * np.outer(p0, p0) + cross + cross.T + ss * np.outer(u, u) + tt * np.outer(v, v)
    second += st * (np.outer(u, v) + np.outer(v, u))
    return d / 3 * area, d / 4 * first, d / 5 * second, area


def _along(edge: Any, p0: Any, u: Any, v: Any) -> Any | None:
    """The six line integrals along an edge as its curve runs."""
    curve = BRepAdaptor_Curve(edge)
    kind, first, last = curve.GetType(), curve.FirstParameter(), curve.LastParameter()
    if kind == GeomAbs_CurveType.GeomAbs_Line:
        nodes, weights = _LINE
        a, b = curve.Value(first), curve.Value(last)
        ends = np.array([[a.X(), a.Y(), a.Z()], [b.X(), b.Y(), b.Z()]]) - p0
        s01, t01 = ends @ u, ends @ v
        x = (nodes + 1) / 2
        s, t = s01[0] + x * (s01[1] - s01[0]), t01[0] + x * (t01[1] - t01[0])
        ds, dt = (np.full(3, (q[1] - q[0]) / 2) * weights for q in (s01, t01))
    elif kind == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        at, r = circle.Location(), circle.Radius()
        axes = circle.Position()
        x, y = axes.XDirection(), axes.YDirection()
        c = np.array([at.X(), at.Y(), at.Z()]) - p0
        xs, ys = np.array([x.X(), x.Y(), x.Z()]), np.array([y.X(), y.Y(), y.Z()])
        if abs(last - first - 2 * math.pi) < NOTHING:
            angle = first + 2 * math.pi * np.arange(_ROUND) / _ROUND
            weight = np.full(_ROUND, 2 * math.pi / _ROUND)
        else:
            nodes, weights = _ARC
            angle, weight = (first + last) / 2 + (last - first) / 2 * nodes, (last - first) / 2 * weights
        cos, sin = np.cos(angle), np.sin(angle)
        s = c @ u + r * (cos * (xs @ u) + sin * (ys @ u))
        t = c @ v + r * (cos * (xs @ v) + sin * (ys @ v))
        ds = r * (-sin * (xs @ u) + cos * (ys @ u)) * weight
        dt = r * (-sin * (xs @ v) + cos * (ys @ v)) * weight
    else:
        return None
    return np.array([
        ((s * dt - t * ds) / 2).sum(), (s * s * dt / 2).sum(), (-t * t * ds / 2).sum(), (s**3 * dt / 3).sum(),
        (-(t**3) * ds / 3).sum(), (s * s * t * dt / 2).sum(),
    ])  # fmt: skip
