"""What marks a size: its sign, and words of limit: MAX, MIN, REF, BASIC."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import replace

from lathed_solid.notation.counting import WIDENINGS
from lathed_solid.notation.items import Item
from lathed_solid.notation.kinds import OPERATIONS, SIGNS
from lathed_solid.notation.tokens import Token

#: words of the whole part's length, and of a thread's
WHOLE = ("OVER", "TOTAL")
THREAD = re.compile(r"THREADS?\b|THDS?\b")


def signed_as(kind: str, before: Sequence[Item]) -> str:
    """What a size with a sign is: across flats that of a hexagon, of two flats a length, of a keyway over its bore."""
    if kind == "flats" and any(i.kind == "keyway" for i in before):
        return "apart"  # KEYWAY 8 JS9 x 33.3 ACROSS
    two = kind == "flats" and any(i.kind == "purpose" and "FLAT" in i.text.upper() for i in before)
    return "plain" if two else SIGNS[kind]


def said_along(word: Token) -> frozenset[str]:
    """What a word behind or before a length says of it: that of the whole part, from a face, that of a whole thread."""
    said = word.text.upper()
    if said.startswith(WHOLE):
        return frozenset({"overall"})
    return frozenset({word.kind} & {"from"} | ({"thread"} if THREAD.search(said) else set()))


def with_mark(item: Item, mark: str) -> Item:
    """The size, with one more mark."""
    return replace(item, marks=item.marks | {mark})


def limited(item: Item, mark: str) -> Item | None:
    """The size with a word of limit; None where it has its limits already."""
    if mark in ("ref", "basic"):
        return with_mark(item, mark)
    if item.toleranced:
        return None
    low, high = (0.0, item.value) if mark == "max" else (item.value, None)
    return with_mark(replace(item, low=low, high=high), "limited")


#: what may stand between a size and its class
BEHIND_SIZE = ("depth", "cross", "purpose", "outside", "keyway", "slot")
#: what may stand between a size and its word of limit
BETWEEN = (
    "typ",
    "chamfer",
    "circle",
    "round",
    "side",
    "tip",
    "hand",
    "included",
    "per_side",
    "inner",
    "outer",
    "count",
)


def marked_place(out: list[Item], mark: str) -> int:
    """Where the item before a word of limit stands; -1 for none. A new line is between them for REF and BASIC alone."""
    back = len(out) - 1
    while back >= 0 and (
        out[back].kind in BETWEEN or (out[back].kind == "sep" and out[back].text == "\n" and mark in ("ref", "basic"))
    ):
        back -= 1
    if (
        back >= 2
        and [i.kind for i in out[back - 2 : back + 1]] == ["plain", "cross", "angle"]
        and mark in ("max", "min")
    ):
        return back - 2  # 0.2 x 45° MAX: the leg's
    return back


def classed_place(out: list[Item], *, whole: bool) -> int:
    """Where the size before a late class or deviation stands; -1 for none. ``whole``: a class of ISO 286."""
    behind: tuple[str, ...] = (*OPERATIONS, "through", "holes", *(BEHIND_SIZE if whole else ()))
    if whole and out and out[-1].kind in ("ream", "bore"):
        behind += ("sep", "count")  # ⌀8 HOLES, 2 OFF, REAM H7
    back = len(out) - 1
    while back >= 0 and out[back].kind in behind:
        back -= 1
    if back < 0 or out[back].kind not in ("dia", "plain") or out[back].toleranced:
        return -1
    another = back > 0 and out[back - 1].kind in ("cross", *WIDENINGS)  # C'BORE ⌀15 x 5, REAM H7
    return -1 if another else back


def pair(out: list[Item], place: int) -> None:
    """``24.98 MIN 25.02 MAX`` is one size between two limits."""
    if place < 1:
        return
    before = place - 1
    while before > 0 and out[before].kind in ("sep", "slash", "dash"):
        before -= 1
    one, two = out[before], out[place]
    both = "limited" in one.marks and "limited" in two.marks and two.kind in (one.kind, "plain")
    if not both or ((one.high is None) == (two.high is None)):
        return
    low = one.low if one.high is None else two.low
    high = two.high if two.high is not None else one.high
    if low is None or high is None or not 0.5 * high < low < high:
        return
    out[before:] = [replace(one, value=(low + high) / 2, low=low, high=high), *out[place + 1 :]]
