"""What a caliper or a scale sends when its data key is pressed: one line of text, a number and often a unit.

Makes differ in what stands around the number (a channel, zeros, spaces); the number itself is read with its sign, with
point or comma, and its unit: ``+0024.94 mm``, ``01A+00024.94``, ``0.9820in``, ``1182.0 g``.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Literal

from lathed_solid.errors import LathedError
from lathed_solid.quantity.units import MM_PER_INCH

Kind = Literal["length", "mass"]

#: mm or g in one unit
UNITS: dict[str, tuple[Kind, float]] = {
    "mm": ("length", 1.0),
    "in": ("length", MM_PER_INCH),
    '"': ("length", MM_PER_INCH),
    "g": ("mass", 1.0),
    "kg": ("mass", 1000.0),
    "oz": ("mass", 28.349523125),
    "lb": ("mass", 453.59237),
}
LONGEST = 80
_LINE = re.compile(
    r"^(?:\d{2}[A-Z](?=[+-]))?\s*[A-Z]{0,3}\s*([+-]?\s*\d{1,7}(?:[.,]\d{1,6})?)\s*(mm|in|\"|kg|g|oz|lb)?\s*$", re.I
)


class DeviceError(LathedError, ValueError):
    """A line that is no reading, or a port that cannot be opened."""


@dataclass(frozen=True, slots=True)
class DeviceReading:
    """``value`` in mm or g; ``unit`` as it was sent, empty when it was not."""

    value: float
    kind: Kind
    unit: str = ""


def parse_line(line: str, unit: str = "mm") -> DeviceReading:
    """The reading of a line; ``unit`` is taken where it names none. Raises DeviceError."""
    text = line.strip("\r\n\t \x00")
    match = _LINE.match(text) if len(text) <= LONGEST else None
    if match is None:
        raise DeviceError("this is no reading", received=text[:LONGEST], rule="a number and a unit: +024.94 mm")
    sent = (match[2] or "").lower()
    kind, factor = UNITS[sent or unit]
    value = float(match[1].replace(" ", "").replace(",", ".")) * factor
    if not math.isfinite(value) or value <= 0:
        raise DeviceError(
            "a reading must be above zero", received=text, hint="close the jaws and set zero, then measure"
        )
    return DeviceReading(value, kind, sent)
