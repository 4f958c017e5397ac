"""The tolerance of sizes that have none of their own, as a line of the sheet says it.

A class of ISO 2768-1 (``ISO 2768-mK``), plus and minus on every size (``UNLESS STATED ±0.1, ANGLES ±0.5°``), or
deviations by the places behind the point (``.XX ±.01 .XXX ±.005``, ``X ±0.5, X.X ±0.2``), or angles alone.
"""

from __future__ import annotations

import re
from functools import cache

from lathed_solid.notation.clauses import Instruction
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import decimal, unit_factor

#: where nothing else is said
UNSTATED = (
    r"(?:UNLESS[ ]+(?:OTHERWISE[ ]+)?(?:STATED|SPECIFIED|NOTED|SHOWN|MARKED|INDICATED|TOLERANCED)"
    r"|U\.?O\.?S\.?|U\.?N\.?O\.?|WHERE[ ]+NOT[ ]+(?:STATED|SHOWN|MARKED|TOLERANCED)"
    r"|EXCEPT[ ]+(?:AS|WHERE)[ ]+(?:STATED|NOTED|SHOWN))"
)
#: the places of a size that is written as a fraction
FRACTION = -1
CLASS = re.compile(
    r"(?:(?:DIN|EN|BS|TO|PER|AS|ACC(?:ORDING)?\.?|IAW|BY)[ ]+)*+(?:ISO[ ]*2768|(?:ISO[ ]*)?22768)(?:-1)?[ ]*[-–: ][ ]*"
    r"(?P<letter>(?-i:[fmcv]))(?-i:[HKL])?(?:-E)?(?![A-Za-z])",
    re.I,
)
_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_SHARE = rf"(?:\d+/\d+|{_NUMBER})"
_UNIT = r'(?:[ ]*(?P<{}>mm\b|in(?:ch)?\b|"))?'
#: how a sheet names the places behind the point: .XX, X.X, 0.00, X alone, 2 PLACE DECIMALS, WHOLE NUMBERS, FRACTIONS
_NAMED = (
    r"(?:(?<![\w.])(?:[Xx0]{0,3}[.,])(?P<marks>[Xx]{1,4}|0{1,4})(?![\w])|(?P<whole>(?<![\w.])[Xx](?![\w.,])"
    r"|(?:WHOLE|0[ -]PL(?:ACE)?)(?:[ ]+(?:NUMBERS?|NOS?\.?|DIMS?\.?|DECIMALS?))?)"
    r"|(?P<count>[1-4]|ONE|TWO|THREE|FOUR)[ -]*(?:PL(?:ACE)?S?\b\.?|DEC(?:IMAL)?S?\b\.?)"
    r"(?:[ ]*(?:DEC(?:IMAL)?S?\b\.?|PL(?:ACE)?S?\b\.?|DIMS?\.?))*"
    r"|(?P<fraction>FRACTION(?:S|AL)?(?:[ ]+DIMS?\.?)?))"
)
ENTRY = re.compile(rf"{_NAMED}[ ]*[=:]?[ ]*±[ ]*(?P<by>{_SHARE}){_UNIT.format('entry_unit')}(?![.\d])", re.I)
_BARE = re.sub(r"\?P<\w+>", "?:", ENTRY.pattern)
_COUNTS = {"ONE": 1, "TWO": 2, "THREE": 3, "FOUR": 4}
_BEFORE = (
    r"(?:GEN(?:ERAL|\b\.?)|LIMITS(?=[ ]*(?:±|[:=]|ON|FOR))|"
    r"UNTOLERANCED|STANDARD|LINEAR|MACHINING|ALL|OTHER|UNSPECIFIED|UNMARKED|TOLERANCES?|TOLERANCING|TOLS?\.?"
    rf"|DIM(?:ENSION)?S?\.?|SIZES|ON|FOR|ARE|TO[ ]+BE|TO(?=[ ])|DECIMALS?|{UNSTATED}|[:=,-])"
)
_DEGREES = r"(?:\d+/\d+|\d+°[ ]*\d+[ ]*'|\d+[ ]*'(?=[ ]*(?:$|[,.;A-Z]))|\d+(?:[.,]\d+)?|[.,]\d+)"
_ANGLES = (
    r"(?:,?[ ]*(?:AND[ ]+)?(?:(?:ANGLES?|ANGULAR)(?:[ ]+DIM(?:ENSION)?S?\b\.?)?)?[ ]*(?:TOL(?:ERANCE)?\.?)?[ ]*"
    r"[:=]?[ ]*±[ ]*"
    rf"(?P<degrees>{_DEGREES})[ ]*(?:°|DEG(?:REES?)?\.?|(?<='))"
    r"(?:[ ]*(?:ANGULAR|(?:ON[ ]+)?ANGLES))?)"
)
_GENERAL = (
    rf"(?P<before>(?:{_BEFORE}[ ]*)*+)(?:(?P<iso>{CLASS.pattern})"
    rf"|±[ ]*(?P<by>{_NUMBER}){_UNIT.format('unit')}(?![.\d/])"
    rf"(?:[ ]*(?:LINEAR|(?:ON[ ]+)?LENGTHS?)\b)?(?:[ ,]*(?:AND[ ]+)?(?P<beside>{_BARE}))?"
    rf"|(?P<block>(?:{_BARE}[ ,;]*)+)){_ANGLES}?"
    rf"(?P<behind>(?:[ ]*,?[ ]*(?:{UNSTATED}|APPLIES|APPLY"
    r"|ON[ ]+ALL[ ]+(?:OTHER[ ]+)?(?:DIM(?:ENSION)?S?\b\.?|SIZES)))?)\.?"
)
#: angles alone, or before the lengths
_ANGLES_FIRST = (
    rf"(?P<before>(?:(?:ALL|GEN(?:ERAL|\b\.?)|OTHER|TOLERANCES?|TOLS?\.?|ON|FOR|{UNSTATED}|[:,-])[ ]*)*+)"
    r"(?:ANGLES?|ANGULAR)(?:[ ]+(?:DIM(?:ENSION)?S?\b\.?|TOL(?:ERANCE)?S?\b\.?|ARE|TO[ ]+BE))*[ ]*[:=]?[ ]*±[ ]*"
    rf"(?P<degrees>{_DEGREES})[ ]*(?:°|DEG(?:REES?)?\.?|(?<='))(?P<rest>.*)"
)
#: a general deviation is no larger, mm and degrees
MOST, MOST_DEG = 10.0, 10.0


