"""Round walls as they are on the finished solid: hole or pin, how much of them is left, their mouth, whether they are
open right through.

Along its axis a hole has a wall from rim to end: material outside, air inside. The wall's *share* is its area as part
of the full cylinder's between its ends; a wall of less than half is no hole. The *mouth* is the outermost reach of
the coaxial faces that follow the wall outwards (bevels, rounds, wider bores and the flat rings between them): the
local rim on the finished solid, not a plane that may be gone there.
"""

from __future__ import annotations

import math
from collections.abc import Container, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType

from lathed_solid.kernel.look import Look, Wrap, coaxial
from lathed_solid.kernel.properties import face_area
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.kernel.vectors import Triple, cross, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR

#: a wall with less of its full round than this is no hole
HALF = 0.5 - 1e-3
#: least share of a pin's round that still shows its diameter
SLIVER = 0.08
#: mm
NEAR = 1e-6


@dataclass(frozen=True)
class Wall:
    """A cylinder that is left on a body, under its name."""

    look: Look
    surface: Surface
    wrap: Wrap
    core: str

    @property
    def name(self) -> str:
        """Of its face, with the prefix of its copy."""
        return self.look.atom(self.wrap, self.core)

    @property
    def axis(self) -> Triple:
        """A unit vector."""
        return self.surface.direction

    @cached_property
    def inside(self) -> bool:
        """Whether it is a hole's wall, and not a pin's."""
        return hollow(self.surface)

    @cached_property
    def span(self) -> tuple[float, float]:
        """Least and greatest coordinate along the axis, mm."""
        return self.surface.extent(self.axis)

    @cached_property
    def pieces(self) -> list[tuple[float, float]]:
        """Separate stretches along the axis: a hole through two flanges has two."""
        spans = sorted(self.look.read(f).extent(self.axis) for f in self.surface.faces)
        out = [spans[0]]
        for low, high in spans[1:]:
            if low <= out[-1][1] + NEAR:
                out[-1] = (out[-1][0], max(out[-1][1], high))
            else:
                out.append((low, high))
        return out

    @cached_property
    def share(self) -> float:
        """Area left as part of the full round of its pieces."""
        if all(map(_whole, self.surface.faces)):
            return 1.0
        full = sum(high - low for low, high in self.pieces) * 2 * math.pi * self.surface.radius
        return sum(map(face_area, self.surface.faces)) / full if full > 0 else 0.0

    @property
    def sound(self) -> bool:
        """Whether enough of it is left to be the hole, or the pin, that it is called."""
        return self.share >= (HALF if self.inside else SLIVER)

    def foot(self, along: float) -> Triple:
        """The place on the axis at a coordinate along it."""
        base = dot(self.surface.origin, self.axis)
        return tuple(o + (along - base) * d for o, d in zip(self.surface.origin, self.axis, strict=True))  # type: ignore[return-value]

    # the way through ----------------------------------------------------------------------------
    @cached_property
    def blocked(self) -> str:
        """Why it is not open at both ends, in words; empty when it is."""
        if self._free():
            return ""
        return "material stands in its way" if self._stopped else "it ends in the material"

    def _free(self) -> bool:
        """Whether rays pass along the whole of it and out at both ends."""
        r = self.surface.radius
        margin = 0.08 * r
        first, last = -self.mouth(times(self.axis, -1.0)), self.mouth(self.axis)
        for k, (begin, end) in enumerate(self.pieces):
            # the outermost ends are where its widenings end
            low = min(begin, first) if k == 0 else begin
            high = max(end, last) if k == len(self.pieces) - 1 else end
            for side in _around(self.axis)[::2]:
                for share in (0.45, 0.93):
                    at = self.foot(low - margin)
                    start: Triple = tuple(a + share * r * s for a, s in zip(at, side, strict=True))  # type: ignore[assignment]
                    # air along its whole way: the wall itself says that there is air between its ends
                    if self.look.hits(start, self.axis, high - low + 2 * margin):
                        return False
        return True

    @cached_property
    def plugged(self) -> bool:
        """Whether material stands in the hole between its ends, and in its mouth where it is open."""
        return bool(self.blocked) and self._stopped

    @cached_property
    def _stopped(self) -> bool:
        low, high = self.span
        back = times(self.axis, -1.0)
        if self._open(self.axis):
            high = max(high, self.mouth(self.axis))
        if self._open(back):
            low = min(low, -self.mouth(back))
        inset = 1e-3 * min(self.surface.radius, high - low)
        for side in _around(self.axis)[::2]:
            at = self.foot(low + inset)
            start: Triple = tuple(  # type: ignore[assignment]
                a + 0.45 * self.surface.radius * s for a, s in zip(at, side, strict=True)
            )
            if self.look.hits(start, self.axis, high - low - 2 * inset):
                return True
        return False

    # the mouth ----------------------------------------------------------------------------------
    def mouth(self, outwards: Triple) -> float:
        """How far the hole reaches along ``outwards`` (a unit vector along the axis), mm: the local rim."""
        if outwards not in self._mouths:
            self._mouths[outwards] = follow(self.look, self.surface, outwards)[0]
        return self._mouths[outwards]

    @cached_property
    def _mouths(self) -> dict[Triple, float]:
        return {}

    def entry(self) -> Triple:
        """The direction out of the hole at its entry: where it is open, or the wider end; else along its axis."""
        for way in (self.axis, times(self.axis, -1.0)):
            if not self._open(way):
                return times(way, -1.0)
        return self.axis

    def _open(self, way: Triple) -> bool:
        sign = 1.0 if dot(way, self.axis) > 0 else -1.0
        end = self.span[1] if sign > 0 else self.span[0]
        at = self.foot(end + sign * 0.05 * self.surface.radius)
        side = _around(self.axis)[0]
        p: Triple = tuple(a + 0.93 * self.surface.radius * s for a, s in zip(at, side, strict=True))  # type: ignore[assignment]
        return not self.look.inside(p)


