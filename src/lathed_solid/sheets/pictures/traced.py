"""The linework of a straight sheet traced: chains of thinned ink taken apart into straight lines and arcs.

A chain is taken apart into lines and circles (``fitted``). Neighbours end where they meet: two lines at their crossing,
a line and an arc at their common place, an arc between two lines that it touches exactly tangent to both. An end that
falls short of another line, by the width of lines and what thinning took, is drawn on to it.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from lathed_solid.sheets.pictures.fitted import Fit, fitted, fitted_circle, turn_about
from lathed_solid.sheets.pictures.ruled import pens
from lathed_solid.sheets.pictures.thinned import Chain
from lathed_solid.sheets.rims import Piece, Place

Array = Any
#: an arrowhead is shorter, mm, and deeper than the wider pen's line so many times
ARROW, DEEP = 6.0, 1.5
#: ink is off a line by no more, mm, and pixels
OFF, PIXELS = 0.14, 1.1
#: lines meet where they turn by more, rad; their crossing is no farther from the break, mm
TURNS, FAR = 0.12, 1.0
#: an end falls short by no more, mm; and is drawn past by so much, that it ends on the other
SHORT, PAST = 0.9, 0.02
#: shorter pieces are none, mm
LEAST = 0.5


@dataclass(frozen=True)
class Line:
    """What one pen of ``wide`` mm drew in one go; ``chain``: the number of the chain that it was traced from."""

    bits: tuple[Piece, ...]
    wide: float
    closed: bool = False
    dashed: bool = False
    chain: int = -1

    def run(self) -> list[Place]:
        """The places along it."""
        run = [self.bits[0].a]
        for bit in self.bits:
            run += bit.points()[1:]
        if self.closed:
            run[-1] = run[0]
        return run


def lines_of(chains: Sequence[Chain], rows: int, mm: float) -> list[Line]:
    """The lines of a sheet ``rows`` pixels high, ``mm`` to a pixel; places in mm from the bottom left."""
    if not chains:
        return []
    thin, thick, _ = pens(np.array([c.width for c in chains]), np.array([float(len(c.places)) for c in chains]))
    out = []
    for number, c in enumerate(chains):
        own = np.column_stack([(c.places[:, 0] + 0.5) * mm, (rows - c.places[:, 1] - 0.5) * mm])
        bits = _bits(own, max(OFF, PIXELS * mm), closed=c.closed)
        if bits:
            arrow = len(c.places) * mm < ARROW and c.deepest > DEEP * thick / 2 + 0.3
            heavy = c.width > (thin + thick) / 2 and not arrow
            out.append(Line(tuple(bits), (thick if heavy else thin) * mm, c.closed, chain=number))
    return out


# where they meet -------------------------------------------------------------------------------------
def _bits(own: Array, off: float, *, closed: bool) -> list[Piece]:
    """A chain of places (n, 2) in mm as lines and arcs that end on each other."""
    if closed:
        whole = fitted_circle(own)
        if whole is not None and whole.off < off + 0.01 * whole.radius:
            a = (float(whole.place[0] + whole.radius), float(whole.place[1]))
            return [Piece(a, a, (float(whole.place[0]), float(whole.place[1])), whole.radius, 2 * math.pi)]
    if np.linalg.norm(np.ptp(own, axis=0)) < LEAST:
        return []
    fits, cuts, own = fitted(own, off, closed=closed)
    return _meeting(fits, own, cuts, closed=closed)


def _meeting(fits: list[Fit], own: Array, cuts: Sequence[int], *, closed: bool) -> list[Piece]:
    """Lines and arcs that end on each other."""
    n = len(fits)
    fits = [_rounding(fits[k - 1], f, fits[(k + 1) % n]) if f.round and n > 2 and (closed or 0 < k < n - 1) else f
            for k, f in enumerate(fits)]  # fmt: skip
    ends = [fits[0].nearest(own[0])]
    ends += [_joint(one, two, own[cuts[k + 1]]) for k, (one, two) in enumerate(itertools.pairwise(fits))]
    ends.append(fits[-1].nearest(own[-1]))
    if closed and n > 1:
        ends[0] = ends[-1] = _joint(fits[-1], fits[0], own[0])
    out = []
    for k, f in enumerate(fits):
        a, b = ((float(e[0]), float(e[1])) for e in ends[k : k + 2])
        if not f.round:
            out.append(Piece(a, b))
            continue
        sweep = turn_about(f, ends[k], own[(cuts[k] + cuts[k + 1]) // 2], ends[k + 1])
        out.append(Piece(a, b, (float(f.place[0]), float(f.place[1])), f.radius, sweep))
    return out


def _joint(one: Fit, two: Fit, near: Array) -> Array:
    """Where two neighbours meet, near their break."""
    if one.round and two.round:
        return (one.nearest(near) + two.nearest(near)) / 2
    if not one.round and not two.round:
        cross = float(one.way[0] * two.way[1] - one.way[1] * two.way[0])
        if abs(cross) > math.sin(TURNS):
            d = two.place - one.place
            met = one.place + one.way * float((d[0] * two.way[1] - d[1] * two.way[0]) / cross)
            if np.linalg.norm(met - near) < FAR:
                return np.asarray(met)
        return (one.nearest(near) + two.nearest(near)) / 2
    line, arc = (two, one) if one.round else (one, two)
    foot = line.nearest(arc.place)
    away = float(np.linalg.norm(foot - arc.place))
    half = math.sqrt(max(0.0, arc.radius**2 - away**2))
    met = min((foot + s * half * line.way for s in (1, -1)), key=lambda p: float(np.linalg.norm(p - near)))
    return met if np.linalg.norm(met - near) < FAR else line.nearest(near)


def _rounding(before: Fit, arc: Fit, after: Fit) -> Fit:
    """An arc that nearly touches both lines at its sides, tangent to both; any other as it is."""
    if before.round or after.round:
        return arc
    normals = [np.array([-f.way[1], f.way[0]]) for f in (before, after)]
    offs = [float((arc.place - f.place) @ k) for f, k in zip((before, after), normals, strict=True)]
    slack = max(2 * OFF, 0.05 * arc.radius)
    if any(abs(abs(o) - arc.radius) > slack for o in offs):
        return arc
    sides = [math.copysign(1.0, o) for o in offs]
    cross = float(before.way[0] * after.way[1] - before.way[1] * after.way[0])
    if abs(cross) < math.sin(TURNS):  # the end of a slot: half as wide as its lines are apart
        apart = float((after.place - before.place) @ normals[0])
        found = replace(arc, place=arc.place + normals[0] * (apart / 2 - offs[0]), radius=abs(apart) / 2)
    else:
        right = [float(k @ f.place) + s * arc.radius for f, k, s in zip((before, after), normals, sides, strict=True)]
        found = replace(arc, place=np.linalg.solve(np.array(normals), np.array(right)))
    return found if np.linalg.norm(found.place - arc.place) < slack else arc


def ended(lines: Sequence[Line]) -> list[Line]:
    """Open ends that fall short of another line, or go past it by a hair, drawn on to it."""
    import shapely

    shapes = [shapely.linestrings(line.run()) for line in lines]
    tree = shapely.STRtree(shapes)
    out = []
    for n, line in enumerate(lines):
        bits = list(line.bits)
        for at in (0, -1) if not line.closed else ():
            bit = bits[at]
            if bit.centre is not None:
                continue
            end, other = (bit.a, bit.b) if at == 0 else (bit.b, bit.a)
            long = math.dist(end, other)
            way = ((end[0] - other[0]) / long, (end[1] - other[1]) / long) if long > 0 else (0.0, 0.0)
            back = min(SHORT, long / 2)
            probe = shapely.linestrings([(end[0] - back * way[0], end[1] - back * way[1]),
                                         (end[0] + SHORT * way[0], end[1] + SHORT * way[1])])  # fmt: skip
            met = [p for k in tree.query(probe) if k != n for p in _crossings(probe, shapes[k])]
            if met:
                x, y = min(met, key=lambda p: math.dist(p, end))
                to = (x + PAST * way[0], y + PAST * way[1])
                bits[at] = replace(bit, a=to) if at == 0 else replace(bit, b=to)
        out.append(replace(line, bits=tuple(bits)))
    return out


def _crossings(probe: Any, shape: Any) -> list[Place]:
    import shapely

    met = shapely.intersection(probe, shape)
    return [(float(x), float(y)) for part in shapely.get_parts(met) if part.geom_type == "Point"
            for x, y in part.coords]  # fmt: skip
