"""What a length runs between: coordinates along a direction of space, and how far each end reaches in others.

The ends of a probe are not yet those of its callout: a field may hold half of it (``#6 / 2`` from the middle) or a sum
(``#14 + #12``). Which of all ends lie the callout's size apart is found in ``callouts``.
"""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.kernel.case import Case
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, unwrapped
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.ledger import Probe
from lathed_solid.part.steps import face_frame
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

ROUND = frozenset({"cylinder", "cone", "sphere", "torus"})


@dataclass(frozen=True)
class Ending:
    """``at``: the coordinate along the length's direction, mm; ``reach``: least and greatest along another one;
    ``flat``: the face that it is, where it is one.
    """

    at: float
    reach: Callable[[Triple], tuple[float, float]]
    flat: Surface | None = None


@dataclass(frozen=True)
class Endings:
    """All ends of a probe along one direction."""

    along: Triple
    ends: tuple[Ending, ...]


def endings(case: Case) -> Endings | None:
    """What a probe runs between; None for one that measures no length between places."""
    way = _WAYS.get(case.probe.kind)
    try:
        return None if way is None else way(case)
    except (MeasureError, np.linalg.LinAlgError):
        return None


def flat_end(s: Surface, along: Triple) -> Ending:
    """A flat that stands square to a direction."""
    return Ending(dot(s.origin, along), s.extent, s)


def round_end(s: Surface, along: Triple, off: float = 0.0) -> Ending:
    """The axis of a round face (``off``: or its side)."""

    def reach(across: Triple) -> tuple[float, float]:
        if abs(dot(across, s.direction)) > 1 - ANGULAR:
            return s.extent(across)
        middle = dot(s.origin, across)
        return middle - s.radius, middle + s.radius

    return Ending(dot(s.origin, along) + off, reach)


def _square(s: Surface, d: Triple) -> bool:
    """Whether a flat stands square to a direction."""
    return abs(abs(dot(s.direction, d)) - 1) < ANGULAR


def point_end(p: Any, along: Triple) -> Ending:
    """A place."""
    at: Triple = (float(p[0]), float(p[1]), float(p[2]))
    return Ending(dot(at, along), lambda across: (dot(at, across), dot(at, across)))


def _end(s: Surface, along: Triple) -> Ending:
    return round_end(s, along) if s.kind in ROUND else flat_end(s, along)


def _distance(case: Case) -> Endings | None:
    flats = [s for k in range(len(case.groups)) for s in case.surfaces(k) if s.kind == "plane"]
    if len(flats) < 2:
        return None
    n = flats[0].direction
    level = [s for s in flats if _square(s, n)]
    return Endings(n, tuple(flat_end(s, n) for s in level))


def _stretch(case: Case) -> Endings | None:
    walls = case.surfaces(0) + case.surfaces(3)
    flats = [s for s in case.surfaces(1) + case.surfaces(2) if s.kind == "plane"]
    if not walls and not flats:
        return None
    d = walls[0].direction if walls else flats[0].direction
    ends = [flat_end(s, d) for s in flats if _square(s, d)]
    ends += [Ending(v, w.extent) for w in walls for v in w.extent(d)]
    return Endings(d, tuple(ends))


def _height(case: Case) -> Endings | None:
    caps = [s for k in (0, 1, 2) for s in case.surfaces(k) if s.kind == "plane"]
    if not caps:
        return None
    n = caps[0].direction
    ends = [flat_end(s, n) for s in caps if _square(s, n)]
    ends += [Ending(v, s.extent) for s in case.surfaces(3) for v in s.extent(n)]
    return Endings(n, tuple(ends))


def _position(case: Case) -> Endings | None:
    first, *others = (s for k in range(len(case.groups)) for s in case.surfaces(k))
    n = first.direction
    radii = {"near_side": (-1.0, 1.0), "far_side": (-1.0, 1.0)}.get(case.probe.kind, (0.0,))
    ends = [round_end(s, n, k * s.radius) for s in others for k in radii]
    return Endings(n, (flat_end(first, n), *ends))


def _between(case: Case) -> Endings | None:
    """Two axes, along the way between them."""
    both = [s for k in range(len(case.groups)) for s in case.surfaces(k) if s.kind in ROUND]
    if len(both) < 2:
        return None
    d = both[0].direction
    apart = minus(both[1].origin, both[0].origin)
    across = minus(apart, times(d, dot(apart, d)))
    along = _unit(across)
    return None if along is None else Endings(along, tuple(round_end(s, along) for s in both))


