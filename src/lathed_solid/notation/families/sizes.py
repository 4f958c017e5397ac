"""Lengths, radii, squares, hexagons, angles and chamfers.

``a X b°`` is a chamfer (leg along the axis, angle from the axis); what was taken is always said. Two sizes and an X are
a chamfer of two legs only where they are small and alike, or where the word stands with them.
"""

from __future__ import annotations

import math
from dataclasses import replace

from lathed_solid.notation.clauses import Pattern
from lathed_solid.notation.families.general import SIZES, rule_behind
from lathed_solid.notation.families.run import (
    OPERATIONS,
    Families,
    Fields,
    Prefix,
    Run,
    all_but_last,
    limits_of,
    of_a_step,
    own_limits,
    say_pair,
    side_before,
    take_words,
)
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.tolerances import LINEAR, RELATIVE_READ, ROUNDING

#: two bare sizes and an X: legs of a chamfer up to this, mm, and up to this times each other
LONGEST_LEG, UNLIKE = 12.0, 4.0
#: a second leg is not so many times the first: it is an angle
PLAINLY = 40.0
#: larger than this they may as well be two lengths, mm
BARE_LEG = 3.0
#: what may stand behind an angle, and what is taken by it
ANGLE_WORDS = {"included": "the included angle", "per_side": "the angle to each side", "taper": "of a taper",
               "point": "of a drill's point"}  # fmt: skip
#: a chamfer's usual angles, as a number alone
ANGLES = (15.0, 20.0, 30.0, 45.0, 60.0)


def _is_fillet(item: Item, word: Item) -> bool:
    """``0.8 MAX FILLET``, but ``2 FILLETS`` may be a number of them."""
    said = word.text.upper()
    return "FILLET" in said and (bool(item.decimals) or "ALL" in said or not said.endswith("S"))


def _read_plain(run: Run, prefix: Prefix) -> Fields | None:
    if run.peek(1).kind == "cross" and run.peek(2).kind in ("angle", "plain"):
        return _read_legs(run, prefix)
    if run.peek(1).kind == "round" and run.peek(2).kind not in SIZES and _is_fillet(run.peek(), run.peek(1)):
        return _read_radius(run, prefix)
    item = run.take()
    if run.sees("chamfer"):
        return _chamfer_of(run, item, prefix)
    if run.sees("breaks"):
        return rule_behind(run, item, "chamfer", None)
    if run.sees("dia", "thread", "radius", *OPERATIONS) and not item.decimals and not item.toleranced:
        run.leave(item)  # 2 BEARING BORES ⌀30: a count in words that are not known is no length
        return None
    if item.value == 0:
        run.say("the zero of ordinates")
        return {"kind": "length", "size_mm": 0.0, "decimals": item.decimals}
    fields: Fields = {"kind": "length", "size_mm": item.value, **own_limits(item)}
    say_pair(run, item)
    if "basic" in item.marks:
        run.say("a basic dimension: no tolerance of its own")
    _total(run, fields, prefix)
    _row(run, fields, prefix)
    _words(run, fields)
    return fields


def _total(run: Run, fields: Fields, prefix: Prefix) -> None:
    """``5X 20 (=100)``: a row of like spaces; ``6X 60° (=360°)``."""
    if not run.sees("total", "total_angle"):
        return
    item = run.take()
    count, size = prefix.count, fields.get("angle_deg" if item.kind == "total_angle" else "size_mm")
    if count is None or size is None:
        run.leave(item)
        return
    if not math.isclose(size * count, item.value, rel_tol=RELATIVE_READ, abs_tol=LINEAR):
        raise NoteError(
            f"{count} times {size:g} is {size * count:g}, not {item.value:g}", column=item.column,
            hint="one of the three is wrong",
        )  # fmt: skip
    if item.kind == "total":
        fields["pattern"] = Pattern(kind="row", count=count, spacing_mm=size, total_mm=item.value)


