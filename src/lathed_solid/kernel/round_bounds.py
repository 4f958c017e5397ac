"""A cylinder's or cone's face between two circles about its axis and, if it does not go all round, two of its own
straight lines: where a line meets it.

In the axes of the surface, with the radius R + z tan(a) at the height z, the line o + t w meets it where

    (wx² + wy² - k² wz²) t² + 2 (ox wx + oy wy - k wz r) t + ox² + oy² - r² = 0,   k = tan(a), r = R + k oz.

What is nearer than ``CLEAR`` to a bound, or touches, is not told: the kernel is asked, which takes ten times as long.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType

from lathed_solid.kernel.flat_bounds import CLEAR
from lathed_solid.kernel.topology import edges
from lathed_solid.kernel.vectors import Triple, dot, minus, xyz
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, NOTHING

_ROUND = frozenset({GeomAbs_SurfaceType.GeomAbs_Cylinder, GeomAbs_SurfaceType.GeomAbs_Cone})


@dataclass(frozen=True)
class RoundBounds:
    """``axes``: x, y and along; ``radius`` at the origin, which grows by ``slope``; from ``low`` to ``high`` along the
    axis, mm; from ``first`` over ``sweep``, rad.
    """

    origin: Triple
    axes: tuple[Triple, Triple, Triple]
    radius: float
    slope: float
    low: float
    high: float
    first: float
    sweep: float

    def meets(self, origin: Triple, way: Triple, start: float, end: float) -> list[float] | None:
        """Where a stretch of a line (``way`` of length 1) meets the face; None where it is too near to a bound."""
        away = minus(origin, self.origin)
        (ox, oy, oz), (wx, wy, wz) = ((dot(v, self.axes[0]), dot(v, self.axes[1]), dot(v, self.axes[2]))
                                      for v in (away, way))  # fmt: skip
        r, k = self.radius + self.slope * oz, self.slope * wz
        a, b, c = wx * wx + wy * wy - k * k, ox * wx + oy * wy - k * r, ox * ox + oy * oy - r * r
        if abs(a) < NOTHING:  # along the surface
            return [] if not k and abs(math.hypot(ox, oy) - r) > CLEAR else None
        square, widest = b * b - a * c, max(self._at(self.low), self._at(self.high))
        if abs(square) < 2 * abs(a) * widest * CLEAR:
            return None
        if square < 0:
            return []
        root = math.sqrt(square)
        out = []
        for t in ((-b - root) / a, (-b + root) / a):
            within = self._within(t, (ox + t * wx, oy + t * wy, oz + t * wz), start, end)
            if within is None:
                return None
            out += [t] if within else []
        return out

    def _at(self, z: float) -> float:
        return self.radius + self.slope * z

    def _within(self, t: float, at: Triple, start: float, end: float) -> bool | None:
        x, y, z = at
        if z < self.low - CLEAR or z > self.high + CLEAR or t < start - CLEAR or t > end + CLEAR:
            return False
        if min(z - self.low, self.high - z, t - start, end - t) < CLEAR:
            return None
        if self.sweep >= 2 * math.pi:
            return True
        turn, near = (math.atan2(y, x) - self.first) % (2 * math.pi), CLEAR / self._at(z)
        if min(turn, 2 * math.pi - turn, abs(turn - self.sweep)) < near:
            return None
        return turn < self.sweep


def round_bounds(face: Any) -> RoundBounds | None:
    """A face's bounds; None for one that is neither cylinder nor cone, has other bounds, or runs to a point."""
    surface = BRepAdaptor_Surface(face, False)
    if surface.GetType() not in _ROUND:
        return None
    cylinder = surface.GetType() == GeomAbs_SurfaceType.GeomAbs_Cylinder
    form = surface.Cylinder() if cylinder else surface.Cone()
    frame = form.Position()
    origin = xyz(frame.Location())
    axes = (xyz(frame.XDirection()), xyz(frame.YDirection()), xyz(frame.Direction()))
    radius, slope = (form.Radius(), 0.0) if cylinder else (form.RefRadius(), math.tan(form.SemiAngle()))
    rims, lines = [], 0
    for edge in edges(face):
        curve = BRepAdaptor_Curve(edge)
        if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
            lines += 1
        elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
            circle = curve.Circle()
            x, y, z = (dot(minus(xyz(circle.Location()), origin), a) for a in axes)
            if max(abs(x), abs(y), abs(circle.Radius() - radius - slope * z)) > LINEAR:
                return None
            rims.append((z, curve.LastParameter() - curve.FirstParameter()))
        else:
            return None
    if len(rims) != 2:
        return None
    (low, sweep), (high, other) = sorted(rims)
    if (
        abs(other - sweep) > ANGULAR
        or high - low < 2 * CLEAR
        or min(radius + slope * low, radius + slope * high) < CLEAR
    ):
        return None
    if sweep > 2 * math.pi - ANGULAR:
        return RoundBounds(origin, axes, radius, slope, low, high, 0.0, 2 * math.pi) if lines == 1 else None
    if lines != 2:
        return None
    told = BRepAdaptor_Surface(face)
    return RoundBounds(origin, axes, radius, slope, low, high, told.FirstUParameter(), sweep)
