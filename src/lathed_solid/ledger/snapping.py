"""Which nominal size was meant: standard sizes ranked by how well they fit the readings and by how usual they are.

A part is made in millimetres or in inches, so its sizes are judged together. With s the system, c a candidate of the
size's role (outside or inside diameter, length) and x the mean of its repeats,

    P(c | all) = sum over s of P(s | all) P(c | x, s),      P(c | x, s) ~ P(c | s) L(x | c)
    P(s | all) ~ P(s) product over sizes of sum over c of P(c | s) L(x | c)

L is a normal distribution about the candidate, of the reading's scatter and of how parts are made, spread evenly over
the instrument's permissible error either way (JCGM 100:2008, 4.3.7), with a share of worn seats spread evenly below
outside diameters. P(c | s) is the table of usual sizes below. What is
left to sizes of no family is ``CUSTOM``, spread evenly. The person decides; the reason is told with each.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import Literal

import numpy as np

from lathed_solid.ledger.readings import Reading, Role
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import rows
from lathed_solid.standards.drills import drills, inches

System = Literal["metric", "inch"]
SYSTEMS: tuple[System, ...] = ("metric", "inch")

#: takes a nominal, its weight, its text and the reason
Put = Callable[[float, float, str, str], None]

#: how exactly sizes are made, standard deviation in mm, unless told otherwise
MADE = 0.02
#: share of worn outside diameters, and how far wear goes, mm
WORN, WEAR = 0.03, 0.15
#: share of sizes of no family, and the density they are spread over, per mm
CUSTOM, CUSTOM_DENSITY = 0.02, 1 / 300.0
LARGEST = 300.0
#: how many standard deviations below its nominal an outside diameter is said to be worn
WORN_BEYOND = 3.0

BEARINGS = (3, 4, 5, 6, 7, 8, 9, 10, 12, 15, 17, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 75, 80, 85, 90, 95, 100)


@dataclass(frozen=True, slots=True)
class ReadSize:
    """A measured size in mm: mean, standard uncertainty without the instrument's error, and its permissible error."""

    role: Role
    mean: float
    scatter: float
    permissible: float = 0.0

    @classmethod
    def of(cls, role: Role, reading: Reading) -> ReadSize:
        """The size that a reading shows."""
        e = reading.instrument.permissible_error
        return cls(role, reading.mean, math.sqrt(max(reading.standard_uncertainty**2 - e * e / 3, 1e-8)), e)

    @property
    def uncertainty(self) -> float:
        """Standard, mm: scatter of the repeats, and the instrument's permissible error as a rectangle (GUM, 4.3.7)."""
        return math.sqrt(self.scatter**2 + self.permissible**2 / 3)


@dataclass(frozen=True, slots=True)
class Candidate:
    """A nominal in mm, how it is written, why it is usual, how probable it is; ``worn`` mm under it, or 0."""

    nominal: float
    text: str
    reason: str
    share: float
    worn: float = 0.0


@dataclass(frozen=True)
class _Family:
    """All candidates of a role in a system: nominals, shares that sum to one less ``CUSTOM``, texts, reasons."""

    nominals: np.ndarray
    shares: np.ndarray
    texts: tuple[str, ...]
    reasons: tuple[str, ...]


def snap(
    sizes: Sequence[ReadSize], *, made: float = MADE, prior: dict[System, float] | None = None, keep: int = 5
) -> list[list[Candidate]]:
    """Candidates of each size, the most probable first.

    ``prior`` is what is known of the system of units beforehand. Sizes outside 0.5 to 300 mm have none.
    """
    belief = np.log([(prior or {}).get(s, 0.5) for s in SYSTEMS])
    found: list[list[tuple[np.ndarray, np.ndarray, _Family]]] = []
    for size in sizes:
        per_system = []
        for k, system in enumerate(SYSTEMS):
            family = _family(size.role, system)
            near = np.flatnonzero(np.abs(family.nominals - size.mean) <= _reach(size, made))
            weight = family.shares[near] * likelihood(size, family.nominals[near], made)
            belief[k] += math.log(weight.sum() + CUSTOM * CUSTOM_DENSITY)
            per_system.append((near, weight / (weight.sum() + CUSTOM * CUSTOM_DENSITY), family))
        found.append(per_system)
    p = np.exp(belief - belief.max())
    p /= p.sum()
    return [_ranked(size, per_system, p, made)[:keep] for size, per_system in zip(sizes, found, strict=True)]


