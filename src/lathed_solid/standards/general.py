"""Tolerances of dimensions without one: ISO 2768-1 classes, and inch blocks by decimal places.

ISO 2768-1:1989: table 1 linear (range "over ... up to"; the first begins at 0.5 mm inclusive), table 2
broken edges (external radii and chamfer heights), table 3 angles by the shorter leg.
"""

from __future__ import annotations

import math
from typing import Literal

from lathed_solid.standards.csv_tables import StandardError, rows

Iso2768 = Literal["f", "m", "c", "v"]


def linear(size_mm: float, tolerance_class: str, *, broken_edge: bool = False) -> float:
    """Permissible deviation in mm, plus or minus, of a linear size or of a broken edge.

    Raises StandardError outside the table (below 0.5 mm the standard wants the tolerance beside the size).
    """
    return _find("broken edge" if broken_edge else "linear", tolerance_class, size_mm, 0.5)


def angular(tolerance_class: str, leg_mm: float = 10.0) -> float:
    """Permissible deviation in radians, plus or minus, of an angle whose shorter leg is ``leg_mm``."""
    return math.radians(_find("angular", tolerance_class, leg_mm, 0.0) / 60)


def _find(table: str, tolerance_class: str, size: float, least: float) -> float:
    for row in rows("general_tolerances"):
        if row["table"] != table or row["class"] != tolerance_class:
            continue
        low, high = float(row["over"]), float(row["up_to"])
        if low < size <= high or (low == least and size == low):
            return float(row["deviation"])
    raise StandardError(
        f"ISO 2768-{tolerance_class} gives no tolerance for {size:g}",
        rule="class f, m, c or v; sizes from 0.5 mm up",
        hint="write the tolerance on the dimension",
    )
