"""Features that are read as what they are and kept in their own words: V grooves, T slots, dovetails, splines, inserts.

Nothing measures them: their row is shown, and not judged here. What stands in their line is theirs.
"""

from __future__ import annotations

import re
from typing import Any

from lathed_solid.notation.clauses import Feature
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run
from lathed_solid.notation.items import Item, above_zero, factor_of, plain_number
from lathed_solid.notation.tokens import NUMBER

#: what a line is of, by the first word that is found in it
NAMES = {
    "thread insert": r"INSERT", "Woodruff keyway": r"WOODRUFF", "dovetail": r"DOVETAIL", "spline": r"SPLINE",
    "serration": r"SERRATION", "T slot": r"\bT(?:EE)?[ -]?SLOT", "V groove": r"\bV",
}  # fmt: skip


#: numbers that are no size: of a kind, and how many
COUNTED = re.compile(
    r"\bNO\.?[ ]*\d+|\b(?:DIN|ISO|ANSI|ASME|BS|EN|SAE)[ ]*(?:EN[ ]*|ISO[ ]*)?[A-Z]?\d[\d.-]*"
    r"|\b\d{1,2}[ ]*(?:OFF|PLACES|PLCS|POS)\b|^\d{1,2}[ ]+(?=[A-Z-]+(?:[ -][A-Z]+)?S\b)",
    re.I,
)
#: how many splines there are: ``6 SPLINES``, ``SPLINE 6 x 23 x 26`` (ISO 14)
TOOTHED = re.compile(r"^\s*\d{1,2}\s*x?\s*(?=SPLINES?\b)|(?<=SPLINE )\d{1,2}\s*x\s*(?=\d+\s*x\s*\d)", re.I)
#: a Woodruff key's number: its width in 32nds of an inch, its diameter in eighths by the last two (ASME B17.2)
KEY_NUMBER = re.compile(
    r"(?:\bWOODRUFF[ ]*(?:KEY(?:WAY|SEAT|SLOT)?S?)?[ ]*(?:NO\.?|#)?[ ]*|(?:NO\.?|#)[ ]*(?=\d+[ ]+WOODRUFF))"
    r"(\d{1,2})(\d{2})(?![\d.,/])",
    re.I,
)


def _first_size(item: Item, run: Run) -> float | None:
    """Millimetres; None where no number of the line is a size."""
    if key := KEY_NUMBER.search(item.text):
        run.say(f"a key of {key[1]}/32 in by ⌀{int(key[2])}/8 in")
        return int(key[1]) / 32 * factor_of("in")
    text = TOOTHED.sub("", COUNTED.sub("", item.text))
    number = re.search(rf"{NUMBER}(?![\d.,]*\s*°)", text)
    return None if number is None else plain_number(number[0], item.column)[0] * factor_of(run.unit)


def _read_feature(run: Run, _: Prefix) -> Fields | None:
    """Its name, its first size and its line. Raises NoteError for a size of zero."""
    item = run.take()
    size = _first_size(item, run)
    if size is None:
        run.leave(item)
        return None
    above_zero(size, item.column)
    name: Any = next(n for n, pattern in NAMES.items() if re.search(pattern, item.text, re.I))
    run.say(f"{name}: kept as it is written, not judged here")
    return {"kind": "feature", "feature": Feature(name=name, size_mm=size, text=" ".join(item.text.split()))}


#: which item begins what
READS: Families = {"profile": _read_feature}
