"""Volumes as people state them: ``150.8 cm3``, ``23.67 in³``, ``150826`` in the sheet's unit cubed."""

from __future__ import annotations

import re

from lathed_solid.quantity.units import MM_PER_INCH, LengthUnit, QuantityError, decimal

_VOLUME = re.compile(r"\s*(?P<number>\d[\d ]*(?:[.,]\d+)?)\s*(?:(?P<unit>mm|cm|in|m|l|ml)(?:\^?3|³)?)?\s*", re.I)
FACTORS = {"mm": 1.0, "cm": 1e3, "in": MM_PER_INCH**3, "m": 1e9, "ml": 1e3, "l": 1e6}


def parse_volume(text: str, unit: LengthUnit) -> tuple[float, float]:
    """mm3, and half of the last digit written. Raises QuantityError."""
    found = _VOLUME.fullmatch(text)
    if found is None:
        raise QuantityError(
            "this is no volume", text=text, hint="150.8 cm3, 23.67 in3, or a number in the sheet's unit"
        )
    number = found["number"].replace(" ", "")
    factor = FACTORS[(found["unit"] or unit).lower()]
    places = len(re.split(r"[.,]", number)[1]) if re.search(r"[.,]", number) else 0
    value = decimal(number) * factor
    if not 0 < value < 1e15:
        raise QuantityError("a volume must be above zero", text=text)
    return value, 0.5 * 10.0**-places * factor
