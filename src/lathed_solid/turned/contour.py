"""The closed contour in the (z, r) half plane: vertices with corner treatments become lines and arcs.

A chamfer starts on the surface line at the axial distance ``leg`` from the corner and runs at its angle from
the axis to the wall. A radius R between two lines that meet at the interior angle t is tangent to both;
its tangent length is R / tan(t / 2) (elementary geometry, for any corner, square or tapered).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from lathed_solid.quantity.message_units import said
from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ, ROUNDING
from lathed_solid.turned.table import TableError

Point = tuple[float, float]
EPS = 1e-9


@dataclass(frozen=True, slots=True)
class Corner:
    """A broken corner: sizes in mm and rad; ``surface`` is the side that is the station's own line."""

    kind: str
    size: float
    angle: float
    name: str
    station: int
    surface: str  # "before" or "after" the vertex


@dataclass(frozen=True, slots=True)
class Vertex:
    """A contour vertex and the name of the line that leaves it."""

    at: Point
    leaving: str
    corner: Corner | None = None


@dataclass(frozen=True, slots=True)
class Segment:
    """A named line, or an arc when ``centre`` is given (then the shorter arc from start to end)."""

    name: str
    start: Point
    end: Point
    centre: Point | None = None

    @property
    def radius(self) -> float:
        """mm; 0 for a straight one."""
        return 0.0 if self.centre is None else math.dist(self.start, self.centre)

    @property
    def middle(self) -> Point:
        """The point half way along the segment."""
        mid = ((self.start[0] + self.end[0]) / 2, (self.start[1] + self.end[1]) / 2)
        if self.centre is None:
            return mid
        d = math.dist(mid, self.centre)
        k = self.radius / d
        return (
            self.centre[0] + (mid[0] - self.centre[0]) * k,
            self.centre[1] + (mid[1] - self.centre[1]) * k,
        )


def close_contour(vertices: list[Vertex]) -> tuple[Segment, ...]:
    """Segments of the closed contour, corners broken, zero-length lines dropped.

    Raises TableError, with the station, when a break does not fit on the lines beside it.
    """
    vertices = _without_repeats(vertices)
    n = len(vertices)
    cuts: list[tuple[Point, Point, Segment | None]] = []
    for i, vertex in enumerate(vertices):
        before, after = vertices[i - 1].at, vertices[(i + 1) % n].at
        cuts.append(_break(vertex, before, after))
    segments: list[Segment] = []
    for i, vertex in enumerate(vertices):
        _entry, leave, broken = cuts[i]
        if broken is not None:
            segments.append(broken)
        target = cuts[(i + 1) % n][0]
        _check_order(vertex, vertices[(i + 1) % n], leave, target)
        if math.dist(leave, target) > EPS:
            segments.append(Segment(vertex.leaving, leave, target))
    return tuple(segments)


def _without_repeats(vertices: list[Vertex]) -> list[Vertex]:
    """Drop vertices whose leaving line has no length; a corner on one moves to the next."""
    kept: list[Vertex] = []
    n = len(vertices)
    corner: Corner | None = None
    # from the end, where a bore's foot meets the first vertex of the outside
    for i in range(-1, n - 1):
        v, following = vertices[i], vertices[(i + 1) % n]
        corner = v.corner or corner
        if math.dist(v.at, following.at) > EPS:
            kept.append(Vertex(v.at, v.leaving, corner))
            corner = None
    return kept


def _break(vertex: Vertex, before: Point, after: Point) -> tuple[Point, Point, Segment | None]:
    """(end of the incoming line, start of the leaving line, the break) at a vertex."""
    corner = vertex.corner
    if corner is None:
        return vertex.at, vertex.at, None
    p = vertex.at
    u, v = _unit(p, before), _unit(p, after)
    cosine = max(-1.0, min(1.0, u[0] * v[0] + u[1] * v[1]))
    interior = math.acos(cosine)
    if interior > math.pi - RELATIVE_READ or interior < RELATIVE_READ:
        raise TableError("there is no corner here to break", station=corner.station)
    if corner.kind == "radius":
        reach = corner.size / math.tan(interior / 2)
        a, b = _along(p, u, reach), _along(p, v, reach)
        bisector = _unit((0.0, 0.0), (u[0] + v[0], u[1] + v[1]))
        centre = _along(p, bisector, corner.size / math.sin(interior / 2))
        return a, b, Segment(corner.name, a, b, centre)
    a, b = _chamfer(p, u, v, corner)
    return a, b, Segment(corner.name, a, b)


