"""Twist drills: metric, number, letter and fraction sizes, and the one to take for a tapped hole.

A drill for a share of the full thread of 60 degrees (domain rule; twice 5/8 H = 1.082532 P is the whole of the nut's
thread, the trade counts twice 3/4 H = 1.299038 P as 100 %): drill = d - 1.299038 P share. Metric charts amount to 77 %
(d - P), inch charts to 75 %.
"""

from __future__ import annotations

from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import Literal

from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows

FULL_THREAD = 1.299038
Series = Literal["metric", "inch"]
SHARE: dict[str, float] = {"metric": 0.77, "inch": 0.75}


@dataclass(frozen=True, slots=True)
class Drill:
    """A size that is sold; mm."""

    name: str
    diameter: float
    source: str = ""


@cache
def drills(series: Series) -> tuple[Drill, ...]:
    """All sizes of a series, smallest first.

    Metric: steps of 0.05 up to 3, 0.1 up to 14, 0.25 up to 32, 0.5 beyond (ISO 235). Inch: number and letter sizes
    and 64ths up to an inch, 32nds to two.
    """
    if series == "metric":
        steps = ((20, 300, 5), (300, 1400, 10), (1400, 3200, 25), (3200, 8001, 50))
        sizes = [hundredths / 100 for low, high, by in steps for hundredths in range(low, high, by)]
        return tuple(Drill(f"{s:g}", s, "ISO 235") for s in sizes)
    named = [Drill(r["name"], float(r["diameter_in"]) * MM_PER_INCH, r["source"]) for r in rows("drills")]
    parts = [Fraction(k, 64) for k in range(1, 65)] + [Fraction(k, 32) for k in range(33, 65)]
    named += [Drill(inches(f), float(f) * MM_PER_INCH, "ASME B94.11M fraction sizes") for f in parts]
    return tuple(sorted(named, key=lambda d: d.diameter))


def inches(f: Fraction) -> str:
    """``7/16``, ``1 1/32``, ``1``."""
    whole, rest = divmod(f, 1)
    return " ".join(x for x in (str(whole) if whole else "", str(rest) if rest else "") if x)


def drill(name: str) -> Drill:
    """A drill by name: ``#7``, ``F``, ``27/64``, ``6.8``. Raises StandardError."""
    bare = name.strip().upper().replace(",", ".").removesuffix("MM").strip()
    for series in ("inch", "metric"):
        for d in drills(series):
            if d.name.upper() == bare:
                return d
    raise StandardError("this drill is not in the tables", received=name, hint="#7, F, 27/64 or 6.8")


def tap_drill(major_mm: float, pitch_mm: float, series: Series, share: float | None = None) -> Drill:
    """The nearest drill for ``share`` of the full thread (of 60 degrees)."""
    ideal = major_mm - FULL_THREAD * pitch_mm * (SHARE[series] if share is None else share)
    return nearest(ideal, series)


def nearest(size_mm: float, series: Series) -> Drill:
    """The nearest size; of two as near (to a hundredth) the larger, which taps easier."""
    return min(drills(series), key=lambda d: (round(abs(d.diameter - size_mm), 2), -d.diameter))


def share_of_thread(major_mm: float, pitch_mm: float, drill_mm: float) -> float:
    """What share of the full thread a drill leaves."""
    return (major_mm - drill_mm) / (FULL_THREAD * pitch_mm)
