"""Where a leader may end on a face, as a side shows it: the circles of its rims, its outline, its edges.

A round face seen along its axis shows its rims as circles; from anywhere else its outline, where the surface turns
away from the eye: n . e = 0. About the axis of a surface of revolution n . e = P + A cos u + B sin u, which three
places tell; on other surfaces it is found between samples. A flat seen edge on is a line. A place is seen when nothing
stands between it, a little off the material, and the eye.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import Literal

from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepGProp import BRepGProp_Face
from OCP.gp import gp_Pnt, gp_Vec

from lathed_solid.kernel.drawing.centre_lines import whole
from lathed_solid.kernel.drawing.figures import Arc, Place, SideName, Tip
from lathed_solid.kernel.drawing.flat import Flat
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.vectors import Triple, cross, dot, times, xyz
from lathed_solid.quantity.tolerances import ANGULAR

#: samples around a face, at which shares of its length it is looked at, and which are near its ends
AROUND, ALONG, ENDS = 48, (0.5, 0.25, 0.75), (0.03, 0.97)
#: where an edge is looked at
EIGHTHS = (0.125, 0.375, 0.625, 0.875)
#: so far off the material a place is looked at, mm
OFF = 2e-3
#: places on a cone whose diameters differ by less are alike, mm
NEARLY = 1e-3
#: surfaces whose first parameter is an angle about their axis
TURNED = frozenset({"cylinder", "cone", "torus", "sphere"})


class Edges:
    """Whether flats are seen that a side shows edge on, and whether round faces are hollow, looked at once."""

    def __init__(self, look: Look) -> None:
        self._look = look
        self._known: dict[tuple[tuple[Key, ...], SideName], bool] = {}
        self._hollow: dict[Key, bool] = {}
        self._places: dict[tuple[Key, ...], list[list[Triple]]] = {}

    def hollow(self, s: Surface) -> bool:
        """Whether a round face's material lies outside it."""
        key = Key(s.faces[0])
        if key not in self._hollow:
            self._hollow[key] = hollow(s)
        return self._hollow[key]

    def seen(self, s: Surface, flat: Flat) -> bool:
        """Whether some edge of it has nothing before it: a pocket's floor lies behind its wall, of a shoulder's rims a
        part lies behind the shaft.
        """
        own = tuple(map(Key, s.faces))
        key = (own, flat.side)
        if own not in self._places:
            self._places[own] = list(_along_edges(s, EIGHTHS))
        if key not in self._known:
            self._known[key] = any(
                _open(self._look, at, s.direction, flat)
                for places in self._places[own]
                if any(math.dist(flat.of(places[0]), flat.of(p)) > NEARLY for p in places)  # none that runs to the eye
                for at in places
            )  # fmt: skip
        return self._known[key]


def tips(look: Look, edges: Edges, s: Surface, flat: Flat, along: Sequence[float] = ALONG) -> Iterable[Tip]:
    """Where a leader may end on a face in a side; on its outline at shares ``along`` it."""
    if s.kind == "plane":
        lean = abs(dot(s.direction, flat.eye))
        if lean > 1 - ANGULAR:
            facing = dot(s.direction, flat.eye) > 0
            level = dot(s.origin, flat.eye)
            yield from (
                Tip(flat.side, place, s.kind, "face", seen=facing, levels=(level, level))
                for place in _edge_middles(s, flat)
            )
        else:
            edge_on = lean < ANGULAR
            seen = edges.seen(s, flat) if edge_on else dot(s.direction, flat.eye) > 0
            form: Literal["edge", "face"] = "edge" if edge_on else "face"
            yield Tip(flat.side, _middle(s, flat), s.kind, form, seen=seen, levels=s.extent(flat.eye))
        return
    inner = edges.hollow(s)
    if any(s.direction) and abs(dot(s.direction, flat.eye)) > 1 - ANGULAR:
        for arc, level in _rims(s, flat):
            seen = _rim_seen(look, arc, level, inner, flat)
            yield Tip(flat.side, arc.at((arc.start + arc.end) / 2), s.kind, "rim", arc, inner, seen, (level, level))
        return
    for place, at, normal in _outline(s, flat, along):
        seen = not inner and _open(look, at, normal, flat)
        level = dot(at, flat.eye)
        yield Tip(flat.side, place, s.kind, "outline", None, inner, seen, (level, level))


def at_diameter(found: Iterable[Tip], s: Surface, flat: Flat, diameter: float) -> list[Tip]:
    """Of places on a cone those where it is nearest to a diameter, mm."""
    x, y = flat.of(s.origin)
    u, v = flat.of(s.direction)

    def off(t: Tip) -> float:
        if t.arc is not None:
            return abs(2 * t.arc.radius - diameter)
        return abs(2 * abs(-v * (t.place[0] - x) + u * (t.place[1] - y)) - diameter)

    all_of_them = list(found)
    least = min(map(off, all_of_them), default=0.0)
    return [t for t in all_of_them if off(t) < least + NEARLY]


def _open(look: Look, at: Triple, away: Triple, flat: Flat) -> bool:
    """Whether nothing stands between a place, ``OFF`` away from the material, and the eye."""
    x, y, z = (p + OFF * (a + e) for p, a, e in zip(at, away, flat.eye, strict=True))
    return look.free((x, y, z), flat.eye)


