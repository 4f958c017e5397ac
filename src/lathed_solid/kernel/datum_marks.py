"""Datum planes, axes and points as they are shown beside the solid: frames, lines and crosses about its size."""

from __future__ import annotations

import math

from lathed_solid.kernel.figures import DatumMark
from lathed_solid.kernel.parts import Datum, Parts
from lathed_solid.kernel.topology import box
from lathed_solid.kernel.vectors import Triple, cross, dot, minus, times

#: a frame goes so far past the body, as a share of its size; so many are shown
PAST, MOST = 0.05, 60


def datum_marks(parts: Parts) -> tuple[DatumMark, ...]:
    """The datums that the route made, sized by the body; none before there is one."""
    if parts.whole is None:
        return ()
    low, high = box(parts.whole.shape)
    corners = [(x, y, z) for x in (low[0], high[0]) for y in (low[1], high[1]) for z in (low[2], high[2])]
    size = math.dist(low, high)
    shown = [(n, d) for n, d in parts.datums.items() if n != "zero"][:MOST]
    return tuple(DatumMark(d.kind, name, _lines(d, corners, size)) for name, d in shown)


def _lines(datum: Datum, corners: list[Triple], size: float) -> tuple[Triple, ...]:
    """The places that its line runs through, in order."""
    if datum.kind == "plane":
        x, y = datum.x, cross(datum.direction, datum.x)
        (a, b), (c, d) = (_reach(datum.origin, way, corners, PAST * size) for way in (x, y))
        return tuple(_at(datum.origin, x, p, y, q) for p, q in ((a, c), (b, c), (b, d), (a, d), (a, c)))
    if datum.kind == "axis":
        a, b = _reach(datum.origin, datum.direction, corners, PAST * size)
        return tuple(_at(datum.origin, datum.direction, t, datum.direction, 0.0) for t in (a, b))
    r = PAST * size / 2
    return tuple(_at(datum.origin, (1, 0, 0), p, (0, 1, 0), q) for p, q in ((-r, 0), (r, 0), (0, 0), (0, r), (0, -r)))


def _reach(origin: Triple, way: Triple, corners: list[Triple], past: float) -> tuple[float, float]:
    along = [dot(minus(c, origin), way) for c in corners]
    return min(along) - past, max(along) + past


def _at(o: Triple, x: Triple, p: float, y: Triple, q: float) -> Triple:
    (ax, ay, az), (bx, by, bz) = times(x, p), times(y, q)
    return (o[0] + ax + bx, o[1] + ay + by, o[2] + az + bz)