def _row(run: Run, fields: Fields, prefix: Prefix) -> None:
    """``EQUAL SPACING 4 x 15``, ``4X 15 EQ SP``: a row of which the whole is not told."""
    if prefix.count and run.sees("equally"):
        run.take()
        prefix.equally = True
    if prefix.equally and prefix.count and not prefix.holes and "pattern" not in fields and not run.sees("dia"):
        fields["pattern"] = Pattern(kind="row", count=prefix.count, spacing_mm=fields["size_mm"])


def _read_total(run: Run, prefix: Prefix) -> Fields | None:
    """``5 EQUAL SPACES = 150``: a row of which only the whole is told."""
    item = run.take()
    if prefix.count is None or prefix.count < 2:
        run.leave(item)
        return None
    size = item.value / prefix.count
    run.say(f"each {run.size(size)}")
    pattern = Pattern(kind="row", count=prefix.count, spacing_mm=size, total_mm=item.value)
    return {"kind": "length", "size_mm": size, "pattern": pattern}


def _words(run: Run, fields: Fields) -> None:
    """What may stand behind a size."""
    while run.goes_on:
        if not take_words(run, fields):
            return


def _read_length(run: Run, prefix: Prefix) -> Fields | None:
    """``30 LONG``, ``8 WIDE``, ``12 THICK``, ``50 APART``."""
    item = run.take()
    if not item.value:
        run.leave(item)
        return None
    if item.kind == "apart" and prefix.count is not None:
        run.unread.append(f"{prefix.count}X")  # 2 HOLES 50 APART: the distance is one
        prefix.count = None
    fields: Fields = {"kind": "length", "size_mm": item.value, **own_limits(item)}
    _words(run, fields)
    return fields


def _read_square(run: Run, _: Prefix) -> Fields | None:
    item = run.take()
    fields: Fields = {"kind": "length", "size_mm": item.value, item.kind: True, **own_limits(item)}
    _words(run, fields)
    return fields


def _read_radius(run: Run, prefix: Prefix) -> Fields | None:
    item = run.take()
    ruled = rule_behind(run, item, "radius", None) if prefix.count is None else None
    if ruled is not None:
        return ruled
    fields: Fields = {"kind": "radius", "size_mm": item.value, **own_limits(item)}
    if run.sees("round"):
        run.take()
        fields["kind"] = "fillet"
    if run.sees("inner", "outer"):
        run.say(run.take().text.lower())  # R8 INTERNAL
    _words(run, fields)
    return _ruled(run, item, fields, prefix)


def _ruled(run: Run, item: Item, fields: Fields, prefix: Prefix) -> Fields:
    """UNLESS STATED behind it all makes a rule of it."""
    if prefix.count is None and "count" not in fields and run.sees("elsewhere", "breaks"):
        kind = "chamfer" if fields["kind"] == "chamfer" else "radius"
        return rule_behind(run, item, kind, fields.get("angle_deg")) or fields
    return fields


# angles and edge breaks --------------------------------------------------------------------
def _read_angle(run: Run, prefix: Prefix) -> Fields | None:
    item = run.take()
    if run.sees("chamfer"):
        run.take()
        if run.sees("cross"):
            run.take()
        if run.sees("plain", "long"):  # 30° CHAMFER x 3 LONG
            return _angled(run, run.take(), item, prefix)
        run.leave(item)
        return None
    if run.sees("cross") and run.peek(1).kind == "plain":
        run.take()
        _once_around(item, run.peek())
        return _angled(run, run.take(), item, prefix)
    fields: Fields = {"kind": "angle", "angle_deg": item.value, "low_deg": item.low, "high_deg": item.high}
    fields |= {k: v for k, v in own_limits(item).items() if k in ("reference", "basic")}
    while run.sees(*ANGLE_WORDS):
        run.say(ANGLE_WORDS[run.take().kind])
    if run.sees("side") and run.peek().text.upper().endswith(("EACH SIDE", "EITHER SIDE")):
        run.take()
        run.say(ANGLE_WORDS["per_side"])
    if run.sees("apart") and run.peek(1).kind == "end":
        run.take()  # 60° APART
    if run.sees("equally") and prefix.count is not None and abs(prefix.count * item.value - 360) < ROUNDING:
        run.take()  # 4 x 90° EQUISPACED
        run.say("equally spaced on the full circle")
    _total(run, fields, prefix)
    _words(run, fields)
    return fields


