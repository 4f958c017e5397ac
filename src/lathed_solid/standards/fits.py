"""ISO 286-1 tolerance classes and fits: ``h6``, ``H7``, ``js7``, ``N9``, ``H7/g6``.

The tabulated values are shipped (they are rounded in the standard). Grade formula for the cross-check
(ISO 286-1 annex): i = 0.45 D^(1/3) + 0.001 D in micrometres, D the geometric mean of the range in mm;
IT6 = 10 i, IT7 = 16 i, IT8 = 25 i, IT9 = 40 i, IT10 = 64 i, IT11 = 100 i.

Over 500 mm the unit is I = 0.004 D + 2.1, with the same multiples.

Holes follow from shafts (ISO 286-1, 4.3): A to H by the general rule EI = -es. From K on the special rule adds
Delta = ITn - IT(n-1) for sizes over 3 up to 500 mm, for K, M, N up to IT8 and for P to ZC up to IT7: ES = -ei + Delta;
above those grades ES = -ei, but 0 for N. J has a table of its own. M6 over 250 up to 315 is the standard's exception.
CD, EF and FG are for sizes up to 10 mm, d to u for all, the other letters up to 500 mm.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from lathed_solid.standards.csv_tables import StandardError, rows

SHAFTS = "abcdefghjkmnprstuvxyz"
PAIRS = ("cd", "ef", "fg", "za", "zb", "zc", "js")
CLASS = re.compile(rf"^({'|'.join((*PAIRS, *(p.upper() for p in PAIRS)))}|[{SHAFTS}]|[{SHAFTS.upper()}])(\d{{1,2}})$")
LETTERS = "a to h, cd, ef, fg, js, j, k, m, n, p, r to v, x, y, z, za, zb, zc, and the same in capitals"
#: the special rule for holes ends here, mm
SPECIAL = 500.0

Limits = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Fit:
    """Limits of hole and shaft in mm, and the clearance (below zero: interference), least and most."""

    size: float
    hole_class: str
    shaft_class: str
    hole: Limits
    shaft: Limits

    @property
    def clearance(self) -> Limits:
        """Least and most clearance, mm; below zero is interference (ISO 286-1, 3.3)."""
        return self.hole[0] - self.shaft[1], self.hole[1] - self.shaft[0]

    @property
    def kind(self) -> str:
        """Clearance, interference or transition fit (ISO 286-1, 3.3)."""
        least, most = self.clearance
        return "clearance fit" if least >= 0 else "interference fit" if most <= 0 else "transition fit"


def fit(size_mm: float, classes: str) -> Fit:
    """A hole and a shaft of one nominal size, ``H7/g6``. Raises StandardError."""
    hole, _, shaft = classes.replace(" ", "").partition("/")
    if not shaft or not hole[:1].isupper() or not shaft[:1].islower():
        raise StandardError("a fit reads H7/g6: the hole first", received=classes)
    (a, b), (c, d) = deviations(size_mm, hole), deviations(size_mm, shaft)
    return Fit(size_mm, hole, shaft, (size_mm + a, size_mm + b), (size_mm + c, size_mm + d))


def deviations(size_mm: float, tolerance_class: str) -> Limits:
    """(lower, upper) deviation in mm of ``tolerance_class`` at ``size_mm``.

    Raises StandardError for a class or a size that the tables do not cover.
    """
    match = CLASS.match(tolerance_class)
    if not match:
        raise StandardError(
            f"the tolerance class {tolerance_class!r} is not in the tables",
            rule=f"ISO 286-1 letters {LETTERS}",
            hint="H7, h6, g6, or write the deviations: +0.02/-0.01",
        )
    letter, grade = match[1], int(match[2])
    width = grade_tolerance(size_mm, match[2])
    if letter in ("js", "JS"):
        return -width / 2, width / 2
    if letter.islower():
        side, value = _shaft(size_mm, letter, grade)
        return (value - width, value) if side == "upper" else (value, value + width)
    if letter in (*"ABCDEFGH", "CD", "EF", "FG"):
        _, es = _shaft(size_mm, letter.lower(), grade)
        return 0.0 - es, width - es
    upper = _hole_j(size_mm, grade) if letter == "J" else _hole_upper(size_mm, letter, grade)
    return upper - width, upper


def _hole_upper(size_mm: float, letter: str, grade: int) -> float:
    """Upper deviation in mm of a hole from K on."""
    if letter == "N" and grade > 8 and size_mm <= SPECIAL:
        return -0.004 if size_mm <= 3 else 0.0
    if letter == "K" and grade > 8 and size_mm > 3:
        raise StandardError(f"K{grade} over 3 mm is not in ISO 286-1", hint="K up to IT8, or JS")
    if letter == "M" and grade == 6 and 250 < size_mm <= 315:
        return -0.009
    # the holes come from the shaft's value itself, whatever the grade of the hole
    _, ei = _shaft(size_mm, letter.lower(), 6)
    if size_mm <= 3 or size_mm > SPECIAL or grade > (8 if letter in "KMN" else 7):
        return -ei
    return -ei + grade_tolerance(size_mm, grade) - grade_tolerance(size_mm, grade - 1)


def _hole_j(size_mm: float, grade: int) -> float:
    for row in rows("hole_deviations_j"):
        if row["grade"] == f"IT{grade}" and covers(row, size_mm):
            return float(row["deviation_um"]) / 1000
    raise StandardError(f"J{grade} at {size_mm:g} mm is not in ISO 286-1", rule="J6, J7 and J8", hint="JS")


def grade_tolerance(size_mm: float, grade: int | str) -> float:
    """IT grade width in mm (ISO 286-1 table 1); the finest grades are ``"01"`` and ``"0"``."""
    for row in rows("tolerance_grades"):
        if row["grade"] == f"IT{grade}" and covers(row, size_mm):
            return float(row["tolerance_um"]) / 1000
    raise StandardError(
        f"IT{grade} at {size_mm:g} mm is not in the tables",
        rule="grades IT01 to IT18, sizes up to 3150 mm (IT01 and IT0: 500)",
    )


def _shaft(size_mm: float, letter: str, grade: int) -> tuple[str, float]:
    for row in rows("shaft_deviations"):
        if row["letter"] != letter or not covers(row, size_mm):
            continue
        value = float(row["deviation_um"]) / 1000
        if letter == "j":
            if (row["grades"] == "IT7") != (grade == 7):
                continue
            if grade not in (5, 6, 7):
                break
        elif row["grades"] == "IT5-IT7" and grade > 7:
            value = 0.0  # ISO 286-1: k is 0 above IT7
        return row["limit"], value
    raise StandardError(
        f"{letter}{grade} at {size_mm:g} mm is not in the tables", rule="sizes up to 3150 mm for d to u, 500 for others"
    )


def covers(row: dict[str, str], size_mm: float) -> bool:
    """Whether a row's range (over, up to and including) holds a size."""
    return float(row["over_mm"]) < size_mm <= float(row["up_to_mm"])
