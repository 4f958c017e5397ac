"""Hatch of cut faces: lines at 45 degrees, 2.5 mm apart, within bounds by the even-odd rule."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from lathed_solid.kernel.drawing.figures import Place

#: between lines, mm of paper
PITCH = 2.5


def hatch(bounds: Sequence[Sequence[Place]]) -> Iterator[tuple[Place, Place]]:
    """The lines of a hatch. A line x - y = c meets the bounds' edges in an even number of places."""
    edges = [(a, b) for run in bounds for a, b in zip(run, [*run[1:], run[0]], strict=True)]
    if not edges:
        return
    levels = [p[0] - p[1] for a, _ in edges for p in (a,)]
    pitch = PITCH * math.sqrt(2)
    for k in range(math.ceil(min(levels) / pitch), math.floor(max(levels) / pitch) + 1):
        c = k * pitch + 1e-7  # off the corners
        met = []
        for a, b in edges:
            u, v = a[0] - a[1] - c, b[0] - b[1] - c
            if (u > 0) != (v > 0):
                t = u / (u - v)
                met.append((a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])))
        met.sort()
        yield from zip(met[::2], met[1::2], strict=False)
