"""Details with several sizes: keyways, grooves, slots."""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence
from dataclasses import replace
from typing import Any

from lathed_solid.notation.clauses import Entry, Groove, Keyway, Pattern, Slot
from lathed_solid.notation.families.run import END, Families, Fields, Prefix, Run, once_around, take_words
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.standards.csv_tables import rows

FEATURES = ("keyway", "groove", "slot")
#: a groove that is narrower may be told as an undercut, mm
NARROW = 2.0
#: sizes of a feature, before its word or behind it
#: a groove that is deeper than so much of its width says so
DEEPER = 1.5
#: what a radius may be off half of its width, being rounded to two decimals of an inch
ROUNDED = 0.03
PARTS = ("plain", "wide", "long", "depth", "thick", "apart", "dia", "radius", "cross")


def feature_ahead(run: Run) -> bool:
    """Whether sizes at hand lead to a feature's word: ``8 x 4 KEYWAY``, ``3 WIDE x 1.5 DEEP GROOVE``."""
    plain = 0
    line = run.line()
    if [i.kind for i in line[:4]] == ["dia", "cross", "plain", "groove"]:
        return True  # ⌀26 x 1.3 GROOVE
    head = list(itertools.takewhile(lambda i: i.kind != "sep", line))
    kinds = [i.kind for i in head if i.kind != "cross"]
    recess = kinds in (["dia", "depth", "groove"], ["dia", "groove", "depth"]) and any(
        i.text.upper() == "RECESS" for i in head
    )  # ⌀28 x 2 DEEP RECESS
    if kinds in (["dia", "groove", "wide"], ["dia", "wide", "groove"], ["wide", "groove", "dia"]) or recess:
        return True  # ⌀26 THD RELIEF 4 WIDE
    for k, (item, following) in enumerate(zip(line, [*line[1:], END], strict=True)):
        if item.kind in FEATURES:
            apart = any(i.kind == "sep" for i in line[:k]) and any(i.kind in PARTS for i in line[k + 1 :])
            return plain > 0 and not apart  # 30 JS9, KEYWAY 6 WIDE x 4 DEEP
        grooved = plain and following.kind == "groove"  # .094 WIDE x ⌀.875 GROOVE
        if item.kind not in (*PARTS, "sep") or (item.kind == "dia" and not grooved):
            return False
        plain += item.kind != "sep"
    return False


def read_feature(run: Run, prefix: Prefix) -> Fields | None:
    """All sizes before and behind the word, told apart at the end."""
    sizes: list[Item] = []
    word: Item | None = None
    fields: Fields = {}
    crossed = True
    while run.goes_on or _more(run, word, sizes):
        item = run.peek()
        if item.kind == "cross":
            run.take()
            crossed = True
            continue
        if item.kind in FEATURES and word is None:
            word = run.take()
            crossed = not sizes
        elif (item.kind in FEATURES and word is not None and item.kind == word.kind == "groove") or (
            item.kind in ("wide", "long", "depth", "thick", "apart") and not item.value
        ):
            run.take()
        elif item.kind == "apart" and word is not None and (
            word.kind != "slot" or "from" in item.marks or _long_already(run, prefix, sizes)
        ):  # fmt: skip
            break  # KEYWAY 8 WIDE, 28.3 ACROSS BORE; SLOT 10 x 30, 20 FROM END; SLOTS 6 WIDE x 20 LONG, 60 APART
        elif word is not None and run.peek(-1).kind == "sep" and (
            _another(word, item, sizes) or (item.kind == "long" and word.kind == "groove")  # .. PITCH 6
            or (item.kind == "radius" and "bottom" in run.assumed)  # SLOT 8 WIDE, R4 BOTTOM
        ):  # fmt: skip
            break
        elif item.kind in PARTS and (item.kind != "plain" or crossed):
            sizes.append(run.take())
            crossed = False
        elif item.kind == "through":
            run.take()
            fields["through"] = True
        elif item.kind in ("threaded", "shoulder", "turn"):
            run.take()
        elif item.text.upper().endswith("CORNERS") and sizes and sizes[-1].kind == "radius":
            run.take()  # GROOVE 4 x 2, R0.4 CORNERS, R0.4 BOTH CORNERS
        elif not prefix.equally and (
            item.kind == "equally" or (item.kind == "angle" and once_around(prefix.count or fields.get("count"), item))
        ):
            run.take()  # 3 SLOTS 5 WIDE AT 120°
            prefix.equally = True
        elif not take_words(run, fields):
            break
    if word is None:
        for item in sizes:
            run.leave(item)
        return None
    if word.kind == "groove" and run.done and not sizes and not fields:
        run.leave(word)  # M24 x 2 WITH UNDERCUT
        return None
    if word.kind != "slot" and fields.pop("through", None):
        if word.kind == "keyway" and not any(i.kind == "long" for i in sizes):
            run.say("through")
        else:
            run.unread.append("THRU")
    if prefix.count is not None:
        fields.setdefault("count", prefix.count)
    closed = _CLOSES[word.kind](run, word, sizes, fields)
    count = prefix.count or closed.get("count")
    if prefix.equally and count and count > 1:
        run.say("equally spaced on the full circle")
        closed["pattern"] = Pattern(kind="circle", count=count)
    return closed


