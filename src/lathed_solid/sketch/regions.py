"""Regions: what the curves of a sketch enclose, loops within loops, each named by what bounds it.

The planar arrangement: curves are cut where they meet, ends within reach become one node, dangling pieces and bridges
fall away, and faces are traced by turning as far right as possible at each node. Area by Green's theorem on the
curves themselves. A region's name is the set of its bounding entities with the side it lies on (``l4+`` is left
of l4 as drawn), so the pick survives edits of size and place; of like-named ones the order from left to right decides.
"""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from lathed_solid.quantity.tolerances import NOTHING, ROUNDING
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import (
    REACH,
    Round,
    Shape,
    Straight,
    drawn,
    size_of,
)
from lathed_solid.sketch.lettering import outlines
from lathed_solid.sketch.meetings import meetings, near_pairs
from lathed_solid.sketch.model import Sketch, Text

#: directions of test rays, none of them along a drawing's own
RAYS = np.exp(1j * np.array([0.0, 0.31, 0.83, 1.27, 1.93, 2.39, 3.41, 4.07, 5.29]))


@dataclass(frozen=True, slots=True)
class Piece:
    """Part of a curve from t0 to t1, run backwards when t1 < t0."""

    curve: Shape
    t0: float
    t1: float

    @property
    def name(self) -> str:
        """The bounding entity and the side on which the region lies, which is left of the run."""
        return f"{self.curve.id}{'+' if self.t1 > self.t0 else '-'}"

    @property
    def start(self) -> complex:
        """Where it begins on the loop."""
        return self.curve.at(self.t0)

    @property
    def middle(self) -> complex:
        """Half way along its parameter."""
        return self.curve.at((self.t0 + self.t1) / 2)

    @property
    def end(self) -> complex:
        """Where it ends on the loop."""
        return self.curve.at(self.t1)


Loop = tuple[Piece, ...]


@dataclass(frozen=True)
class Region:
    """``outer`` runs counter-clockwise, ``holes`` clockwise; ``area`` in mm2 without the holes."""

    name: str
    outer: Loop
    holes: tuple[Loop, ...]
    area: float
    inside: complex = field(repr=False)

    @property
    def bounds(self) -> frozenset[str]:
        """Names of all curves around it."""
        return frozenset(p.name for loop in (self.outer, *self.holes) for p in loop)


def regions(sketch: Sketch) -> tuple[Region, ...]:
    """All regions enclosed by the curves that are not construction, from left to right."""
    shapes = drawn(sketch)
    for e in sketch.entities:
        if isinstance(e, Text) and not e.construction:
            shapes += outlines(sketch, e)
    shapes = [s for s in shapes if s.length > NOTHING]
    if not shapes:
        return ()
    pieces, ends = _pieces(shapes, REACH * size_of(shapes))
    loops = _trace(pieces, ends)
    return _nest(loops)


def pick(found: Sequence[Region], name: str) -> Region:
    """The region of that name, or the one that shares most of its bounds when an edit changed them.

    Raises SketchError when none is clearly meant.
    """
    for region in found:
        if region.name == name:
            return region
    wanted = frozenset(name.split("@")[0].split())
    scored = sorted(((len(wanted & r.bounds) / len(wanted | r.bounds), r) for r in found), key=lambda s: -s[0])
    if scored and scored[0][0] >= 0.5 and (len(scored) == 1 or scored[0][0] > scored[1][0] + ROUNDING):
        return scored[0][1]
    raise SketchError("a picked region is no longer there", received=name, hint="pick the region again on the sketch")


def solid_parts(found: Sequence[Region]) -> tuple[Region, ...]:
    """What a drawing of outlines means as material: outermost regions, not their holes, what stands in holes again."""

    def depth(region: Region) -> int:
        return sum(any(contains(hole, region.inside) for hole in other.holes) for other in found)

    return tuple(r for r in found if depth(r) % 2 == 0)


