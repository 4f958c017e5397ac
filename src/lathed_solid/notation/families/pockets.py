"""Pockets and windows: ``POCKET 40 x 20 x 8 DEEP, R5 CORNERS``; each size is a length of its own, the corners radii."""

from __future__ import annotations

from lathed_solid.notation.families.run import Families, Fields, Prefix, Run, all_but_last, own_limits, take_words
from lathed_solid.notation.items import Item

#: sizes that may stand before the word
BEFORE = ("plain", "wide", "long", "depth", "cross")
SIZES = ("plain", "wide", "long", "depth", "square")


def pocket_ahead(run: Run) -> bool:
    """Whether the sizes at hand lead to a pocket's word: ``40 x 20 POCKET``; the word is put before them."""
    for ahead, item in enumerate(run.line()):
        if item.kind == "pocket":
            run.items.insert(run.at, run.items.pop(run.at + ahead))
            return True
        if item.kind not in BEFORE:
            return False
    return False


def _read_pocket(run: Run, prefix: Prefix) -> Fields | None:
    word = run.take()
    found: list[Fields] = []
    while run.goes_on:
        item = run.peek()
        if item.kind == "cross" and run.peek(1).kind in SIZES:
            run.take()
        elif item.kind in SIZES and item.value:
            found.append(_length(run.take()))
        elif item.kind == "radius" and item.value and "spherical" not in item.marks:
            found.append({"kind": "fillet", "size_mm": item.value, **own_limits(run.take())})
            if run.sees("round"):
                run.take()
        elif item.kind == "through":
            run.say(run.take().text.lower())
        elif not (found and take_words(run, found[-1])):
            break
    if not found:
        run.leave(word)
        return None
    run.say(word.text.lower())
    return all_but_last(run, found, prefix)


def _length(item: Item) -> Fields:
    square = {"square": True} if item.kind == "square" else {}
    return {"kind": "length", "size_mm": item.value, **square, **own_limits(item)}


#: which item begins what
READS: Families = {"pocket": _read_pocket}
