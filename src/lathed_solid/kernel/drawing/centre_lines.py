"""Axes of round faces as a side shows them, and the thin lines of threads that are drawn as symbols (ISO 6410-1)."""

from __future__ import annotations

import math
from collections.abc import Iterable

from OCP.BRepAdaptor import BRepAdaptor_Surface

from lathed_solid.kernel.drawing.figures import Arc, Run, ThreadLine
from lathed_solid.kernel.drawing.flat import Flat
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.surfaces import Surface, hollow, one_surface
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR

#: decimals to which axes are one, mm
DIGITS = 4


def round_faces(body: Body) -> list[Surface]:
    """Cylinders and cones that go all the way round."""
    found = (one_surface(faces) for faces in body.by_atom.values())
    return [s for s in found if s.kind in ("cylinder", "cone") and whole(s)]


def whole(s: Surface) -> bool:
    """Whether a round face goes all the way round."""
    reaches = (BRepAdaptor_Surface(f) for f in s.faces)
    return sum(a.LastUParameter() - a.FirstUParameter() for a in reaches) > 2 * math.pi - ANGULAR


def axes(surfaces: Iterable[Surface], flat: Flat) -> tuple[tuple[Run, ...], tuple[Arc, ...]]:
    """Axes seen from aside, as far as their faces reach; those seen end on, with the widest circle about each."""
    along: dict[tuple[float, ...], tuple[Triple, Triple, float, float]] = {}
    crosses: dict[tuple[float, float], float] = {}
    for s in surfaces:
        d = s.direction
        level = dot(d, flat.eye)
        if abs(level) > 1 - ANGULAR:
            x, y = flat.of(s.origin)
            key = (round(x, DIGITS), round(y, DIGITS))
            widest = max((r for _, _, r in s.circles), default=s.radius)
            crosses[key] = max(crosses.get(key, 0.0), widest)
        elif abs(level) < ANGULAR:
            if next(c for c in d if abs(c) > ANGULAR) < 0:
                d = times(d, -1.0)
            foot = minus(s.origin, times(d, dot(s.origin, d)))
            low, high = s.extent(d)
            seen = flat.of(foot)
            name = (*(round(c, DIGITS) + 0.0 for c in (*seen, *flat.of(d))),)
            if name in along:
                _, _, a, b = along[name]
                low, high = min(low, a), max(high, b)
            along[name] = (foot, d, low, high)
    lines = [Run((_at(flat, foot, d, low), _at(flat, foot, d, high))) for foot, d, low, high in along.values()]
    return tuple(lines), tuple(Arc(centre, r) for centre, r in crosses.items())


def _at(flat: Flat, foot: Triple, d: Triple, along: float) -> tuple[float, float]:
    x, y, z = (f + along * c for f, c in zip(foot, d, strict=True))
    return flat.of((x, y, z))


def thread_lines(parts: Parts, body: Body, flat: Flat) -> Iterable[ThreadLine]:
    """From aside two thin lines; end on three quarters of a thin circle."""
    for face, mark in parts.marks.items():
        there = next(iter(body.find(face).values()), None)
        if not there:
            continue
        inside = hollow(one_surface(there))
        level = dot(mark.way, flat.eye)
        if abs(level) > 1 - ANGULAR:
            # of a hole only that side shows its thread from which it is entered
            if (level < 0) or not inside:
                yield ThreadLine(Arc(flat.of(mark.origin), mark.radius, 0.1 * math.pi, 1.6 * math.pi), inside=False)
        elif abs(level) < ANGULAR:
            yield from (ThreadLine(run, inside) for run in _beside(mark, flat))


def _beside(mark: Mark, flat: Flat) -> Iterable[Run]:
    x, y = flat.of(mark.origin)
    u, v = flat.of(mark.way)
    for k in (-mark.radius, mark.radius):
        a = (x - k * v, y + k * u)
        yield Run((a, (a[0] + mark.length * u, a[1] + mark.length * v)))
