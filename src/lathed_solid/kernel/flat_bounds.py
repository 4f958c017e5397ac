"""A flat face as a region of its plane, where lines and arcs of circles bound it: where a line meets it.

The plane is met at t = n . (o - p) / n . w. The place there lies within the bounds where a half line from it crosses
them an odd number of times (M. Shimrat, Algorithm 112, Comm. ACM 5, 1962): a segment where its ends lie on either
side, an arc at u = cu ± sqrt(r² - (v - cv)²) where the arc reaches so far. What is nearer than ``CLEAR`` to a bound, or
level with a corner or the crest of an arc, is not told: the kernel is asked, which takes ten times as long.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType, GeomAbs_SurfaceType
from OCP.TopAbs import TopAbs_Orientation, TopAbs_ShapeEnum
from OCP.TopExp import TopExp_Explorer

from lathed_solid.kernel.topology import edges
from lathed_solid.kernel.vectors import Triple, cross, dot, minus, plus, times, xyz

#: nearer to a bound, mm, and nearer to the level of a corner, mm, nothing is told
CLEAR, LEVEL = 1e-4, 1e-7
#: bounds that lie so far off the plane, mm, or more of them than this, are the kernel's to answer for
OFF, MOST = 1e-6, 400
#: lines along the plane, by the sine between them
ALONG = 1e-9
#: an arc that goes all round, rad
WHOLE = 2 * math.pi - ALONG
#: the axes are turned so far in the plane, rad, so that places seldom are level with corners
TURNED = 0.7391

Row = tuple[float, ...]
_WITHIN = (TopAbs_Orientation.TopAbs_FORWARD, TopAbs_Orientation.TopAbs_REVERSED)


class FlatBounds:
    """``lines``: from (u, v), to (u, v); ``arcs``: centre (u, v), radius, start and sweep to the left, in the plane's
    axes, mm and rad.
    """

    def __init__(
        self, origin: Triple, axes: tuple[Triple, Triple], lines: Sequence[Row], arcs: Sequence[Row]
    ) -> None:  # fmt: skip
        self.normal, self.axes, self.origin = cross(*axes), axes, origin
        self.level = dot(self.normal, origin)
        self.lines, self.arcs = lines, arcs

    def meets(self, origin: Triple, way: Triple, start: float, end: float) -> list[float] | None:
        """Where a stretch of a line (``way`` of length 1) meets the face; None where it is too near to a bound."""
        lean, off = dot(self.normal, way), self.level - dot(self.normal, origin)
        if abs(lean) < ALONG:
            return [] if abs(off) > CLEAR else None
        t = off / lean
        if not start - CLEAR < t < end + CLEAR:
            return []
        if abs(t - start) < CLEAR or abs(t - end) < CLEAR:
            return None
        at = minus(plus(origin, times(way, t)), self.origin)
        within = self.within(dot(at, self.axes[0]), dot(at, self.axes[1]))
        return None if within is None else [t] if within else []

    def within(self, u: float, v: float) -> bool | None:
        """Whether a place of the plane lies in the face; None where it is too near to a bound."""
        odd = False
        for bounds, crossed in ((self.lines, _crosses_line), (self.arcs, _crosses_arc)):
            for bound in bounds:
                found = crossed(u, v, *bound)
                if found is None:
                    return None
                odd ^= found
        return odd


def _crosses_line(u: float, v: float, u0: float, v0: float, u1: float, v1: float) -> bool | None:
    """Whether the half line from a place to greater u crosses a segment; None where it is too near to tell."""
    if (v0 > v + CLEAR and v1 > v + CLEAR) or (v0 < v - CLEAR and v1 < v - CLEAR):
        return False
    du, dv = u1 - u0, v1 - v0
    share = min(max(((u - u0) * du + (v - v0) * dv) / (du * du + dv * dv), 0.0), 1.0)
    if math.hypot(u - u0 - share * du, v - v0 - share * dv) < CLEAR or abs(v0 - v) < LEVEL or abs(v1 - v) < LEVEL:
        return None
    return (v0 > v) != (v1 > v) and u0 + (v - v0) / dv * du > u


def _crosses_arc(u: float, v: float, cu: float, cv: float, r: float, start: float, sweep: float) -> bool | None:
    """The same of an arc."""
    h = v - cv
    if abs(h) > r + CLEAR:
        return False
    if abs(math.hypot(u - cu, h) - r) < CLEAR or abs(abs(h) - r) < LEVEL:
        return None
    if abs(h) > r:
        return False
    half = math.sqrt(r * r - h * h)
    if sweep >= WHOLE:
        return (cu - half > u) != (cu + half > u)
    if any(abs(h - r * math.sin(end)) < LEVEL for end in (start, start + sweep)):
        return None
    odd = False
    for side in (-half, half):
        odd ^= cu + side > u and (math.atan2(h, side) - start) % (2 * math.pi) <= sweep
    return odd


def flat_bounds(face: Any) -> FlatBounds | None:
    """A face's bounds in its plane; None for one that is not flat, or has other bounds than lines and arcs."""
    surface = BRepAdaptor_Surface(face, False)
    if surface.GetType() != GeomAbs_SurfaceType.GeomAbs_Plane:
        return None
    bounds = edges(face)
    if len(bounds) > MOST or _runs(face) != len(bounds) or any(e.Orientation() not in _WITHIN for e in bounds):
        return None  # a slit is run along twice
    frame = surface.Plane().Position()
    o, x, y = (xyz(it) for it in (frame.Location(), frame.XDirection(), frame.YDirection()))
    c, s = math.cos(TURNED), math.sin(TURNED)
    axes = (plus(times(x, c), times(y, s)), plus(times(x, -s), times(y, c)))
    normal = cross(*axes)

    def flat(p: Any) -> tuple[float, float]:
        at = minus(xyz(p), o)
        if abs(dot(at, normal)) > OFF:
            raise ValueError
        return dot(at, axes[0]), dot(at, axes[1])

    lines: list[Row] = []
    arcs: list[Row] = []
    try:
        for edge in bounds:
            curve = BRepAdaptor_Curve(edge)
            first, last = curve.FirstParameter(), curve.LastParameter()
            a, m, b = (flat(curve.Value(t)) for t in (first, (first + last) / 2, last))
            if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
                lines.append((*a, *b))
            elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
                circle = curve.Circle()
                arcs.append(_arc(flat(circle.Location()), circle.Radius(), a, m, b, last - first))
            else:
                return None
    except ValueError:
        return None
    return FlatBounds(o, axes, lines, arcs)


def _arc(
    centre: tuple[float, float], radius: float, first: tuple[float, float], middle: tuple[float, float],
    last: tuple[float, float], sweep: float,
) -> tuple[float, float, float, float, float]:  # fmt: skip
    """By its centre, radius, start and sweep, to the left."""
    a, m, b = (math.atan2(p[1] - centre[1], p[0] - centre[0]) for p in (first, middle, last))
    left = (m - a) % (2 * math.pi) <= math.pi if sweep < WHOLE else True
    return *centre, radius, a if left else b, min(sweep, 2 * math.pi)


def _runs(face: Any) -> int:
    """Edges of a face, one that is run along twice counted twice."""
    count, it = 0, TopExp_Explorer(face, TopAbs_ShapeEnum.TopAbs_EDGE)
    while it.More():
        count += 1
        it.Next()
    return count
