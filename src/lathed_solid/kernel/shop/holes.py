"""Holes of a body, found on its faces: round hollow walls about one axis that follow on one another.

A wall is all hollow faces of one cylinder or cone that overlap along its axis; with more than ``WHOLE`` of a turn left
it is a hole's, with less a rounding or the end of a slot. Walls about one axis are one hole when they follow on one
another, or when nothing but air lies between two of one diameter (drilled in one go). Its mouth is the end that a
drill can reach; of two the wider, else the one that faces up, then to the front.
"""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Surface

from lathed_solid.kernel.look import Look
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.shop.figures import FoundHole, HoleThread, Segment
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.vectors import Triple, dot, minus, times

#: of a turn: more than this left is a hole's wall
WHOLE = 0.6
#: decimals to which axes and radii are one
DIGITS = 5
#: stretches nearer than this follow on one another; how far beyond an end it is looked, mm
NEAR, BEYOND = 1e-4, 1e-3
#: which way a through hole is entered, the likelier first
WAYS: tuple[Triple, ...] = ((0, 0, 1), (0, -1, 0), (1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, 0, -1))


@dataclass(frozen=True)
class _Wall:
    surface: Surface
    low: float
    high: float
    at_low: float
    at_high: float
    face: str


def found_holes(look: Look, parts: Parts, ways: Sequence[Triple] = WAYS) -> tuple[FoundHole, ...]:
    """Every hole once, in the order of its way in and its place; ``ways``: which side is entered first."""
    by_axis: dict[Any, list[_Wall]] = defaultdict(list)
    for wall in _walls(look):
        by_axis[_axis(wall.surface)].append(wall)
    holes = [h for walls in by_axis.values() for h in _holes(look, parts, walls, ways)]

    def order(h: FoundHole) -> tuple[Any, ...]:
        return (-max(range(len(ways)), key=lambda k: -abs(1 - dot(h.out, ways[k]))), *(round(v, 4) for v in h.mouth))

    return tuple(sorted(holes, key=order))


def _axis(s: Surface) -> tuple[float, ...]:
    d = canonical(s.direction)
    foot = minus(s.origin, times(d, dot(s.origin, d)))
    return tuple(round(v, DIGITS) + 0.0 for v in (*d, *foot))


def canonical(d: Triple) -> Triple:
    """A direction without its sense: its first part that is not nothing is positive."""
    return d if next((c for c in d if abs(c) > 1e-9), 1.0) > 0 else times(d, -1.0)


def _walls(look: Look) -> Iterable[_Wall]:
    """Hollow cylinders and cones, pieces of one surface that overlap along it put together."""
    groups: dict[Any, list[tuple[Surface, str, float]]] = defaultdict(list)
    seen: set[Key] = set()
    for name, faces in look.body.by_atom.items():
        for face in faces:
            if Key(face) in seen:
                continue
            seen.add(Key(face))
            s = look.read(face)
            if s.kind in ("cylinder", "cone") and hollow(s):
                a = BRepAdaptor_Surface(face)
                share = (a.LastUParameter() - a.FirstUParameter()) / (2 * math.pi)
                apex = _radius_at(s, 0.0, canonical(s.direction))
                key = (s.kind, *_axis(s), round(apex, DIGITS), round(abs(s.half_angle), DIGITS))
                groups[key].append((s, name, share))
    for found in groups.values():
        d = canonical(found[0][0].direction)
        spans = sorted(((*s.extent(d), s, name, share) for s, name, share in found), key=lambda f: f[:2])
        piece: list[Any] = []
        for span in [*spans, None]:
            if span is not None and (not piece or span[0] < max(p[1] for p in piece) - NEAR):
                piece.append(span)
                continue
            if piece and _left(piece) > WHOLE:
                low, high = min(p[0] for p in piece), max(p[1] for p in piece)
                s = piece[0][2]
                yield _Wall(s, low, high, _radius_at(s, low, d), _radius_at(s, high, d), piece[0][3])
            piece = [] if span is None else [span]


