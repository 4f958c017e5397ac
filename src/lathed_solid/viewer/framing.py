"""What the view shows: the directions of the net, and whether a solid outgrew what was fitted."""

from __future__ import annotations

import math
from typing import Any

from lathed_solid.kernel.vectors import Triple

#: a solid that stands out of what was fitted by this share of it, or is so much smaller, is fitted anew
OUT, SMALLER = 0.15, 0.6

#: name -> (direction towards the viewer, up)
VIEWS: dict[str, tuple[tuple[float, float, float], tuple[float, float, float]]] = {
    "front": ((0, -1, 0), (0, 0, 1)),
    "back": ((0, 1, 0), (0, 0, 1)),
    "left": ((-1, 0, 0), (0, 0, 1)),
    "right": ((1, 0, 0), (0, 0, 1)),
    "top": ((0, 0, 1), (0, 1, 0)),
    "bottom": ((0, 0, -1), (0, -1, 0)),
    "iso left": ((-1, -1.25, 0.9), (0, 0, 1)),
    "iso right": ((1, -1.25, 0.9), (0, 0, 1)),
}


def outgrown(now: tuple[Triple, Triple], fitted: tuple[Triple, Triple] | None) -> bool:
    """Whether a box (least and greatest corner, mm) is much larger or smaller than what was fitted, or none was."""
    if fitted is None:
        return True
    (low, high), (old_low, old_high) = now, fitted
    size, old = math.dist(low, high), math.dist(old_low, old_high)
    beyond = max(*(b - a for a, b in zip(low, old_low, strict=True)),
                 *(a - b for a, b in zip(high, old_high, strict=True)))  # fmt: skip
    return beyond > OUT * old or size < SMALLER * old


def under(view: Any, x: int, y: int, level: Triple) -> Triple:
    """The place under a pixel of a view in the plane through ``level`` that faces the viewer, mm."""
    *at, _, _, _ = view.ConvertWithProj(x, y)
    way = view.Proj()
    far = sum((k - a) * w for k, a, w in zip(level, at, way, strict=True))
    a, b, c = (float(p + far * w) for p, w in zip(at, way, strict=True))
    return a, b, c
