"""The limits a callout must keep.

Own limits first; then the rounding of the digits written, for a reference dimension (a reference carries
no tolerance, so the model must only agree with what was written); then the sheet's general tolerance:
an ISO 2768-1 class, or an inch block by the number of decimal places.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.ledger.callouts import Callout
from lathed_solid.quantity.units import MM_PER_INCH, unit_factor
from lathed_solid.record import Record
from lathed_solid.standards import StandardError, angular, linear


class Iso2768(Record):
    """General tolerance by ISO 2768-1 class."""

    kind: Literal["iso2768"] = "iso2768"
    letter: Literal["f", "m", "c", "v"] = "m"

    def __str__(self) -> str:
        return f"ISO 2768-{self.letter}"


Deviation = Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]


class InchBlock(Record):
    """General tolerance of an inch title block: plus or minus, by decimal places; angles in degrees."""

    kind: Literal["inch block"] = "inch block"
    one: Deviation = 0.03
    two: Deviation = 0.01
    three: Deviation = 0.005
    four: Deviation = 0.0005
    angle_deg: Annotated[float, Field(gt=0, le=10)] = 0.5

    def __str__(self) -> str:
        return f"inch block .X ±{self.one:g} .XX ±{self.two:g} .XXX ±{self.three:g}"


General = Annotated[Iso2768 | InchBlock, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class Limits:
    """Lower and upper limit (mm or rad; None is open) and where they come from."""

    low: float | None
    high: float | None
    source: str


def limits(callout: Callout, general: Iso2768 | InchBlock) -> Limits:
    """The limits of ``callout`` on a sheet with that general tolerance.

    Never raises: where the tables give nothing, both limits are None and ``source`` says why.
    """
    if callout.low is not None or callout.high is not None:
        return Limits(callout.low, callout.high, callout.fit or "written")
    n = callout.nominal
    if callout.reference:
        half = rounding(callout)
        return Limits(n - half, n + half, "reference, as rounded")
    try:
        if isinstance(general, Iso2768):
            d = _iso(callout, general.letter)
        else:
            d = _block(callout, general)
        if callout.kind == "taper":
            return _taper(n, d, str(general) if isinstance(general, Iso2768) else "inch block")
    except StandardError as exc:
        return Limits(None, None, exc.what)
    return Limits(n - d, n + d, str(general) if isinstance(general, Iso2768) else "inch block")


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


def _iso(callout: Callout, letter: str) -> float:
    if callout.kind in ("angle", "taper"):
        return angular(letter)
    return linear(callout.nominal, letter, broken_edge=callout.kind in ("chamfer", "radius"))


def _block(callout: Callout, block: InchBlock) -> float:
    if callout.kind in ("angle", "taper"):
        return math.radians(block.angle_deg)
    places = 2 if callout.decimals is None else callout.decimals
    inches = {1: block.one, 2: block.two, 3: block.three, 4: block.four}.get(places)
    if inches is None:
        raise StandardError(f"the inch block has no entry for {places} decimal places")
    return inches * MM_PER_INCH
