"""The other shapes that satisfy everything: discrete solutions found from mirrored starts.

A distance or a tangency often leaves two places for a point. Each free point is mirrored over the line through two
of the points it is tied to, each side-bearing tangency is turned to its other side, and the sketch is solved from
there; what is found is mirrored again, breadth first, until nothing new comes or the limit is reached.
"""

from __future__ import annotations

import itertools
from collections import deque
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import numpy as np

from lathed_solid.quantity.tolerances import LINEAR, RELATIVE_READ, ROUNDING
from lathed_solid.sketch.equations import Layout
from lathed_solid.sketch.model import Arc, Constraint, Line, Sketch
from lathed_solid.sketch.plane import mirrored
from lathed_solid.sketch.residuals import Array
from lathed_solid.sketch.solve import moved, sane, solve_system
from lathed_solid.sketch.system import System

MOST = 16
SAME = 1e-6
TRIED_MOST = 400


@dataclass(frozen=True)
class Alternative:
    """Another shape: the sketch to take over (positions and sides), its unknowns, how far it is from the present."""

    sketch: Sketch
    x: Array = field(repr=False)
    distance: float


def alternatives(sketch: Sketch, values: Mapping[str, float], *, most: int = MOST) -> tuple[Alternative, ...]:
    """Other solutions of a solved sketch, nearest first; the present one is not among them."""
    layout = Layout(sketch)
    here = np.array(layout.start)
    joints = System(sketch, level=1, layout=layout)  # which points are one does not change
    partners = _partners(sketch, joints)
    seen: list[tuple[Sketch, Array]] = [(sketch, here)]
    queue, tried = deque(seen), 0
    size = layout.size
    while queue and len(seen) <= most and tried < TRIED_MOST:
        base, x = queue.popleft()
        for changed, start in itertools.chain(_mirrored(base, x, joints, partners), _other_sides(base, x, layout)):
            tried += 1
            system = System(changed)
            solution = solve_system(system, values, start)
            if not solution.ok or not sane(solution) or _degenerate(system, solution.x):
                continue
            if any(np.abs(solution.x - other).max() < SAME * size for _, other in seen):
                continue
            found = moved(changed, solution.x)
            seen.append((found, solution.x))
            queue.append((found, solution.x))
            if len(seen) > most or tried >= TRIED_MOST:
                break
    out = [Alternative(s, x, float(np.linalg.norm(x - here))) for s, x in seen[1:]]
    return tuple(sorted(out, key=lambda a: a.distance))


def _partners(sketch: Sketch, joints: System) -> dict[int, set[int]]:
    """For each point (by merged unknown) the points it is tied to by lines, arcs and two-point constraints."""

    def root(p: str) -> int:
        return int(joints.index[joints.layout.point[p]])

    ties: dict[int, set[int]] = {}

    def tie(p: str, q: str) -> None:
        a, b = root(p), root(q)
        if a != b:
            ties.setdefault(a, set()).add(b)
            ties.setdefault(b, set()).add(a)

    for e in sketch.entities:
        if isinstance(e, Line):
            tie(e.start, e.end)
        elif isinstance(e, Arc):
            tie(e.centre, e.start)
            tie(e.centre, e.end)
    for c in sketch.constraints:
        ends = [q for name in c.of for q in _anchor(sketch, name)]
        for p, q in itertools.combinations(ends, 2):
            tie(p, q)
    return ties


def _anchor(sketch: Sketch, name: str) -> tuple[str, ...]:
    e = sketch.by_id[name]
    return (e.id,) if e.kind == "point" else e.points[:1] if e.kind in ("circle", "arc") else ()


def _mirrored(
    sketch: Sketch, x: Array, joints: System, partners: Mapping[int, set[int]]
) -> Iterator[tuple[Sketch, Array]]:
    """Starts with one point mirrored over the line through two of its partners."""
    place: dict[int, int] = {}
    for i in joints.layout.point.values():
        place.setdefault(int(joints.index[i]), i)
    for root, tied in partners.items():
        i = place[root]
        p = complex(x[i], x[i + 1])
        for a, b in itertools.combinations(sorted(tied), 2):
            s, e = complex(x[place[a]], x[place[a] + 1]), complex(x[place[b]], x[place[b] + 1])
            if abs(e - s) < ROUNDING:
                continue
            image = mirrored(p, s, e)
            if abs(image - p) < LINEAR:
                continue
            start = x.copy()
            start[joints.index == root] = image.real
            start[joints.index == joints.index[i + 1]] = image.imag
            yield sketch, start


def _other_sides(sketch: Sketch, x: Array, layout: Layout) -> Iterator[tuple[Sketch, Array]]:
    """Starts with one tangency on its other side."""
    for k, c in enumerate(sketch.constraints):
        if c.kind != "tangent" or c.reference or not c.side:
            continue
        other: Constraint = c.model_copy(update={"side": -c.side})
        constraints = (*sketch.constraints[:k], other, *sketch.constraints[k + 1 :])
        changed = Sketch.model_construct(entities=sketch.entities, constraints=constraints)
        yield changed, x
        first, second = (sketch.by_id[n] for n in c.of)
        if isinstance(first, Line) and second.kind in ("circle", "arc"):
            i, j = layout.point[first.start], layout.point[first.end]
            s, e = complex(x[i], x[i + 1]), complex(x[j], x[j + 1])
            if abs(e - s) < ROUNDING:
                continue
            start = x.copy()
            for p in second.points:
                q = layout.point[p]
                if p in (first.start, first.end):
                    continue
                z = mirrored(complex(x[q], x[q + 1]), s, e)
                start[q], start[q + 1] = z.real, z.imag
            yield changed, start


def _degenerate(system: System, x: Array) -> bool:
    """Whether a shape collapsed: a line or a radius that was there has vanished."""
    layout = system.layout
    tiny = RELATIVE_READ * system.size
    for e in layout.sketch.entities:
        if isinstance(e, Line):
            i, j = layout.point[e.start], layout.point[e.end]
            if np.hypot(x[j] - x[i], x[j + 1] - x[i + 1]) < tiny:
                return True
    return any(x[i] < tiny for i in layout.radius.values())
