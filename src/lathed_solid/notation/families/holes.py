"""Diameters and holes: drills, reams and bores, depths, counterbores, countersinks, spotfaces, counterdrills, circles.

Depths belong to what stands before them: after ⌴ to the counterbore, else to the hole, measured to the full-diameter
shoulder unless the note says to the tip. A diameter with a depth, THRU, a widening, a circle or a drill's word is a
hole; alone it is a diameter.
"""

from __future__ import annotations

import itertools
import re
from dataclasses import replace

from lathed_solid.notation.clauses import DRILL_POINT_DEG, FLAT_DEG, Pattern
from lathed_solid.notation.either_way import CROSSED
from lathed_solid.notation.families.along import OUTSIDE, at_both_ends, no_thing
from lathed_solid.notation.families.circles import circle_at, goes_around, on_circle, place, too_wide
from lathed_solid.notation.families.general import SIZES
from lathed_solid.notation.families.run import (
    OPERATIONS,
    WIDENINGS,
    Fields,
    Prefix,
    Run,
    limits_of,
    once_around,
    take_words,
)
from lathed_solid.notation.families.widenings import (
    USUAL_ANGLES,
    begin,
    check_entries,
    closed,
    entry_size,
    own_size,
    screw_said,
    set_angle,
)
from lathed_solid.notation.families.working import pilot_of, reamed, worked
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.standards import StandardError, deviations

#: where holes may be
CORNERS = ("CORNER", "CORNERS")
#: a drill of a thread, as a share of its major diameter
DRILLS = (0.6, 0.99)
#: a screw's hole is no wider than this times its thread
NEAR_SCREW = 1.25
#: a drill's point has at least this angle, degrees
POINTED = 90.0


def said_before(run: Run, prefix: Prefix, fields: Fields) -> None:
    """What the words and the count before its size say of it."""
    if set(prefix.operations) & {"drill", "ream", "bore"} or prefix.holes:
        fields["kind"] = "hole"
    on_circle(run, fields, prefix)
    if "ream" in prefix.operations:
        run.say("to be reamed")
    if prefix.equally:
        fields["equally"] = True
    if prefix.count is not None:
        fields["count"] = prefix.count


# what may stand behind --------------------------------------------------------------------------
def tails(run: Run, fields: Fields, prefix: Prefix, *, thread: bool = False) -> None:
    """All that belongs to the hole (or to the tapped hole) at hand."""
    entry = ""
    while run.goes_on or (run.sees("sep") and reamed(run, fields, 1)):
        item = run.peek()
        following = run.peek(1)
        if item.kind == "sep":
            return
        again = item.kind == "count" and prefix.count is not None and item.value == prefix.count
        if (again or item.kind in ("dia", "plain")) and not thread and reamed(run, fields, int(again)):
            continue
        if not thread and pilot_of(run, fields):
            continue
        if item.kind == "unread":
            run.leave(run.take())  # what stands behind it may still be this clause's
            continue
        if item.kind in WIDENINGS and _before_its_hole(run, fields):
            entry = begin(fields, run.take())
            return
        if item.kind in WIDENINGS:
            if item.kind in fields and fields[item.kind].diameter_mm is not None:
                return  # another one: that of the far side
            run.take()
            entry = begin(fields, item)
        elif item.kind == "count" and _belongs(run, fields, prefix):
            fields["count"] = int(run.take().value)
            if item.text == "holes" and own_size(fields) is None:
                _holes(fields)
            if entry and fields[entry].diameter_mm is not None:
                entry = ""  # CSK ⌀13, 8 EQUAL SPACES OF 45°
        elif item.kind == "equally":
            run.take()
            fields["equally"] = True
        elif item.kind == "round" and item.text.upper().endswith(CORNERS) and following.kind not in SIZES:
            fields["kind"] = "hole"
            run.say(f"at the {run.take().text.split()[-1].lower()}")  # 4 HOLES ⌀11 AT CORNERS
        elif item.kind == "angle" and (not entry or following.kind == "apart") and goes_around(run, fields):
            run.take()  # 3 HOLES M6 AT 120°
            if run.sees("apart") and not run.peek().value:
                run.take()
            fields["equally"] = True
        elif item.kind in ("side", "typ", "nominal"):
            if own_size(fields) is not None:
                fields["kind"] = "widening"  # ⌀12 CSK BOTH SIDES
            take_words(run, fields)
        elif item.kind == "circle" or (
            item.kind in ("dia", "plain") and following.kind == "circle"
            and not (entry and fields[entry].diameter_mm is None and not screw_said(run))
        ):  # fmt: skip
            if too_wide(run, fields):
                return  # OD 140, PCD 115, 6 x ⌀11: of what comes next
            entry = ""
            if not circle_at(run, fields):
                return
        elif following.kind in ("csk", "cdrill") and (
            item.kind == "angle" or (item.kind == "plain" and item.value in USUAL_ANGLES and run.unit == "mm")
        ):
            angle = run.take()
            run_entry = run.take()
            entry = begin(fields, run_entry)
            set_angle(fields, entry, angle)
        elif following.kind in ("cbore", "spotface") and item.kind in ("dia", "plain") and _deep_behind(run):
            # .81 C'BORE .50 DEEP: its diameter stands before its word
            entry = begin(fields, run.peek(1))
            entry_size(run, fields, entry)
            run.take()
        elif entry and entry_size(run, fields, entry):
            continue
        elif entry == "csk" and item.kind == "cross" and following.kind == "plain":
            run.leave(run.take())  # CSK ⌀18 x 11: no depth of the hole
            run.leave(run.take())
        elif item.kind == "turn":
            run.take()
        elif item.kind in ("cross", "slash", "holes", "threaded", "shoulder", "included") or item.kind == "dash":
            if not _joined(run, fields, thread=thread):
                return
        elif not _own_tail(run, fields, thread=thread):
            return
        if item.kind in OPERATIONS:
            entry = ""


