"""The views of the net: from where, and what is up."""

from __future__ import annotations

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