def _left(piece: Sequence[Any]) -> float:
    """How much of a turn is left where most of it is: the sum of what stands side by side."""
    long = max(p[1] - p[0] for p in piece)
    return float(sum(p[4] for p in piece if p[1] - p[0] > 0.5 * long))


def _radius_at(s: Surface, along: float, d: Triple) -> float:
    """The radius at a coordinate along the axis ``d``."""
    if s.kind == "cylinder":
        return s.radius
    way = dot(s.direction, d)
    return abs(s.radius + way * (along - dot(s.origin, d)) * math.tan(s.half_angle))


def _holes(look: Look, parts: Parts, walls: Sequence[_Wall], ways: Sequence[Triple]) -> Iterable[FoundHole]:
    d = canonical(walls[0].surface.direction)
    run: list[_Wall] = []
    ordered = sorted(walls, key=lambda w: (w.low, w.high))
    for wall in ordered:
        if run and not _follows(look, run, wall, d):
            hole = _hole(look, parts, run, d, ways)
            if hole is not None:
                yield hole
            run = []
        run.append(wall)
    hole = _hole(look, parts, run, d, ways)
    if hole is not None:
        yield hole


def _follows(look: Look, run: Sequence[_Wall], wall: _Wall, d: Triple) -> bool:
    end = max(w.high for w in run)
    if wall.low < end + NEAR:
        return True
    before = max(run, key=lambda w: w.high)
    alike = abs(before.at_high - wall.at_low) < NEAR
    # drilled in one go where nothing but air lies between
    at = _at(wall.surface, end + BEYOND, d)
    return alike and not look.hits(at, d, wall.low - end - 2 * BEYOND) and not look.inside(at)


def _at(s: Surface, along: float, d: Triple) -> Triple:
    x, y, z = (o + (along - dot(s.origin, d)) * c for o, c in zip(s.origin, d, strict=True))
    return (x, y, z)


def _hole(look: Look, parts: Parts, run: Sequence[_Wall], d: Triple, ways: Sequence[Triple]) -> FoundHole | None:
    if not any(abs(w.at_low - w.at_high) < NEAR for w in run):
        return None  # nothing straight: a taper or a centre alone is no drilled hole
    low, high = min(run, key=lambda w: w.low), max(run, key=lambda w: w.high)
    ends = []
    for way, wall, at, radius in ((-1.0, low, low.low, low.at_low), (1.0, high, high.high, high.at_high)):
        out = times(d, way)
        place = _at(wall.surface, at + way * BEYOND, d)
        air = radius > NEAR and not look.inside(place)
        ends.append((air and look.free(place, out), radius, out, at, air))
    if not (ends[0][0] or ends[1][0]):
        return None
    if ends[0][0] and ends[1][0]:
        rank = {w: k for k, w in enumerate(ways)}

        def likely(e: Any) -> tuple[float, float]:
            return (-round(e[1], 4), min((rank[w] for w in ways if dot(w, e[2]) > 1 - 1e-6), default=len(ways)))

        mouth = min(ends, key=likely)
    else:
        mouth = ends[0] if ends[0][0] else ends[1]
    _, _, out, level, _ = mouth
    inwards = -dot(out, d)
    segments = []
    for w in sorted(run, key=lambda w: inwards * w.low):
        a, b = ((w.low, w.at_low), (w.high, w.at_high))[:: 1 if inwards > 0 else -1]
        segments.append(Segment(inwards * (a[0] - level), inwards * (b[0] - level), 2 * a[1], 2 * b[1], w.face))
    middle = _at(run[0].surface, level, d)
    faces = tuple(dict.fromkeys(w.face for w in run))
    return FoundHole(middle, out, tuple(segments), ends[0][4] and ends[1][4], faces, _thread(parts, run))


def _thread(parts: Parts, run: Sequence[_Wall]) -> HoleThread | None:
    for wall in run:
        for name in wall.face.split("+"):
            data = parts.threads.get(name.split("(")[-1].rstrip(")")) or parts.threads.get(name)
            if data is not None:
                return HoleThread(data.designation, data.major, data.pitch, data.length)
    return None
