"""Stock: the usual sizes of bars and plates, and the next one that a part can be cut from."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from functools import cache
from typing import Literal

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows

StockShape = Literal["round", "hexagon", "thickness", "width"]


@cache
def usual(shape: StockShape, unit: LengthUnit) -> tuple[float, ...]:
    """Diameters, widths across flats, thicknesses or widths that are usually to be had, mm, ascending."""
    found = next(r for r in rows("stock") if r["shape"] == shape and r["unit"] == unit)
    one = MM_PER_INCH if unit == "in" else 1.0
    return tuple(one * _number(s) for s in found["sizes"].split())


def _number(text: str) -> float:
    whole, _, part = text.rpartition("-")
    return float(Fraction(part)) + (float(whole) if whole else 0.0)


def next_usual(shape: StockShape, least: float, unit: LengthUnit) -> float:
    """The next usual size that is no smaller than ``least`` mm. Raises StandardError beyond the table."""
    return _next(usual(shape, unit), least, shape)


def _next(sizes: Sequence[float], least: float, shape: str) -> float:
    found = next((s for s in sizes if s >= least - 1e-9), None)
    if found is None:
        raise StandardError(f"no usual {shape} is that large", received=f"{least:g} mm", rule=f"up to {sizes[-1]:g} mm")
    return found
