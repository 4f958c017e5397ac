"""Diameters, lengths, radii, angles, chamfers, references, counts and the words beside them.

``a X b°`` is a chamfer (leg along the axis, angle from the axis) unless a whole number of places was clearly
meant; what was taken is always said.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import replace

from lathed_solid.notation.clauses import Entry, Pattern
from lathed_solid.notation.families.general import rule_size
from lathed_solid.notation.families.holes import complete_hole, on_circle
from lathed_solid.notation.families.run import COLLECTING, CONTINUES, STRANGE, Complete, Fields, Run, Take
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.quantity.tolerances import LINEAR, RELATIVE_READ
from lathed_solid.quantity.units import MM_PER_INCH


def _take_dia(run: Run, item: Item, following: Item | None) -> None:
    if on_circle(run, item, following) or run.collect("diameter", item):
        return
    if run.entry and run.open.get(run.entry, Entry()).diameter_mm is None:
        run.set_entry(diameter_mm=item.value, diameter_decimals=item.decimals)
    elif run.drilling and "thread" in run.open:
        run.open["diameter_mm"] = item.value
    elif "diameter_mm" in run.open and run.open.get("equally") and not run.crossed:
        run.open["bolt_circle_mm"] = item.value
        run.assumed.append(f"Ø{item.value:g} mm taken as the bolt circle")
    else:
        run.start(diameter_mm=item.value)
        if item.text.startswith("S"):
            run.open["spherical"] = True
        run.limits(item)


def _take_square(run: Run, item: Item, _: Item | None) -> None:
    run.start(kind="length", size_mm=item.value, square=True)
    run.limits(item)


def _take_radius(run: Run, item: Item, _: Item | None) -> None:
    if run.collect("radius", item) or rule_size(run, item):
        return
    if run.kind == "fillet" and "size_mm" not in run.open:
        run.open["size_mm"] = item.value
    else:
        run.start(kind="radius", size_mm=item.value)
        if item.text.startswith("S"):
            run.open["spherical"] = True
    run.limits(item)


def _take_plain(run: Run, item: Item, following: Item | None) -> None:
    if on_circle(run, item, following) or run.collect("plain", item) or rule_size(run, item):
        return
    if run.entry and run.open[run.entry].diameter_mm is None:
        run.set_entry(diameter_mm=item.value, diameter_decimals=item.decimals)
    elif run.crossed and run.entry:
        run.set_entry(depth_mm=item.value, depth_decimals=item.decimals)
    elif run.crossed and "thread" in run.open:
        run.guess_thread(internal=False, depth_mm=item.value)
    elif run.crossed and "diameter_mm" in run.open:
        run.open.update(depth_mm=item.value, depth_decimals=item.decimals)
    elif run.crossed and run.kind == "leg":
        run.open["second_mm"] = item.value
        run.open["numbers"].append(("plain", item.value))
        if item.fit:
            run.open["fit"] = item.fit
    elif run.crossed and run.kind == "chamfer" and not {"angle_deg", "second_mm"} & set(run.open):
        run.open["second_mm"] = item.value
    elif run.crossed and run.kind == "angle":
        run.open.update(kind="chamfer", size_mm=item.value)
    elif run.kind in ("chamfer", "fillet") and "size_mm" not in run.open:
        run.open["size_mm"] = item.value
        run.limits(item)
    elif following is not None and following.kind == "cross":
        run.start(kind="leg", size_mm=item.value, column=item.column, decimals=item.decimals)
        run.open["numbers"] = [("plain", item.value)]
        run.limits(item)
    else:
        run.start(kind="length", size_mm=item.value)
        run.open["numbers"] = [("plain", item.value)]
        run.limits(item)


def _take_wide(run: Run, item: Item, _: Item | None) -> None:
    if item.value == 0 or run.collect("wide", item):
        return
    run.start(kind="wide", numbers=[("wide", item.value)], size_mm=item.value)
    run.limits(item)


def _take_long(run: Run, item: Item, _: Item | None) -> None:
    if item.value == 0 or run.collect("long", item):
        return
    if "thread" in run.open:
        run.open["thread"] = run.open["thread"].model_copy(update={"depth_mm": item.value})
    elif run.kind in ("leg", "wide"):
        run.open["numbers"].append(("long", item.value))
    else:
        run.start(kind="length", size_mm=item.value)
        run.limits(item)


def _complete_wide(run: Run, fields: Fields) -> Fields:
    return {**fields, "kind": "length"}


def _complete_size(run: Run, fields: Fields) -> Fields:
    """A diameter without a kind of its own."""
    if any(k in fields for k in ("through", "depth_mm", "cbore", "csk", "cdrill", "spotface", "bolt_circle_mm")):
        return complete_hole(run, fields)
    fields["kind"] = "diameter"
    if fields.pop("equally", False):
        fields["pattern"] = Pattern(kind="circle", count=fields.get("count"))
        run.assumed.append("equally spaced on the full circle")
    return fields


def _take_reference(run: Run, item: Item, _: Item | None) -> None:
    if item.text == "angle":
        run.start(kind="angle", angle_deg=item.value, reference=True)
    elif item.text == "dia":
        run.start(diameter_mm=item.value, reference=True, decimals=item.decimals)
    else:
        kind = "radius" if item.text == "radius" else "length"
        run.start(kind=kind, size_mm=item.value, reference=True, decimals=item.decimals)


def _take_basic(run: Run, item: Item, _: Item | None) -> None:
    run.start(kind="length", size_mm=item.value, decimals=item.decimals)
    run.assumed.append("a basic dimension: no tolerance of its own")


def _take_total(run: Run, item: Item, _: Item | None) -> None:
    """``5X 20 (=100)``: a row of like spaces."""
    if run.kind != "length" or "count" not in run.open:
        run.unread.append(f"(={item.value:g})")
        return
    size, count = run.open["size_mm"], run.open["count"]
    if not math.isclose(size * count, item.value, rel_tol=RELATIVE_READ, abs_tol=LINEAR):
        raise NoteError(
            f"{count} times {size:g} is {size * count:g}, not {item.value:g}", column=item.column,
            hint="one of the three is wrong",
        )  # fmt: skip
    run.open["pattern"] = Pattern(kind="row", count=count, spacing_mm=size, total_mm=item.value)


# places ------------------------------------------------------------------------------------
def _take_count(run: Run, item: Item, following: Item | None) -> None:
    bare = item.text.strip().upper().strip(".()")
    if run.kind in COLLECTING and bare.endswith(("X", "×")):
        # KEYWAY 8 x 4 x 30: no count, a size
        value = item.value * (MM_PER_INCH if run.unit == "in" else 1.0)
        run.collect("plain", replace(item, value=value))
        return
    worded = bare.endswith(("S", "E", "OFF", "PLC", "PL", "D")) or bare.startswith("QTY")
    if worded and bool(run.open) and "count" not in run.open and set(run.open) != {"equally"}:
        run.open["count"] = int(item.value)
        if "EQUI" in bare:
            run.open["equally"] = True
    else:
        run.start(count=int(item.value))


def _take_side(run: Run, item: Item, _: Item | None) -> None:
    word = item.text.upper()
    if "BOTH" in word or "EACH" in word:
        run.open.setdefault("count", 2)
    run.assumed.append(" ".join(word.lower().removeprefix("on ").split()))


def _take_cross(run: Run, _: Item, __: Item | None) -> None:
    run.crossed = True


def _take_separator(run: Run, item: Item, following: Item | None) -> None:
    goes_on = following is not None and (
        following.kind in CONTINUES or (following.kind == "separator" and following.text.upper() == "ON")
    )
    if item.text == "\n" and not goes_on:
        run.close()


def _take_operation(run: Run, item: Item, _: Item | None) -> None:
    word = item.text.upper()
    if "REAM" in word:
        run.assumed.append("to be reamed")
    elif word.startswith("INT") and "thread" in run.open:
        run.open["thread"] = run.open["thread"].model_copy(update={"internal": True})
    elif word.startswith("EXT") and "thread" in run.open:
        run.open["thread"] = run.open["thread"].model_copy(update={"internal": False})


# angles and edge breaks --------------------------------------------------------------------
def _take_angle(run: Run, item: Item, following: Item | None) -> None:
    if run.kind == "general":
        run.open["angle_deg"] = item.value
    elif run.entry in ("csk", "cdrill"):
        run.set_entry(angle_deg=item.value)
    elif following is not None and following.kind == "csk":
        run.waiting_angle = item.value
    elif run.crossed and run.kind == "leg":
        _chamfer_or_places(run, item)
    elif run.kind == "chamfer" and "angle_deg" not in run.open:
        run.open["angle_deg"] = item.value
        _say_angle(run, item.value)
    else:
        run.start(kind="angle", angle_deg=item.value)
        run.angle_limits(item)


def _say_angle(run: Run, degrees: float) -> None:
    if degrees != 45:
        run.assumed.append("leg along the axis, angle from the axis")


def _chamfer_or_places(run: Run, item: Item) -> None:
    leg = run.open["size_mm"]
    written = leg / (MM_PER_INCH if run.unit == "in" else 1.0)
    whole = run.open.get("decimals") == 0 and written == int(written)
    if whole and (item.low is not None or item.value >= 90):
        run.open = {"count": int(written), "kind": "angle", "angle_deg": item.value}
        run.angle_limits(item)
        run.assumed.append(f"{int(written)} places, each {item.value:g}°")
        return
    run.open.update(kind="chamfer", angle_deg=item.value)
    _say_angle(run, item.value)


def _take_chamfer_c(run: Run, item: Item, _: Item | None) -> None:
    run.start(kind="chamfer", size_mm=item.value, angle_deg=45.0)


def _take_chamfer(run: Run, item: Item, _: Item | None) -> None:
    """The word: what stands before it is the chamfer's, else what follows."""
    if run.kind in ("leg", "length", "angle"):
        run.open["kind"] = "chamfer"
    elif run.kind != "chamfer":
        run.start(kind="chamfer")


