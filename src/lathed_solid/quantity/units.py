"""Units and the values that carry them.

A Value is a number in base units (mm, rad, g) with exponents of length, angle and mass. Plain numbers have
all exponents zero. Angles count as a kind of their own, so that 30 deg + 2 mm is refused.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from lathed_solid.errors import LathedError

LengthUnit = Literal["mm", "in"]
Kind = Literal["length", "angle", "number", "mass"]

MM_PER_INCH = 25.4
#: a typographic point, a 72nd of an inch
MM_PER_POINT = MM_PER_INCH / 72

#: factor to base units and (length, angle, mass) exponents
UNITS: dict[str, tuple[float, tuple[int, int, int]]] = {
    "mm": (1.0, (1, 0, 0)),
    "cm": (10.0, (1, 0, 0)),
    "m": (1000.0, (1, 0, 0)),
    "um": (1e-3, (1, 0, 0)),
    "µm": (1e-3, (1, 0, 0)),
    "μm": (1e-3, (1, 0, 0)),
    "in": (MM_PER_INCH, (1, 0, 0)),
    "inch": (MM_PER_INCH, (1, 0, 0)),
    "ft": (12 * MM_PER_INCH, (1, 0, 0)),
    "thou": (MM_PER_INCH / 1000, (1, 0, 0)),
    "deg": (math.pi / 180, (0, 1, 0)),
    "°": (math.pi / 180, (0, 1, 0)),
    "rad": (1.0, (0, 1, 0)),
    "g": (1.0, (0, 0, 1)),
    "kg": (1000.0, (0, 0, 1)),
    "lb": (453.59237, (0, 0, 1)),
}

KIND_DIMENSION: dict[Kind, tuple[int, int, int]] = {
    "number": (0, 0, 0),
    "length": (1, 0, 0),
    "angle": (0, 1, 0),
    "mass": (0, 0, 1),
}


class QuantityError(LathedError, ValueError):
    """A malformed or impossible quantity. ``column`` counts from 1; 0 when there is no place to point at."""

    def __init__(self, what: str, *, column: int = 0, text: str = "", **rest: str) -> None:
        self.column, self.text = column, text
        place = f"column {column}" if column else ""
        super().__init__(what, where=place, received=repr(text) if text else None, **rest)


def decimal(text: str) -> float:
    """``12.5`` or, with a decimal comma, ``12,5``. Raises ValueError."""
    return float(text.strip().replace(",", "."))


@dataclass(frozen=True, slots=True)
class Value:
    """A number in base units (mm, rad, g) with its exponents (length, angle, mass)."""

    number: float
    dimension: tuple[int, int, int] = (0, 0, 0)

    @property
    def plain(self) -> bool:
        """Whether it has no unit."""
        return self.dimension == (0, 0, 0)


def unit_factor(unit: str) -> float:
    """Base units in one ``unit``; KeyError for an unknown unit."""
    return UNITS[unit][0]


def describe_dimension(dimension: tuple[int, int, int]) -> str:
    """A dimension in words: 'a length', 'an area', 'an angle', 'length^-1'."""
    known = {
        (0, 0, 0): "a plain number",
        (1, 0, 0): "a length",
        (2, 0, 0): "an area",
        (3, 0, 0): "a volume",
        (0, 1, 0): "an angle",
        (0, 0, 1): "a mass",
    }
    if dimension in known:
        return known[dimension]
    parts = [f"{n}^{e}" for n, e in zip(("length", "angle", "mass"), dimension, strict=True) if e]
    return " ".join(parts)


def as_kind(value: Value, kind: Kind, unit: LengthUnit = "mm") -> float:
    """``value`` as a number in base units of ``kind``; a plain number takes the field's unit.

    The field's unit is the sheet's for lengths, degrees for angles, grams for masses.
    Raises QuantityError when the dimension does not fit.
    """
    if value.dimension == KIND_DIMENSION[kind]:
        return value.number
    if value.plain:
        return value.number * plain_factor(kind, unit)
    wanted, got = describe_dimension(KIND_DIMENSION[kind]), describe_dimension(value.dimension)
    raise QuantityError(f"this field needs {wanted}, the expression gives {got}", hint="check the units")


def plain_factor(kind: Kind, unit: LengthUnit) -> float:
    """Base units in a plain number written in a field of ``kind`` on a sheet in ``unit``."""
    if kind == "length":
        return UNITS[unit][0]
    return math.pi / 180 if kind == "angle" else 1.0