# cutting -----------------------------------------------------------------------------------------
def _pieces(shapes: list[Shape], reach: float) -> tuple[list[Piece], np.ndarray]:
    """Pieces between nodes, and the nodes (start, end) of each."""
    cuts: dict[int, list[float]] = {id(s): [] if s.closed else [0.0, 1.0] for s in shapes}
    for a, b in near_pairs(shapes, reach):
        if a.id == b.id:
            continue  # the outlines of one text meet at their ends only
        found = meetings(a, b, reach)
        if _may_overlap(a, b, reach):
            found += [(a.find(z), b.find(z), z) for z in _ends(a) + _ends(b)]
            found = [(t, u, z) for t, u, z in found if abs(a.at(t) - z) <= reach and abs(b.at(u) - z) <= reach]
        else:
            found += [(a.find(z), u, z) for u, z in ((0.0, b.at(0)), (1.0, b.at(1))) if not b.closed
                      and abs(a.at(a.find(z)) - z) <= reach]  # fmt: skip
            found += [(t, b.find(z), z) for t, z in ((0.0, a.at(0)), (1.0, a.at(1))) if not a.closed
                      and abs(b.at(b.find(z)) - z) <= reach]  # fmt: skip
        for t, u, _ in found:
            cuts[id(a)].append(t)
            cuts[id(b)].append(u)
    pieces: list[Piece] = []
    for s in shapes:
        ts = cuts[id(s)]
        slack = reach / max(s.length, NOTHING)
        if s.closed:
            ts = [t % 1.0 for t in ts] or [0.0]
        ts = sorted(ts)
        ts = [t for k, t in enumerate(ts) if k == 0 or t - ts[k - 1] > slack]
        if s.closed:
            if len(ts) > 1 and ts[0] + 1 - ts[-1] <= slack:
                ts.pop()
            ts.append(ts[0] + 1.0)
            if len(ts) == 2:  # a loop of its own: two halves, so that it has two ends
                ts.insert(1, ts[0] + 0.5)
        pieces += [Piece(s, a, b) for a, b in itertools.pairwise(ts)]
    places = np.array([z for p in pieces for z in (p.start, p.end)])
    nodes = _merge(places, 3 * reach).reshape(-1, 2)
    return _without_doubles(pieces, nodes, reach)


def _ends(s: Shape) -> list[complex]:
    return [] if s.closed else [s.at(0), s.at(1)]


def _may_overlap(a: Shape, b: Shape, reach: float) -> bool:
    if isinstance(a, Straight) and isinstance(b, Straight):
        return abs(((a.b - a.a).conjugate() * (b.b - b.a)).imag) <= reach * max(abs(b.b - b.a), abs(a.b - a.a))
    if isinstance(a, Round) and isinstance(b, Round):
        return abs(a.centre - b.centre) <= reach and abs(a.radius - b.radius) <= reach
    return False


