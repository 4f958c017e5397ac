"""ISO 286-1 tolerance classes: ``h6``, ``H7``, ``js7``, ``N9``.

The tabulated values are shipped (they are rounded in the standard). Grade formula for the cross-check
(ISO 286-1 annex): i = 0.45 D^(1/3) + 0.001 D in micrometres, D the geometric mean of the range in mm;
IT6 = 10 i, IT7 = 16 i, IT8 = 25 i, IT9 = 40 i, IT10 = 64 i, IT11 = 100 i.

Holes follow from shafts: EI = -es for D to H. For N above IT8 the upper deviation is 0; for P above IT7 it
is the shaft's deviation with its sign changed. Other hole letters are not shipped yet and are refused.
"""

from __future__ import annotations

import re

from lathed_solid.standards.tables import StandardError, rows

CLASS = re.compile(r"^(js|JS|[d-hkmnp]|[D-H]|N|P)(\d{1,2})$")


def deviations(size_mm: float, tolerance_class: str) -> tuple[float, float]:
    """(lower, upper) deviation in mm of ``tolerance_class`` at ``size_mm``.

    Raises StandardError for a class or a size that the tables do not cover.
    """
    match = CLASS.match(tolerance_class)
    if not match:
        raise StandardError(
            f"the tolerance class {tolerance_class!r} is not in the tables",
            rule="ISO 286-1 letters d e f g h js k m n p, D E F G H JS N P",
            hint="H7, h6, g6, or write the deviations: +0.02/-0.01",
        )
    letter, grade = match[1], int(match[2])
    width = grade_tolerance(size_mm, grade)
    if letter in ("js", "JS"):
        return -width / 2, width / 2
    if letter.islower():
        side, value = _shaft(size_mm, letter, grade)
        return (value - width, value) if side == "upper" else (value, value + width)
    if letter in "DEFGH":
        _, es = _shaft(size_mm, letter.lower(), grade)
        return -es, -es + width
    if letter == "N" and grade > 8:
        return -width, 0.0
    if letter == "P" and grade > 7:
        _, ei = _shaft(size_mm, "p", grade)
        return -ei - width, -ei
    raise StandardError(f"{tolerance_class} at {size_mm:g} mm is not shipped", rule="N from grade 9, P from grade 8")


def grade_tolerance(size_mm: float, grade: int) -> float:
    """IT grade width in mm (ISO 286-1 table 1)."""
    for row in rows("tolerance_grades"):
        if row["grade"] == f"IT{grade}" and _covers(row, size_mm):
            return float(row["tolerance_um"]) / 1000
    raise StandardError(
        f"IT{grade} at {size_mm:g} mm is not in the tables", rule="grades IT5 to IT13, sizes up to 500 mm"
    )


def _shaft(size_mm: float, letter: str, grade: int) -> tuple[str, float]:
    for row in rows("shaft_deviations"):
        if row["letter"] == letter and _covers(row, size_mm):
            value = float(row["deviation_um"]) / 1000
            if row["grades"] == "IT5-IT7" and grade > 7:
                value = 0.0  # ISO 286-1: k is 0 above IT7
            return row["limit"], value
    raise StandardError(f"{letter} at {size_mm:g} mm is not in the tables", rule="sizes up to 500 mm")


def _covers(row: dict[str, str], size_mm: float) -> bool:
    return float(row["over_mm"]) < size_mm <= float(row["up_to_mm"])
