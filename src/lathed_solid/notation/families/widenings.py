"""What widens a hole's mouth: counterbores, countersinks, spotfaces, counterdrills, with their sizes."""

from __future__ import annotations

import re
from dataclasses import replace
from typing import Any

from lathed_solid.notation.clauses import DRILL_POINT_DEG, FROM_AXIS_DEG, Entry
from lathed_solid.notation.families.run import (
    OPERATIONS,
    WIDENINGS,
    Families,
    Fields,
    Prefix,
    Run,
    limits_of,
    take_words,
)
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.notation.named import INCH_SCREW, inch_name
from lathed_solid.standards import StandardError
from lathed_solid.standards.clearance import head_room, inch_screw_row
from lathed_solid.standards.machine import fastener

WORDS = {"cbore": "counterbore", "csk": "countersink", "spotface": "spotface", "cdrill": "counterdrill"}
HINTS = {"cbore": "⌴ Ø11 ↧6.8", "csk": "⌵ Ø14 X 90°", "spotface": "SF Ø20", "cdrill": "CDRILL Ø10 ↧5"}
#: what says that a size is its hole's
HOLES = {"through", "bolt_circle_mm", "thread", "fit", "spherical", "reference"}
#: a hole's sizes, as those of what widens it
OWN = {"diameter_mm": "diameter_mm", "decimals": "diameter_decimals", "low_mm": "diameter_low_mm",
       "high_mm": "diameter_high_mm", "depth_mm": "depth_mm", "depth_decimals": "depth_decimals",
       "depth_low_mm": "depth_low_mm", "depth_high_mm": "depth_high_mm"}  # fmt: skip
#: included angles of countersinks that may stand without their sign
USUAL_ANGLES = (60, 82, 90, 100, 110, 118, 120)

#: the included angle of an inch screw's flat head
INCH_HEAD_DEG = 82.0
#: a word behind its sizes
SIZES_FIRST = [[word, "cross", deep] for deep in ("plain", "depth") for word in ("cbore", "spotface")]
#: a depth without an angle that is within this share of that of 90 degrees is a countersink's
NEAR_USUAL = 0.25
#: ``COUNTERSINK 1 x 45°`` is no countersink so small
CHAMFER, SMALL_CSK = 45.0, 5.0


def begin(fields: Fields, item: Item) -> str:
    """Its word: sizes that follow are its own."""
    fields.setdefault(item.kind, Entry())
    return item.kind


def _set(fields: Fields, entry: str, **values: Any) -> None:
    fields[entry] = fields[entry].model_copy(update=values)


def set_angle(fields: Fields, entry: str, item: Item) -> None:
    """Its included angle."""
    _set(fields, entry, angle_deg=item.value, low_deg=item.low, high_deg=item.high)


def entry_size(run: Run, fields: Fields, entry: str) -> bool:
    """A size of the widening at hand; False for what is not its own."""
    item, following = run.peek(), run.peek(1)
    have: Entry = fields[entry]
    behind = following if item.kind in ("cross", "sep") else item
    next_one = item.kind == "depth" and run.peek(-1).kind == "sep" and following.kind in WIDENINGS
    apart = run.peek(-1).kind == "sep"
    hole = item.kind == "dia" and apart and item.value < fields.get("diameter_mm", 0.0)
    beside = item.kind == "plain" and apart and have.depth_mm is not None  # ⌀14 C'BORE 8.6 DEEP, 100 x 70
    if "spherical" in behind.marks or next_one or hole or beside:
        return False  # CSK ⌀24, 10 DEEP SPOTFACE; ⌀12 x 90° CSK, ⌀6.6 HOLE
    if item.kind in ("cross", "sep") and following.kind in ("plain", "angle", "depth", "dia"):
        run.take()
        item = run.peek()
        crossed = True
    else:
        crossed = False
    if item.kind in ("dia", "plain") and have.diameter_mm is None and run.peek(1).kind != "circle":
        run.take()
        _set(fields, entry, diameter_mm=item.value, diameter_decimals=item.decimals,
             **limits_of(run, item, "diameter_low_mm", "diameter_high_mm"))  # fmt: skip
    elif item.kind == "depth" and have.depth_mm is None and item.value:
        run.take()
        _entry_depth(run, fields, entry, item)
    elif item.kind == "angle" and entry in ("csk", "cdrill") and have.angle_deg is None:
        run.take()
        set_angle(fields, entry, item)
    elif item.kind == "included":
        run.take()
    elif crossed and item.kind == "plain" and entry == "csk" and have.angle_deg is None and item.value in USUAL_ANGLES:
        run.take()
        run.say(f"countersink {item.value:g}° included")
        _set(fields, entry, angle_deg=item.value)
    elif crossed and item.kind == "plain" and entry in ("cbore", "cdrill", "spotface") and have.depth_mm is None:
        run.take()
        _entry_depth(run, fields, entry, item)
    else:
        if crossed:
            run.at -= 1
        return False
    return True


