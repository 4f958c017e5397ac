"""What a sketch's equations are, apart from where its points lie and what its values are: the same for many edits.

Two sketches with one structure have the same unknowns, the same rows on them and the same index lists; an edit of a
value, a drag, or the next look at the same figure takes them over from before.
"""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Hashable
from typing import Generic, TypeVar

from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.sketch.orient import radius_of

T = TypeVar("T")
ROUND = ("circle", "arc")


def structure_key(sketch: Sketch) -> Hashable:
    """Equal for two sketches exactly when their equations differ in positions and values alone."""
    things = tuple((e.kind, e.id, e.points if e.kind != "point" else (), bool(e.source)) for e in sketch.entities)
    said = tuple(
        (c.id, c.kind, c.of, c.side, c.sign, c.supplement, c.kind == "tangent" and _larger(sketch, c))
        for c in sketch.constraints
        if not c.reference
    )
    return things, said


def _larger(sketch: Sketch, c: Constraint) -> bool:
    """Which of two circles, one in the other, is the larger: their tangency is written from it."""
    a, b = c.of
    both_round = sketch.by_id[a].kind in ROUND and sketch.by_id[b].kind in ROUND
    return both_round and radius_of(sketch, a) >= radius_of(sketch, b)


class Recent(Generic[T]):
    """The last few things by key."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._kept: OrderedDict[Hashable, T] = OrderedDict()

    def get(self, key: Hashable) -> T | None:
        """What was kept for a key; it is the most recent one then."""
        found = self._kept.get(key)
        if found is not None:
            self._kept.move_to_end(key)
        return found

    def put(self, key: Hashable, thing: T) -> None:
        """Keep a thing; the one that was not asked for longest goes."""
        self._kept[key] = thing
        while len(self._kept) > self._most:
            self._kept.popitem(last=False)
