"""The tolerance of sizes that have none of their own, as a line of the sheet says it.

A class of ISO 2768-1 (``ISO 2768-mK``), plus and minus on every size (``UNLESS STATED ±0.1, ANGLES ±0.5°``), or
deviations by the places behind the point (``.XX ±.01 .XXX ±.005``).
"""

from __future__ import annotations

import re

from lathed_solid.notation.clauses import Instruction
from lathed_solid.quantity.units import MM_PER_INCH, decimal

#: where nothing else is said
UNSTATED = (
    r"(?:UNLESS[ ]+(?:OTHERWISE[ ]+)?(?:STATED|SPECIFIED|NOTED|SHOWN|MARKED|INDICATED|TOLERANCED)"
    r"|U\.?O\.?S\.?|U\.?N\.?O\.?|WHERE[ ]+NOT[ ]+(?:STATED|SHOWN|MARKED|TOLERANCED)"
    r"|EXCEPT[ ]+(?:AS|WHERE)[ ]+(?:STATED|NOTED|SHOWN))"
)
CLASS = re.compile(
    r"(?:(?:DIN|EN|BS|TO|PER|AS|ACC(?:ORDING)?\.?|IAW|BY)[ ]+)*+ISO[ ]*2768(?:-1)?[ ]*[-–: ][ ]*"
    r"(?P<letter>(?-i:[fmcv]))(?-i:[HKL])?(?:-E)?(?![A-Za-z])",
    re.I,
)
_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_PLACE = r"(?<![\w.])(?:0?\.|0,)([Xx]{1,4}|0{1,4})\s*=?\s*±\s*(\d*\.\d+)"
PLACES = re.compile(_PLACE)
_BEFORE = (
    r"(?:GENERAL|UNTOLERANCED|STANDARD|LINEAR|MACHINING|ALL|OTHER|UNSPECIFIED|UNMARKED|TOLERANCES?|TOLERANCING|TOLS?\.?"
    rf"|DIM(?:ENSION)?S?\.?|SIZES|ON|FOR|ARE|TO[ ]+BE|TO(?=[ ])|DECIMALS?|{UNSTATED}|[:=,-])"
)
_ANGLES = (
    r"(?:,?[ ]*(?:AND[ ]+)?(?:ANGLES?|ANGULAR)?[ ]*(?:TOL(?:ERANCE)?\.?)?[ ]*[:=]?[ ]*±[ ]*"
    rf"(?P<degrees>{_NUMBER})[ ]*(?:°|DEG(?:REES?)?\.?))"
)
GENERAL = re.compile(
    rf"(?P<before>(?:{_BEFORE}[ ]*)*+)(?:(?P<iso>{CLASS.pattern})|±[ ]*(?P<by>{_NUMBER})[ ]*"
    rf"(?P<unit>mm|in(?:ch)?|\")?(?![.\d])|(?P<block>(?:{_PLACE}[ ]*(?:\"|in)?[ ,]*)+)){_ANGLES}?"
    rf"(?P<behind>(?:[ ]*,?[ ]*(?:{UNSTATED}|APPLIES|APPLY))?)\.?",
    re.I,
)
#: a general deviation is no larger, mm and degrees
MOST, MOST_DEG = 10.0, 10.0


def general_tolerance(text: str, unit: str) -> Instruction | None:
    """What a line says of all sizes; None for a line that says something else. A bare plus and minus wants words that
    say of what: it may be the tolerance of one size.
    """
    found = GENERAL.fullmatch(text)
    if found is None or (found["by"] and not re.search("[A-Z]", found["before"] + found["behind"], re.I)):
        return None
    degrees = None if found["degrees"] is None else decimal(found["degrees"])
    if degrees is not None and not 0 < degrees <= MOST_DEG:
        return None
    if found["iso"]:
        return Instruction(what="general tolerance", text=text, letter=found["letter"], angle_deg=degrees)
    if found["by"]:
        inches = unit == "in" if found["unit"] is None else found["unit"].lower() != "mm"
        by = decimal(found["by"]) * (MM_PER_INCH if inches else 1)
        told = Instruction(what="general tolerance", text=text, plus_minus_mm=by, angle_deg=degrees)
        return told if 0 < by <= MOST else None
    places = tuple((len(x), decimal(by)) for x, by in PLACES.findall(found["block"]))
    return Instruction(what="general tolerance", text=text, by_places=places, angle_deg=degrees)
