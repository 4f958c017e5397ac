"""Holes: depths, counterbores, countersinks, spotfaces, counterdrills, bolt circles.

Depths belong to what stands before them: after ⌴ to the counterbore, else to the hole, measured to the full-diameter
shoulder unless the note says to the tip.

A diameter with a depth, THRU, a widening, or a bolt circle is a hole; alone it is a diameter.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from lathed_solid.notation.clauses import Entry, Pattern
from lathed_solid.notation.families.run import Complete, Fields, Run, Take
from lathed_solid.notation.items import Item, NoteError

DRILL_POINT_DEG = 118.0
WORDS = {"cbore": "counterbore", "csk": "countersink", "spotface": "spotface", "cdrill": "counterdrill"}


def _take_drill(run: Run, item: Item, _: Item | None) -> None:
    if "thread" in run.open:
        run.open["diameter_mm"] = item.value
        run.drilling = True
        return
    run.start(diameter_mm=item.value, kind="hole")
    run.limits(item)


def _take_drill_word(run: Run, _: Item, __: Item | None) -> None:
    run.entry = ""
    run.drilling = True
    if "diameter_mm" in run.open and "thread" not in run.open and not run.kind:
        run.open["kind"] = "hole"  # Ø.312 DRILL


def _take_depth(run: Run, item: Item, _: Item | None) -> None:
    if run.collect("depth", item):
        return
    if run.entry:
        run.set_entry(depth_mm=item.value, depth_decimals=item.decimals)
    elif "thread" in run.open and run.drilling:
        run.open.update(depth_mm=item.value, depth_decimals=item.decimals)
    elif "thread" in run.open:
        run.guess_thread(internal=True, depth_mm=item.value)
    elif "diameter_mm" in run.open:
        run.open.update(depth_mm=item.value, depth_decimals=item.decimals)
    elif run.kind in ("leg", "wide", "length") and run.open.get("numbers"):
        run.open["numbers"].append(("depth", item.value))  # 3 x 1.5 DEEP GROOVE
        run.open["kind"] = "leg" if run.kind == "length" else run.kind
    else:
        raise NoteError("a depth without a hole before it", column=item.column, hint="Ø5 ↧12")


def _take_tip(run: Run, item: Item, __: Item | None) -> None:
    if "depth_mm" in run.open:
        run.open["depth_to"] = "tip"
    else:
        run.unread.append(item.text)


def _take_through(run: Run, item: Item, _: Item | None) -> None:
    if "diameter_mm" not in run.open and "thread" not in run.open:
        raise NoteError("THRU without a size before it", column=item.column, hint="Ø6.6 THRU")
    run.open["through"] = True
    if "thread" in run.open:
        run.guess_thread(internal=True)


def _take_cbore(run: Run, item: Item, _: Item | None) -> None:
    _begin_entry(run, "cbore", item)


def _take_cdrill(run: Run, item: Item, _: Item | None) -> None:
    _begin_entry(run, "cdrill", item)


def _take_spotface(run: Run, item: Item, _: Item | None) -> None:
    if "diameter_mm" not in run.open and "thread" not in run.open:
        run.start(kind="spotface", spotface=Entry())
    run.entry = "spotface"
    run.open.setdefault("spotface", Entry())


def _take_csk(run: Run, item: Item, _: Item | None) -> None:
    _begin_entry(run, "csk", item)
    if run.waiting_angle is not None:
        run.set_entry(angle_deg=run.waiting_angle)
        run.waiting_angle = None


def _begin_entry(run: Run, kind: str, item: Item) -> None:
    if "diameter_mm" not in run.open and "thread" not in run.open:
        raise NoteError(f"{item.text} without a hole before it", column=item.column, hint="Ø6.6 THRU ⌴ Ø11 ↧6.8")
    run.entry = kind
    run.open.setdefault(kind, Entry())


# places ------------------------------------------------------------------------------------
def _take_circle(run: Run, item: Item, following: Item | None) -> None:
    if "bolt_circle_mm" not in run.open:
        run.circle_next = True  # PCD 96: the size follows


def on_circle(run: Run, item: Item, following: Item | None) -> bool:
    """Take a size that stands before or after the words 'bolt circle'."""
    if "diameter_mm" not in run.open and "thread" not in run.open:
        return False
    if not run.circle_next and not (following is not None and following.kind == "circle"):
        return False
    run.open["bolt_circle_mm"] = item.value
    run.circle_next = False
    run.entry = ""
    return True


def _take_equally(run: Run, _: Item, __: Item | None) -> None:
    run.open["equally"] = True


# closing -----------------------------------------------------------------------------------
def _complete_spotface(run: Run, fields: Fields) -> Fields:
    face = fields["spotface"]
    if face.diameter_mm is None:
        raise NoteError("the spotface has no diameter", hint="SF Ø20")
    return {**fields, "kind": "diameter", "diameter_mm": face.diameter_mm}


def complete_hole(run: Run, fields: Fields) -> Fields:
    """Depth or through, places, widenings. Raises NoteError for what cannot be."""
    fields["kind"] = "hole"
    fields.setdefault("count", 1)
    if "depth_mm" in fields and fields.get("through"):
        raise NoteError("a hole is either THRU or has a depth, not both", hint="leave one of them out")
    if "depth_mm" in fields:
        fields["through"] = False
        fields.setdefault("depth_to", "shoulder")
        fields["point_deg"] = DRILL_POINT_DEG
        run.assumed.append("depth to the tip" if fields["depth_to"] == "tip" else "depth to the full-diameter shoulder")
        run.assumed.append("drill point 118° included")
    elif not fields.get("through"):
        fields["through"] = True
        run.assumed.append("through: no depth is given")
    place(run, fields)
    check_entries(run, fields, fields["diameter_mm"])
    return fields


def place(run: Run, fields: dict[str, Any]) -> None:
    """The pattern that a bolt circle or equal spacing makes."""
    equally = fields.pop("equally", False)
    if equally:
        run.assumed.append("equally spaced on the full circle")
    if equally or fields.get("bolt_circle_mm"):
        fields["pattern"] = Pattern(
            kind="circle", count=fields.get("count", 1), diameter_mm=fields.get("bolt_circle_mm")
        )


def check_entries(run: Run, fields: dict[str, Any], hole: float) -> None:
    """Widenings are wider than their hole (mm), and as deep as they must be. Raises NoteError."""
    for key, word in WORDS.items():
        entry = fields.get(key)
        if entry is None:
            continue
        if entry.diameter_mm is None:
            raise NoteError(f"the {word} has no diameter", hint="⌴ Ø11 ↧6.8, ⌵ Ø14 X 90°")
        if entry.diameter_mm <= hole:
            raise NoteError(f"the {word} Ø{entry.diameter_mm:g} is not wider than its hole Ø{hole:g}")
        if key in ("cbore", "cdrill") and entry.depth_mm is None:
            raise NoteError(f"the {word} has no depth", hint="⌴ Ø11 ↧6.8")
        if key == "csk" and entry.angle_deg is None:
            fields[key] = entry.model_copy(update={"angle_deg": 90.0})
            run.assumed.append("countersink 90° included")
        if key == "cdrill" and entry.angle_deg is None:
            fields[key] = entry.model_copy(update={"angle_deg": DRILL_POINT_DEG})
    cbore = fields.get("cbore")
    if cbore and "depth_mm" in fields and cbore.depth_mm >= fields["depth_mm"]:
        raise NoteError("the counterbore is as deep as the hole itself", hint="depths count from the outer face")


#: what each kind of item does to the clause that is being read
TAKES: Mapping[str, Take] = {
    "drill": _take_drill,
    "drill_word": _take_drill_word,
    "depth": _take_depth,
    "tip": _take_tip,
    "through": _take_through,
    "cbore": _take_cbore,
    "cdrill": _take_cdrill,
    "spotface": _take_spotface,
    "csk": _take_csk,
    "circle": _take_circle,
    "equally": _take_equally,
}

#: how clauses of each kind are finished
COMPLETES: Mapping[str, Complete] = {
    "spotface": _complete_spotface,
    "hole": complete_hole,
}