def _long_already(run: Run, prefix: Prefix, sizes: list[Item]) -> bool:
    """``SLOTS 6 WIDE x 20 LONG, 60 APART``, ``2 SLOTS 9 x 15, THRU, 120 CENTRES``: whether slots have their length."""
    plain = [i.value for i in sizes if i.kind == "plain"]
    two = run.peek(-1).kind == "sep" and (prefix.count or 1) > 1 and len(plain) > 1 and plain[1] > plain[0]
    return two or any(i.kind == "long" for i in sizes)


def _another(word: Item, item: Item, sizes: list[Item]) -> bool:
    """Whether a size behind a comma is none of the feature's: KEYWAY 8 WIDE, R0.25 MAX; SLIT 2 WIDE, ⌀5.5 THRU."""
    if item.kind == "radius":
        return item.toleranced or (word.kind != "groove" and bool(sizes) and not _rounds(item, sizes[0]))
    return item.kind == "dia" and word.kind != "groove"


def _more(run: Run, word: Item | None, sizes: list[Item]) -> bool:
    """On a new line sizes go on where the feature has none yet."""
    ahead = 0
    while run.peek(ahead).kind in ("sep", "cross"):
        ahead += 1
    kind = run.peek(ahead).kind
    if word is None or kind not in ("wide", "long", "depth") or any(i.kind == kind for i in sizes):
        return False
    if word.kind != "keyway" and len(sizes) > 1:
        return False
    run.at += ahead
    return True


def _told_apart(run: Run, sizes: list[Item]) -> tuple[dict[str, Item], list[Item]]:
    """Sizes with a role of their own (the first of each), and the plain ones in order."""
    given: dict[str, Item] = {}
    plain: list[Item] = []
    for item in sizes:
        if item.kind == "plain":
            plain.append(item)
        elif item.kind in given:
            run.leave(item)
        else:
            given[item.kind] = item
    return given, plain


def _size(item: Item | None) -> float | None:
    return None if item is None else item.value


def _close_keyway(run: Run, word: Item, sizes: list[Item], fields: Fields) -> Fields:
    given, plain = _told_apart(run, sizes)
    width = given.get("wide") or (plain.pop(0) if plain else None)
    if width is None:
        raise NoteError("the keyway has no width", column=word.column, hint="KEYWAY 8x4 N9 x 30")
    depth, length = given.get("depth"), given.get("long")
    if length is not None and "overall" in length.marks:  # 5 WIDE KEYWAY, 22.3 OVERALL
        raise NoteError(ACROSS, column=length.column, received=length.text, hint="x 22 LONG, or 22.3 OVER KEYWAY")
    if depth is None and plain and (len(plain) > 1 or plain[0].value <= width.value):
        depth = plain.pop(0)
        _no_height(width, depth)
    if length is None and plain:
        length = plain.pop(0)
        _not_across(run, width, length)
        run.say("taken as its length")
    _without_ends(given, width)
    fits = [i.fit for i in (width, depth, length) if i is not None and i.fit]  # it may stand behind the last size
    _left(run, plain, given, ("wide", "depth", "long"))
    _untaken(run, fits[1:])
    key = Keyway(width_mm=width.value, depth_mm=_size(depth), length_mm=_size(length), fit=fits[0] if fits else None,
                 **_limits(width=width, depth=depth, length=length))  # fmt: skip
    return {**_kept(fields), "kind": "keyway", "keyway": key}


ACROSS = "the keyway's length, or a size over the bore and its key: this can be read either way"


def _not_across(run: Run, width: Item, length: Item) -> None:
    """``BORE ⌀30 H7, KEYWAY 8 x 33.3``: a size from the bore's far side to the keyway's floor. Raises NoteError."""
    bore = next((c.diameter_mm for c in run.done if c.diameter_mm), None)
    if bore is not None and bore < length.value < bore + width.value:
        raise NoteError(ACROSS, column=length.column, received=length.text,
                        hint=f"x {length.text} LONG, or {length.text} OVER KEYWAY")  # fmt: skip