def likelihood(size: ReadSize, nominals: np.ndarray, made: float) -> np.ndarray:
    """Density of the mean, per mm, for each nominal."""
    from scipy.special import ndtr  # the window starts without it

    sigma, e = math.hypot(size.scatter, made), size.permissible
    off = size.mean - nominals
    if e > 0:
        exact = (ndtr((off + e) / sigma) - ndtr((off - e) / sigma)) / (2 * e)
    else:
        exact = np.exp(-0.5 * (off / sigma) ** 2) / (sigma * math.sqrt(2 * math.pi))
    if size.role != "outside":
        return exact
    # worn evenly from nothing to WEAR below, smeared by the reading
    whole = math.hypot(size.uncertainty, made)
    worn = (ndtr(-off / whole) - ndtr((-off - WEAR) / whole)) / WEAR
    return (1 - WORN) * exact + WORN * worn


def _reach(size: ReadSize, made: float) -> float:
    return 6 * math.hypot(size.uncertainty, made) + (WEAR if size.role == "outside" else 0.0)


def _ranked(
    size: ReadSize, per_system: list[tuple[np.ndarray, np.ndarray, _Family]], p: np.ndarray, made: float
) -> list[Candidate]:
    sigma = math.hypot(size.uncertainty, made)
    merged: dict[float, Candidate] = {}
    for share, (near, weight, family) in zip(p, per_system, strict=True):
        for i, w in zip(near, weight, strict=True):
            nominal, part = float(family.nominals[i]), float(share * w)
            under = nominal - size.mean
            worn = under if size.role == "outside" and under > WORN_BEYOND * sigma else 0.0
            key = round(nominal, 4)
            other = merged.get(key)
            if other is None or part > other.share:
                total = part + (other.share if other else 0.0)
                merged[key] = Candidate(nominal, family.texts[i], family.reasons[i], total, worn)
            else:
                merged[key] = Candidate(other.nominal, other.text, other.reason, other.share + part, other.worn)
    return sorted(merged.values(), key=lambda c: -c.share)


@cache
def _family(role: Role, system: System) -> _Family:
    table: dict[float, tuple[float, str, str]] = {}

    def put(nominal: float, weight: float, text: str, reason: str) -> None:
        key = round(nominal, 5)
        if 0.5 <= nominal <= LARGEST and (key not in table or table[key][0] < weight):
            table[key] = (weight, text, reason)

    (_metric if system == "metric" else _inch)(role, put)
    nominals = np.array(sorted(table))
    weights = np.array([table[n][0] for n in nominals])
    shares = (1 - CUSTOM) * weights / weights.sum()
    return _Family(
        nominals, shares, tuple(table[n][1] for n in nominals), tuple(table[n][2] for n in nominals)
    )  # fmt: skip


def _metric(role: Role, put: Put) -> None:
    for n in range(1, int(LARGEST) + 1):
        weight, reason = (
            (8.0, "a whole ten") if n % 10 == 0 else (6.0, "a multiple of five") if n % 5 == 0
            else (4.0, "a whole even millimetre") if n % 2 == 0 else (3.0, "a whole millimetre")
        )  # fmt: skip
        put(float(n), weight, f"{n}", reason)
        put(n + 0.5, 1.0, f"{n + 0.5:g}", "half a millimetre")
    for tenth in range(5, 3000):
        put(tenth / 10, 0.02, f"{tenth / 10:g}", "a tenth of a millimetre")
    if role == "outside":
        for n in BEARINGS:
            put(float(n), 12.0, f"{n}", "a bearing seat")
    if role == "inside":
        for d in drills("metric"):
            if d.diameter <= 14:
                put(d.diameter, 0.3, d.name, "a twist drill")
        for row in rows("screws"):
            put(float(row["clearance_medium_mm"]), 5.0, row["clearance_medium_mm"], f"clearance for {row['thread']}")
            if row["counterbore_mm"]:
                put(float(row["counterbore_mm"]), 5.0, row["counterbore_mm"], f"counterbore for {row['thread']}")
        for n in BEARINGS:
            put(float(n), 8.0, f"{n}", "a usual bore")


def _inch(role: Role, put: Put) -> None:
    weights = {1: 12.0, 2: 10.0, 4: 8.0, 8: 6.0, 16: 4.0, 32: 1.2, 64: 0.4}
    names = {1: "a whole inch", 2: "half an inch", 4: "a quarter inch", 8: "an eighth", 16: "a sixteenth",
             32: "a thirty-second", 64: "a sixty-fourth"}  # fmt: skip
    for k in range(1, int(LARGEST / MM_PER_INCH * 64) + 1):
        f = Fraction(k, 64)
        put(float(f) * MM_PER_INCH, weights[f.denominator], f"{inches(f)} in", names[f.denominator])
    for k in range(1, int(LARGEST / MM_PER_INCH * 20) + 1):
        put(k / 20 * MM_PER_INCH, 0.6, f"{k / 20:g} in", "a twentieth of an inch")
    if role == "inside":
        for d in drills("inch"):
            if d.name.startswith("#") or d.name.isalpha():
                put(d.diameter, 0.5, d.name, f"drill {d.name}")
