"""Volumes as people state them: ``150.8 cm3``, ``23.67 in³``, ``150826`` in the sheet's unit cubed; or by weighing.

Weighed in air and under water, ``1182 g - 1031.5 g``: the loss is the mass of the water displaced (Archimedes), of
0.9982 g/cm3 at 20 degrees.
"""

from __future__ import annotations

import re

from lathed_solid.errors import of_length
from lathed_solid.quantity.units import MM_PER_INCH, LengthUnit, QuantityError, decimal

_VOLUME = re.compile(r"\s*(?P<number>\d[\d ]*(?:[.,]\d+)?)\s*(?:(?P<unit>mm|cm|in|m|l|ml)(?:\^?3|³)?)?\s*", re.I)
_WET = re.compile(r"\s*(?P<air>\d+(?:[.,]\d+)?)\s*g\s*[-−]\s*(?P<wet>\d+(?:[.,]\d+)?)\s*g(?:\s+in\s+water)?\s*", re.I)
MAX_TEXT = 80
#: g/mm3 at 20 degrees (CIPM formula, rounded)
WATER = 0.9982e-3
FACTORS = {"mm": 1.0, "cm": 1e3, "in": MM_PER_INCH**3, "m": 1e9, "ml": 1e3, "l": 1e6}


def parse_volume(text: str, unit: LengthUnit) -> tuple[float, float]:
    """mm3, and half of the last digit written. Raises QuantityError."""
    text = of_length(text, MAX_TEXT, "a volume", QuantityError)
    wet = _WET.fullmatch(text)
    if wet is not None:
        loss = decimal(wet["air"]) - decimal(wet["wet"])
        if loss <= 0:
            raise QuantityError("under water a part weighs less", text=text, hint="1182 g - 1031.5 g")
        # both showings are rounded
        return loss / WATER, (_half(wet["air"]) + _half(wet["wet"])) / WATER
    found = _VOLUME.fullmatch(text)
    if found is None:
        raise QuantityError(
            "this is no volume", text=text, hint="150.8 cm3, 23.67 in3, or a number in the sheet's unit"
        )
    number = found["number"].replace(" ", "")
    factor = FACTORS[(found["unit"] or unit).lower()]
    value = decimal(number) * factor
    if not 0 < value < 1e15:
        raise QuantityError("a volume must be above zero", text=text)
    return value, _half(number) * factor


def _half(number: str) -> float:
    """Half of the last digit written."""
    return 0.5 * 10.0 ** -(len(re.split(r"[.,]", number)[1]) if re.search(r"[.,]", number) else 0)
