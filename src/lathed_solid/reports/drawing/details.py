"""Details: a groove too small to be dimensioned where it lies is drawn again, enlarged, in a circle (ISO 128-3).

A length gets one when it is narrow on paper and a line joins its ends, from which the outline goes on a little higher
at either end, or a little lower: that is the floor of a groove, or a collar; a thin flange is none. The circle stands
about the outermost of these; what is measured within it goes along: the floor's diameter, its radii. The detail's scale
is the first of the usual ones at which the length has room.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from lathed_solid.kernel.drawing.figures import (
    Arc,
    Curve,
    Length,
    Place,
    Projected,
    Run,
    SideName,
    ThreadLine,
    points_of,
)
from lathed_solid.reports.drawing.choosing import Shown

#: narrower than this on paper it is drawn again; so wide there, the circle no wider than that, mm
NARROW, WIDE, WIDEST = 2.2, 6.0, 60.0
#: usual scales, and how many times larger a detail is at least
SCALES, LARGER = (2.0, 5.0, 10.0, 20.0, 50.0), 2.0
#: the outline goes on no farther than so many times the length, or this on paper, mm
SHORT, SHORTEST = 3.0, 4.0
#: how far the circle goes beyond, of the length; places that are one, mm
ABOUT, SAME = 1.0, 1e-3
#: details of a view
MOST = 3
#: how far chords of a curve that is cut off stand from it, of the circle
CHORD = 0.002


@dataclass(frozen=True)
class Detail:
    """What a circle (``centre``, ``radius``, mm of the part) of a side shows at its own ``scale``, paper by part."""

    letter: str
    side: SideName
    centre: Place
    radius: float
    scale: float
    shown: tuple[Shown, ...]

    @property
    def name(self) -> str:
        """By which it is moved."""
        return f"detail {self.letter}"

    @property
    def title(self) -> str:
        """What stands above it."""
        return f"{self.letter} ({self.scale:g}:1)"


def details_of(
    side: Projected, shown: Sequence[Shown], scale: float, letters: Iterator[str]
) -> tuple[list[Detail], list[Shown]]:
    """The details of a side at its ``scale``, and the notes that stay in it."""
    rest = list(shown)
    taken: set[int] = set()
    out: list[Detail] = []
    for s in shown:
        if id(s) in taken or len(out) == MOST:
            continue
        found = _about(side, s, scale)
        if found is None:
            continue
        centre, radius, larger = found
        inside = {id(o): put for o in rest if (put := _within(o, centre, radius, s)) is not None}
        out.append(Detail(next(letters), side.side, centre, radius, larger, tuple(inside.values())))
        taken |= inside.keys()
        rest = [o for o in rest if id(o) not in taken]
    return out, rest


def _about(side: Projected, s: Shown, scale: float) -> tuple[Place, float, float] | None:
    """Centre and radius of the circle about a narrow length that is a groove's, and its scale; None for another."""
    it = s.length
    if it is None or not (width := it.end.at - it.start.at) > 0.0 or width * scale > NARROW:
        return None
    found = _profile(side, it, max(SHORT * width, SHORTEST / scale))
    if found is None:
        return None
    low, high = found
    radius = max(width, high - low) / 2 + ABOUT * max(width, (high - low) / 2)
    middle = ((it.start.at + it.end.at) / 2, (low + high) / 2)
    for larger in SCALES:
        if larger >= LARGER * scale and width * larger >= WIDE and 2 * radius * larger <= WIDEST:
            return (middle[1], middle[0]) if it.upright else middle, radius, larger
    return None


def _profile(side: Projected, it: Length, longest: float) -> tuple[float, float] | None:
    """Of the outermost floor between a length's ends, with what goes on from it: from where to where across."""
    k = int(it.upright)
    ends = [p for c in side.seen for p in _ends(c)]
    levels = [[p[1 - k] for p in ends if abs(p[k] - at) < SAME] for at in (it.start.at, it.end.at)]
    floors = set()
    for c in side.seen:
        if isinstance(c, Run) and len(c.points) == 2:
            first, last = sorted(c.points, key=lambda p: p[k])
            joined = abs(first[k] - it.start.at) < SAME and abs(last[k] - it.end.at) < SAME
            if joined and abs(first[1 - k] - last[1 - k]) < SAME:
                floors.add(round(first[1 - k], 6))
    for floor in sorted(floors, reverse=True):
        for way in (1.0, -1.0):
            beyond = [[d for v in own if SAME < (d := way * (v - floor)) <= longest] for own in levels]
            if all(beyond):
                far = floor + way * max(map(min, beyond))
                return min(floor, far), max(floor, far)
    return None


