"""The six sides of a part: how each is looked at. Nothing here imports the kernel itself."""

from __future__ import annotations

from lathed_solid.kernel.vectors import Triple

#: name, towards the eye, to the right
SIDES: tuple[tuple[str, Triple, Triple], ...] = (
    ("front", (0.0, -1.0, 0.0), (1.0, 0.0, 0.0)),
    ("top", (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
    ("right", (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    ("back", (0.0, 1.0, 0.0), (-1.0, 0.0, 0.0)),
    ("bottom", (0.0, 0.0, -1.0), (1.0, 0.0, 0.0)),
    ("left", (-1.0, 0.0, 0.0), (0.0, -1.0, 0.0)),
)