def _in_sketch(case: Case) -> Endings | None:
    origin, way = case.in_sketch()
    along = _unit(way)
    if along is None:
        return None
    found = [s for k in range(len(case.groups)) for s in case.surfaces(k)]
    ends = [_end(s, along) for s in found if s.kind in ROUND or _square(s, along)]
    return Endings(along, (*([] if case.probe.kind == "apart" else [point_end(origin, along)]), *ends))


def _corner(case: Case) -> Endings | None:
    """Corners between flats, and the flats themselves where they stand square to the direction."""
    found = _in_sketch(case)
    if found is None:
        return None
    origin, _ = case.in_sketch()
    normal = case.look.frame(case.probe.sketch).normal
    flats = [case.surfaces(k)[0] for k in range(len(case.groups)) if case.surfaces(k)]
    more = []
    for a, b in itertools.pairwise(flats):
        rows = np.array([a.direction, b.direction, normal])
        if a.kind == b.kind == "plane" and abs(np.linalg.det(rows)) > ANGULAR:
            level = [dot(a.direction, a.origin), dot(b.direction, b.origin), float(np.dot(normal, origin))]
            more.append(point_end(np.linalg.solve(rows, np.array(level)), found.along))
    return Endings(found.along, (*found.ends, *more))


def _slot(case: Case) -> Endings | None:
    both = [*case.surfaces(0), *case.surfaces(1)]
    if len(both) < 2:
        return None
    flat = next((s for s in both if s.kind == "plane"), None)
    if flat is not None:
        along: Triple | None = flat.direction
    else:
        d, apart = both[0].direction, minus(both[1].origin, both[0].origin)
        along = _unit(minus(apart, times(d, dot(apart, d))))
    if along is None:
        return None
    ends = [e for s in both for e in ([flat_end(s, along)] if s.kind == "plane"
            else [round_end(s, along, k * s.radius) for k in (-1.0, 1.0)])]  # fmt: skip
    return Endings(along, tuple(ends))


def _recess(case: Case) -> Endings | None:
    around, flat = case.first(0), case.first(1)
    n = flat.direction
    return Endings(n, (flat_end(flat, n), *(round_end(around, n, k * around.radius) for k in (-1.0, 1.0))))


def _depth(case: Case) -> Endings | None:
    walls = case.walls(1)
    if not walls:
        return None
    d = walls[0].axis
    ends = [Ending(v, w.surface.extent) for w in walls for v in w.surface.extent(d)]
    ends += [flat_end(s, d) for s in case.surfaces(0) if s.kind == "plane" and _square(s, d)]
    return Endings(d, tuple(ends))


def _placed(k: int) -> Callable[[Case], Endings | None]:
    """From the foot of the part's origin on the face that a hole enters."""

    def found(case: Case) -> Endings | None:
        walls = case.walls(0)
        entry = next((s for s in case.surfaces(1) if s.kind == "plane"), None)
        frame = face_frame((0.0, 0.0, 0.0), walls[0].entry() if entry is None else entry.direction, 0.0, False)
        along: Triple = (frame.x, frame.y)[k]
        return Endings(along, (point_end((0.0, 0.0, 0.0), along), *(round_end(w.surface, along) for w in walls)))

    return found


def spaced(look: Look, probe: Probe) -> list[Endings]:
    """Originals and their copies by a pattern: round faces along the shift between them."""
    out = []
    tag = probe.faces[0]
    base = tag.rstrip("*")
    for atom in list(look.atoms):
        for wrap, core in unwrapped(atom):
            if not wrap or not wrap[-1].startswith(base) or not look.has(look.atom(wrap[:-1], core)):
                continue
            both = [look.surface(w, core) for w in (wrap[:-1], wrap)]
            if any(s.kind not in ROUND for s in both):
                continue
            d, apart = both[0].direction, minus(both[1].origin, both[0].origin)
            along = _unit(minus(apart, times(d, dot(apart, d))))
            if along is not None:
                out.append(Endings(along, tuple(round_end(s, along) for s in both)))
    return out


def _unit(v: Iterable[Any]) -> Triple | None:
    x, y, z = (float(c) for c in v)
    size = (x * x + y * y + z * z) ** 0.5
    return None if size < LINEAR else (x / size, y / size, z / size)


_WAYS: dict[str, Callable[[Case], Endings | None]] = {
    "distance": _distance, "gap": _distance, "wall": _distance, "stretch": _stretch, "height": _height,
    "position": _position, "near_side": _position, "far_side": _position, "axes": _between, "apart": _in_sketch,
    "ordinate": _in_sketch, "corner": _corner, "corners": _corner, "slot": _slot, "recess": _recess, "depth": _depth,
    "place_x": _placed(0), "place_y": _placed(1),
}  # fmt: skip