def _no_height(width: Item, depth: Item) -> None:
    """``KEYWAY 8 x 7`` may be for a key 8 x 7, which does not lie as deep. Raises NoteError."""
    keys = {(float(r["width_mm"]), float(r["height_mm"])) for r in rows("keys")}
    if (width.value, depth.value) in keys and not depth.toleranced:
        raise NoteError("the keyway's depth, or the height of its key: this can be read either way",
                        column=depth.column, received=f"{width.text} x {depth.text}",
                        hint=f"KEY {width.text} x {depth.text} x 30, or {depth.text} DEEP")  # fmt: skip


def _close_groove(run: Run, word: Item, sizes: list[Item], fields: Fields) -> Fields:
    given, plain = _told_apart(run, sizes)
    width = given.get("wide") or (plain.pop(0) if plain else None)
    diameter, depth = given.get("dia"), given.get("depth")
    if diameter is not None and depth is not None and "face" in run.assumed:
        run.leave(given.pop("dia"))  # FACE GROOVE 4 WIDE x 2.5 DEEP ON ⌀40: where it runs, not its bottom
        diameter = None
    if depth is None and diameter is None and plain:
        depth = plain.pop(0)
        run.say(f"groove {run.size(depth.value)} deep")
        if width is not None and depth.value > DEEPER * width.value:
            raise NoteError("a groove's depth, or the diameter of its bottom: this can be read either way",
                            column=depth.column, received=depth.text,
                            hint=f"{depth.text} DEEP, or ⌀{depth.text}")  # fmt: skip
    recess = word.text.upper() == "RECESS"
    if recess and [i.kind for i in sizes[:1]] == ["dia"] and "wide" not in given and depth is None:
        width, depth = None, width  # RECESS ⌀30 x 2
    if recess and width is None and diameter is not None and depth is not None:
        return _recess(run, diameter, depth, fields)
    if word.text.upper().startswith(("UNDERCUT", "RELIEF", "U")) and width is not None and depth is not None:
        _no_undercut(width, depth)
    if width is None or (diameter is None and depth is None):
        raise NoteError("a groove needs a width, and a diameter or a depth", hint="GROOVE 1.3 x Ø23.9")
    _left(run, plain, given, ("wide", "depth", "dia", "radius"))
    _untaken(run, [i.fit for i in (depth, given.get("radius")) if i is not None and i.fit])
    _tolerances(run, [i for i in (given.get("radius"),) if i is not None and not i.fit])
    ring = bool(re.search(r"CIRCLIP|RING", word.text, re.I)) or None
    groove = Groove(width_mm=width.value, diameter_mm=_size(diameter), depth_mm=_size(depth),
                    radius_mm=_size(given.get("radius")), ring=ring, fit=width.fit,
                    diameter_fit=None if diameter is None else diameter.fit,
                    **_limits(width=width, diameter=diameter, depth=depth))  # fmt: skip
    return {**_kept(fields), "kind": "groove", "groove": groove}


def _no_undercut(width: Item, depth: Item) -> None:
    """``UNDERCUT 0.6 x 0.3`` may be one of DIN 509, by its radius and its depth. Raises NoteError."""
    sizes = {(float(r["radius_mm"]), float(r["depth_mm"])) for r in rows("undercuts")}
    if width.kind == depth.kind == "plain" and width.value < NARROW and (width.value, depth.value) in sizes:
        raise NoteError("an undercut of DIN 509, or a groove's width and depth: this can be read either way",
                        column=width.column, received=f"{width.text} x {depth.text}",
                        hint=f"E{width.text} x {depth.text}, F, or {width.text} WIDE x {depth.text} DEEP")  # fmt: skip


def _recess(run: Run, diameter: Item, depth: Item, fields: Fields) -> Fields:
    """``RECESS ⌀32 x 5 DEEP``: round and flat, as a counterbore."""
    _untaken(run, [depth.fit] if depth.fit else [])
    if diameter.fit:
        run.say(f"the limits of {diameter.fit}")
        diameter = replace(diameter, fit=None)
    run.say("a recess as a counterbore")
    entry = Entry(diameter_mm=diameter.value, diameter_decimals=diameter.decimals, depth_mm=depth.value,
                  depth_decimals=depth.decimals, **_limits(diameter=diameter, depth=depth))  # fmt: skip
    return {**_kept(fields), "kind": "widening", "cbore": entry}