def _once_around(angle: Item, leg: Item) -> None:
    """``60° x 6`` may be six places around; 45° is a chamfer's. Raises NoteError."""
    if angle.value != 45 and abs(angle.value * leg.value - 360) < ROUNDING and not leg.decimals:
        raise NoteError("a chamfer, or so many places: this can be read either way", column=leg.column,
                        received=f"{angle.text} x {leg.text}",
                        hint=f"{leg.text} x {angle.text} CHAMFER, or {leg.text} PLACES {angle.text}")  # fmt: skip


def _angled(run: Run, leg: Item, angle: Item, prefix: Prefix) -> Fields:
    """A chamfer by leg and angle."""
    ruled = rule_behind(run, leg, "chamfer", angle.value) if prefix.count is None else None
    if ruled is not None:
        return ruled
    fields: Fields = {"kind": "chamfer", "size_mm": leg.value, "angle_deg": angle.value, **own_limits(leg),
                      "low_deg": angle.low, "high_deg": angle.high}  # fmt: skip
    if "ref" in angle.marks:
        fields["reference"] = True
    if angle.value != 45:
        run.say("leg along the axis, angle from the axis")
    if run.sees("chamfer"):
        run.take()
    _words(run, fields)
    return _ruled(run, leg, fields, prefix)


def _read_legs(run: Run, prefix: Prefix) -> Fields | None:
    """``1.5 x 30°``, ``2 x 1``; of what has a name two lengths. Raises NoteError for what can be either."""
    one = run.take()
    run.take()
    two = run.take()
    if two.kind == "angle":
        return _angled(run, one, two, prefix)
    if of_a_step(run) or ("named" in one.marks and not run.sees("chamfer")):
        return _lengths(run, [one, two, *_more_across(run)], prefix)
    worded = run.sees("chamfer")
    if "round" in one.marks and not worded:
        raise NoteError("a diameter and a length, or two lengths: this can be read either way", column=one.column,
                        received=f"{one.text} x {two.text}", hint=f"⌀{one.text} x {two.text} LONG, or "
                        f"{one.text} WIDE x {two.text} LONG")  # fmt: skip
    if worded and two.text == "45" and one.value * PLAINLY < two.value:
        run.say("45°: no second leg is so long")  # 0.3 x 45 CHAMFER
        return _angled(run, one, replace(two, kind="angle", value=45.0), prefix)
    if worded:
        _either_way(one, two)
    if run.sees("chamfer"):
        run.take()
    across = [one, two, *_more_across(run)]
    if not worded and (len(across) > 2 or (min(one.value, two.value) > LONGEST_LEG and run.sees("end", "sep"))):
        return _lengths(run, across, prefix)
    alike = max(one.value, two.value) <= min(LONGEST_LEG, UNLIKE * min(one.value, two.value))
    if not worded and (not alike or one.toleranced or two.toleranced or run.sees("cross", "plain")):
        run.unread.append(f"{one.text} x {two.text}")
        return None
    if not worded and max(one.value, two.value) > BARE_LEG:
        raise NoteError("a chamfer of two legs, or two lengths: this can be read either way", column=one.column,
                        received=f"{one.text} x {two.text}", hint="5 x 10 CHAMFER, or STEP 5 x 10")  # fmt: skip
    return _two_legs(run, one, two)


def _more_across(run: Run) -> list[Item]:
    """The third size of ``100 x 60 x 20``."""
    if run.sees("cross") and run.peek(1).kind in ("plain", "thick", "depth", "long") and run.peek(1).value:
        behind = run.peek(2)
        if behind.kind in ("end", "sep"):
            run.take()
            return [run.take()]
    return []


def _lengths(run: Run, sizes: list[Item], prefix: Prefix) -> Fields:
    """Each size of a block by itself."""
    run.say(f"{len(sizes)} lengths")
    return all_but_last(run, [{"kind": "length", "size_mm": i.value, **own_limits(i)} for i in sizes], prefix)


