"""Which faces of the solid have the size a note says: the notes as they go into STEP.

A diameter or radius is that of the faces which, among those its proof measured, are rounds of that radius (so the
diameter of a bolt circle goes with no hole's wall). A length is between the first two of them that lie so far apart:
flats that face along one line, and axes that are parallel, d = |(q - p) . n| to a flat, |(q - p) - ((q - p) . n) n|
between axes. An angle is between two flats, or a cone's own; a bevel's leg is from a flat beside it to the edge in
which it ends. What is found in no faces so is left out, as are sizes in brackets, which are not toleranced.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import Surface, edge_extent, read_surface
from lathed_solid.kernel.topology import Key, edges, faces
from lathed_solid.kernel.vectors import cross, dot, minus, times
from lathed_solid.proof import VerdictRow
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

_ROUND = ("cylinder", "torus", "sphere")


@dataclass(frozen=True, slots=True)
class NotedSize:
    """``nominal`` and limits in mm or rad; places of faces in the solid's order, a length from ``first`` to ``second``
    or to one of its ``edges``.
    """

    balloon: int
    note: str
    kind: Literal["diameter", "radius", "length", "chamfer", "angle", "cone"]
    nominal: float
    low: float
    high: float
    first: tuple[int, ...]
    second: tuple[int, ...] = ()
    edges: tuple[int, ...] = ()


def noted_sizes(body: Body, rows: Sequence[VerdictRow]) -> tuple[NotedSize, ...]:
    """Every judged note whose size faces have, in the order of the rows."""
    if not rows:
        return ()
    found = [Seen(n, read_surface(face)) for n, face in enumerate(faces(body.shape))]
    places = places_by_name(body)
    legs = _Legs(body, found) if any(row.kind == "chamfer" for row in rows) else None
    out: list[NotedSize] = []
    for row in rows:
        if row.low is None or row.high is None or row.note.startswith("("):
            continue
        measured = [found[n] for name in row.faces for n in places.get(name, ())]
        if legs is not None and row.kind == "chamfer":
            out += legs.of(row, row.low, row.high, measured)
            continue
        size = _sized(row, row.low, row.high, measured)
        if size is not None:
            out.append(size)
    return tuple(out)


def places_by_name(body: Body) -> dict[str, list[int]]:
    """Which places in the solid's order the faces of each name have."""
    out: dict[str, list[int]] = {}
    for n, label in enumerate(body.labels):
        for atom in label.split("+"):
            out.setdefault(atom, []).append(n)
    return out


@dataclass(frozen=True, slots=True)
class Seen:
    """A face's place in the solid and its surface."""

    place: int
    surface: Surface


def _sized(row: VerdictRow, low: float, high: float, measured: Sequence[Seen]) -> NotedSize | None:
    if row.kind in ("diameter", "radius"):
        radius = row.nominal / 2 if row.kind == "diameter" else row.nominal
        rounds = _rounds(measured, radius, wide=row.kind == "diameter")
        if rounds:
            kind: Literal["diameter", "radius"] = "diameter" if row.kind == "diameter" else "radius"
            return NotedSize(row.balloon, row.note, kind, row.nominal, low, high, rounds)
    elif row.kind in ("length", "depth"):
        for a, b in combinations(measured, 2):
            far = apart(a.surface, b.surface)
            if a.place != b.place and far is not None and abs(far - row.nominal) <= LINEAR:
                return NotedSize(row.balloon, row.note, "length", row.nominal, low, high, (a.place,), (b.place,))
    elif row.kind == "angle":
        cones = tuple(sorted({f.place for f in measured if f.surface.kind == "cone"
                              and abs(2 * abs(f.surface.half_angle) - row.nominal) <= ANGULAR}))  # fmt: skip
        if cones:
            return NotedSize(row.balloon, row.note, "cone", row.nominal, low, high, cones)
        for a, b in combinations((f for f in measured if f.surface.kind == "plane"), 2):
            between = math.acos(max(-1.0, min(1.0, dot(a.surface.direction, b.surface.direction))))
            if min(abs(between - row.nominal), abs(math.pi - between - row.nominal)) <= ANGULAR:
                return NotedSize(row.balloon, row.note, "angle", row.nominal, low, high, (a.place,), (b.place,))
    return None


class _Legs:
    """Bevels by the flats beside them and the edges in which they end."""

    def __init__(self, body: Body, found: Sequence[Seen]) -> None:
        self._found = found
        self._edges = {Key(e): n for n, e in enumerate(edges(body.shape))}
        self._beside: dict[int, list[int]] = {}
        for seen in found:
            for edge in edges(seen.surface.faces[0]):
                self._beside.setdefault(self._edges[Key(edge)], []).append(seen.place)

    def of(self, row: VerdictRow, low: float, high: float, measured: Sequence[Seen]) -> Iterator[NotedSize]:
        """One for each bevel whose leg is as long as is written."""
        for seen in {s.place: s for s in measured if s.surface.kind in ("plane", "cone")}.values():
            own = [self._edges[Key(e)] for e in edges(seen.surface.faces[0])]
            flats = dict.fromkeys(p for n in own for p in self._beside[n] if self._found[p].surface.kind == "plane")
            pairs = ((p, n) for p in flats if p != seen.place for n in own if p not in self._beside[n])
            leg = next(((p, n) for p, n in pairs if self._far(p, seen, n, row.nominal)), None)
            if leg is not None:
                yield NotedSize(row.balloon, row.note, "chamfer", row.nominal, low, high, leg[:1], edges=leg[1:])

    def _far(self, flat: int, bevel: Seen, edge: int, leg: float) -> bool:
        """Whether an edge of a bevel lies so far from a flat, all of it."""
        n = self._found[flat].surface
        level = dot(n.origin, n.direction)
        line = next(e for e in edges(bevel.surface.faces[0]) if self._edges[Key(e)] == edge)
        reach = edge_extent(line, n.direction)
        return bool(reach) and all(abs(abs(v - level) - leg) <= LINEAR for v in reach)


def _rounds(measured: Sequence[Seen], radius: float, *, wide: bool) -> tuple[int, ...]:
    """Faces of a radius; a diameter is one of a cylinder or ball, not of a rounding."""
    kinds = ("cylinder", "sphere") if wide else _ROUND
    return tuple(sorted({
        f.place for f in measured if f.surface.kind in kinds and abs(f.surface.radius - radius) <= LINEAR
    }))  # fmt: skip


def apart(a: Surface, b: Surface) -> float | None:
    """How far two flats, a flat and an axis, or two axes are from one another, mm; None where they are not parallel."""
    if {a.kind, b.kind} - {"plane", "cylinder"}:
        return None
    n, between = a.direction, minus(b.origin, a.origin)
    if a.kind == b.kind:
        if math.hypot(*cross(n, b.direction)) > ANGULAR:
            return None
        along = dot(between, n)
        return abs(along) if a.kind == "plane" else math.hypot(*minus(between, times(n, along)))
    flat, axis = (a, b) if a.kind == "plane" else (b, a)
    if abs(dot(flat.direction, axis.direction)) > ANGULAR:
        return None
    return abs(dot(between, flat.direction))