@cache
def _whole() -> tuple[re.Pattern[str], re.Pattern[str]]:
    """A line of a general tolerance, and one of angles first: made ready when one is looked for."""
    return re.compile(_GENERAL, re.I), re.compile(_ANGLES_FIRST, re.I)


def general_tolerance(text: str, unit: LengthUnit) -> Instruction | None:
    """What a line says of all sizes; None for a line that says something else. A bare plus and minus wants words that
    say of what: it may be the tolerance of one size.
    """
    general, angles = _whole()
    first = angles.fullmatch(text)
    if first is not None:
        return _angles_first(first, text, unit)
    found = general.fullmatch(text)
    if found is None or (found["by"] and not re.search("[A-Z]", found["before"] + found["behind"], re.I)):
        return None
    degrees = None if found["degrees"] is None else _degrees(found["degrees"])
    if degrees is not None and not 0 < degrees <= MOST_DEG:
        return None
    if found["iso"]:
        return Instruction(what="general tolerance", text=text, letter=found["letter"], angle_deg=degrees)
    by = decimal(found["by"]) * unit_factor(_own(found["unit"], unit)) if found["by"] else None
    if by is not None and not found["beside"]:
        told = Instruction(what="general tolerance", text=text, plus_minus_mm=by, angle_deg=degrees)
        return told if 0 < by <= MOST else None
    places = places_told(found["beside"] or found["block"], unit)
    if by is not None:  # DECIMALS ±.005, FRACTIONS ±1/64
        places = (*((n, by) for n in range(1, 5)), *(p for p in places if p[0] not in range(1, 5)))
    alone = len(places) == 1 and places[0][0] == 0 and not re.search("[A-Z]{2}", text, re.I)
    if not all(0 < own <= MOST for _, own in places) or alone:
        return None
    return Instruction(what="general tolerance", text=text, by_places=places, angle_deg=degrees)


def _angles_first(found: re.Match[str], text: str, unit: LengthUnit) -> Instruction | None:
    """``ANGLES ±1°``, and what is told of lengths behind it."""
    degrees = _degrees(found["degrees"])
    if not 0 < degrees <= MOST_DEG:
        return None
    told: Instruction | None = Instruction(what="general tolerance", text=text)
    rest = found["rest"].strip(" ,;.")
    if rest and not re.fullmatch(UNSTATED, rest, re.I):
        told = general_tolerance(f"TOLERANCES {rest}", unit)
    if told is None or told.angle_deg is not None:
        return None
    return told.model_copy(update={"text": text, "angle_deg": degrees})


def places_told(text: str, unit: LengthUnit) -> tuple[tuple[int, float], ...]:
    """(places behind the point, mm) of each entry of a block; ``FRACTION`` for sizes that are written as fractions."""
    out = []
    for entry in ENTRY.finditer(text):
        count = entry["count"]
        n = (FRACTION if entry["fraction"] else 0 if entry["whole"] else len(entry["marks"]) if entry["marks"]
             else _COUNTS.get(count.upper()) or int(count))  # fmt: skip
        own = "in" if "/" in entry["by"] else _own(entry["entry_unit"], unit)
        out.append((n, _share(entry["by"]) * unit_factor(own)))
    return tuple(out)


def _own(written: str | None, unit: LengthUnit) -> LengthUnit:
    """The unit that stands with a number, else that of the sheet."""
    return unit if written is None else "mm" if written.lower() == "mm" else "in"


def _share(text: str) -> float:
    """``1/64`` or a decimal number."""
    top, slash, bottom = text.partition("/")
    return (int(top) / int(bottom) if int(bottom) else 0.0) if slash else decimal(text)


def _degrees(text: str) -> float:
    """``1/2``, ``0°30'``, ``30'``, ``0.5``."""
    if "'" in text:
        whole, _, minutes = text.rstrip("' ").rpartition("°")
        return (decimal(whole) if whole else 0.0) + decimal(minutes.strip()) / 60
    return _share(text)
