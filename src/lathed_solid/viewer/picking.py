"""What a picked face says of itself: its surface in words, and where on it the pointer is."""

from __future__ import annotations

import math
from typing import Any

from lathed_solid.kernel.figures import Picked
from lathed_solid.kernel.surfaces import Surface, read_surface
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.steps import face_frame


def picked_face(face: Any, label: str, point: Triple) -> Picked:
    """A face under the pointer at ``point`` (mm); ``label`` is its name, empty for none."""
    surface = read_surface(face)
    names = (label,) if label else ()
    return Picked("face", names, point, _facts(surface), _place(surface, point), surface.kind)


def _place(s: Surface, point: tuple[float, float, float]) -> tuple[float, float] | None:
    """A point of a flat face in the frame that holes are placed in."""
    if s.kind != "plane":
        return None
    frame = face_frame(s.origin, s.direction, 0.0, False)
    off = [p - o for p, o in zip(point, frame.origin, strict=True)]
    x, y = (sum(a * b for a, b in zip(off, axis, strict=True)) for axis in (frame.x, frame.y))
    return x, y


def _facts(s: Surface) -> str:
    """A face in words."""
    if s.kind == "cylinder":
        return f"cylinder ⌀{2 * s.radius:.3f}"
    if s.kind == "cone":
        return f"cone, half angle {math.degrees(abs(s.half_angle)):.2f}°"
    if s.kind == "torus":
        return f"radius {s.radius:.3f}"
    return "flat face" if s.kind == "plane" else s.kind
