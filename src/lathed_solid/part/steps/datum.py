"""Datums: planes, axes and points that later steps refer to, and the part datum that its coordinates count from.

``plane`` makes ``N/plane``, ``axis`` makes ``N/axis``, ``point`` makes ``N/point``. They are worked out on the part
as it stands
at that step, so they follow the faces they come from.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

from pydantic import Field

from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.turned import Evaluate

Names = tuple[str, ...]

PLANE_WAYS = ("offset", "midway", "angle", "points", "tangent", "square")
AXIS_WAYS = ("of", "planes", "points")
POINT_WAYS = ("at", "of", "meet")
#: how many names each way takes
TAKES = {
    "plane": {"offset": 1, "midway": 2, "angle": 2, "points": 3, "tangent": 1, "square": 2},
    "axis": {"of": 1, "planes": 2, "points": 2},
    "point": {"at": 0, "of": 1, "meet": 2},
}


@dataclass(frozen=True, slots=True)
class ResolvedDatum:
    """``what``: plane, axis, point or zero; ``way`` how; ``names`` from what; ``distance`` mm, ``angle`` rad, ``at``
    mm.
    """

    what: str
    way: str
    names: Names
    distance: float = 0.0
    angle: float = 0.0
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)


def _check(what: str, way: str, names: Names) -> None:
    wanted = TAKES[what][way]
    if len(names) != wanted:
        raise StepError(f"this way takes {wanted} name{'s' if wanted != 1 else ''}, not {len(names)}", where="from",
                        hint="pick faces, edges or corners in the solid")  # fmt: skip


class PlaneStep(StepBase):
    """offset from a plane; midway between two; at an ``angle`` to a plane through an edge or axis; through three
    points;
    tangent to a cylinder at an angle; square to an edge (or axis) at a point."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["plane"] = "plane"
    way: Literal["offset", "midway", "angle", "points", "tangent", "square"] = "offset"
    names: Names = Field(default=("XY",), max_length=3)
    distance: Cell = "10"
    angle: Cell = "45°"

    def title(self) -> str:
        words = {"offset": "offset from", "midway": "midway between", "angle": "at an angle through",
                 "points": "through", "tangent": "tangent to", "square": "square to"}  # fmt: skip
        return f"Plane {words[self.way]} {' and '.join(self.names)}"

    def fields(self) -> tuple[FieldOf, ...]:
        out = []
        if self.way == "offset":
            out.append(FieldOf("distance", self.distance, "length", None))
        if self.way in ("angle", "tangent"):
            out.append(FieldOf("angle", self.angle, "angle", None))
        return tuple(out)

    def resolve(self, evaluate: Evaluate) -> ResolvedDatum:
        """All figures. Raises StepError."""
        _check("plane", self.way, self.names)
        read = Reader(evaluate)
        distance = read.any("distance", self.distance) if self.way == "offset" else 0.0
        angle = read.any("angle", self.angle, "angle") if self.way in ("angle", "tangent") else 0.0
        return ResolvedDatum("plane", self.way, self.names, distance, math.remainder(angle, 2 * math.pi))


class AxisStep(StepBase):
    """of a round face or an edge; where two planes meet; through two points."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["axis"] = "axis"
    way: Literal["of", "planes", "points"] = "of"
    names: Names = Field(default=("X",), max_length=2)

    def title(self) -> str:
        names = " and ".join(self.names)
        return {"of": f"Axis of {names}", "planes": f"Axis where {names} meet", "points": f"Axis through {names}"}[
            self.way
        ]

    def resolve(self, evaluate: Evaluate) -> ResolvedDatum:
        """Raises StepError."""
        _check("axis", self.way, self.names)
        return ResolvedDatum("axis", self.way, self.names)


class PointStep(StepBase):
    """at coordinates; a corner or the centre of a round edge; where an axis meets a plane."""

    NAMES: ClassVar[tuple[str, ...]] = ("names",)

    kind: Literal["point"] = "point"
    way: Literal["at", "of", "meet"] = "at"
    names: Names = Field(default=(), max_length=2)
    x: Cell = "0"
    y: Cell = "0"
    z: Cell = "0"

    def title(self) -> str:
        if self.way == "at":
            return f"Point at {self.x}, {self.y}, {self.z}"
        names = " and ".join(self.names)
        return f"Point of {names}" if self.way == "of" else f"Point where {names} meet"

    def fields(self) -> tuple[FieldOf, ...]:
        return tuple(FieldOf(n, getattr(self, n), "length", None) for n in "xyz") if self.way == "at" else ()

    def resolve(self, evaluate: Evaluate) -> ResolvedDatum:
        """All figures. Raises StepError."""
        _check("point", self.way, self.names)
        read = Reader(evaluate)
        at: Any = tuple(read.any(n, getattr(self, n)) for n in "xyz") if self.way == "at" else (0.0, 0.0, 0.0)
        return ResolvedDatum("point", self.way, self.names, at=at)


class ZeroStep(StepBase):
    """The part datum, for the people who cut it: which point is zero, along which axis X runs, and Z.

    Exchange files are written, and the envelope is told, in this datum.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("origin", "along_x", "along_z")

    kind: Literal["zero"] = "zero"
    origin: str = Field(default="O", min_length=1, max_length=900)
    along_x: str = Field(default="X", min_length=1, max_length=900)
    along_z: str = Field(default="Z", min_length=1, max_length=900)
    flip_x: bool = False
    flip_z: bool = False

    def title(self) -> str:
        return f"Part datum at {self.origin}"

    def resolve(self, evaluate: Evaluate) -> ResolvedDatum:
        """Never fails."""
        flips = f"{'-' if self.flip_x else '+'}{'-' if self.flip_z else '+'}"
        return ResolvedDatum("zero", flips, (self.origin, self.along_x, self.along_z))