def _chamfer(p: Point, u: Point, v: Point, corner: Corner) -> tuple[Point, Point]:
    line, wall = (u, v) if corner.surface == "before" else (v, u)
    if abs(line[0]) < ROUNDING:
        raise TableError("a chamfer needs a surface beside a shoulder", station=corner.station)
    on_line = _along(p, line, corner.size / abs(line[0]))
    # from that point run at the angle from the axis, back towards the wall
    direction = (
        -math.copysign(1.0, line[0]) * math.cos(corner.angle),
        math.copysign(math.sin(corner.angle), wall[1]),
    )
    cross = direction[0] * wall[1] - direction[1] * wall[0]
    if abs(cross) < NOTHING:
        raise TableError("the chamfer runs along its wall", station=corner.station)
    dz, dr = p[0] - on_line[0], p[1] - on_line[1]
    reach = (dz * direction[1] - dr * direction[0]) / cross
    if reach <= 0:
        raise TableError("the chamfer misses its wall", station=corner.station)
    on_wall = _along(p, wall, reach)
    return (on_line, on_wall) if corner.surface == "before" else (on_wall, on_line)


def _check_order(here: Vertex, there: Vertex, leave: Point, target: Point) -> None:
    """What remains of a line after both its breaks must still run forwards."""
    u = _unit(here.at, there.at)
    left = (target[0] - leave[0]) * u[0] + (target[1] - leave[1]) * u[1]
    if left < -EPS:
        corner = here.corner or there.corner
        length = math.dist(here.at, there.at)
        word = {"radius": "radius", "chamfer": "chamfer"}[corner.kind] if corner else "break"
        raise TableError(
            f"the {word} {said(corner.size if corner else 0.0)} is larger than its step leaves room for",
            station=corner.station if corner else None,
            rule=f"the line beside it ({here.leaving}) is {said(length)} long",
            hint="a smaller break",
        )


def check_simple(segments: tuple[Segment, ...]) -> None:
    """Refuse a contour that crosses itself or dips below the axis (arcs as eight chords)."""
    import numpy as np

    points: list[Point] = []
    names: list[str] = []
    for s in segments:
        for p in _samples(s):
            points.append(p)
            names.append(s.name)
    xy: Any = np.array(points)
    if xy[:, 1].min() < -EPS:
        raise TableError(f"{names[int(xy[:, 1].argmin())]} reaches below the axis")
    q = np.roll(xy, -1, axis=0)
    d = q - xy
    n = len(xy)
    i, j = np.triu_indices(n, k=2)
    keep = ~((i == 0) & (j == n - 1))
    i, j = i[keep], j[keep]

    def side(a: Any, along: Any, b: Any) -> Any:
        return along[:, 0] * (b[:, 1] - a[:, 1]) - along[:, 1] * (b[:, 0] - a[:, 0])

    hit = (side(xy[i], d[i], xy[j]) * side(xy[i], d[i], q[j]) < -NOTHING) & (
        side(xy[j], d[j], xy[i]) * side(xy[j], d[j], q[i]) < -NOTHING
    )
    if hit.any():
        k = int(np.argmax(hit))
        raise TableError(f"{names[i[k]]} and {names[j[k]]} cross each other", hint="check their sizes")


def _samples(s: Segment) -> list[Point]:
    if s.centre is None:
        return [s.start]
    a0 = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
    a1 = math.atan2(s.end[1] - s.centre[1], s.end[0] - s.centre[0])
    turn = (a1 - a0 + math.pi) % (2 * math.pi) - math.pi
    r = s.radius
    return [
        (s.centre[0] + r * math.cos(a0 + turn * k / 8), s.centre[1] + r * math.sin(a0 + turn * k / 8)) for k in range(8)
    ]


def _unit(a: Point, b: Point) -> Point:
    d = math.dist(a, b)
    return ((b[0] - a[0]) / d, (b[1] - a[1]) / d)


def _along(p: Point, direction: Point, reach: float) -> Point:
    return (p[0] + direction[0] * reach, p[1] + direction[1] * reach)
