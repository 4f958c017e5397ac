"""A closed loop of straight and circular pieces as a plain value; see ``loops``."""

from __future__ import annotations

import math
from dataclasses import dataclass

#: x, y of a corner, mm, and the bulge of the piece that follows it
Corner = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Loop:
    """Its corners in order; the last piece leads back to the first."""

    corners: tuple[Corner, ...]

    @property
    def turned(self) -> Loop:
        """The same, run the other way."""
        before = (self.corners[-1], *self.corners[:-1])
        return Loop(tuple((x, y, -b) for (x, y, _), (_, _, b) in zip(self.corners, before, strict=True))[::-1])

    @property
    def area(self) -> float:
        """mm2, positive when it runs counter-clockwise."""
        total = 0.0
        for (ax, ay, bulge), (bx, by, _) in zip(self.corners, (*self.corners[1:], self.corners[0]), strict=True):
            total += (ax * by - bx * ay) / 2
            if bulge:
                t = 4 * math.atan(bulge)
                r = math.hypot(bx - ax, by - ay) / 2 / math.sin(t / 2)
                total += r * r * (t - math.sin(t)) / 2
        return total
