"""A note's items in order, the clauses that were read, and what no clause owned.

A clause is read by the family of its first item. It takes what belongs to it and stops; what neither belongs to it nor
can begin a clause where it stands is kept as unread, and is never made into another meaning.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from lathed_solid.notation.clauses import BOTH_SIDES, Clause
from lathed_solid.notation.items import Item, factor_of
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.tolerances import ROUNDING

END = Item("end")
#: once around, degrees
FULL = 360.0
#: what no HOLES are counted of
UNBORED = frozenset({"length", "radius", "angle", "chamfer", "fillet", "groove", "keyway", "taper", "slot"})
#: sizes of what is counted
OWN = frozenset({"dia", "thread", "radius"})
OPERATIONS = ("drill", "ream", "bore", "tap", "turn")
WIDENINGS = ("cbore", "csk", "spotface", "cdrill")
#: what may stand on a new line and still belongs to the clause above
CONTINUES = (*WIDENINGS, *OPERATIONS, "depth", "circle", "equally", "through", "tip", "side", "elsewhere", "hand",
             "inner", "outer", "holes", "typ", "included")  # fmt: skip

#: what BOTH SIDES makes two of
TWICE = ("chamfer", "fillet", "radius", "keyway", "groove", "slot", "centre", "widening")

Fields = dict[str, Any]
#: the fields of a clause; None when what stands there is none after all
Read = Callable[["Run", "Prefix"], Fields | None]


@dataclass
class Prefix:
    """What stands before the first size of a clause."""

    count: int | None = None
    operations: list[str] = field(default_factory=list)
    equally: bool = False
    holes: bool = False  # HOLES was said
    circle: Item | None = None  # PCD 60, before what stands on it
    side: Item | None = None  # BOTH SIDES, before what is on both
    spaces: bool = False  # SPACES was said


@dataclass
class Run:
    """``at`` is the place in ``items``."""

    unit: LengthUnit
    items: list[Item]
    at: int = 0
    done: list[Clause] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    unread: list[str] = field(default_factory=list)
    unread_at: list[tuple[int, int]] = field(default_factory=list)
    elsewhere: bool = False  # UNLESS STATED was read before its note

    def peek(self, ahead: int = 0) -> Item:
        """The item so many places on."""
        at = self.at + ahead
        return self.items[at] if at < len(self.items) else END

    @property
    def kind(self) -> str:
        """Of the next item."""
        return self.peek().kind

    def sees(self, *kinds: str) -> bool:
        """Whether the next item is of one of these kinds."""
        return self.peek().kind in kinds

    def take(self) -> Item:
        """The next item, and on."""
        item = self.peek()
        self.at += 1
        return item

    def leave(self, item: Item) -> None:
        """Keep an item as unread."""
        self.unread.append(item.text.strip() or f"{item.value / factor_of(self.unit):g}")
        if item.column and item.text.strip():
            self.unread_at.append((item.column, len(item.text.strip())))

    def size(self, mm: float) -> str:
        """A length with its unit, as the sheet has it."""
        return f"{length(mm, self.unit)} {self.unit}"

    def say(self, words: str) -> None:
        """Something that was taken and not written."""
        self.assumed.append(words)

    @property
    def goes_on(self) -> bool:
        """Whether what follows the separators at hand still belongs to this clause; they are taken if so."""
        if not self.sees("sep"):
            return True
        ahead, newline = 0, False
        while self.peek(ahead).kind == "sep":
            newline = newline or self.peek(ahead).text.startswith("\n")
            ahead += 1
        following = self.peek(ahead)
        worded = following.kind == "count" and following.text != ""
        if worded and self._sized_bare(ahead + 1):
            return False  # ⌀60 x 8, 4 HOLES 6.6 ON 50 PCD
        if worded and self.opens(ahead + 1, line=newline):
            return False  # R8, 2 HOLES ⌀6
        around = following.kind == "equally" and self.peek(ahead + 1).kind == "dia"
        around = around and self.peek(ahead + 2).kind in ("end", "sep")  # EQUALLY SPACED ON ⌀60
        if following.kind in ("holes", "through", "equally") and not around and self.opens(ahead + 1, line=False):
            return False  # THRU HOLE ⌀11
        worded = worded or self.peek(ahead + 1).kind == "circle"  # ON ⌀96 BC
        if newline and not worded and following.kind not in (*CONTINUES, "end"):
            return False
        self.at += ahead
        return True

    def opens(self, ahead: int, *, line: bool) -> bool:
        """Whether what stands so many items ahead has a size of its own, up to the next comma or in its ``line``, where
        that needs no sign; that of the circle is none.
        """
        own = OWN | {"plain"} if line else OWN
        sizes = 0
        while (item := self.peek(ahead)).kind != "end":
            if item.kind == "sep" and (not line or item.text.startswith("\n")):
                break
            before, behind = self.peek(ahead - 1).kind, self.peek(ahead + 1).kind
            beside = before if before in ("plain", "dia") else behind
            sizes += (item.kind in own) - (item.kind == "circle" and beside in own)
            ahead += 1
        return sizes > 0

    def _sized_bare(self, ahead: int) -> bool:
        """Whether HOLES that are counted have a bare size of their own so many items ahead: one with a circle behind
        it, THRU, or its work.
        """
        size, behind = self.peek(ahead), self.peek(ahead + 1)
        holes = self.peek(ahead - 1).text == "holes" and size.kind == "plain"
        circled = behind.kind in ("plain", "dia") and self.peek(ahead + 2).kind == "circle"
        return holes and (circled or behind.kind in ("through", "drill", "ream"))

    def line(self) -> list[Item]:
        """The items to the end of this line."""
        out = []
        for item in self.items[self.at :]:
            if item.kind == "sep" and item.text.startswith("\n"):
                break
            out.append(item)
        return out


def of_a_step(run: Run) -> bool:
    """Whether FLAT, STEP or REBATE was said: sizes are lengths, also where a depth is said of them."""
    return any(said.split()[-1:] in (["flat"], ["flats"], ["step"], ["rebate"]) for said in run.assumed)


def own_limits(item: Item) -> Fields:
    """Decimals, limits and class that stand with a clause's own size."""
    out: Fields = {}
    if item.decimals is not None:
        out["decimals"] = item.decimals
    if item.low is not None or item.high is not None:
        out.update(low_mm=item.low, high_mm=item.high)
    if item.fit:
        out["fit"] = item.fit
    for mark, key in (("ref", "reference"), ("basic", "basic"), ("spherical", "spherical")):
        if mark in item.marks:
            out[key] = True
    return out