def _merge(places: np.ndarray, reach: float) -> np.ndarray:
    """Node numbers of places, those within reach together."""
    tree = cKDTree(np.column_stack([places.real, places.imag]))
    pairs = tree.query_pairs(reach, output_type="ndarray")
    n = len(places)
    graph = coo_matrix((np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(n, n))
    return connected_components(graph, directed=False)[1]


def _without_doubles(pieces: list[Piece], nodes: np.ndarray, reach: float) -> tuple[list[Piece], np.ndarray]:
    """One of each set of pieces that lie on one another; none that starts and ends at one node and is short."""
    seen: dict[tuple[int, int], list[Piece]] = {}
    kept = []
    for k, p in enumerate(pieces):
        a, b = int(nodes[k, 0]), int(nodes[k, 1])
        if a == b and abs(p.middle - p.start) <= 10 * reach:
            continue
        others = seen.setdefault((min(a, b), max(a, b)), [])
        if any(abs(o.middle - p.middle) <= 10 * reach for o in others):
            continue
        others.append(p)
        kept.append(k)
    return [pieces[k] for k in kept], nodes[kept]


# tracing -----------------------------------------------------------------------------------------
def _trace(pieces: list[Piece], ends: np.ndarray) -> list[tuple[Loop, int]]:
    """Closed loops of pieces with the component each belongs to; dangling pieces and bridges dropped."""
    alive = np.ones(len(pieces), bool)
    while True:
        while alive.any():
            degree = np.bincount(ends[alive].ravel(), minlength=int(ends.max()) + 1)
            dangling = alive & (degree[ends] == 1).any(axis=1)
            if not dangling.any():
                break
            alive &= ~dangling
        keep = np.flatnonzero(alive)
        if len(keep) == 0:
            return []
        loops, face = _faces([pieces[k] for k in keep], ends[keep])
        bridges = face[0::2] == face[1::2]
        if not bridges.any():
            break
        alive[keep[bridges]] = False
    count = int(ends.max()) + 1
    graph = coo_matrix((np.ones(len(keep)), (ends[keep, 0], ends[keep, 1])), shape=(count, count))
    label = connected_components(graph, directed=False)[1]
    return [(loop, int(label[ends[keep[first // 2], 0]])) for loop, first in loops]


def _faces(pieces: list[Piece], ends: np.ndarray) -> tuple[list[tuple[Loop, int]], np.ndarray]:
    """Loops with their first half edge, and the face number of each half edge (2 k forward, 2 k + 1 back)."""
    leaving: dict[int, list[tuple[float, float, int]]] = {}
    for k, p in enumerate(pieces):
        for half, t, way in ((2 * k, p.t0, 1.0), (2 * k + 1, p.t1, -1.0)):
            d = p.curve.along(_inner(p.curve, t)) * way
            node = int(ends[k, half & 1])
            leaving.setdefault(node, []).append((cmath.phase(d), way * p.curve.bend(_inner(p.curve, t)), half))
    after: dict[int, int] = {}
    for out in leaving.values():
        order = _by_direction(out)
        for i, half in enumerate(order):
            # arriving by the twin of ``half``, the next to the right of it is the one before it, counter-clockwise
            after[half ^ 1] = order[i - 1]
    face = np.full(2 * len(pieces), -1)
    loops: list[tuple[Loop, int]] = []
    for first in range(2 * len(pieces)):
        if face[first] >= 0:
            continue
        run, half = [], first
        while face[half] < 0:
            face[half] = len(loops)
            p = pieces[half // 2]
            run.append(p if half % 2 == 0 else Piece(p.curve, p.t1, p.t0))
            half = after[half]
        loops.append((tuple(run), first))
    return loops, face


def _inner(curve: Shape, t: float) -> float:
    return t % 1.0 if curve.closed else min(1.0, max(0.0, t))


def _by_direction(out: list[tuple[float, float, int]]) -> list[int]:
    """Half edges counter-clockwise by direction; of those that leave as tangents, the one bending left is later."""
    out = sorted(out)
    groups: list[list[tuple[float, float, int]]] = []
    for o in out:
        if groups and o[0] - groups[-1][-1][0] < 1e-7:
            groups[-1].append(o)
        else:
            groups.append([o])
    if len(groups) > 1 and groups[0][0][0] + 2 * math.pi - groups[-1][-1][0] < 1e-7:
        groups[0] += groups.pop()
    return [half for g in groups for _, _, half in sorted(g, key=lambda o: o[1])]


def loop_area(loop: Loop) -> float:
    """Signed area, counter-clockwise positive, mm2."""
    return math.fsum(p.curve.area(p.t0, p.t1) for p in loop)


# nesting -----------------------------------------------------------------------------------------
def _nest(loops: list[tuple[Loop, int]]) -> tuple[Region, ...]:
    outer = [(loop, part, loop_area(loop)) for loop, part in loops]
    faces = [(loop, part, area) for loop, part, area in outer if area > NOTHING]
    rims = [(loop, part, area) for loop, part, area in outer if area < -NOTHING]
    holes: dict[int, list[tuple[Loop, float]]] = {}
    for loop, part, area in rims:
        around = [i for i, (face, other, _) in enumerate(faces) if other != part and contains(face, loop[0].start)]
        if around:
            holes.setdefault(min(around, key=lambda i: faces[i][2]), []).append((loop, area))
    made = []
    for i, (loop, _, area) in enumerate(faces):
        inner = sorted(holes.get(i, []), key=lambda h: (h[0][0].start.real, h[0][0].start.imag))
        net = area + math.fsum(a for _, a in inner)
        names = sorted({p.name for lp in (loop, *(h for h, _ in inner)) for p in lp}, key=_natural)
        made.append((" ".join(names), loop, tuple(h for h, _ in inner), net, _inside(loop, [h for h, _ in inner])))
    made.sort(key=lambda m: (round(m[4].real, 6), round(m[4].imag, 6)))
    out: list[Region] = []
    used: dict[str, int] = {}
    for name, loop, inner_loops, net, inside in made:
        used[name] = used.get(name, 0) + 1
        full = name if used[name] == 1 else f"{name}@{used[name]}"
        out.append(Region(full, loop, inner_loops, net, inside))
    return tuple(out)


def _natural(name: str) -> tuple[str, int, str]:
    letters = name.rstrip("+-0123456789")
    return letters, int(name[len(letters) : -1]), name[-1]


def contains(loop: Loop, z: complex) -> bool:
    """Whether a place off the loop is within it: crossings of a ray from it, on the curves themselves.

    Two pieces meet only within the solver's accuracy, so a ray through their joint could count both or none: of some
    directions the one that keeps farthest from all joints is taken.
    """
    joints = np.array([q - z for p in loop for q in (p.start, p.end)])
    joints = joints / np.maximum(np.abs(joints), 1e-300)
    clear = np.abs((joints[None, :] / RAYS[:, None]).imag).min(axis=1)
    way = complex(RAYS[int(np.argmax(clear))])
    return sum(_crossings(p, z, way) for p in loop) % 2 == 1


def _crossings(p: Piece, z: complex, way: complex) -> int:
    """How often a piece crosses the ray from ``z`` along ``way`` (a unit number)."""
    curve = p.curve
    if isinstance(curve, Straight):
        return _crosses((p.start - z) / way, (p.end - z) / way)
    # split where the piece turns across the ray, so that each part crosses it at most once
    if isinstance(curve, Round):
        lean = cmath.phase(way)
        low, high = sorted((curve.start + curve.turn * p.t0 - lean, curve.start + curve.turn * p.t1 - lean))
        first = math.ceil((low - math.pi / 2) / math.pi)
        stops = [low]
        while math.pi / 2 + first * math.pi < high:
            stops.append(math.pi / 2 + first * math.pi)
            first += 1
        stops.append(high)
        centre = (curve.centre - z) / way
        places = [centre + cmath.rect(curve.radius, s) for s in stops]
        total = 0
        for k, (u, v) in enumerate(itertools.pairwise(places)):
            if (u.imag > 0) != (v.imag > 0):
                half = math.sqrt(max(curve.radius**2 - centre.imag**2, 0.0))
                right = math.cos((stops[k] + stops[k + 1]) / 2) > 0
                total += int(centre.real + (half if right else -half) > 0)
        return total
    ts = np.linspace(p.t0, p.t1, 129)
    zs = [curve.at(_inner(curve, float(t)) if 0 < k < 128 else float(t) % 1.0 if curve.closed else float(t))
          for k, t in enumerate(ts)]  # fmt: skip
    return sum(_crosses((u - z) / way, (v - z) / way) for u, v in itertools.pairwise(zs))


def _crosses(u: complex, v: complex) -> int:
    """Whether the line from ``u`` to ``v`` crosses the positive real axis."""
    if (u.imag > 0) == (v.imag > 0):
        return 0
    return int(u.real - u.imag * (v.real - u.real) / (v.imag - u.imag) > 0)


def _inside(loop: Loop, holes: list[Loop]) -> complex:
    """A place within the region: along a horizontal line, the middle of its widest stretch inside."""
    ys = [z.imag for p in loop for z in (p.start, p.middle)]
    low, high = min(ys), max(ys)
    best, width = loop[0].middle, -1.0
    for share in (0.5, 0.37, 0.63, 0.21, 0.79, 0.11, 0.89):
        y = low + (high - low) * share
        xs: list[float] = []
        for p in (q for lp in (loop, *holes) for q in lp):
            xs += _ray_places(p, y)
        xs.sort()
        for a, b in itertools.pairwise(xs):
            z = complex((a + b) / 2, y)
            if b - a > width and contains(loop, z) and not any(contains(h, z) for h in holes):
                best, width = z, b - a
        if width > 0.2 * (high - low):
            break
    return best


def _ray_places(p: Piece, y: float) -> list[float]:
    ts = np.linspace(p.t0, p.t1, 2 if isinstance(p.curve, Straight) else 65)
    zs = [p.curve.at(float(t) % 1.0 if p.curve.closed and not 0 <= t <= 1 else float(t)) for t in ts]
    return [
        u.real + (y - u.imag) * (v.real - u.real) / (v.imag - u.imag)
        for u, v in itertools.pairwise(zs)
        if (u.imag > y) != (v.imag > y)
    ]
