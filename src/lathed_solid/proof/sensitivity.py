"""How much volume and mass depend on each driving size, and what their tolerances make of it.

dV/dp by central differences at h and h/2, brought together by Richardson's extrapolation:

    D(h) = (V(p + h) - V(p - h)) / 2h,      dV/dp = (4 D(h/2) - D(h)) / 3,      error about |D(h/2) - D(h)| / 3 of it

which is exact for volumes cubic in p but for rounding. A size that cannot move both ways (an edge break as wide as its
land) has no sensitivity. The work of building is the caller's: ``sensitivities`` yields documents and is sent volumes.
"""

from __future__ import annotations

import math
from collections.abc import Generator, Sequence
from dataclasses import dataclass

from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.proof.sizes import DrivingSize, driving_sizes
from lathed_solid.quantity import LengthUnit, unit_factor

STEP = 2e-3
#: what is shown is for a change that a shop knows: a tenth, five thou; degrees for an angle
NUDGES: dict[LengthUnit, float] = {"mm": 0.1, "in": 0.005}
NUDGE = 0.1
Volumes = list[float | None]
#: yields documents to build, is sent their volumes (None: could not be built)
Asking = Generator[list[Document], Volumes, "tuple[Sensitivity, ...]"]


@dataclass(frozen=True, slots=True)
class Sensitivity:
    """``slope``: dV/dp in mm2 (mm3/rad for an angle), ``error`` its estimated error; ``spread``: the volume between the
    size's limits, mm3 (None: no limits).
    """

    target: str
    balloon: int | None
    kind: str
    value: float
    slope: float
    error: float
    spread: float | None


def nudge(size: Sensitivity, unit: LengthUnit) -> float:
    """By how much a size is moved to show what hangs on it, mm or rad."""
    return math.radians(NUDGE) if size.kind == "angle" else NUDGES[unit] * unit_factor(unit)


def nudge_words(unit: LengthUnit) -> str:
    """The same in words."""
    return f"a size grows by {NUDGES[unit]} {unit}, an angle by {NUDGE}°"


def sensitivities(document: Document, sizes: Sequence[DrivingSize] | None = None) -> Asking:
    """The sensitivities of all driving sizes, the one that matters most (by its tolerance, else a hundredth) first."""
    found = driving_sizes(document) if sizes is None else tuple(sizes)
    documents, rows = [], []
    for size in found:
        h = STEP * size.value
        try:
            around = [size.put(document, size.value + k * h) for k in (-1.0, -0.5, 0.5, 1.0)]
        except LathedError:
            continue
        documents += around
        rows.append((size, h))
    volumes = yield documents
    out = []
    for n, (size, h) in enumerate(rows):
        v = volumes[4 * n : 4 * n + 4]
        if any(x is None for x in v):
            continue
        a, b, c, d = (float(x) for x in v if x is not None)
        wide, near = (d - a) / (2 * h), (c - b) / h
        slope = (4 * near - wide) / 3
        out.append(
            Sensitivity(size.target, size.balloon, size.kind, size.value, slope, abs(near - wide) / 3,
                        _spread(document, size, slope))
        )  # fmt: skip
    return tuple(sorted(out, key=lambda s: -weight(s)))


def weight(s: Sensitivity) -> float:
    """How much a size matters: the volume its tolerance moves, or a hundredth of it where it has none."""
    return s.spread / 2 if s.spread is not None else abs(s.slope) * 0.01 * s.value


def volume_band(found: Sequence[Sensitivity]) -> tuple[float, float]:
    """Half widths of the volume from the sizes' tolerances, mm3: all at their worst, and root of squares."""
    halves = [s.spread / 2 for s in found if s.spread is not None]
    return math.fsum(halves), math.sqrt(math.fsum(h * h for h in halves))


def _spread(document: Document, size: DrivingSize, slope: float) -> float | None:
    callout = document.callout(size.balloon) if size.balloon is not None else None
    if callout is None:
        return None
    bounds = document.limits(callout)
    if bounds.low is None or bounds.high is None:
        return None
    return abs(slope) * (bounds.high - bounds.low)