def _complete_leg(run: Run, fields: Fields) -> Fields:
    if "second_mm" in fields:
        run.assumed.append("a chamfer of two legs")
        run.unread += [STRANGE[k] for k in ("fit", "low_mm") if fields.pop(k, None) is not None]
        fields.pop("high_mm", None)
        return {**fields, "kind": "chamfer"}
    raise NoteError("a size and an X without what follows", hint="1 x 45°")


def _complete_chamfer(run: Run, fields: Fields) -> Fields:
    if "size_mm" not in fields:
        raise NoteError("the chamfer has no size", hint="1 x 45°")
    if "angle_deg" not in fields and "second_mm" not in fields:
        fields["angle_deg"] = 45.0
        run.assumed.append("chamfer 45° taken")
    return fields


def _complete_fillet(run: Run, fields: Fields) -> Fields:
    if "size_mm" not in fields:
        raise NoteError("the fillet has no radius", hint="FILLET R3")
    return fields


# words beside ------------------------------------------------------------------------------
def _take_modifier(run: Run, item: Item, _: Item | None) -> None:
    word = item.text.upper().strip(" .-–")
    if word.startswith("REF"):
        run.open["reference"] = True
    elif word.startswith(("LH", "RH", "LEFT", "RIGHT")):
        if "thread" not in run.open:
            run.unread.append(item.text)
            return
        hand = "left" if word.startswith("L") else "right"
        run.open["thread"] = run.open["thread"].model_copy(update={"hand": hand})
    elif word.startswith(("MAX", "MIN")):
        _one_limit(run, word[:3])
    elif word.startswith("TYP"):
        run.assumed.append("typical: holds at every like place")