def limits_of(run: Run, item: Item, low: str, high: str) -> Fields:
    """The limits of one size of several, under their own names; REF of it alone is told as unread."""
    if "ref" in item.marks:
        run.unread.append("REF")
    return {k: v for k, v in ((low, item.low), (high, item.high)) if v is not None}


def say_pair(run: Run, item: Item) -> None:
    """A pair of classes says which is which."""
    if item.fit and "/" in item.fit:
        run.say("a pair: the hole's class first, then the shaft's")


def take_count(run: Run, fields: Fields) -> bool:
    """A count behind what it counts."""
    if not run.sees("count") or fields.get("count") is not None or not run.peek().text:
        return False
    if run.peek().text == "holes" and fields.get("kind") in UNBORED:
        return False
    fields["count"] = int(run.take().value)
    return True


def side_before(run: Run, prefix: Prefix) -> bool:
    """Whether BOTH SIDES stands before what is on both."""
    return prefix.side is None and run.sees("side") and run.peek().text.upper().startswith(("BOTH", "EACH", "ON BOTH"))


def take_words(run: Run, fields: Fields) -> bool:
    """Words that any clause may have behind it: places, sides, TYP, REF, UNLESS STATED."""
    if take_count(run, fields):
        return True
    item = run.peek()
    if item.kind == "side":
        word = " ".join(run.take().text.lower().removeprefix("on ").split())
        twice = word.startswith(("both", "each", "2", "two"))
        last = [key for key in WIDENINGS if key in fields][-1:]
        if word.startswith("each") and run.peek(-2).kind == "count":
            run.leave(item)  # C'BORE ⌀15 x 9, 2 OFF EACH SIDE: so many, or twice as many
            return True
        if twice and last and fields.get("kind") not in TWICE and "depth_mm" not in fields:
            fields["far"] = last[0]  # ⌀10 THRU, CSK ⌀14 BOTH SIDES
            run.say(BOTH_SIDES)
            return True
        if twice and word.endswith(("side", "sides", "faces")) and fields.get("kind") not in (*TWICE, "length"):
            run.leave(item)  # CSK BOTH SIDES is no second hole, 15° EACH SIDE no second angle
            return True
        if twice:
            fields.setdefault("count", 2)
        run.say(word)
        return True
    if item.kind in ("typ", "nominal"):
        run.take()
        if item.kind == "typ":
            run.say("typical: holds at every like place")
        return True
    return False


def once_around(count: int | None, angle: Item) -> bool:
    """Whether so many of the angle go once around."""
    return not angle.toleranced and abs((count or 1) * angle.value - FULL) < ROUNDING


def with_words(run: Run, fields: Fields) -> Fields:
    """The fields with all words behind them."""
    while run.goes_on and take_words(run, fields):
        pass
    return fields


