"""What a note is made of once its numbers have their signs, tolerances and words: items, and the numbers in them.

Lengths in mm, angles in degrees. A size keeps its own limits, whatever it is the size of.
"""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH, decimal

#: mm; a size or a limit beyond it is a slip
LARGEST = 1e6


class NoteError(LathedError, ValueError):
    """A note that cannot be read; ``column`` counts from 1."""

    def __init__(self, what: str, *, column: int = 0, **rest: Any) -> None:
        self.column = column
        super().__init__(what, where=f"column {column}" if column else "", **rest)


@dataclass(frozen=True, slots=True)
class Item:
    """One read piece. ``low``/``high`` are limits; ``decimals`` counts the decimal places as written.

    ``marks``: ref, basic, spherical, limited (MAX or MIN was said).
    """

    kind: str
    value: float = 0.0
    text: str = ""
    low: float | None = None
    high: float | None = None
    fit: str | None = None
    decimals: int | None = None
    column: int = 0
    marks: frozenset[str] = frozenset()

    @property
    def toleranced(self) -> bool:
        """Whether limits or a class stand with it."""
        return self.low is not None or self.high is not None or self.fit is not None


#: whether an item is one that is looked for
Wanted = Callable[[Item], bool]


@dataclass(frozen=True, slots=True)
class Written:
    """A number as it stands: its value in mm, the decimal places, mm per written unit, whether the unit was written."""

    mm: float
    decimals: int | None
    factor: float
    own_unit: bool = False

    @property
    def value(self) -> float:
        """In the unit that it is written in."""
        return self.mm / self.factor


def factor_of(unit: LengthUnit) -> float:
    """mm per unit of the sheet."""
    return MM_PER_INCH if unit == "in" else 1.0


def above_zero(value: float, column: int) -> None:
    """Raises NoteError for a size that is none."""
    if value <= 0:
        raise NoteError("a size must be above zero", column=column, received=value)


def plain_number(text: str, column: int = 1) -> tuple[float, int | None]:
    """``12,5`` ``.562`` ``9/16`` ``1-3/8`` -> (number, decimals as written or None for a fraction).

    Raises NoteError, which names ``column``, for a fraction over zero and for a number beyond all sizes.
    """
    text = text.strip()
    if "/" in text:
        *whole, fraction = re.split(r"[\s-]+", text)
        top, bottom = fraction.split("/")
        if len(top) > 9 or len(bottom) > 9 or not int(bottom):
            raise NoteError("a fraction over zero, or beyond all sizes", column=column, received=text[:40])
        return (float(whole[0][:9]) if whole else 0.0) + int(top) / int(bottom), None
    text = text.replace(",", ".")
    value = float(text)
    if not value <= LARGEST:
        raise NoteError("a size goes up to 1 km", column=column, received=text[:40])
    return value, len(text.partition(".")[2])


def degrees(text: str, column: int = 1) -> float:
    """``12°30'`` -> 12.5, ``22 1/2°`` -> 22.5. Raises NoteError above 360."""
    shared = re.match(r"(?:(\d{1,2})\s)?(\d)/(\d{1,2})\s*°", text)
    if shared and int(shared[3]):
        return int(shared[1] or 0) + int(shared[2]) / int(shared[3])
    parts = re.findall(r"\d+(?:[.,]\d+)?|[.,]\d+", text)
    value = sum(decimal(p) / 60**i for i, p in enumerate(parts[:3]))
    if not 0 <= value <= 360 or not math.isfinite(value):
        raise NoteError("an angle goes up to 360 degrees", column=column, received=value)
    return value
