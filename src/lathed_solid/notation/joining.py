"""A note's items without the words that carry nothing, which are told; a number that counts named things counts."""

from __future__ import annotations

import re
from dataclasses import replace

from lathed_solid.notation.counting import FEW
from lathed_solid.notation.either_way import ROUNDED
from lathed_solid.notation.families.run import END
from lathed_solid.notation.items import Item

#: what is more than one: LUGS, BEARING HOUSINGS, no BOSS; nor FOR BEARINGS
SEVERAL = re.compile(r"(?!(?:FOR|TO|ON|IN|AT|OF|WITH|INTO)\b)[A-Z ]*(?:[A-HJ-RTV-Z]S|FEET)", re.I)
#: words that carry nothing
SOFT = ("soft",)
#: what is done to the size before, and ends there
_WORKED = [[work, *end] for work in ("ream", "drill", "bore", "tap") for end in ([], ["sep"], ["end"])]


def joined(items: list[Item], said: list[str]) -> list[Item]:
    """Without the words that carry nothing; those of a purpose (DOWEL, PRESS FIT) are told in ``said``. Separators in
    a row are one, a new line before all. What stands behind a name is marked as named.
    """
    out: list[Item] = []
    named = ""
    circled = 0  # behind which item it is said that holes stand on it
    for k, item in enumerate(items):
        if item.kind in ("around", "purpose", "outside"):
            said.append(" ".join(item.text.lower().split()))
            beside = [i.kind for i in (*out[-1:], *items[k + 1 : k + 2])]
            if _counted_name(item, out, items[k + 1 : k + 2]):
                out[-1] = Item("count", out[-1].value, column=out[-1].column)  # 4 EARS, 12 THICK
            if item.kind == "outside" and beside == ["sep", "dia"]:
                out[-1] = replace(out[-1], text="\n")  # C'BORE 8 DEEP, SHOULDER ⌀28: another
            named = "round" if ROUNDED.search(item.text) else "named"
            continue
        if item.kind in SOFT:
            if _bare_circle(item, items[k + 1 : k + 3], out):
                circled = k + 1
                said.append("on a circle")
            ends = [i.kind for i in items[k + 1 : k + 2]] in ([], ["sep"])
            if item.text != "&" and (ends or not any(i.kind not in ("sep", *SOFT) for i in items[k + 1 :])):
                out.append(replace(item, kind="unread"))  # ⌀0.05 A
            continue
        if item.kind == "dash":
            item = Item("sep", text=",", column=item.column)
        if item.kind == "sep" and [i.kind for i in items[k + 1 : k + 3]] in _WORKED:
            continue  # ⌀12 H7, REAM
        if item.kind == "sep" and out and out[-1].kind == "sep":
            if item.text.startswith("\n"):
                out[-1] = item
            continue
        out.append(replace(item, marks=item.marks | {named}) if named and item.kind == "plain" else item)
        named = ""
        if circled and k == circled:
            out.append(Item("circle", text="BC", column=item.column))
    return out


def _counted_name(name: Item, before: list[Item], behind: list[Item]) -> bool:
    """``4 EARS, 12 THICK``: whether a number counts the things that are named behind it, and have their size behind."""
    number = before[-1] if before else END
    alone = len(before) < 2 or before[-2].kind == "sep"
    few = number.kind == "plain" and number.text.isdigit() and int(number.text) <= FEW
    ends = [i.kind for i in behind] in (["sep"], ["equally"])
    return few and alone and ends and SEVERAL.fullmatch(name.text) is not None and not number.toleranced


def _bare_circle(on: Item, following: list[Item], before: list[Item]) -> bool:
    """``4X ⌀6 ON ⌀60``: several holes on a diameter stand on that circle, also where nobody says BC."""
    several = any(i.kind == "count" and i.value > 1 for i in before) and any(
        i.kind in ("dia", "thread") for i in before
    )
    kinds = [i.kind for i in following]
    return on.text.upper() == "ON" and several and kinds[:1] == ["dia"] and kinds[1:] != ["circle"]