def _one_limit(run: Run, word: str) -> None:
    if run.kind == "general":
        if word == "MAX":
            run.open["at_most"] = True
        else:
            run.unread.append(word)
        return
    size = run.open.get("size_mm", run.open.get("diameter_mm"))
    if size is None or "fit" in run.open or "low_mm" in run.open or "high_mm" in run.open:
        run.unread.append(word)  # nothing to limit, or limited already
    elif word == "MAX":
        run.open.update(low_mm=0.0, high_mm=size)
    else:
        run.open.update(low_mm=size, high_mm=None)


#: what each kind of item does to the clause that is being read
TAKES: Mapping[str, Take] = {
    "dia": _take_dia,
    "square": _take_square,
    "radius": _take_radius,
    "plain": _take_plain,
    "wide": _take_wide,
    "long": _take_long,
    "reference": _take_reference,
    "basic": _take_basic,
    "total": _take_total,
    "count": _take_count,
    "side": _take_side,
    "cross": _take_cross,
    "separator": _take_separator,
    "operation": _take_operation,
    "angle": _take_angle,
    "chamfer_c": _take_chamfer_c,
    "chamfer": _take_chamfer,
    "modifier": _take_modifier,
}

#: how clauses of each kind are finished
COMPLETES: Mapping[str, Complete] = {
    "wide": _complete_wide,
    "size": _complete_size,
    "leg": _complete_leg,
    "chamfer": _complete_chamfer,
    "fillet": _complete_fillet,
}
