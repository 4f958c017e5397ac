"""Tapers: by their ratio, an inch and a foot, or a Morse taper's number."""

from __future__ import annotations

import re

from lathed_solid.notation.clauses import Taper
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run, with_words
from lathed_solid.notation.items import Item, NoteError, plain_number
from lathed_solid.quantity.units import decimal


def _read_taper(run: Run, _: Prefix) -> Fields | None:
    word = run.take()
    if run.sees("sep") and not run.peek().text.startswith("\n"):
        run.take()
    if run.sees("ratio", "perfoot"):
        return _read_ratio(run, Prefix())
    raise NoteError("the taper has no ratio", column=word.column, hint="TAPER 1:10, or an angle")


def _read_bare(run: Run, prefix: Prefix) -> Fields | None:
    """``1:10``; a ratio alone that no taper has is a scale's. Raises NoteError."""
    item = run.peek()
    if len(run.items) == 1 and _ratio(item) <= STEEPEST:
        raise NoteError("a scale, or a taper: this can be read either way", column=item.column, received=item.text,
                        hint=f"SCALE {item.text}, or TAPER {item.text}")  # fmt: skip
    return _read_ratio(run, prefix)


def _read_ratio(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    ratio = _per_foot(item) if item.kind == "perfoot" else _ratio(item)
    while run.sees("taper", "included"):
        run.take()
    if run.sees("dia") and run.peek(1).kind == "end":
        run.leave(run.take())
    return with_words(run, {"kind": "taper", "taper": Taper(ratio=ratio)})


#: n of the steepest 1:n that is taken for a taper where it stands alone
STEEPEST = 2.0
#: n of 1:n of each Morse taper (DIN 228-1:1987 table 1)
MORSE = (19.212, 20.047, 20.020, 19.922, 19.254, 19.002, 19.180)


def _read_morse(run: Run, _: Prefix) -> Fields | None:
    number = int(re.findall(r"\d", run.take().text)[-1])
    run.say(f"Morse taper {number} of DIN 228-1: 1:{MORSE[number]:g}")
    return with_words(run, {"kind": "taper", "taper": Taper(ratio=MORSE[number])})


def _ratio(item: Item) -> float:
    text = re.sub(r"(?i)\s*\bON\b.*", "", re.sub(r"(?i)\s*\bIN\s+|\s*/\s*", ":", item.text))
    one, many = (decimal(n) for n in text.split(":"))
    if one <= 0 or many <= 0:
        raise NoteError("a taper reads 1:10", column=item.column, received=item.text)
    return many / one


def _per_foot(item: Item) -> float:
    """``.625 IN/FT``: inches on the diameter over a foot."""
    match = re.match(r"[\d\s/.,-]+\d|\d", item.text)
    value = plain_number(match[0], item.column)[0] if match else 0.0
    if value <= 0:
        raise NoteError("a taper reads 1:10 or .625 IN/FT", column=item.column, received=item.text)
    return 12.0 / value


#: which item begins what
READS: Families = {"taper": _read_taper, "ratio": _read_bare, "morse": _read_morse, "perfoot": _read_ratio}
