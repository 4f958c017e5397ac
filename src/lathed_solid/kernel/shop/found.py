"""All that is found for the shop, seen from part zero.

Where the route sets a part datum, that is zero. Else a turned part has it in the middle of its right end, Z along the
axis out of it, X across; a milled part at the left front corner of its top, its axes those of the part.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve

from lathed_solid.kernel.drawing.figures import Stood
from lathed_solid.kernel.drawing.sides import stood
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.properties import volume
from lathed_solid.kernel.shop.corners import floors, inner_corners, sharp_corners
from lathed_solid.kernel.shop.figures import FoundHole, ShopFigures, Station, Zero
from lathed_solid.kernel.shop.holes import found_holes
from lathed_solid.kernel.shop.stations import stations
from lathed_solid.kernel.topology import edges
from lathed_solid.kernel.vectors import Triple, cross, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

#: the kernel's box reaches so far beyond a part, mm
MARGIN = 1e-5
#: places along an edge
CHORDS = 24


def shop_figures(look: Look, parts: Parts) -> ShopFigures:
    """Everything of one body, or several seen as one."""
    body = look.body
    how = _exactly(look, stood(body))
    zero = _zero(parts, how)
    ways = (zero.z, times(cross(zero.z, zero.x), -1.0), zero.x, times(zero.x, -1.0), cross(zero.z, zero.x),
            times(zero.z, -1.0))  # fmt: skip
    y = cross(zero.z, zero.x)
    found = found_holes(look, parts, ways)
    size, low = _box_from(how, zero, y)
    turned: tuple[Station, ...] = ()
    if how.axis is not None:
        axis = how.axis
        ends = (how.low, how.high)
        along = [dot(e, axis) for e in ends]
        end = max(along) if dot(zero.z, axis) > 0 or abs(dot(zero.z, axis)) < ANGULAR else min(along)
        out = axis if end == max(along) else times(axis, -1.0)
        middle: Triple = tuple((a + b) / 2 for a, b in zip(how.low, how.high, strict=True))  # type: ignore[assignment]
        foot = minus(middle, times(axis, dot(middle, axis) - end))
        turned = stations(body, parts, foot, out)
        # a bore about the part's own axis is turned
        found = tuple(h for h in found if not _about(h, foot, axis))
    return ShopFigures(
        "turned" if how.axis is not None else "milled", zero, size, low, volume(body.shape),
        tuple(_seen(h, zero, y) for h in found), turned,
        tuple(replace(c, at=_point(c.at, zero, y)) for c in inner_corners(look)),
        tuple(replace(c, at=_point(c.at, zero, y)) for c in sharp_corners(look)),
        tuple(replace(f, out=_way(f.out, zero, y), ways=tuple(_way(w, zero, y) for w in f.ways))
              for f in floors(look, ways)),
        _hexagon(look, how), _around(look, how, (zero.x, y, zero.z)),
    )  # fmt: skip


def _exactly(look: Look, how: Stood) -> Stood:
    """The box by the faces' edges where those reach as far: they are exact, the kernel's box has a margin."""
    ends = [list(how.low), list(how.high)]
    for k in range(3):
        way: Triple = (float(k == 0), float(k == 1), float(k == 2))
        reaches = [look.read(f).extent(way) for faces in look.body.by_atom.values() for f in faces]
        for end, value in ((0, min(r[0] for r in reaches)), (1, max(r[1] for r in reaches))):
            if abs(ends[end][k] - value) < MARGIN:
                ends[end][k] = value
    return replace(how, low=(ends[0][0], ends[0][1], ends[0][2]), high=(ends[1][0], ends[1][1], ends[1][2]))


def _about(h: FoundHole, foot: Triple, axis: Triple) -> bool:
    away = minus(h.mouth, foot)
    off = minus(away, times(axis, dot(away, axis)))
    return abs(dot(h.out, axis)) > 1 - ANGULAR and dot(off, off) < LINEAR


def _zero(parts: Parts, how: Stood) -> Zero:
    told = parts.datums.get("zero")
    if told is not None:
        return Zero(told.origin, told.x, told.direction, "the part datum of the route", told=True)
    low, high = how.low, how.high
    if how.axis is not None:
        k = next(i for i in range(3) if abs(how.axis[i]) > 0.5)
        at = [(a + b) / 2 for a, b in zip(low, high, strict=True)]
        at[k] = high[k]
        z: Triple = (float(k == 0), float(k == 1), float(k == 2))
        x: Triple = (0.0, 0.0, 1.0) if k != 2 else (1.0, 0.0, 0.0)
        return Zero((at[0], at[1], at[2]), x, z, "the middle of the right end, Z along the axis out of it", told=False)
    corner = (low[0], low[1], high[2])
    return Zero(corner, (1.0, 0.0, 0.0), (0.0, 0.0, 1.0), "the left front corner of the top", told=False)


def _point(p: Triple, zero: Zero, y: Triple) -> Triple:
    return _way(minus(p, zero.origin), zero, y)


def _way(d: Triple, zero: Zero, y: Triple) -> Triple:
    return dot(d, zero.x) + 0.0, dot(d, y) + 0.0, dot(d, zero.z) + 0.0


def _seen(h: FoundHole, zero: Zero, y: Triple) -> FoundHole:
    return replace(h, mouth=_point(h.mouth, zero, y), out=_way(h.out, zero, y))


def _box_from(how: Stood, zero: Zero, y: Triple) -> tuple[Triple, Triple]:
    """The size of the box along zero's axes, and its least corner there."""
    (a, b, c), (d, e, f) = how.low, how.high
    corners = [_point((p, q, r), zero, y) for p in (a, d) for q in (b, e) for r in (c, f)]
    low = tuple(min(p[k] for p in corners) for k in range(3))
    high = tuple(max(p[k] for p in corners) for k in range(3))
    size = tuple(h - k for k, h in zip(low, high, strict=True))
    return size, low  # type: ignore[return-value]


def _around(look: Look, how: Stood, ways: tuple[Triple, Triple, Triple]) -> Triple:
    """Diameters of circles about the box's middle, by places along all edges."""
    middle = np.array([(a + b) / 2 for a, b in zip(how.low, how.high, strict=True)])
    places = []
    for edge in edges(look.body.shape):
        curve = BRepAdaptor_Curve(edge)
        first, last = curve.FirstParameter(), curve.LastParameter()
        places += [curve.Value(first + (last - first) * k / CHORDS) for k in range(CHORDS + 1)]
    away = np.array([(p.X(), p.Y(), p.Z()) for p in places]) - middle
    out = []
    for way in ways:
        d = np.array(way)
        out.append(2 * float(np.linalg.norm(away - np.outer(away @ d, d), axis=1).max()))
    return (out[0], out[1], out[2])


def _hexagon(look: Look, how: Stood) -> float | None:
    """Width across flats of six outer flats along the axis that stand in sixths of a turn."""
    if how.axis is None:
        return None
    levels: list[float] = []
    for faces in look.body.by_atom.values():
        for face in faces:
            s = look.read(face)
            if s.kind == "plane" and abs(dot(s.direction, how.axis)) < ANGULAR:
                levels.append(round(dot(s.direction, s.origin), 4))
    best = max(set(levels), key=levels.count, default=0.0)
    return 2 * best if levels.count(best) == 6 and best > 0 else None