def _entry_depth(run: Run, fields: Fields, entry: str, item: Item) -> None:
    _set(fields, entry, depth_mm=item.value, depth_decimals=item.decimals,
         **limits_of(run, item, "depth_low_mm", "depth_high_mm"))  # fmt: skip


def words_first(items: list[Item]) -> list[Item]:
    """``⌀11, ⌀18 x 11 C'BORE`` and ``⌀11, ⌀18 C'BORE x 11`` as ``⌀11, C'BORE ⌀18 x 11``: a size before the word is its
    own where no other stands behind it and a hole stands before.
    """
    out = [replace(item, kind="cbore") if _recess_of_a_hole(items, k) else item for k, item in enumerate(items)]
    for k in range(1, len(out) - 1):
        size = out[k]
        if _spotface_behind(out, k):
            out[k : k + 2] = [out[k + 1], replace(size, kind="dia")]
            continue
        if size.kind != "dia" or not any(i.kind in ("dia", "thread") and i.value < size.value for i in out[:k]):
            continue
        following = sorted(out[k + 1 : k + 4], key=lambda item: item.kind not in WORDS)
        behind = [item.kind for item in out[k + 4 : k + 6]] or ["end"]
        ends = behind[0] in ("end", "sep", "circle", "equally", "count") or behind == ["dia", "circle"]
        if ends and [item.kind for item in following] in SIZES_FIRST:
            out[k : k + 4] = [following[0], size, *following[1:]]
    return out


def _recess_of_a_hole(items: list[Item], k: int) -> bool:
    """``⌀30 x 5 DEEP RECESS, ⌀20 THRU``: whether the word at ``k`` is that of a recess around the hole behind it."""
    recess = items[k].kind == "groove" and items[k].text.upper() == "RECESS"
    around = [i.kind for i in items[k + 1 : k + 4]] == ["sep", "dia", "through"]
    return recess and around and k > 0 and items[k - 1].kind == "depth"


def _spotface_behind(items: list[Item], k: int) -> bool:
    """``⌀11 DRILL, ⌀18 SPOTFACE``, ``5/8 DRILL, 1 1/8 SPOTFACE``: whether the size at ``k`` is the spotface's that is
    named behind it, with nothing behind that.
    """
    behind = [i.kind for i in items[k + 2 : k + 4]] or ["end"]
    if items[k + 1].kind != "spotface" or behind[0] not in ("end", "sep") or behind == ["sep", "depth"]:
        return False
    holes = [i for i in items[:k] if i.kind in ("dia", "thread")]
    if items[k].kind == "plain" and any(i.kind in OPERATIONS for i in items[:k]):
        holes += [i for i in items[:k] if i.kind == "plain"]
    return items[k].kind in ("dia", "plain") and any(i.value < items[k].value for i in holes)


def read_alone(run: Run, _: Prefix) -> Fields | None:
    """A widening alone: its hole is in another note."""
    fields: Fields = {"kind": "widening"}
    angle = run.take() if run.sees("angle") else None
    entry = begin(fields, run.take())
    if angle is not None:
        set_angle(fields, entry, angle)
    while run.goes_on and (entry_size(run, fields, entry) or take_words(run, fields)):
        pass
    return closed(run, fields)


def own_size(fields: Fields) -> Fields | None:
    """``⌀12 C'BORE 5 DEEP``: one widening without a size of its own, behind a size that nothing makes a hole: the size
    is its own. None for everything else.
    """
    entries = [key for key in WORDS if key in fields]
    if len(entries) != 1 or fields[entries[0]].diameter_mm is not None:
        return None
    deep = entries == ["cbore"] and fields["cbore"].depth_mm is not None and "depth_mm" not in fields
    if set(fields) & (HOLES - {"fit"} if deep else HOLES):  # ⌀40 H8 COUNTERBORE 12 DEEP: of the class its limits stay
        return None
    if "depth_mm" in fields and (entries == ["csk"] or fields[entries[0]].depth_mm is not None):
        return None  # it has a depth of its own: this one is its hole's
    own = {OWN[key]: value for key, value in fields.items() if key in OWN}
    rest = {key: value for key, value in fields.items() if key not in (*OWN, "depth_to", "point_deg", "fit")}
    return {**rest, "kind": "widening", entries[0]: fields[entries[0]].model_copy(update=own)}


