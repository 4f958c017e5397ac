"""Caliper readings and their uncertainty.

Of one reading, with a the resolution, E the instrument's maximum permissible error, s the standard
deviation of n repeats (JCGM 100:2008, 4.2 and 4.3.7):

    u^2 = a^2 / 12 + E^2 / 3 + s^2 / n,      U = 2 u  (coverage factor k = 2)

With a single repeat the last term cannot be estimated and is left out; ``Reading.note`` says so.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.record import Record

Way = Literal["outside", "inside", "depth", "step"]
Role = Literal["outside", "inside", "length"]
Millimetres = Annotated[float, Field(gt=0, le=10_000, allow_inf_nan=False)]

COVERAGE = 2.0

WAY_WORDS: dict[Way, str] = {
    "outside": "outside jaws",
    "inside": "inside jaws",
    "depth": "depth rod",
    "step": "step",
}


#: what can be measured: what kind of size it is, and how it is taken
SIZES: dict[str, tuple[Role, Way]] = {
    "outside ⌀": ("outside", "outside"),
    "inside ⌀": ("inside", "inside"),
    "length": ("length", "step"),
    "length over": ("length", "outside"),
    "length inside": ("length", "inside"),
    "clear length": ("length", "outside"),
    "depth": ("length", "depth"),
}


class Instrument(Record):
    """A measuring instrument: ``resolution`` and ``permissible_error`` in mm."""

    name: str = Field(default="digital caliper 150", max_length=80)
    resolution: Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)] = 0.01
    permissible_error: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.02


class Term(Record):
    """One size of a sum: the callout that was read, and how much of its size (mm/mm)."""

    balloon: int = Field(ge=1, le=9999)
    share: Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)] = 1.0


class Taken(Record):
    """Repeats (mm) of one size, taken one of four ways; or worked out from others, as the sum of ``terms``.

    A sum stands as its value in ``repeats`` and its standard uncertainty, mm, in ``worked_out``.
    """

    way: Way
    repeats: tuple[Millimetres, ...] = Field(min_length=1, max_length=100)
    instrument: Instrument = Instrument()
    remark: str = Field(default="", max_length=300)
    terms: tuple[Term, ...] = Field(default=(), max_length=6)
    worked_out: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None

    @property
    def mean(self) -> float:
        """Arithmetic mean in mm."""
        return math.fsum(self.repeats) / len(self.repeats)

    @property
    def spread(self) -> float | None:
        """Experimental standard deviation in mm; None for a single repeat."""
        n = len(self.repeats)
        if n < 2:
            return None
        mean = self.mean
        return math.sqrt(math.fsum((x - mean) ** 2 for x in self.repeats) / (n - 1))

    @property
    def standard_uncertainty(self) -> float:
        """u in mm by the formula in the module's docstring."""
        if self.worked_out is not None:
            return self.worked_out
        repeat = 0.0 if self.spread is None else self.spread**2 / len(self.repeats)
        return math.sqrt(self.instrument.resolution**2 / 12 + self.instrument.permissible_error**2 / 3 + repeat)

    @property
    def uncertainty(self) -> float:
        """Expanded uncertainty U in mm, k = 2."""
        return COVERAGE * self.standard_uncertainty

    @property
    def note(self) -> str:
        """What a careful person would add to this reading; empty when nothing."""
        words = []
        if self.terms:
            words.append("worked out: it follows the sizes that it is the sum of")
        elif self.spread is None:
            words.append("one repeat only: its scatter is not in U")
        if self.way == "inside" and self.mean < 10:
            words.append("small bores read low by the flats of the jaws")
        return "; ".join(words)


class Reading(Taken):
    """A size of the part in the hand; ``again``: the same size taken other ways, to compare."""

    balloon: int = Field(ge=1, le=9999)
    again: tuple[Taken, ...] = Field(default=(), max_length=4)

    def apart(self, other: Taken) -> tuple[float, float]:
        """How far another way's mean is from this one's, and how far it may be by both uncertainties (k = 2); mm."""
        return other.mean - self.mean, COVERAGE * math.hypot(self.standard_uncertainty, other.standard_uncertainty)
