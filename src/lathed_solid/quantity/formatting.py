"""Numbers as people read them: trimmed decimals, sheet units, degrees and minutes, 64ths."""

from __future__ import annotations

import math
from collections.abc import Callable
from fractions import Fraction

from lathed_solid.quantity.units import MM_PER_INCH, LengthUnit, unit_factor

#: from an English text (and of what it is, where a word means several things) to what is shown
Spoken = Callable[..., str]


def as_it_is(text: str, _about: str = "") -> str:
    """In English."""
    return text


def trim(number: float, places: int) -> str:
    """``number`` with at most ``places`` decimals, no trailing zeros, no minus zero."""
    text = f"{number:.{places}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return "0" if text in ("-0", "") else text


def plural(count: int, word: str) -> str:
    """``member``, or ``members`` where they are not one."""
    return word + "s" * (count != 1)


def counted(count: int, word: str) -> str:
    """``1 member``, ``20 members``."""
    return f"{count} {plural(count, word)}"


def length(mm: float, unit: LengthUnit = "mm", places: int | None = None) -> str:
    """A length in the sheet's unit, without the unit: at most 3 decimals in mm, 4 in inches."""
    if places is None:
        places = 3 if unit == "mm" else 4
    return trim(mm / unit_factor(unit), places)


def fixed(mm: float, unit: LengthUnit = "mm", places: int | None = None) -> str:
    """A length with all its decimals, for columns aligned at the point."""
    if places is None:
        places = 3 if unit == "mm" else 4
    text = f"{mm / unit_factor(unit):.{places}f}"
    return text if float(text) != 0 else text.lstrip("-")


def _power(value: float, unit: LengthUnit, power: int, places: int, sign: str = "") -> str:
    """With spaces between thousands; an inch holds 25.4 mm, so two more decimals for each power say as much."""
    more = 0 if unit == "mm" else power + 1
    text = f"{value / unit_factor(unit) ** power:{sign},.{places + more}f}".replace(",", " ")
    return f"{text} {unit}{'²³'[power - 2]}"


def area(mm2: float, unit: LengthUnit = "mm", places: int = 2) -> str:
    """An area in the sheet's unit, with it: ``1 234.56 mm²``, ``1.91357 in²``."""
    return _power(mm2, unit, 2, places)


def volume(mm3: float, unit: LengthUnit = "mm", places: int = 2) -> str:
    """A volume in the sheet's unit, with it: ``387 893 mm³``, ``23.6706 in³``."""
    return _power(mm3, unit, 3, places)


def volume_change(mm3: float, unit: LengthUnit = "mm", places: int = 1) -> str:
    """A difference of volumes with its sign: ``+12.4 mm³``, ``-0.00076 in³``."""
    return _power(mm3, unit, 3, places, "+")


def angle(radians: float, places: int = 2) -> str:
    """An angle in decimal degrees with the sign: ``30°``, ``12.5°``."""
    return trim(math.degrees(radians), places) + "°"


def inch_fraction(mm: float, denominator: int = 64) -> str:
    """The nearest fraction of an inch, as a mixed number: ``1 3/8``."""
    nearest = Fraction(round(mm / MM_PER_INCH * denominator), denominator)
    whole, rest = divmod(abs(nearest), 1)
    sign = "-" if nearest < 0 else ""
    if not rest:
        return f"{sign}{whole}"
    return f"{sign}{whole} {rest}" if whole else f"{sign}{rest}"
