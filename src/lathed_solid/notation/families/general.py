"""General notes: what is done to every edge that has no dimension of its own.

``FILLETS & ROUNDS R2.5``, ``ALL UNMARKED RADII R2``, ``BREAK EDGES 0.2 MAX``. One fillet is a size.
"""

from __future__ import annotations

import re
from dataclasses import replace

from lathed_solid.notation.clauses import Rule
from lathed_solid.notation.families.run import Families, Fields, Prefix, Run, own_limits, take_words
from lathed_solid.notation.items import Item, NoteError

SIZES = ("plain", "radius", "chamfer_c")
#: those of a plate, where ALL or UNLESS STATED does not make them every edge
CORNERS = "CORNERS"


def _what(item: Item) -> str:
    word = " ".join(item.text.upper().split())
    if side := re.search(r"\b(?:(IN)|EX|OUT)(?:TERNAL|SIDE)\b|^(IN) ", word):
        return "fillet" if side[1] or side[2] else "round"
    fillet, rounds = "FILLET" in word, bool(re.search(r"ROUND|CORNER|FILLET.*RADII", word))
    return "fillet and round" if fillet == rounds else "fillet" if fillet else "round"


def _many(item: Item) -> bool:
    word = " ".join(item.text.upper().split())
    return bool(
        re.search(
            r"^ALL|UNMARKED|UNSPECIFIED|UNDIM|OTHER|INTERNAL|EXTERNAL|FILLETS|ROUNDS|RADII|CORNERS|EDGES|&|\bAND\b",
            word,
        )
    )


def _read_round(run: Run, prefix: Prefix) -> Fields | None:
    """``FILLETS R3``: the size behind the word."""
    word = run.take()
    if run.sees("sep") and run.peek(1).kind in SIZES and run.peek().text == ":":
        run.take()
    if not run.sees(*SIZES):
        raise NoteError(
            "the fillet has no radius" if not _many(word) else "the general note gives no size",
            column=word.column, hint="FILLET R3, FILLETS R2.5",
        )  # fmt: skip
    item = run.take()
    if run.sees("cross") and run.peek(1).kind == "angle" and "CORNER" in word.text.upper():
        run.take()  # 4 CORNERS 5 x 45°
        angle = run.take().value
        if prefix.count is None and (_elsewhere(run) or word.text.upper() != CORNERS):
            return _rule(run, "chamfer", item, angle)
        return {"kind": "chamfer", "size_mm": item.value, "angle_deg": angle, **own_limits(item)}
    if word.text.upper() == CORNERS and prefix.count is None and not _elsewhere(run):
        return {"kind": "fillet", "size_mm": item.value, **own_limits(item)}
    if (_many(word) or _elsewhere(run)) and prefix.count is None:
        return _rule(run, _what(word), item)
    fields: Fields = {"kind": "fillet", "size_mm": item.value, **own_limits(item)}
    while run.goes_on and take_words(run, fields):
        pass
    if _elsewhere(run) and prefix.count is None and "count" not in fields:
        return _rule(run, _what(word), item)
    return fields


def rule_behind(run: Run, item: Item, kind: str, angle: float | None) -> Fields | None:
    """A size whose word stands behind it: ``R3 ALL FILLETS``, ``0.5 x 45° ALL EDGES``, ``0.5 x 45° UNLESS STATED``."""
    if run.sees("typ") and run.peek(1).kind == "round" and kind == "radius" and _many(run.peek(1)):
        run.take()  # R.06 TYP ALL FILLETS
    if run.sees("round") and kind == "radius" and run.peek().text.upper() == CORNERS and not run.elsewhere:
        return None  # R10 CORNERS: those of a plate, not every edge
    if run.sees("round") and kind == "radius" and run.done and run.peek().text.upper().startswith("IN "):
        run.take()  # KEYWAY 8 WIDE, R0.25 MAX IN CORNERS: those of what was named
        return {"kind": "fillet", "size_mm": item.value, **own_limits(item)}
    if run.sees("round") and kind == "radius" and _many(run.peek()) and run.peek(1).kind != "side":
        return _rule(run, _what(run.take()), item)
    if run.sees("breaks") and not (run.peek(-1).kind == "sep" and run.peek(1).kind in SIZES):
        run.take()
        return _rule(run, "fillet and round" if kind == "radius" else "chamfer", item, angle)
    if run.sees("elsewhere") or (run.elsewhere and kind in ("chamfer", "radius")):
        return _rule(run, "chamfer" if kind == "chamfer" else "fillet and round", item, angle)
    return None


def _elsewhere(run: Run) -> bool:
    ahead = 1 if run.sees("sep") and not run.peek().text.startswith("\n") else 0
    return run.elsewhere or run.peek(ahead).kind == "elsewhere"


def _read_breaks(run: Run, _: Prefix) -> Fields | None:
    word = run.take()
    chamfer = "CHAMFER" in word.text.upper()
    theirs = chamfer and run.done and " ".join(word.text.upper().split()) == "CHAMFER CORNERS"
    if not run.sees(*SIZES):
        raise NoteError("the general note gives no size", column=word.column, hint="FILLETS R2.5, BREAK EDGES 0.2 MAX")
    item = _ranged(run, run.take())
    angle: float | None = 45.0 if item.kind == "chamfer_c" else None
    if run.sees("cross") and run.peek(1).kind == "angle":
        run.take()
        angle = run.take().value
    if theirs and not _elsewhere(run):  # SQUARE 12 x 20, CHAMFER CORNERS 1.5: its own
        return {"kind": "chamfer", "size_mm": item.value, "angle_deg": angle or 45.0, **own_limits(item)}
    return _rule(run, "chamfer" if chamfer else "break", item, angle)


def _ranged(run: Run, item: Item) -> Item:
    """``0.1-0.3``, ``0.2 TO 0.5``: from one size to a larger; modelled by the middle."""
    dashed = run.sees("unread", "dash") and run.peek().text == "-"
    far = run.peek(1) if dashed else run.peek()
    if item.kind != "plain" or item.toleranced or far.kind != "plain" or far.toleranced or far.value <= item.value:
        return item
    run.at += 2 if dashed else 1
    return replace(item, value=(item.value + far.value) / 2, low=item.value, high=far.value)


def _rule(run: Run, what: str, item: Item, angle: float | None = None) -> Fields:
    run.elsewhere = False
    while run.goes_on and run.sees("elsewhere", "typ"):
        run.take()
    limited = item.low == 0.0 and item.high == item.value
    if item.fit:
        run.unread.append("the tolerance of a general note")
    low, high = (None, None) if limited else (item.low, item.high)
    rule = Rule(what=what, size_mm=item.value, angle_deg=angle, at_most=limited or None, low_mm=low, high_mm=high)
    return {"kind": "general", "rule": rule}


#: which item begins what
READS: Families = {"round": _read_round, "breaks": _read_breaks}
