"""Lengths as they stand on the machinist's sheet."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

Say = Callable[[float], str]


def sayer(unit: LengthUnit) -> Say:
    """Lengths in mm as they stand on a sheet in this unit."""
    one, digits = (MM_PER_INCH, 4) if unit == "in" else (1.0, 3)

    def say(mm: float) -> str:
        text = f"{mm / one:.{digits}f}".rstrip("0").rstrip(".")
        return "0" if text in ("-0", "") else text

    return say