def _ends(c: Curve) -> tuple[Place, ...]:
    if isinstance(c, Run):
        return c.points[0], c.points[-1]
    return () if c.whole else (c.at(c.start), c.at(c.end))


def _within(o: Shown, centre: Place, radius: float, s: Shown) -> Shown | None:
    """A note as a detail shows it; None where it does not belong there: a length within the circle, or what is measured
    between the walls of ``s``.
    """
    if (it := o.length) is not None:
        k = int(it.upright)
        inside = all(abs(e.at - centre[k]) < radius for e in (it.start, it.end))
        if not inside or (o is not s and it.end.at - it.start.at > radius):
            return None
        low, high = centre[1 - k] - radius / 2, centre[1 - k] + radius / 2
        ends = [replace(e, low=max(e.low, low), high=min(e.high, high)) for e in (it.start, it.end)]
        if any(e.low > e.high for e in ends):
            return None
        return replace(o, length=replace(it, start=ends[0], end=ends[1]))
    span = s.length
    if span is None or o.corners or o.circles:
        return None
    k = int(span.upright)
    tips = tuple(
        t for t in o.tips
        if math.dist(t.place, centre) < radius and span.start.at - SAME < t.place[k] < span.end.at + SAME
    )  # fmt: skip
    return replace(o, tips=tips) if tips and not any(t.arc is not None for t in tips) else None


def enlarged(side: Projected, detail: Detail) -> Projected:
    """What of a side lies within a detail's circle, the rest of it cut off."""
    ring = Arc(detail.centre, detail.radius)
    seen = tuple(piece for c in side.seen for piece in _clipped(c, ring))
    threads = tuple(ThreadLine(piece, t.inside) for t in side.threads for piece in _clipped(t.curve, ring))
    hatched = tuple(_hatched(side.hatched, ring))
    return replace(side, seen=seen, hidden=(), axes=(), crosses=(), threads=threads, hatched=hatched)


def _clipped(curve: Curve, ring: Arc) -> Iterator[Curve]:
    """The pieces of a curve within a circle; as it is where it lies all within."""
    points = points_of(curve, CHORD * ring.radius)
    if all(math.dist(p, ring.centre) < ring.radius for p in points):
        yield curve
        return
    piece: list[Place] = []
    for a, b in itertools.pairwise(points):
        found = _chord(a, b, ring)
        if found is None:
            if len(piece) > 1:
                yield Run(tuple(piece))
            piece = []
            continue
        start, end = found
        if not piece or piece[-1] != start:
            if len(piece) > 1:
                yield Run(tuple(piece))
            piece = [start]
        piece.append(end)
    if len(piece) > 1:
        yield Run(tuple(piece))


def _chord(a: Place, b: Place, ring: Arc) -> tuple[Place, Place] | None:
    """What of a line lies within a circle: |a + t (b - a) - c| <= r for 0 <= t <= 1."""
    (ax, ay), (bx, by), (cx, cy) = a, b, ring.centre
    dx, dy, ux, uy = bx - ax, by - ay, ax - cx, ay - cy
    square, half, rest = dx * dx + dy * dy, ux * dx + uy * dy, ux * ux + uy * uy - ring.radius**2
    root = half * half - square * rest
    if square == 0.0 or root <= 0.0:
        return None
    first, last = max(0.0, (-half - math.sqrt(root)) / square), min(1.0, (-half + math.sqrt(root)) / square)
    if first >= last:
        return None

    def at(t: float) -> Place:
        return (ax + t * dx, ay + t * dy)

    return a if first == 0.0 else at(first), b if last == 1.0 else at(last)


def _hatched(bounds: Sequence[Sequence[Place]], ring: Arc) -> Iterator[tuple[Place, ...]]:
    """The bounds of what is cut, by the even-odd rule, within a circle."""
    if not bounds:
        return
    import shapely

    area = shapely.Polygon()
    for run in bounds:
        area = area.symmetric_difference(shapely.Polygon(run).buffer(0))
    inside = area.intersection(shapely.Point(ring.centre).buffer(ring.radius, quad_segs=32))
    for piece in shapely.get_parts(inside):
        if piece.geom_type == "Polygon" and not piece.is_empty:
            for line in (piece.exterior, *piece.interiors):
                yield tuple((float(x), float(y)) for x, y in line.coords[:-1])
