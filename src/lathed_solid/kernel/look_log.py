"""What a measurement has looked at, so that it can be told later whether it would see the same."""

from __future__ import annotations

from dataclasses import dataclass, field

from lathed_solid.kernel.topology import Key
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.steps import Frame

#: a ray that has no end, mm
ENDLESS = 1e7


@dataclass
class Log:
    """What a measurement has looked at; ``outlines``: also at how far flat faces reach; ``everything``: it went through
    all faces there are.
    """

    outlines: bool = False
    names: set[str] = field(default_factory=set)
    faces: set[Key] = field(default_factory=set)
    #: origin, way, from, to
    rays: set[tuple[float, ...]] = field(default_factory=set)
    #: places that were asked for, and whether there was material
    points: dict[Triple, bool] = field(default_factory=dict)
    #: lines of sketches in which everything was looked for: a place and the direction square to it
    drawn: dict[tuple[int, str], tuple[Triple, Triple] | None] = field(default_factory=dict)
    frames: dict[int, Frame] = field(default_factory=dict)
    everything: bool = False

    def ray(self, origin: Triple, way: Triple, reach: float = ENDLESS, back: float = 0.0) -> None:
        """A ray was sent from a place along a way (a unit vector), from ``-back`` to ``reach`` mm."""
        self.rays.add((*origin, *way, -back, reach))