def _before_its_hole(run: Run, fields: Fields) -> bool:
    """``⌀14.5 ↧9 COUNTERBORE, ⌀9 THRU``: whether the sizes before the word are its own, and its hole follows."""
    size = run.peek(2)
    follows = run.peek(1).kind == "sep" and size.kind == "dia" and run.peek(3).kind in ("through", "depth")
    return follows and "depth_mm" in fields and size.value < fields["diameter_mm"] and run.peek().kind != "csk"


def _deep_behind(run: Run) -> bool:
    """``5/8 C'BORE x .38 DEEP``: a depth behind the word, so that the diameter stands before it."""
    return run.peek(3 if run.peek(2).kind == "cross" else 2).kind == "depth"


def _holes(fields: Fields) -> None:
    """HOLES was said of it."""
    if "thread" not in fields:
        fields["kind"] = "hole"
    elif fields["thread"].internal is None:
        fields["thread"] = fields["thread"].model_copy(update={"internal": True})


def _belongs(run: Run, fields: Fields, prefix: Prefix) -> bool:
    """Whether a count here is this clause's: worded, or the last thing of the note."""
    item, after = run.peek(), run.peek(1)
    if prefix.count is not None or "count" in fields:
        return False
    around = after.kind == "angle" and once_around(int(item.value), after)  # ⌀6 THRU, 3 x 120°
    return (
        item.text != ""
        or around
        or after.kind in ("end", "equally", "side")
        or (after.kind == "sep" and after.text[0] == "\n")
    )


def _joined(run: Run, fields: Fields, *, thread: bool) -> bool:
    """An X or a word that says nothing by itself; False where what follows is another clause's."""
    item, following = run.peek(), run.peek(1)
    if item.kind == "cross" and following.kind == "plain":
        run.take()
        return _crossed(run, fields, thread=thread)
    if item.kind == "cross" and following.kind == "angle" and "depth_mm" in fields and following.value >= POINTED:
        run.take()  # ⌀10 x 20 x 118°
        fields["point_deg"] = run.take().value
        return True
    if item.kind == "cross" and following.kind in ("long", "thick"):
        run.take()  # ⌀30 x 50 LONG: a length beside it
        return False
    if item.kind == "cross" and following.kind == "count" and fields.get("through"):
        run.take()
        return True
    if item.kind == "slash" and following.kind == "dia" and run.peek(2).kind in WIDENINGS:
        run.take()  # ⌀9/⌀15 C'BORE 9 DP
        return True
    if item.kind == "slash" and following.kind in (*WIDENINGS, "count", "thread"):
        run.take()  # one under the other, written in a row
        return following.kind in WIDENINGS
    if item.kind == "slash" or (item.kind == "cross" and following.kind in ("end", "sep", "unread")):
        run.leave(run.take())
        return True
    if run.take().kind == "holes":
        _holes(fields)
    return True


