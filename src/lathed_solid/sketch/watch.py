"""Whether an edit turned something of a figure over: what is held can be another figure than was meant.

Two lines u, v away from their common end make a corner whose sense is the sign of Im(conj(u) v); an arc runs a short
or a long way round; drawn curves cross, or do not. An edit of a value keeps all of these, or it is told.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from lathed_solid.quantity.tolerances import ANGULAR
from lathed_solid.sketch.check import crossings
from lathed_solid.sketch.measure import turn_of
from lathed_solid.sketch.model import Arc, Line, Point, Sketch
from lathed_solid.sketch.orient import joined

#: decimals of mm to which two places are one
PLACES = 6
#: in larger figures crossings are not looked for after each edit
CURVES_MOST = 200


@dataclass(frozen=True, slots=True)
class TurnedOver:
    """What is another way round than before, in words."""

    entities: tuple[str, ...]
    words: str


def turned_over(before: Sketch, after: Sketch) -> tuple[TurnedOver, ...]:
    """Corners, arcs and crossings of what stands in both figures (solved, mm) that changed their sense."""
    out: list[TurnedOver] = []
    if max((abs(p.x - q.x) + abs(p.y - q.y) for p, q in _both(before, after)), default=0.0) <= ANGULAR:
        return ()
    old, new = _corners(before), _corners(after)
    for pair in old.keys() & new.keys():
        if old[pair] * new[pair] < 0 and min(abs(old[pair]), abs(new[pair])) > ANGULAR:
            out.append(TurnedOver(pair, f"the corner of {pair[0]} and {pair[1]} turned over"))
    turns = _turns(after)
    for name, turn in _turns(before).items():
        now = turns.get(name)
        if now is not None and (turn - math.pi) * (now - math.pi) < 0 and abs(turn - now) > math.pi / 2:
            out.append(TurnedOver((name,), f"the arc {name} runs the other way round"))
    if len(after.curves) <= CURVES_MOST:
        crossed = {f.entities for f in crossings(before)}
        known = {c.id for c in before.curves}
        for f in crossings(after):
            if f.entities not in crossed and known.issuperset(f.entities):
                out.append(TurnedOver(f.entities, f"{f.entities[0]} and {f.entities[1]} cross now"))
    return tuple(sorted(out, key=lambda t: t.entities))


def _both(before: Sketch, after: Sketch) -> Iterator[tuple[Point, Point]]:
    """The points that stand in both, before and after."""
    then = {p.id: p for p in before.points}
    return ((then[q.id], q) for q in after.points if q.id in then)


def _corners(sketch: Sketch) -> dict[tuple[str, str], float]:
    """The sine of the corner between every two drawn lines that end in one place, by their names in order.

    Ends that are one by coincidence, and ends that merely lie on one another, as two that are fixed there.
    """
    leader = joined(sketch)
    at: dict[Hashable, list[tuple[str, complex]]] = {}
    for e in sketch.curves:
        if isinstance(e, Line) and not e.construction:
            a, b = complex(*sketch.at(e.start)), complex(*sketch.at(e.end))
            if a != b:
                way = (b - a) / abs(b - a)
                for end, z, out in ((e.start, a, way), (e.end, b, -way)):
                    for place in (leader[end], (round(z.real, PLACES), round(z.imag, PLACES))):
                        at.setdefault(place, []).append((e.id, out))
    return {
        (m, n): (u.conjugate() * v).imag
        for lines in at.values()
        for (m, u), (n, v) in itertools.combinations(sorted(lines, key=lambda line: line[0]), 2)
    }


def _turns(sketch: Sketch) -> dict[str, float]:
    """How far each arc runs, rad."""
    return {e.id: turn_of(sketch, e) for e in sketch.curves if isinstance(e, Arc)}
