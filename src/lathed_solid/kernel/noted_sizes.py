"""Which faces of the solid have the size a note says: the notes as they go into STEP.

A diameter or radius is that of the faces which, among those its proof measured, are rounds of that radius (so the
diameter of a bolt circle goes with no hole's wall). A length is between the first two of them that lie so far apart:
flats that face along one line, and axes that are parallel, d = |(q - p) . n| to a flat, |(q - p) - ((q - p) . n) n|
between axes. What is found in no faces so is left out, as are sizes in brackets, which are not toleranced.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import Surface, read_surface
from lathed_solid.kernel.topology import faces
from lathed_solid.kernel.vectors import cross, dot, minus, times
from lathed_solid.proof import VerdictRow
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

_ROUND = ("cylinder", "torus", "sphere")


@dataclass(frozen=True, slots=True)
class NotedSize:
    """``nominal`` and limits in mm; places of faces in the solid's order, a length from ``first`` to ``second``."""

    balloon: int
    note: str
    kind: Literal["diameter", "radius", "length"]
    nominal: float
    low: float
    high: float
    first: tuple[int, ...]
    second: tuple[int, ...] = ()


def noted_sizes(body: Body, rows: Sequence[VerdictRow]) -> tuple[NotedSize, ...]:
    """Every judged note whose size faces have, in the order of the rows."""
    found = [Seen(n, read_surface(face)) for n, face in enumerate(faces(body.shape))]
    places: dict[str, list[Seen]] = {}
    for seen, label in zip(found, body.labels, strict=True):
        for atom in label.split("+"):
            places.setdefault(atom, []).append(seen)
    out = []
    for row in rows:
        if row.low is None or row.high is None or row.note.startswith("("):
            continue
        measured = [seen for name in row.faces for seen in places.get(name, ())]
        size = _sized(row, row.low, row.high, measured)
        if size is not None:
            out.append(size)
    return tuple(out)


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
    return None


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
