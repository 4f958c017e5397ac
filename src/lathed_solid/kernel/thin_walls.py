"""Walls beside holes that got thin, and holes that break out: told after every build, a drawing says nothing of them.

In closed form, for holes (cylinders that are hollow, radius r, axis a) and what runs along them: with s the distance
from the axis to a flat face parallel to it, the wall is s - r; between two parallel holes it is the distance of their
axes less both radii; to a round outside of radius R about a parallel axis at the distance d it is R - d - r. Both have
to stand beside one another: their extents along the axis overlap, and a flat face reaches past the axis.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from OCP.BRepAdaptor import BRepAdaptor_Surface

from lathed_solid.kernel.look import Look
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.vectors import Triple, cross, dot, minus
from lathed_solid.proof.thin_wall import ThinWall
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

#: a wall is thin below this share of the hole's radius, and below this, mm
SHARE, MOST = 0.25, 1.0
#: less than this of a full turn is a rounding, not a hole
LEAST_TURN = 0.4
#: of no more holes at once is this told
MOST_HOLES = 400


@dataclass(frozen=True)
class _Hole:
    name: str
    surface: Surface
    span: tuple[float, float]


def thin_walls(look: Look) -> tuple[ThinWall, ...]:
    """The thin walls of a body, the thinnest first; zero and less where a hole breaks out."""
    if not any(".wall" in name for name in look.atoms):
        return ()
    named = [(name, look.surface((), name)) for name in look.atoms if not name.endswith("'")]
    rounds = [(n, s) for n, s in named if s.kind == "cylinder"]
    bores = [(n, s) for n, s in rounds if ".wall" in n and hollow(s) and _turn(s) > LEAST_TURN]
    holes = [_Hole(n, s, s.extent(s.direction)) for n, s in bores]
    if len(holes) > MOST_HOLES:
        return ()
    flats = [(n, s) for n, s in named if s.kind == "plane"]
    outsides = [(n, s) for n, s in rounds if not hollow(s) and _turn(s) > LEAST_TURN]
    thin = [wall for i, hole in enumerate(holes) for wall in _beside(hole, holes[i + 1 :], flats, outsides)]
    return tuple(sorted(thin, key=lambda w: w.thickness))


def _turn(surface: Surface) -> float:
    """How much of a full turn is there."""
    ends = [BRepAdaptor_Surface(f, True) for f in surface.faces]
    return sum(a.LastUParameter() - a.FirstUParameter() for a in ends) / (2 * math.pi)


def _beside(
    hole: _Hole, others: list[_Hole], flats: list[tuple[str, Surface]], outsides: list[tuple[str, Surface]]
) -> Iterator[ThinWall]:
    a, r, at = hole.surface.direction, hole.surface.radius, hole.surface.origin
    thin = min(SHARE * r, MOST)
    # the extents cost most: they are asked last
    for name, s in flats:
        inward = dot(minus(s.origin, at), s.direction)
        if abs(dot(s.direction, a)) < ANGULAR and -r < inward < r + thin and _overlap(hole.span, s.extent(a)):
            side = cross(a, s.direction)
            low, high = s.extent(side)
            if low < dot(at, side) < high:
                yield ThinWall(first=hole.name, second=name, thickness=inward - r, radius=r)
    for other in others:
        away, s = _apart(at, other.surface.origin, a), other.surface
        wall = away - r - s.radius
        if wall < thin and _parallel(s.direction, a) and away > LINEAR and _overlap(hole.span, s.extent(a)):
            yield ThinWall(first=hole.name, second=other.name, thickness=wall, radius=r)
    for name, s in outsides:
        away = _apart(at, s.origin, a)
        wall = s.radius - away - r
        if wall < thin and _parallel(s.direction, a) and LINEAR < away < s.radius and _overlap(hole.span, s.extent(a)):
            yield ThinWall(first=hole.name, second=name, thickness=wall, radius=r)


def _parallel(a: Triple, b: Triple) -> bool:
    return abs(dot(a, b)) > 1 - ANGULAR


def _overlap(a: tuple[float, float], b: tuple[float, float]) -> bool:
    return min(a[1], b[1]) - max(a[0], b[0]) > LINEAR


def _apart(p: Triple, q: Triple, axis: Triple) -> float:
    off = minus(q, p)
    return math.sqrt(max(0.0, dot(off, off) - dot(off, axis) ** 2))