def _rim_seen(look: Look, arc: Arc, level: float, inner: bool, flat: Flat) -> bool:
    """Some of a rim, looked at from the hollow side of its wall."""
    way = -1.0 if inner else 1.0
    for k in range(3):
        angle = arc.start + (arc.end - arc.start) * (0.2 + 0.3 * k)
        c, s = math.cos(angle), math.sin(angle)
        x, y = arc.at(angle)
        at = tuple(x * r + y * u + level * e for r, u, e in zip(flat.right, flat.up, flat.eye, strict=True))
        away = tuple(way * (c * r + s * u) for r, u in zip(flat.right, flat.up, strict=True))
        if _open(look, at, away, flat):  # type: ignore[arg-type]
            return True
    return False


def _middle(s: Surface, flat: Flat) -> Place:
    (a, b), (c, d) = s.extent(flat.right), s.extent(flat.up)
    return (a + b) / 2, (c + d) / 2


def _edge_middles(s: Surface, flat: Flat) -> Iterable[Place]:
    return (flat.of(at) for (at,) in _along_edges(s, (0.5,)))


def _along_edges(s: Surface, shares: Sequence[float]) -> Iterable[list[Triple]]:
    """Of each edge of its faces the places at shares of its length."""
    for curve in s.curves:
        first, last = curve.FirstParameter(), curve.LastParameter()
        yield [xyz(curve.Value(first + share * (last - first))) for share in shares]


def _rims(s: Surface, flat: Flat) -> Iterable[tuple[Arc, float]]:
    """Circles of the rims, each with its level towards the eye."""
    seen: set[tuple[float, ...]] = set()
    circles = list({(*c[0], c[2]): c for c in s.circles}.values())
    for face in s.faces:
        a = BRepAdaptor_Surface(face)
        share = a.LastUParameter() - a.FirstUParameter()
        p = a.Value((a.FirstUParameter() + a.LastUParameter()) / 2, (a.FirstVParameter() + a.LastVParameter()) / 2)
        px, py = flat.of((p.X(), p.Y(), p.Z()))
        for centre, _axis, radius in circles:
            x, y = flat.of(centre)
            start, end = 0.0, 2 * math.pi
            if share < 2 * math.pi - ANGULAR:  # a part of a turn: from its middle as far to either hand
                middle = math.atan2(py - y, px - x)
                start, end = middle - share / 2, middle + share / 2
            level = dot(centre, flat.eye)
            key = (round(x, 6), round(y, 6), round(radius, 6), round(start, 4), round(level, 6))
            if key not in seen:
                seen.add(key)
                yield Arc((x, y), radius, start, end), level


def _both_hands(s: Surface, flat: Flat, along: Sequence[float]) -> Iterable[tuple[Place, Triple, Triple]]:
    """Of a whole cylinder or cone seen square to its axis: at its radius to either hand, along d x e."""
    d, aside = s.direction, cross(s.direction, flat.eye)
    low, high = s.extent(d)
    base = dot(s.origin, d)
    for share in along:
        level = low + (high - low) * share
        radius = abs(s.radius + (level - base) * math.tan(s.half_angle))
        for hand in (-1.0, 1.0):
            x, y, z = (o + (level - base) * c + hand * radius * a
                       for o, c, a in zip(s.origin, d, aside, strict=True))  # fmt: skip
            yield flat.of((x, y, z)), (x, y, z), times(aside, hand)


def _outline(s: Surface, flat: Flat, along: Sequence[float]) -> Iterable[tuple[Place, Triple, Triple]]:
    """Places where the surface turns away from the eye: in the side, in space, and the normal there."""
    if s.kind in ("cylinder", "cone") and abs(dot(s.direction, flat.eye)) < ANGULAR and whole(s):
        yield from _both_hands(s, flat, along)
        return
    eye = gp_Vec(*flat.eye)
    for face in s.faces:
        f, a = BRepGProp_Face(face), BRepAdaptor_Surface(face)
        u0, u1, v0, v1 = a.FirstUParameter(), a.LastUParameter(), a.FirstVParameter(), a.LastVParameter()
        if not all(map(math.isfinite, (u0, u1, v0, v1))):
            continue

        def lean(u: float, v: float, f: BRepGProp_Face = f) -> tuple[float, Triple, Triple]:
            at, n = gp_Pnt(), gp_Vec()
            f.Normal(u, v, at, n)
            size = n.Magnitude() or 1.0
            return n.Dot(eye) / size, (at.X(), at.Y(), at.Z()), (n.X() / size, n.Y() / size, n.Z() / size)

        for share in along:
            v = v0 + (v1 - v0) * share
            where = _turning(lambda u, v=v: lean(u, v)[0], u0, u1, s.kind in TURNED)  # type: ignore[misc]
            for u in where:
                _, at, normal = lean(u, v)
                yield flat.of(at), at, normal


def _turning(leaning: Callable[[float], float], first: float, last: float, turned: bool) -> Iterator[float]:
    """Where n . e, told at places around a face, is zero between two of them."""
    if turned:
        ahead, aside, behind = map(leaning, (0.0, math.pi / 2, math.pi))
        level, along = (ahead + behind) / 2, (ahead - behind) / 2
        reach = math.hypot(along, aside - level)
        if reach < ANGULAR or abs(level) > reach * (1 - ANGULAR**2):  # it faces the eye all round, or not at all
            return
        middle, half = math.atan2(aside - level, along), math.acos(-level / reach)
        for u in (middle - half, middle + half):
            u += 2 * math.pi * math.ceil((first - ANGULAR - u) / (2 * math.pi))
            if u <= last + ANGULAR:
                yield u
        return
    step = (last - first) / AROUND
    before = leaning(first)
    for k in range(1, AROUND + 1):
        now = leaning(first + k * step)
        if before * now <= 0 and before != now:
            yield first + k * step - step * (now / (now - before))
        before = now
