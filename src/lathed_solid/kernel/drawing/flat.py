"""The plane of a side: space laid flat, x to the right of the eye, y upwards."""

from __future__ import annotations

from dataclasses import dataclass
from typing import cast

from lathed_solid.kernel.drawing.figures import Place, SideName
from lathed_solid.kernel.side_frames import SIDES
from lathed_solid.kernel.vectors import Triple, cross, dot


@dataclass(frozen=True, slots=True)
class Flat:
    """``eye`` towards the eye, ``right`` and ``up`` in the plane; unit directions square to each other."""

    side: SideName
    eye: Triple
    right: Triple
    up: Triple

    def of(self, p: Triple) -> Place:
        """A place of space in the plane, mm."""
        return dot(p, self.right) + 0.0, dot(p, self.up) + 0.0


#: the six sides by name
FLATS: dict[str, Flat] = {name: Flat(cast(SideName, name), eye, right, cross(eye, right)) for name, eye, right in SIDES}