def _crossed(run: Run, fields: Fields, *, thread: bool) -> bool:
    """``⌀5 x 12``: its depth; ``THRU X 4`` at the end: so many places."""
    before = [i.kind for i in run.items[max(run.at - 4, 0) : run.at - 1]]
    if before[-1:] == ["side"] and not thread and not fields.get("through"):
        at_both_ends(run, fields)
    ring = before == ["dia", "cross", "dia"]  # O.D. 80 x I.D. 60 x 25
    line = itertools.takewhile(lambda i: i.kind != "sep", reversed(run.items[: run.at]))
    turned = any(i.kind == "turn" and i.text.upper().startswith("TURN") for i in line)  # TURN ⌀20 x 5
    bored = fields.get("kind") == "hole" or fields.get("through") or str(fields.get("fit") or "")[:1].isupper()
    # BOSS ⌀22, DRILL ⌀6.8 x 20: what is drilled is no boss
    knurled = not bored and [c.kind for c in run.done[-1:]] == ["knurl"]  # KNURL 0.8, ⌀22 x 12
    outside = ring or turned or knurled or (not bored and any(said in OUTSIDE for said in run.assumed))
    below = (
        not bored and fields.get("high_mm") is not None and fields["high_mm"] <= fields["diameter_mm"]
    )  # -0.03/-0.06
    shaft = outside or below or str(fields.get("fit") or "")[:1].islower()
    if shaft and not thread and not run.peek().toleranced and run.peek(1).kind in ("end", "sep"):
        run.say("taken as its length")  # ⌀16 g6 x 35
        run.items[run.at] = replace(run.peek(), kind="long")
        return False
    if not thread and not bored and run.peek(1).kind in ("end", "sep"):
        no_thing(run, fields)
    item = run.take()
    if fields.get("through") and "depth_mm" not in fields:
        whole = item.decimals == 0 and item.value == int(item.value) and "count" not in fields and not item.toleranced
        if whole and run.sees("end", "sep") and 1 < item.value <= 60:
            fields["count"] = int(item.value)
            run.say(f"{int(item.value)} places")
        else:
            run.leave(item)
        return True
    if thread or shaft or "depth_mm" in fields or fields.get("spherical"):
        run.leave(item)
        return True
    first = run.items[0]
    if first.kind == "holes" and first.text.upper().endswith("S") and "count" not in fields and not item.toleranced:
        raise NoteError("how many, or how deep: this can be read either way", column=item.column,
                        received=f"HOLES ⌀{fields['diameter_mm']:g} x {item.value:g}",
                        hint="4 HOLES ⌀6.5, or ⌀6.5 x 4 DEEP")  # fmt: skip
    _depth(run, fields, item)
    run.say(CROSSED)
    return True


def _own_tail(run: Run, fields: Fields, *, thread: bool) -> bool:
    """Depth, THRU, drill words, point angles; False where none of them stands here."""
    item = run.peek()
    if item.kind == "through":
        fields["through"] = True
        if " ONE " in run.take().text.upper():
            run.say("through one wall only")
    elif item.kind == "depth" and not thread:
        run.take()
        if item.value == 0:
            run.leave(item)
        elif "depth_mm" in fields:
            run.unread.append(f"{item.text} deep")
        else:
            _depth(run, fields, item)
    elif item.kind == "tip":
        run.take()
        if "depth_mm" in fields:
            fields["depth_to"] = "tip"
        else:
            run.leave(item)
    elif item.kind == "flat":
        run.take()
        behind = run.peek(1 if run.sees("cross", "sep") else 0)
        if "depth_mm" in fields or (behind.kind == "depth" and behind.value and not thread):
            fields["point_deg"] = FLAT_DEG
        else:
            run.leave(item)
    elif item.kind == "angle" and run.peek(1).kind == "point":
        run.take()
        run.take()
        fields["point_deg"] = item.value
    elif item.kind == "point" and run.peek(1).kind == "angle":
        run.take()
        fields["point_deg"] = run.take().value
    elif item.kind in ("drill", "ream", "bore") and not thread:
        return worked(run, fields)
    elif item.kind == "long" and "depth_mm" not in fields and not thread and item.value:
        return False
    else:
        return False
    return True


