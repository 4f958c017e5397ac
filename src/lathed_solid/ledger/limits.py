"""The limits a callout must keep.

Own limits first; then the class of its fit; then the rounding of the digits written, for a reference dimension (a
reference carries no tolerance, so the model must only agree with what was written); then the sheet's general
tolerance: an ISO 2768-1 class, one plus or minus, or an inch block by the number of decimal places.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.ledger.callouts import Callout
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.units import MM_PER_INCH, unit_factor
from lathed_solid.record import Record
from lathed_solid.standards import StandardError, angular, linear
from lathed_solid.standards.fits import deviations
from lathed_solid.standards.thread_limits import ThreadLimits, thread_limits


class Iso2768(Record):
    """General tolerance by ISO 2768-1 class."""

    kind: Literal["iso2768"] = "iso2768"
    letter: Literal["f", "m", "c", "v"] = "m"
    #: where a sheet says another of angles than the class
    angle_deg: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None

    def __str__(self) -> str:
        return f"ISO 2768-{self.letter}{_angles(self.angle_deg)}"


Deviation = Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]
Millimetres = Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]


def _angles(degrees: float | None) -> str:
    return "" if degrees is None else f", angles ±{degrees:g}°"


class InchBlock(Record):
    """General tolerance of an inch title block: plus or minus, inches, by decimal places (of a size written as a
    fraction that of ``fraction``, else of ``two``); angles in degrees.
    """

    kind: Literal["inch block"] = "inch block"
    one: Deviation = 0.03
    two: Deviation = 0.01
    three: Deviation = 0.005
    four: Deviation = 0.0005
    zero: Deviation | None = None
    fraction: Deviation | None = None
    angle_deg: Annotated[float, Field(gt=0, le=10)] = 0.5

    def __str__(self) -> str:
        return f"inch block .X ±{self.one:g} .XX ±{self.two:g} .XXX ±{self.three:g}"

    def of_places(self, places: int | None) -> float | None:
        """Plus or minus, mm, of a size with so many places, or written as a fraction (None)."""
        told = self.fraction or self.two if places is None else _of_places(self, places)
        return None if told is None else told * MM_PER_INCH


class MetricBlock(Record):
    """General tolerance of a metric title block: plus or minus, mm, by decimal places; None where it says nothing."""

    kind: Literal["metric block"] = "metric block"
    zero: Millimetres | None = None
    one: Millimetres | None = None
    two: Millimetres | None = None
    three: Millimetres | None = None
    four: Millimetres | None = None
    angle_deg: Annotated[float, Field(gt=0, le=10)] | None = None

    def __str__(self) -> str:
        told = ((_LABELS[n], self.of_places(n)) for n in range(5))
        entries = " ".join(f"{label} ±{by:g}" for label, by in told if by is not None)
        return f"block {entries} mm{_angles(self.angle_deg)}"

    def of_places(self, places: int | None) -> float | None:
        """Plus or minus, mm, of a size with so many places."""
        return None if places is None else _of_places(self, places)


_LABELS = ("X", ".X", ".XX", ".XXX", ".XXXX")


def _of_places(block: InchBlock | MetricBlock, places: int) -> float | None:
    told = (block.zero, block.one, block.two, block.three, block.four)
    return told[places] if 0 <= places < len(told) else None


class PlusMinus(Record):
    """One general tolerance for every length (mm) and, where it is told, every angle; ``unit``: how it was told."""

    kind: Literal["plus or minus"] = "plus or minus"
    length: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)]
    angle_deg: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None
    unit: LengthUnit = "mm"

    def __str__(self) -> str:
        return f"±{length(self.length, self.unit)} {self.unit}{_angles(self.angle_deg)}"


AnyGeneral = Iso2768 | InchBlock | MetricBlock | PlusMinus
General = Annotated[AnyGeneral, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class Limits:
    """Lower and upper limit (mm or rad; None is open) and where they come from."""

    low: float | None
    high: float | None
    source: str


class HouseRule(Record):
    """What the house allows on sizes that the general tolerance does not cover: plus or minus, mm and degrees."""

    length: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 0.1
    angle_deg: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 1.0

    def __str__(self) -> str:
        return f"house rule ±{self.length:g} mm, ±{self.angle_deg:g}°"


def limits(callout: Callout, general: AnyGeneral, house: HouseRule | None = None, leg: float | None = None) -> Limits:
    """The limits of ``callout`` on a sheet with that general tolerance; ``leg``: the shorter leg of an angle, mm.

    Never raises: where the tables give nothing and the house has no rule, both limits are None and ``source`` says why.
    """
    n = callout.nominal
    if callout.low is not None or callout.high is not None:
        return Limits(callout.low, callout.high, callout.fit or "written")
    if callout.fit and "/" not in callout.fit:
        return of_class(n, callout.fit)
    if callout.role == "major diameter":
        return _crest(callout)
    if callout.reference:
        half = rounding(callout)
        return Limits(n - half, n + half, "reference, as rounded")
    is_angle = callout.kind in ("angle", "taper")
    try:
        d, source = _general(callout, general, leg), ("inch block" if isinstance(general, InchBlock) else str(general))
    except StandardError as exc:
        if house is None:
            return Limits(None, None, f"{exc.what}: {NO_LIMIT_HINT}")
        d, source = math.radians(house.angle_deg) if is_angle else house.length, str(house)
    if callout.kind == "taper":
        return _taper(n, d, source)
    return Limits(max(n - d, 0.0) if not is_angle else n - d, n + d, source)


def _crest(callout: Callout) -> Limits:
    """The major diameter of a screw by its class, up to the nominal that a drawn thread stands at; else as
    designated.
    """
    n, duty = callout.nominal, callout.duty("thread class")
    exact = Limits(n - DESIGNATED, n + DESIGNATED, "designation")
    if duty is None:
        return exact
    try:
        found = class_of(duty.word)
    except StandardError:
        return exact
    if found.internal or found.major[0] is None:
        return exact
    return Limits(found.major[0], max(n, found.major[1] or n), found.thread_class)


def class_of(designation: str) -> ThreadLimits:
    """The limits of one thread class by a designation as written. Raises StandardError."""
    return thread_limits(designation.replace("×", "x"))[0]


#: mm: how near the size of a designation has to be to what it says
DESIGNATED = 5e-4
NO_LIMIT_HINT = "write a tolerance, or give the part a rule for such sizes"


def of_class(nominal: float, tolerance_class: str) -> Limits:
    """Limits by an ISO 286 class; open, with the reason, where the tables have none."""
    try:
        low, high = deviations(nominal, tolerance_class)
    except StandardError as exc:
        return Limits(None, None, f"{exc.what}: {NO_LIMIT_HINT}")
    return Limits(nominal + low, nominal + high, tolerance_class)


def _general(callout: Callout, general: AnyGeneral, leg: float | None) -> float:
    if callout.kind in ("angle", "taper") and general.angle_deg is not None:
        return math.radians(general.angle_deg)
    if callout.kind in ("angle", "taper") and not isinstance(general, Iso2768):
        raise StandardError("the general tolerance says nothing of angles")
    if isinstance(general, PlusMinus):
        return general.length
    if isinstance(general, InchBlock | MetricBlock):
        return _block(callout, general)
    if callout.kind in ("angle", "taper"):
        return angular(general.letter, 10.0 if leg is None else leg)
    return linear(callout.nominal, general.letter, broken_edge=callout.kind in ("chamfer", "radius"))


def _taper(n: float, d: float, source: str) -> Limits:
    """1:n whose half angle, atan(1 / 2n), may stray by ``d`` rad."""
    half = math.atan(0.5 / n)
    high = 0.5 / math.tan(half - d) if half > d else None
    return Limits(0.5 / math.tan(half + d), high, source)


def rounding(callout: Callout) -> float:
    """Half of the last digit written, mm or rad: what a reference may be off by."""
    if callout.kind == "angle":
        return math.radians(0.5)
    if callout.kind == "taper":
        return 0.005 * callout.nominal
    places = 3 if callout.decimals is None else callout.decimals
    return 0.5 * 10.0**-places * unit_factor(callout.unit)


def _block(callout: Callout, block: InchBlock | MetricBlock) -> float:
    found = block.of_places(callout.decimals)
    if found is None:
        places = "no known number of" if callout.decimals is None else callout.decimals
        raise StandardError(f"the {block.kind} has no entry for {places} decimal places")
    return found
