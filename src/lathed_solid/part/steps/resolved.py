"""Planes and sketches worked out: frames in space, and solved figures on them.

A frame is an origin and two unit directions; the plane's normal is x cross y.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from lathed_solid.sketch.model import Sketch

if TYPE_CHECKING:
    from lathed_solid.sketch.regions import Region

Triple = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Frame:
    """``origin`` in mm, ``x`` and ``y`` unit directions."""

    origin: Triple
    x: Triple
    y: Triple

    @property
    def normal(self) -> Triple:
        """x cross y."""
        (a, b, c), (d, e, f) = self.x, self.y
        return (b * f - c * e, c * d - a * f, a * e - b * d)


@dataclass(frozen=True, slots=True)
class ResolvedPlane:
    """``frame`` of a datum plane; None with the name of the ``face`` it is to be read from."""

    frame: Frame | None
    face: str
    turn: float
    flip: bool


@dataclass(frozen=True)
class ResolvedSketch:
    """The solved figure on its plane."""

    plane: ResolvedPlane
    sketch: Sketch = field(repr=False)

    @cached_property
    def regions(self) -> tuple[Region, ...]:
        """What the figure encloses, arranged once for all steps that pick from it."""
        from lathed_solid.sketch.regions import regions

        return regions(self.sketch)
