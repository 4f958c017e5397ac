"""What stands in brackets beside what it belongs to: work, and a size said again in the other unit."""

from __future__ import annotations

from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.items import Item
from lathed_solid.notation.kinds import OPERATIONS, SIZED, THREADS
from lathed_solid.notation.named import drill_named
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.quantity.units import MM_PER_INCH

#: a drill's name and its size in brackets agree to this share; sizes in two units to the other
SAME, SAME_UNITS = 1e-3, 0.01


def worked_in_brackets(at: Cursor, out: list[Item]) -> int:
    """``M4 ↧8 (DRILL ⌀3.3 ↧10.5)``, ``M6 ↧12 (⌀5 ↧16)``, ``⌀8.5 ↧22 (M10 TAP)``: work in brackets is as without; where
    they shut, else 0.
    """
    ahead = 1
    drill = at.sees_kind(1) == "diameter" and at.sees_kind(3) != "shut" and any(i.kind == "thread" for i in out)
    tapped = at.sees_kind(1) in THREADS and at.sees_kind(2) == "tap"
    if not out or not (drill or tapped or at.sees_kind(1) in OPERATIONS):
        return 0
    while at.sees_kind(ahead) not in ("end", "open", "shut", "newline"):
        ahead += 1
    return at.place + ahead if at.sees_kind(ahead) == "shut" and ahead > 2 else 0


def same_drill(at: Cursor, out: list[Item]) -> bool:
    """``.257 DIA THRU (F DRILL)``: the name of the drill of this size; moves past it."""
    size = next((i for i in reversed(out) if i.kind in ("dia", "plain")), None)
    behind = 3 if at.sees_kind(2) == "drill" else 2
    if size is None or at.sees_kind(1) != "drill_named" or at.sees_kind(behind) != "shut":
        return False
    mark = at.place
    at.take()
    same = abs(drill_named(at).value - size.value) < SAME * size.value
    at.place = mark + behind + 1 if same else mark
    return same


def whole_in_brackets(out: list[Item], item: Item) -> bool:
    """``3x 16 (48)``: so many lengths in a row, and their whole."""
    row = [i.kind for i in out[-2:]] == ["count", "plain"] and item.kind == "plain" and not item.toleranced
    return row and out[-2].value > 1 and abs(out[-2].value * out[-1].value - item.value) < ROUNDING * item.value


def same_in_brackets(out: list[Item], item: Item, unit: LengthUnit) -> list[str] | None:
    """``12.7 (.500)``: the size before in the other unit, ``#10 (.1935) DRILL``: a drill's, which say nothing new: what
    is to be told of it. None for another size.
    """
    last = next((i for i in reversed(out) if i.kind not in OPERATIONS), None)
    sized = last is not None and last.kind in SIZED and last.value
    if last is None or not sized or item.kind not in (last.kind, "plain") or item.toleranced:
        return None
    ratio = last.value / item.value if unit == "mm" else item.value / last.value
    if abs(ratio / MM_PER_INCH - 1) < SAME_UNITS:
        return ["the size in brackets is the same in the other unit"]
    return [] if "drill" in last.marks and abs(ratio - 1) < SAME else None