#: less than this of its round left is a corner or a slot's end, none of several like holes
LIKE = 0.75


def alike(look: Look, names: Sequence[str], claimed: Container[str]) -> list[str]:
    """Holes that no callout speaks of, of the same size and entered from the same level as one of ``names``."""
    out = []
    mine = [_one(look, n) for n in names]
    walls = [w for w in mine if w is not None and w.inside]
    for atom in look.atoms if walls else ():
        if atom in claimed or atom in out:
            continue
        other = _one(look, atom)
        if other is None or not other.inside:
            continue
        if any(_like(w, other) for w in walls) and other.share > LIKE:
            out.append(atom)
    return out


def _one(look: Look, atom: str) -> Wall | None:
    if not look.has(atom):
        return None
    surface = look.surface((), atom)
    return Wall(look, surface, (), atom) if surface.kind == "cylinder" else None


def _like(a: Wall, b: Wall) -> bool:
    if abs(a.surface.radius - b.surface.radius) > NEAR or abs(abs(dot(a.axis, b.axis)) - 1) > ANGULAR:
        return False
    if coaxial(b.surface, a.surface.origin, a.axis):
        return False  # the same hole, under another name
    ways = (a.axis, times(a.axis, -1.0))
    return any(abs(a.mouth(w) - b.mouth(w)) < NEAR for w in ways)


def _whole(face: Any) -> bool:
    """Whether a cylinder's face is bounded by two full circles and its seam: nothing is taken out of it."""
    around = edges(face)
    if len(around) != 3:
        return False
    curves = [BRepAdaptor_Curve(e) for e in around]
    round_ones = [c for c in curves if c.GetType() == GeomAbs_CurveType.GeomAbs_Circle]
    return len(round_ones) == 2 and all(
        abs(c.LastParameter() - c.FirstParameter() - 2 * math.pi) < ANGULAR for c in round_ones
    )


def follow(look: Look, start: Surface, outwards: Triple) -> tuple[float, list[Any]]:
    """The reach of a round face along ``outwards``, with the coaxial faces that follow it, mm; and those faces."""
    look.passes(start.origin, start.direction)
    reach = start.extent(outwards)[1]
    chain = list(start.faces)
    seen = {Key(f) for f in chain}
    todo = list(chain)
    while todo:
        face = todo.pop()
        for edge in edges(face):
            for other in look.neighbours(edge):
                if Key(other) in seen:
                    continue
                seen.add(Key(other))
                s = look.read(other)
                if coaxial(s, start.origin, start.direction):
                    end = s.extent(outwards)[1]
                    if end > reach + NEAR and s.extent(outwards)[0] >= start.extent(outwards)[0] - NEAR:
                        reach = max(reach, end)
                        chain.append(other)
                        todo.append(other)
                elif s.kind == "plane" and abs(abs(dot(s.direction, outwards)) - 1) < ANGULAR:
                    wider = _ring_beyond(look, s, other, start, outwards, seen)
                    if wider is not None:
                        chain += [other, wider]
                        todo.append(wider)
                        reach = max(reach, look.read(wider).extent(outwards)[1])
    return reach, chain


def _ring_beyond(look: Look, ring: Surface, face: Any, start: Surface, outwards: Triple, seen: set[Key]) -> Any | None:
    """Across a flat ring about the axis: the wider hollow face that goes on outwards."""
    if dot(ring.direction, outwards) < 0:
        return None
    level = dot(ring.origin, outwards)
    for edge in edges(face):
        if not _about(edge, start):
            continue
        for other in look.neighbours(edge):
            if Key(other) in seen or other.IsSame(face):
                continue
            s = look.read(other)
            if not coaxial(s, start.origin, start.direction) or not hollow(s):
                continue
            low, high = s.extent(outwards)
            if high > level + NEAR and low >= level - NEAR:
                seen.add(Key(other))
                return other
    return None


def _about(edge: Any, start: Surface) -> bool:
    """Whether an edge runs round the axis of a round face."""
    curve = BRepAdaptor_Curve(edge)
    if curve.GetType() != GeomAbs_CurveType.GeomAbs_Circle:
        return False
    at = curve.Circle().Location()
    away = minus((at.X(), at.Y(), at.Z()), start.origin)
    off = minus(away, times(start.direction, dot(away, start.direction)))
    return dot(off, off) < NEAR * NEAR


def _around(axis: Triple) -> list[Triple]:
    """Eight directions square to an axis, none of them along a usual one."""
    x = (1.0, 0.0, 0.0) if abs(axis[0]) < 0.9 else (0.0, 1.0, 0.0)
    x = minus(x, times(axis, dot(x, axis)))
    n = math.sqrt(dot(x, x))
    x = times(x, 1 / n)
    y = cross(axis, x)
    out = []
    for k in range(8):
        a = 0.3 + 2 * math.pi * k / 8
        out.append(tuple(math.cos(a) * p + math.sin(a) * q for p, q in zip(x, y, strict=True)))
    return out  # type: ignore[return-value]