def _depth(run: Run, fields: Fields, item: Item) -> None:
    if item.fit is not None:
        if item.kind != "depth" or not _late_class(fields, item.fit):
            run.unread.append(item.fit)
        item = replace(item, fit=None, low=None, high=None)
    fields.update(
        depth_mm=item.value, depth_decimals=item.decimals, **limits_of(run, item, "depth_low_mm", "depth_high_mm")
    )


def _late_class(fields: Fields, fit: str) -> bool:
    """``⌀16 ↧30 H8``: no depth has a class, it is that of the hole; whether it can be."""
    size = fields.get("diameter_mm")
    if size is None or fit[:1].islower() or "/" in fit or "low_mm" in fields:
        return False
    try:
        lower, upper = deviations(size, fit)
    except StandardError:
        return False
    fields.update(fit=fit, low_mm=size + lower, high_mm=size + upper)
    return True


def _for_its_screw(run: Run, alone: Fields) -> bool:
    """``⌀5.5 CSK FOR M5``: the size is that of the screw's hole, not of what widens it."""
    screws = [re.search(r"\bm(\d+)", said) for said in run.assumed if said.startswith("for ")]
    sizes = [e.diameter_mm for key in WIDENINGS if (e := alone.get(key)) is not None]
    return any(m is not None and size <= NEAR_SCREW * float(m[1]) for m in screws for size in sizes)


# closing -----------------------------------------------------------------------------------
def complete(run: Run, fields: Fields) -> Fields:
    """A hole, or a diameter alone. Raises NoteError for what cannot be."""
    holes = ("through", "depth_mm", "cbore", "csk", "cdrill", "spotface", "bolt_circle_mm")
    alone = own_size(fields) if fields.get("kind") != "hole" and not fields.get("equally") else None
    if alone is not None and not _for_its_screw(run, alone):
        return closed(run, alone)
    if fields.get("kind") != "hole" and not any(k in fields for k in holes):
        fields["kind"] = "diameter"
        if run.sees("dia") and fields.get("equally"):  # 5X ⌀9 EQ SP ⌀96
            fields["bolt_circle_mm"] = run.take().value
            run.say(f"Ø{run.size(fields['bolt_circle_mm'])} taken as the bolt circle")
            return complete(run, {**fields, "kind": "hole"})
        if fields.pop("equally", False):
            fields["pattern"] = Pattern(kind="circle", count=fields.get("count"))
            run.say("equally spaced on the full circle")
        if fields.pop("point_deg", None):
            run.unread.append("the point angle")
        return fields
    fields["kind"] = "hole"
    if fields.get("bolt_circle_mm") and "count" not in fields and run.assumed[-1:] == [CROSSED]:
        n = fields["depth_mm"]
        raise NoteError("how many, or how deep: this can be read either way", received=f"x {n:g}",
                        hint=f"{n:g} HOLES, or {n:g} DEEP")  # fmt: skip
    fields.setdefault("count", 1)
    if fields.pop("spherical", None):
        run.unread.append("spherical")
    if "depth_mm" in fields and fields.get("through"):
        raise NoteError("a hole is either THRU or has a depth, not both", hint="leave one of them out")
    if "depth_mm" in fields:
        fields["through"] = False
        fields.setdefault("depth_to", "shoulder")
        run.say("depth to the tip" if fields["depth_to"] == "tip" else "depth to the full-diameter shoulder")
        if "point_deg" not in fields:
            fields["point_deg"] = DRILL_POINT_DEG
            run.say("drill point 118° included")
    elif not fields.get("through"):
        fields["through"] = True
        run.say("through: no depth is given")
    place(run, fields)
    check_entries(run, fields, fields["diameter_mm"])
    return fields