def _either_way(one: Item, two: Item) -> None:
    """``2 x 45 CHAM``: a sign was left out, or a leg is meant. Raises NoteError."""
    if two.value in ANGLES and one.value * UNLIKE < two.value and not two.toleranced:
        raise NoteError("an angle without its sign, or a second leg: this can be read either way", column=two.column,
                        received=f"{one.text} x {two.text}",
                        hint=f"{one.text} x {two.text}°, or the legs with their unit")  # fmt: skip


def _two_legs(run: Run, one: Item, two: Item) -> Fields:
    run.say("a chamfer of two legs")
    fields = {"kind": "chamfer", "size_mm": one.value, "second_mm": two.value, **own_limits(one),
              **limits_of(run, two, "second_low_mm", "second_high_mm")}  # fmt: skip
    if fields.pop("fit", None) or two.fit:
        run.unread.append("the fit")
    _words(run, fields)
    return fields


def _chamfer_of(run: Run, leg: Item, prefix: Prefix) -> Fields | None:
    """``1 CHAM``, ``1 CHAM x 45°``."""
    run.take()
    if run.sees("cross") and run.peek(1).kind in ("angle",):
        run.take()
    if run.sees("angle"):
        return _angled(run, leg, run.take(), prefix)
    return _plainly(run, leg)


def _plainly(run: Run, leg: Item) -> Fields:
    run.say("chamfer 45° taken")
    fields = {"kind": "chamfer", "size_mm": leg.value, "angle_deg": 45.0, **own_limits(leg)}
    _words(run, fields)
    return fields


#: steels whose name is a C and a number: C45 alone is one of them, or a chamfer
STEELS = (10.0, 15.0, 20.0, 22.0, 25.0, 30.0, 35.0, 40.0, 45.0, 50.0, 55.0, 60.0)


def _read_chamfer_c(run: Run, prefix: Prefix) -> Fields | None:
    item = run.take()
    if run.unit == "mm" and item.value in STEELS and not item.decimals and len(run.items) == 1 and not item.toleranced:
        raise NoteError("a chamfer, or a steel: this can be read either way", column=item.column,
                        received=item.text, hint=f"{item.value:g} x 45°, or MATERIAL {item.text}")  # fmt: skip
    if run.sees("cross") and run.peek(1).kind == "angle":
        run.take()
        return _angled(run, item, run.take(), prefix)
    if run.sees("breaks") and prefix.count is None:
        return rule_behind(run, item, "chamfer", 45.0)
    fields = {"kind": "chamfer", "size_mm": item.value, "angle_deg": 45.0, **own_limits(item)}
    _words(run, fields)
    return fields


def _read_chamfer(run: Run, prefix: Prefix) -> Fields | None:
    """The word first."""
    word = run.take()
    if side_before(run, prefix):
        prefix.side = run.take()  # CHAMFER BOTH ENDS 1 x 45°
    if run.sees("plain") and run.peek(1).kind == "cross" and run.peek(2).kind in ("plain", "angle"):
        one = run.take()
        run.take()
        two = run.take()
        if two.kind == "angle":
            return _angled(run, one, two, prefix)
        _either_way(one, two)
        return _two_legs(run, one, two)
    if run.sees("plain") and run.peek(1).kind == "angle":
        one = run.take()
        return _angled(run, one, run.take(), prefix)
    if run.sees("plain"):
        return _plainly(run, run.take())
    if run.sees("angle") and run.peek(1).kind == "cross" and run.peek(2).kind == "plain":
        angle = run.take()
        run.take()
        return _angled(run, run.take(), angle, prefix)
    if run.sees("chamfer_c"):
        return _read_chamfer_c(run, prefix)
    if run.sees("dia"):
        run.leave(word)
        return None
    raise NoteError("the chamfer has no size", column=word.column, hint="1 x 45°")


#: which item begins what
READS: Families = {
    "plain": _read_plain,
    "total": _read_total,
    "wide": _read_length,
    "long": _read_length,
    "thick": _read_length,
    "apart": _read_length,
    "square": _read_square,
    "hexagon": _read_square,
    "radius": _read_radius,
    "angle": _read_angle,
    "chamfer_c": _read_chamfer_c,
    "chamfer": _read_chamfer,
}
