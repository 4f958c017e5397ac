"""Balloons of a drawing: bare numbers in rings. They number its notes and are none themselves."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

Place = tuple[float, float]
Box = tuple[float, float, float, float]
#: a ring is so many times as wide as its number is tall, and no less round than this
LEAST, MOST, ROUND = 1.4, 4.5, 0.12
#: corners that a run must have to be round, and how near its ends have to come, by its width
CORNERS, CLOSED = 8, 0.05


@dataclass(frozen=True, slots=True)
class Ring:
    """A drawn circle, mm on the page."""

    centre: Place
    radius: float

    def holds(self, box: Box) -> bool:
        """Whether a bare number stands in its middle (left, low, right, high)."""
        x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
        tall = min(box[2] - box[0], box[3] - box[1]) if self._upright(box) else box[3] - box[1]
        fits = LEAST * tall < 2 * self.radius < MOST * tall
        return fits and math.dist((x, y), self.centre) < 0.5 * self.radius

    @staticmethod
    def _upright(box: Box) -> bool:
        return box[3] - box[1] > box[2] - box[0]


def rings(runs: Iterable[Sequence[Place]]) -> list[Ring]:
    """Closed runs that are round."""
    out = []
    for run in runs:
        if len(run) < CORNERS:
            continue
        xs, ys = [p[0] for p in run], [p[1] for p in run]
        wide, tall = max(xs) - min(xs), max(ys) - min(ys)
        if not wide or abs(wide - tall) > ROUND * wide or math.dist(run[0], run[-1]) > CLOSED * wide:
            continue
        centre = ((max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2)
        radius = (wide + tall) / 4
        if all(abs(math.dist(p, centre) - radius) < ROUND * radius for p in run):
            out.append(Ring(centre, radius))
    return out


def in_ring(text: str, box: Box, found: Sequence[Ring]) -> bool:
    """Whether a text is a balloon."""
    bare = text.strip()
    return bare.isdigit() and len(bare) <= 4 and any(r.holds(box) for r in found)
