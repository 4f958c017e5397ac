"""What is found for the shop, as plain values; mm and rad, places in the part datum or, where none is set, its own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from lathed_solid.kernel.vectors import Triple


@dataclass(frozen=True, slots=True)
class Segment:
    """A stretch of a hole's wall: from one depth below its mouth to another; ``low``, ``high``: the diameters there."""

    start: float
    end: float
    first: float
    last: float
    face: str

    @property
    def straight(self) -> bool:
        """A cylinder's."""
        return abs(self.first - self.last) < 1e-9


@dataclass(frozen=True, slots=True)
class HoleThread:
    """A thread in a hole: its designation, and how far it goes (None: through)."""

    designation: str
    major: float
    pitch: float
    depth: float | None


@dataclass(frozen=True, slots=True)
class FoundHole:
    """A hole: the middle of its mouth, the way out of it, its stretches from there inwards; ``through`` at its end."""

    mouth: Triple
    out: Triple
    segments: tuple[Segment, ...]
    through: bool
    faces: tuple[str, ...]
    thread: HoleThread | None = None

    @property
    def diameter(self) -> float:
        """Of the drill: the narrowest straight stretch."""
        return min(s.first for s in self.segments if s.straight)

    @property
    def depth(self) -> float | None:
        """To the shoulder of the narrowest stretch; None for through."""
        if self.through:
            return None
        return max(s.end for s in self.segments if s.straight and s.first < self.diameter + 1e-9)

    @property
    def tip_angle(self) -> float | None:
        """Of the point it was drilled with; None for a flat bottom or none."""
        from math import atan

        last = self.segments[-1]
        if last.straight or last.last > 1e-6:
            return None
        return 2 * atan((last.first - last.last) / 2 / (last.end - last.start))


@dataclass(frozen=True, slots=True)
class Station:
    """A round stretch of a turned part: from, to along its axis from the datum; diameters at both ends; ``cut_by``: the
    step that cut a real thread there (0: none).
    """

    start: float
    end: float
    first: float
    last: float
    inner: bool
    face: str
    thread: str = ""
    cut_by: int = 0


@dataclass(frozen=True, slots=True)
class InnerCorner:
    """A hollow rounding: its radius, how deep it goes along its axis; ``reached``: an upright cutter can leave it."""

    radius: float
    depth: float
    reached: bool
    face: str
    at: Triple


@dataclass(frozen=True, slots=True)
class SharpCorner:
    """An inner edge that no round cutter can leave: between two faces, its middle, its length."""

    faces: tuple[str, str]
    at: Triple
    length: float


@dataclass(frozen=True, slots=True)
class Zero:
    """Part zero: its place and directions in the part's own coordinates, and in words."""

    origin: Triple
    x: Triple
    z: Triple
    words: str
    told: bool


@dataclass(frozen=True, slots=True)
class Floor:
    """A recessed flat: which way it faces, how deep it lies below the part's box that way; ``ways``: towards which
    sides it is open all over, so that a cutter from there can leave it (by its end, or by its flank).
    """

    out: Triple
    depth: float
    area: float
    face: str
    ways: tuple[Triple, ...]


Kind = Literal["turned", "milled"]


@dataclass(frozen=True)
class ShopFigures:
    """All of it. ``size``: of the box along zero's X, Y, Z; ``low``: its least corner there; ``hexagon``: width across
    flats of a hexagonal outside along the axis; ``around``: diameters of the circles about the box's middle that it
    fits into, seen along X, Y, Z.
    """

    kind: Kind
    zero: Zero
    size: Triple
    low: Triple
    volume: float
    holes: tuple[FoundHole, ...]
    stations: tuple[Station, ...]
    corners: tuple[InnerCorner, ...]
    sharp: tuple[SharpCorner, ...]
    floors: tuple[Floor, ...]
    hexagon: float | None = None
    around: Triple = (0.0, 0.0, 0.0)
