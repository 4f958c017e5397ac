"""A solid as a drawing shows it, as plain values that cross a pipe; nothing here imports the kernel.

All in mm of the part, in the plane of a side: x to its right, y upwards.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

Place = tuple[float, float]
SideName = Literal["front", "top", "right", "back", "bottom", "left"]
#: chords of an arc stand no nearer to it than this share of its radius; a coarse one's at one part in so many
FINEST, COARSE = 1e-7, 50
#: the half of a side that is cut open beside one that is not: below or to the right of the part's middle
Half = Literal["", "low", "right"]


@dataclass(frozen=True, slots=True)
class Run:
    """A line, or a curve as the places that it runs through."""

    points: tuple[Place, ...]


@dataclass(frozen=True, slots=True)
class Arc:
    """Counter-clockwise from ``start`` to ``end``, rad; a whole circle where they are a turn apart."""

    centre: Place
    radius: float
    start: float = 0.0
    end: float = 2 * math.pi

    @property
    def whole(self) -> bool:
        """Whether it is a circle."""
        return self.end - self.start > 2 * math.pi - 1e-6

    def at(self, angle: float) -> Place:
        """The place at an angle."""
        return self.centre[0] + self.radius * math.cos(angle), self.centre[1] + self.radius * math.sin(angle)

    def run(self, chord: float) -> Run:
        """The same as chords that are no farther off than ``chord`` mm."""
        flat = 1 - max(chord / max(self.radius, chord, FINEST), FINEST)
        many = max(2, math.ceil((self.end - self.start) / (2 * math.acos(flat))))
        return Run(tuple(self.at(self.start + (self.end - self.start) * k / many) for k in range(many + 1)))


Curve = Run | Arc


def points_of(curve: Curve, chord: float | None = None) -> tuple[Place, ...]:
    """Places along a curve: an arc's as chords no farther off than ``chord`` mm, coarsely where none is told."""
    if isinstance(curve, Run):
        return curve.points
    return curve.run(curve.radius / COARSE if chord is None else chord).points


@dataclass(frozen=True, slots=True)
class ThreadLine:
    """A thread's thin line; ``inside``: it lies within material that is only seen where it is cut."""

    curve: Curve
    inside: bool


@dataclass(frozen=True)
class Projected:
    """One side. ``cut``: at which level towards the eye the part is cut, mm (None: it is whole), ``half``: no more of
    it than that; then ``hatched`` are the bounds of what is cut.
    """

    side: SideName
    cut: float | None
    seen: tuple[Curve, ...]
    hidden: tuple[Curve, ...]
    axes: tuple[Run, ...]
    crosses: tuple[Arc, ...]
    threads: tuple[ThreadLine, ...] = ()
    hatched: tuple[tuple[Place, ...], ...] = ()
    half: Half = ""

    @cached_property
    def box(self) -> tuple[float, float, float, float]:
        """Left, low, right, high of what is seen."""
        points = [p for c in self.seen for p in points_of(c)]
        if not points:
            return (0.0, 0.0, 0.0, 0.0)
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)


@dataclass(frozen=True, slots=True)
class Wanted:
    """A side to be drawn, whole or cut at a level towards the eye, mm; ``half``: no more of it is cut than that."""

    side: SideName
    cut: float | None = None
    half: Half = ""


@dataclass(frozen=True, slots=True)
class End:
    """One end of a length in a side: where it lies along it, and from where to where it reaches across; of a ``hidden``
    flat from where to where that lies towards the eye, mm.
    """

    at: float
    low: float
    high: float
    hidden: tuple[float, float] | None = None


@dataclass(frozen=True, slots=True)
class Length:
    """A length as one side shows it, along its x, or ``upright`` along its y."""

    side: SideName
    upright: bool
    start: End
    end: End


@dataclass(frozen=True, slots=True)
class Tip:
    """Where a leader may end: on the circle of an ``arc``, or at a place. ``surface``: the face's kind; ``form``: a rim
    seen end on, an outline, a flat edge on or from its face; ``inner``: a hollow feature's; ``seen``: not behind
    material; ``levels``: from where to where it reaches towards the eye, mm.
    """

    side: SideName
    place: Place
    surface: str
    form: Literal["rim", "outline", "edge", "face"]
    arc: Arc | None = None
    inner: bool = False
    seen: bool = True
    levels: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True, slots=True)
class Corner:
    """An angle as one side shows it, counter-clockwise from ``start`` to ``end``, rad, about its ``apex``; ``legs``:
    from where to where its faces lie along both, mm from the apex.
    """

    side: SideName
    apex: Place
    start: float
    end: float
    legs: tuple[tuple[float, float], tuple[float, float]]

    def scaled(self, scale: float) -> Corner:
        """The same on paper."""
        (a, b), (c, d) = self.legs
        apex = (self.apex[0] * scale, self.apex[1] * scale)
        return Corner(self.side, apex, self.start, self.end, ((a * scale, b * scale), (c * scale, d * scale)))


@dataclass(frozen=True, slots=True)
class Drawn:
    """Where a callout can be drawn. ``size``: what it measures, mm or rad; empty lists: nowhere, for the ``reason``.
    ``circles``: what its holes stand on, by side.
    """

    balloon: int
    size: float
    lengths: tuple[Length, ...] = ()
    tips: tuple[Tip, ...] = ()
    reason: str = ""
    circles: tuple[tuple[SideName, Arc], ...] = ()
    corners: tuple[Corner, ...] = ()


@dataclass(frozen=True, slots=True)
class Stood:
    """How a part stands: its box (least and greatest x, y, z), the direction of a turned one's axis, and whether it is
    hollow along that.
    """

    low: tuple[float, float, float]
    high: tuple[float, float, float]
    axis: tuple[float, float, float] | None = None
    bored: bool = False
