"""What lines are put together of: straight pieces and arcs, and how far one place goes round a centre from another."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

Place = tuple[float, float]
#: chords of an arc, rad
CHORD = math.radians(7.5)


@dataclass(frozen=True)
class Piece:
    """From ``a`` to ``b``: a straight line, or an arc about ``centre`` through ``sweep`` (rad, signed); mm."""

    a: Place
    b: Place
    centre: Place | None = None
    radius: float = 0.0
    sweep: float = 0.0

    @property
    def length(self) -> float:
        """Of a straight one."""
        return math.dist(self.a, self.b)

    def points(self) -> list[Place]:
        """Its ends, and the chords of an arc."""
        if self.centre is None:
            return [self.a, self.b]
        n = max(3, math.ceil(abs(self.sweep) / CHORD))
        start = math.atan2(self.a[1] - self.centre[1], self.a[0] - self.centre[0])
        inner = [start + self.sweep * k / n for k in range(1, n)]
        return [self.a, *((self.centre[0] + self.radius * math.cos(t), self.centre[1] + self.radius * math.sin(t))
                          for t in inner), self.b]  # fmt: skip


def turn(centre: Any, a: Any, b: Any) -> float:
    """How far round a centre it is from one place (x, y) to another, rad, against the clock positive."""
    ux, uy, vx, vy = a[0] - centre[0], a[1] - centre[1], b[0] - centre[0], b[1] - centre[1]
    return math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)