def finish(run: Run, fields: Fields, prefix: Prefix) -> None:
    """The clause, with what stood before it."""
    if prefix.count is not None:
        if fields.get("count") not in (None, prefix.count) and fields["kind"] not in ("hole",):
            run.unread.append(f"{prefix.count}X")
        fields["count"] = prefix.count if fields.get("count") in (None, 1) else fields["count"]
    if prefix.side is not None:
        if fields["kind"] in TWICE and fields.get("count") in (None, 2):
            fields["count"] = 2
            run.say(" ".join(prefix.side.text.lower().removeprefix("on ").split()))
        else:
            run.leave(prefix.side)
    if fields["kind"] in ("chamfer", "fillet", "length") and run.done and prefix.count is None:
        _with_its_hole(run, fields)
    if fields["kind"] == "widening" and _of_the_hole(run, fields):
        return
    if fields["kind"] == "hole":
        _widened_before(run, fields)
    far = fields.pop("far", None)
    blind = "depth_mm" in fields or ("thread" in fields and fields["thread"].depth_mm is not None)
    if far is not None and blind:
        run.unread.append("both sides")
    run.done.append(Clause(**{k: v for k, v in fields.items() if v is not None or k in ("high_mm",)}))
    if far is not None and not blind:
        run.done.append(Clause(kind="widening", count=fields.get("count"), **{far: fields[far]}))


def all_but_last(run: Run, found: list[Fields], prefix: Prefix) -> Fields:
    """Several clauses of one phrase: finishes all but the last, which is given back."""
    for fields in found[:-1]:
        finish(run, fields, Prefix(prefix.count))
    return found[-1]


def _with_its_hole(run: Run, fields: Fields) -> None:
    """``⌀12 H7 x 20 DEEP, 1 x 45° CHAMFER, 2 PLACES``: a blind hole is counted with its chamfer; of one that is through
    they may be its two ends.
    """
    count, hole = fields.get("count"), run.done[-1]
    back = -1
    while run.at + back > 0 and run.peek(back).kind == "sep":
        back -= 1
    counted = count is not None and run.peek(back).kind == "count" and run.peek(back - 1).kind == "sep"
    if fields["kind"] == "length":
        if counted and hole.kind == "diameter" and hole.count is None and run.peek(back - 3).kind == "cross":
            run.done[-1] = hole.model_copy(update={"count": count})  # BOSS ⌀28 x 10 HIGH, 4 PLACES
        return
    if not counted or hole.kind not in ("hole", "thread") or hole.count not in (None, 1):
        return
    if hole.kind == "hole" and hole.depth_mm is None and count == 2:
        run.unread.append("2 places")
    else:
        run.done[-1] = hole.model_copy(update={"count": count})


def _of_the_hole(run: Run, fields: Fields) -> bool:
    """``⌀10 THRU`` over ``⌀18 C'BORE 6 DEEP``: what widens the hole before it; it is put there."""
    (key,) = (k for k in WIDENINGS if k in fields)
    if not run.done:
        return False
    hole, wide = run.done[-1], fields[key]
    if hole.kind == "diameter" and (hole.count or 1) > 1 and not hole.fit:
        hole = hole.model_copy(update={"kind": "hole", "through": True})  # 6-⌀6.6 over ⌀11 C'BORE 6.5 DEEP
        run.say("through: no depth is given")
    if hole.kind not in ("hole", "thread"):
        return False
    # ⌀10 THRU, ⌀18 CSK 90° 2 PLACES: both are counted
    both = hole.count in (None, 1) and run.peek(-1).kind == "count"
    if fields.get("count") not in (None, hole.count) and not both:
        return False
    across = hole.thread.major_mm if hole.thread is not None else hole.diameter_mm
    shallow = key in ("cbore", "cdrill") and wide.depth_mm is None
    if getattr(hole, key) is not None or shallow or across is None or wide.diameter_mm <= across:
        return False
    run.done[-1] = hole.model_copy(update={key: wide} | ({"count": fields["count"]} if both else {}))
    return True


def _widened_before(run: Run, fields: Fields) -> None:
    """``⌀14.5 ↧9 COUNTERBORE, ⌀9 THRU``: the widening before it is this hole's; ``CSK ⌀11 BOTH SIDES`` both of them."""
    if not run.done or run.done[-1].kind != "widening":
        return
    before = run.done[-1]
    twice = before.count == 2 and any(said.startswith(("both", "each")) for said in run.assumed)
    counts = {fields.get("count") or 1, 1 if twice else before.count or 1} - {1}
    wide = {key: entry for key in WIDENINGS if (entry := getattr(before, key)) is not None and key not in fields}
    if len(counts) < 2 and wide and all(entry.diameter_mm > fields["diameter_mm"] for entry in wide.values()):
        run.done.pop()
        fields.update(wide, count=max(counts, default=1))
        if twice:
            fields["far"] = next(iter(wide))
            run.say(BOTH_SIDES)


def without_marks(item: Item) -> Item:
    """The size alone."""
    return replace(item, marks=frozenset())


Families = Mapping[str, Read]
