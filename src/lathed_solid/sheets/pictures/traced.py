"""The linework of a straight sheet traced: chains of thinned ink taken apart into straight lines and arcs.

A chain is taken apart greedily: from a place on, as far as a straight line, or a circle (least squares; I. Kasa, IEEE
Transactions on Instrumentation and Measurement 25, 1976), stays within ``OFF`` of the ink; each break between two is
moved to where both fit best. Neighbours end where they meet: two lines at their crossing, a line and an arc at their
common place, an arc between two lines that it touches exactly tangent to both. What is nearly level or upright is
made so. An end that falls short of another line, by the width of lines and what thinning took, is drawn on to it.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from lathed_solid.sheets.pictures.ruled import pens
from lathed_solid.sheets.pictures.thinned import Chain

Array = Any
Place = tuple[float, float]
#: an arrowhead is shorter, mm, and deeper than the wider pen's line so many times
ARROW, DEEP = 6.0, 1.5
#: ink is off a line by no more, mm, and pixels
OFF, PIXELS = 0.14, 1.1
#: and off an arc, mm: a bevel is none
ROUND = 0.085
#: what leans by less from level or upright is so: as an angle, rad, or mm from end to end
LEANS, ACROSS = 0.006, 0.14
#: lines meet where they turn by more, rad; their crossing is no farther from the break, mm
TURNS, FAR = 0.12, 1.0
#: an end falls short by no more, mm; and is drawn past by so much, that it ends on the other
SHORT, PAST = 0.9, 0.02
#: an arc goes round by at least this, rad, and is no larger, mm
SWEEP, LARGEST = 0.35, 400.0
#: chords of an arc, rad
CHORD = math.radians(7.5)
#: shorter pieces are none, mm; nor are such between two lines that meet
LEAST, STUB = 0.5, 0.55
#: two lines in a row are one when it is off by no more than this, in what a line may be off
ONE_LINE = 1.25


@dataclass(frozen=True)
class Bit:
    """A straight line, or an arc about ``centre``: its ends, in mm."""

    a: Place
    b: Place
    centre: Place | None = None
    radius: float = 0.0
    sweep: float = 0.0

    def points(self) -> list[Place]:
        """Its ends, and the chords of an arc."""
        if self.centre is None:
            return [self.a, self.b]
        n = max(3, math.ceil(abs(self.sweep) / CHORD))
        start = math.atan2(self.a[1] - self.centre[1], self.a[0] - self.centre[0])
        inner = [start + self.sweep * k / n for k in range(1, n)]
        return [self.a, *((self.centre[0] + self.radius * math.cos(t), self.centre[1] + self.radius * math.sin(t))
                          for t in inner), self.b]  # fmt: skip


@dataclass(frozen=True)
class Line:
    """What one pen of ``wide`` mm drew in one go; ``chain``: the number of the chain that it was traced from."""

    bits: tuple[Bit, ...]
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


# lines and arcs --------------------------------------------------------------------------------------
@dataclass(frozen=True)
class _Fit:
    """A line through ``place`` along ``way``, or a circle; how far the farthest place is off."""

    place: Array
    way: Array
    radius: float
    off: float

    @property
    def round(self) -> bool:
        """A circle about ``place``."""
        return self.radius > 0

    def nearest(self, p: Array) -> Array:
        """The place on it that is nearest to ``p``."""
        d = p - self.place
        if self.round:
            return self.place + d * (self.radius / max(float(np.linalg.norm(d)), 1e-9))
        return self.place + self.way * float(d @ self.way)


def _line(own: Array) -> _Fit:
    middle = own.mean(axis=0)
    _, _, axes = np.linalg.svd(own - middle, full_matrices=False)
    way = axes[0] if axes[0] @ (own[-1] - own[0]) >= 0 else -axes[0]
    off = np.abs((own - middle) @ np.array([-way[1], way[0]]))
    return _Fit(middle, way, 0.0, float(off.max()))


def _circle(own: Array) -> _Fit | None:
    """The circle of least squares; None for what goes round by too little, or too far off."""
    middle = own.mean(axis=0)
    u = own - middle
    rows = np.column_stack([2 * u, np.ones(len(u))])
    (a, b, c), _, rank, _ = np.linalg.lstsq(rows, (u * u).sum(axis=1), rcond=None)
    r2 = c + a * a + b * b
    if rank < 3 or r2 <= 0 or r2 > LARGEST * LARGEST:
        return None
    centre, radius = middle + np.array((a, b)), math.sqrt(r2)
    off = np.abs(np.linalg.norm(own - centre, axis=1) - radius)
    return _Fit(centre, np.zeros(2), radius, float(off.max()))


def _bits(own: Array, off: float, *, closed: bool) -> list[Bit]:
    """A chain of places (n, 2) in mm as lines and arcs."""
    if closed:
        whole = _circle(own)
        if whole is not None and whole.off < off + 0.01 * whole.radius:
            a = (float(whole.place[0] + whole.radius), float(whole.place[1]))
            return [Bit(a, a, (float(whole.place[0]), float(whole.place[1])), whole.radius, 2 * math.pi)]
        # begun where it turns most, so that no line is cut in two
        own = np.roll(own, -_corner(own), axis=0)
        own = np.vstack([own, own[:1]])
    if np.linalg.norm(np.ptp(own, axis=0)) < LEAST:
        return []
    cuts, fits = [0], []
    while cuts[-1] < len(own) - 1:
        end, fit = _farthest(own, cuts[-1], off)
        cuts.append(end)
        fits.append(fit)
    fits, cuts = _settled(own, *_without_stubs(own, *_settled(own, fits, cuts), off, closed=closed))
    level = [_level(f, own[a], own[b]) for f, (a, b) in zip(fits, itertools.pairwise(cuts), strict=True)]
    return _meeting(level, own, cuts, closed=closed)


def _corner(own: Array) -> int:
    """The place of a closed run at which it turns most, looked at over a twentieth of it."""
    k = max(2, len(own) // 40)
    there, back = np.roll(own, -k, axis=0) - own, own - np.roll(own, k, axis=0)
    cos = (there * back).sum(axis=1) / np.maximum(np.linalg.norm(there, axis=1) * np.linalg.norm(back, axis=1), 1e-9)
    return int(cos.argmin())


def _farthest(own: Array, start: int, off: float) -> tuple[int, _Fit]:
    """How far from ``start`` on a line, or a circle where that goes much farther, stays within ``off``."""
    end, line = _reach(own, start, off, _line)
    far, circle = _reach(own, start, min(off, ROUND), _circle)
    if circle is not None and far > start + 1.4 * (end - start) + 2:
        sweep = _sweep(circle, own[start], own[(start + far) // 2], own[far])
        if abs(sweep) > SWEEP:
            return far, circle
    assert line is not None
    return end, line


def _reach(own: Array, start: int, off: float, fit: Any) -> tuple[int, _Fit | None]:
    """The last place up to which ``fit`` holds, by doubling and halving; and the fit."""
    last = len(own) - 1
    low, best = min(start + 1, last), _line(own[start : start + 2]) if fit is _line else None
    step = 4
    high = None
    while low < last:
        end = min(low + step, last) if high is None else (low + high) // 2
        if end == low:
            break
        found = fit(own[start : end + 1]) if fit is _line or end - start > 4 else None
        # what is straight as yet may still go round
        if (found is not None and found.off <= off) or (fit is _circle and _line(own[start : end + 1]).off <= off):
            low, best, step = end, found, step * 2
        else:
            high = end
        if high is not None and high - low <= 1:
            break
    return low, best


def _sweep(circle: _Fit, a: Array, b: Array, c: Array) -> float:
    """How far the circle goes round from ``a`` over ``b`` to ``c``, rad, against the clock positive."""
    u, v, w = (p - circle.place for p in (a, b, c))

    def turn(p: Array, q: Array) -> float:
        return math.atan2(float(p[0] * q[1] - p[1] * q[0]), float(p @ q))

    return turn(u, v) + turn(v, w)


def _settled(own: Array, fits: list[_Fit], cuts: list[int]) -> tuple[list[_Fit], list[int]]:
    """Each break moved to where both sides fit best, and the sides fitted anew without the places next to it."""
    cuts = list(cuts)
    for k in range(1, len(fits)):
        a, b = cuts[k - 1], cuts[k + 1]
        one, two = (np.linalg.norm(own[a : b + 1] - np.array([f.nearest(p) for p in own[a : b + 1]]), axis=1)
                    for f in fits[k - 1 : k + 1])  # fmt: skip
        before, after = np.cumsum(one * one), np.cumsum((two * two)[::-1])[::-1]
        cuts[k] = a + 1 + int((before[1:-1] + after[2:]).argmin()) if b - a > 2 else cuts[k]
    again = []
    for f, (a, b) in zip(fits, itertools.pairwise(cuts), strict=True):
        trim = min(3, max(0, (b - a - 6) // 2))
        part = own[a + trim : b + 1 - trim]
        found = (_circle(part) if f.round else _line(part)) if len(part) > (4 if f.round else 1) else None
        again.append(f if found is None else found)
    return again, cuts


def _without_stubs(
    own: Array, fits: list[_Fit], cuts: list[int], off: float, *, closed: bool
) -> tuple[list[_Fit], list[int]]:
    """Without what is left over at a corner between two lines, and with lines that are one made one."""
    k = 0
    while k < len(fits):
        ends = not closed and k in (0, len(fits) - 1)
        stub = len(fits) > 2 and not ends and np.linalg.norm(own[cuts[k + 1]] - own[cuts[k]]) < STUB
        if stub and not (fits[k - 1].round or fits[(k + 1) % len(fits)].round):
            middle = (cuts[k] + cuts[k + 1]) // 2
            del fits[k]
            if k == 0:
                del cuts[1]
            elif k == len(fits):
                del cuts[k]
            else:
                cuts[k : k + 2] = [middle]
            k = max(k - 1, 0)
            continue
        if k + 1 < len(fits) and not (fits[k].round or fits[k + 1].round):
            one = _line(own[cuts[k] : cuts[k + 2] + 1])
            if one.off <= ONE_LINE * off:
                fits[k : k + 2] = [one]
                del cuts[k + 1]
                continue
        k += 1
    return fits, cuts


def _level(f: _Fit, a: Array, b: Array) -> _Fit:
    """What is nearly level or upright made so."""
    if f.round:
        return f
    long = float(np.linalg.norm(b - a))
    for axis in (0, 1):
        lean = abs(float(f.way[1 - axis]))
        if lean < LEANS or lean * long < ACROSS * min(1.0, long / 4):
            way = np.zeros(2)
            way[axis] = math.copysign(1.0, f.way[axis])
            return replace(f, way=way)
    return f


# where they meet -------------------------------------------------------------------------------------
def _meeting(fits: list[_Fit], own: Array, cuts: Sequence[int], *, closed: bool) -> list[Bit]:
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
            out.append(Bit(a, b))
            continue
        sweep = _sweep(f, ends[k], own[(cuts[k] + cuts[k + 1]) // 2], ends[k + 1])
        out.append(Bit(a, b, (float(f.place[0]), float(f.place[1])), f.radius, sweep))
    return out


def _joint(one: _Fit, two: _Fit, near: Array) -> Array:
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


def _rounding(before: _Fit, arc: _Fit, after: _Fit) -> _Fit:
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
        centre = arc.place + normals[0] * (apart / 2 - offs[0])
        return replace(arc, place=centre, radius=abs(apart) / 2)
    rows = np.array(normals)
    right = [float(k @ f.place) + s * arc.radius for f, k, s in zip((before, after), normals, sides, strict=True)]
    return replace(arc, place=np.linalg.solve(rows, np.array(right)))


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
