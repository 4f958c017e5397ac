"""Leaders: where the line that begins at a note ends. A chain of strokes, each beginning where the last one ends."""

from __future__ import annotations

import math
from collections.abc import Sequence

from lathed_solid.sheets.strokes import Stroke

#: a leader begins no farther from its note than this, mm; its pieces meet within so much, and are no more than these
BESIDE, MEETS, PIECES = 5.0, 0.25, 4
#: a shorter line leads nowhere, mm
LEAST = 3.0

Box = tuple[float, float, float, float]
Place = tuple[float, float]


def leader_tip(box: Box, strokes: Sequence[Stroke]) -> Place | None:
    """Where the leader of the note in ``box`` (left, low, right, high, mm on the page) points; None without one."""
    best: tuple[float, Place] | None = None
    ends = [(tuple(map(float, s.points[0])), tuple(map(float, s.points[-1]))) for s in strokes]
    for n, pair in enumerate(ends):
        for here, there in (pair, pair[::-1]):
            away = _away(here, box)  # type: ignore[arg-type]
            if away <= BESIDE and _away(there, box) > away + 0.5:  # type: ignore[arg-type]
                tip = _followed(there, n, ends)  # type: ignore[arg-type]
                if math.dist(here, tip) >= LEAST and (best is None or away < best[0]):
                    best = (away, tip)
    return None if best is None else best[1]


def _followed(at: Place, own: int, ends: Sequence[tuple[Place, ...]]) -> Place:
    """The far end of the chain of strokes that goes on at a place."""
    used = {own}
    for _ in range(PIECES):
        for n, (a, b) in enumerate(ends):
            if n not in used and min(math.dist(a, at), math.dist(b, at)) <= MEETS:
                used.add(n)
                at = b if math.dist(a, at) <= MEETS else a
                break
        else:
            break
    return at


def _away(p: Place, box: Box) -> float:
    dx = max(box[0] - p[0], p[0] - box[2], 0.0)
    dy = max(box[1] - p[1], p[1] - box[3], 0.0)
    return math.hypot(dx, dy)