def closed(run: Run, fields: Fields) -> Fields:
    """A widening alone with what it must have. Raises NoteError."""
    (key,) = (key for key in WORDS if key in fields)
    fields[key] = for_its_screw(run, key, fields[key])
    if fields[key].diameter_mm is None:
        raise NoteError(f"the {WORDS[key]} has no diameter", hint=HINTS[key])
    entry = fields[key]
    if key == "csk" and entry.angle_deg == CHAMFER and entry.diameter_mm <= SMALL_CSK:
        raise NoteError(
            "a countersink's included angle, or a chamfer: this can be read either way",
            received=f"{entry.diameter_mm:g} x 45°", hint=f"{entry.diameter_mm:g} x 45° CHAMFER, or ⌵ Ø14 X 90°",
        )  # fmt: skip
    if key == "csk" and entry.depth_mm is not None and entry.angle_deg is None:
        raise _no_angle(entry)
    _usual_angle(run, fields, key)
    return fields


def _no_angle(entry: Entry) -> NoteError:
    return NoteError(
        "a countersink's depth without its angle, or a counterbore: this can be read either way",
        received=f"⌀{entry.diameter_mm:g} x {entry.depth_mm:g} deep", hint="⌴ Ø11 ↧6.4, ⌵ Ø11 X 90°",
    )  # fmt: skip


def screw_said(run: Run) -> str:
    """``M8`` of FOR M8 CAP SCREW, ``1/4`` of FOR 1/4 SHCS, in any place of the note; else nothing."""
    found = (re.match(rf"(?:for|to suit|to take) (?:an? )?(m\d+|{INCH_SCREW})", said, re.I) for said in run.assumed)
    return next((inch_name(m[1]).upper() for m in found if m is not None), "")


def for_its_screw(run: Run, key: str, entry: Entry) -> Entry:
    """A counterbore or countersink without its sizes, by the head of the screw that it is for; else as it is."""
    screw = screw_said(run)
    if entry.diameter_mm is not None or not screw or key not in ("cbore", "csk"):
        return entry
    if key == "cbore":
        if any("hex" in said.split() for said in run.assumed):
            return entry
        try:
            wide, deep, table = head_room(screw)
        except StandardError:
            return entry
        run.say(f"counterbore for a socket head {screw} by {table}")
        depth = deep if entry.depth_mm is None else entry.depth_mm
        return entry.model_copy(update={"diameter_mm": wide, "depth_mm": depth})
    try:
        head = fastener("socket countersunk screw", screw)
    except StandardError:
        return entry
    table = "ASME B18.3" if inch_screw_row(screw) else "ISO 10642"
    run.say(f"countersink for a socket countersunk head {screw} by {table}")
    angle = entry.angle_deg or (INCH_HEAD_DEG if inch_screw_row(screw) else None)
    return entry.model_copy(update={"diameter_mm": float(head["width_mm"]), "angle_deg": angle})


def _usual_angle(run: Run, fields: Fields, key: str) -> None:
    entry: Entry = fields[key]
    angle = entry.angle_deg
    said = any(item.kind == "included" for item in run.items)
    if key == "csk" and angle is not None and angle <= FROM_AXIS_DEG and not said:
        raise NoteError("a countersink's angle from its axis, or its included angle: this can be read either way",
                        received=f"{angle:g}°", hint=f"{2 * angle:g}° INCL, or {angle:g}° INCL")  # fmt: skip
    if entry.angle_deg is None and key in ("csk", "cdrill"):
        fields[key] = entry.model_copy(update={"angle_deg": 90.0 if key == "csk" else DRILL_POINT_DEG})
        if key == "csk":
            run.say("countersink 90° included")


def check_entries(run: Run, fields: Fields, hole: float) -> None:
    """Widenings are wider than their hole (mm), and as deep as they must be. Raises NoteError."""
    for key, word in WORDS.items():
        entry = fields.get(key)
        if entry is None:
            continue
        entry = fields[key] = for_its_screw(run, key, entry)
        if entry.diameter_mm is None:
            raise NoteError(f"the {word} has no diameter", hint="⌴ Ø11 ↧6.8, ⌵ Ø14 X 90°")
        if entry.diameter_mm <= hole:
            raise NoteError(f"the {word} Ø{entry.diameter_mm:g} is not wider than its hole Ø{hole:g}")
        if key in ("cbore", "cdrill") and entry.depth_mm is None:
            raise NoteError(f"the {word} has no depth", hint="⌴ Ø11 ↧6.8")
        if key == "csk" and entry.depth_mm is not None and entry.angle_deg is None:
            usual = (entry.diameter_mm - hole) / 2  # 90 degrees
            if abs(entry.depth_mm - usual) > NEAR_USUAL * usual:
                raise _no_angle(entry)
        _usual_angle(run, fields, key)
    cbore = fields.get("cbore")
    if cbore and "depth_mm" in fields and cbore.depth_mm >= fields["depth_mm"]:
        raise NoteError("the counterbore is as deep as the hole itself", hint="depths count from the outer face")


#: which item begins what
READS: Families = dict.fromkeys(WORDS, read_alone)