def _close_slot(run: Run, word: Item, sizes: list[Item], fields: Fields) -> Fields:
    """``SLOT 8 x 30``, ``8 WIDE x 30 LONG SLOT THRU``: the length over all; ``SLOT 8 x 30 CRS``: between centres."""
    given, plain = _told_apart(run, sizes)
    apart = given.get("apart")
    width = given.get("wide") or (plain.pop(0) if plain else None)
    behind = bool(sizes) and word.column > sizes[0].column  # .250 SLOT
    if width is not None:
        _without_ends(given, width)
    elif "radius" in given and (apart is not None or "through" in fields or "long" in given):
        if behind and fields.get("count") == 2:  # 2 x R4, 16 CRS SLOT, but 2 SLOTS R4 x 16 CRS
            raise NoteError("two slots, or the two ends of one: this can be read either way", column=word.column,
                            received="2 x R", hint="2 SLOTS R4 x 20 CRS, or SLOT 8 WIDE x 20 CRS")  # fmt: skip
        width = given["wide"] = _doubled(given.pop("radius"))  # R4 x 20 CRS SLOT
        run.say("twice the radius of its ends wide")
    length = apart or given.get("long") or (plain.pop(0) if plain else None)
    if width is None or (length is None and "wide" not in given and not behind and "depth" not in given):
        raise NoteError("a slot needs a width and a length", column=word.column, hint="SLOT 8 x 30")
    depth = given.get("depth")
    alone = length is not None and length.kind == "plain" and apart is depth is None and not plain
    driven = any("screwdriver" in said for said in run.assumed)
    shallow = driven or word.text.upper().startswith("CHANNEL")
    flat = length is not None and alone and length.value < width.value
    if flat and length is not None and width.kind == "plain" and not shallow:
        one, two = width.text, length.text
        raise NoteError("a slot's width and depth, or its length and width: this can be read either way",
                        column=width.column, received=f"{one} x {two}",
                        hint=f"{one} WIDE x {two} DEEP, or SLOT {two} x {one}")  # fmt: skip
    if flat or (driven and length is not None and alone):
        length, depth = None, length  # SCREWDRIVER SLOT 2 x 1.5
        run.say("taken as its depth")
    depth = depth or (plain.pop(0) if plain else None)
    if apart is None and length is not None and length.value <= width.value:
        raise NoteError("a slot is longer than it is wide", column=word.column, received=length.value)
    _left(run, plain, given, ("wide", "apart" if apart else "long", "depth"))
    _untaken(run, [i.fit for i in (length, depth) if i is not None and i.fit])
    if length is not None:
        run.say("the slot's length over all" if apart is None else "the slot's length between its centres")
    through = fields.get("through") or None
    if through and depth is not None:
        raise NoteError("a slot is either THRU or has a depth, not both", hint="leave one of them out")
    slot = Slot(width_mm=width.value, over="all" if apart is None else "centres",
                length_mm=_size(length), depth_mm=_size(depth), through=through, fit=width.fit,
                **_limits(width=width, length=length, depth=depth))  # fmt: skip
    return {**_kept(fields), "kind": "slot", "slot": slot}


def _without_ends(given: dict[str, Item], width: Item) -> None:
    """``6 WIDE R3 ENDS``: the radius of round ends is half of the width, and says no more."""
    end = given.get("radius")
    if end is not None and not end.toleranced and _rounds(end, width):
        del given["radius"]


def _rounds(radius: Item, width: Item) -> bool:
    """Whether a radius is half of a width, or that rounded: .375 WIDE, R.19 ENDS."""
    return abs(2 * radius.value - width.value) <= max(LINEAR, radius.value * ROUNDED)


def _doubled(radius: Item) -> Item:
    low, high = (None if v is None else 2 * v for v in (radius.low, radius.high))
    return replace(radius, kind="wide", value=2 * radius.value, low=low, high=high)


_CLOSES = {"keyway": _close_keyway, "groove": _close_groove, "slot": _close_slot}


def _kept(fields: Fields) -> Fields:
    return {k: v for k, v in fields.items() if k in ("count", "reference")}


def _left(run: Run, plain: list[Item], given: dict[str, Item], known: tuple[str, ...]) -> None:
    for item in (*plain, *(i for k, i in given.items() if k not in known)):
        run.leave(item)


def _limits(**sizes: Item | None) -> dict[str, Any]:
    """The limits of a detail's sizes, by the names of its fields."""
    told = {name: i for name, i in sizes.items() if i is not None and i.fit is None}
    return {f"{name}_{end}_mm": getattr(i, end) for name, i in told.items() for end in ("low", "high")}


def _untaken(run: Run, fits: Sequence[str | None]) -> None:
    for fit in fits:
        run.unread.append(f"the class {fit}")


def _tolerances(run: Run, sizes: list[Item]) -> None:
    """Of these sizes no tolerance is kept yet: it is told, not lost."""
    for item in sizes:
        if item.toleranced:
            run.unread.append(f"the tolerance of {item.text}")


#: which item begins what
READS: Families = {
    "keyway": read_feature,
    "groove": read_feature,
    "slot": read_feature,
}
