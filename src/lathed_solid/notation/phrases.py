"""From tokens to items: each number with its sign, tolerance, unit and word, so that nothing of it goes to another.

Words of limit (MAX, MIN, REF, BASIC) belong to the size that they stand beside: the one before them, or the one behind
them where none stands before.
"""

from __future__ import annotations

from dataclasses import replace

from lathed_solid.notation.brackets import same_drill, same_in_brackets, whole_in_brackets, worked_in_brackets
from lathed_solid.notation.counting import WIDENINGS, before_count, count_at, count_behind_word, counted_at, word_behind
from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.either_way import (
    at_an_angle,
    many_behind,
    no_pipe,
    on_radius,
    other_side_behind,
    past_one_side,
)
from lathed_solid.notation.items import Item, NoteError, Written, above_zero, factor_of, plain_number
from lathed_solid.notation.kinds import (
    BRACKETED,
    ITEM_KINDS,
    LATE,
    MARKS,
    OPERATIONS,
    ROLES,
    SIGNS,
    SIZED,
    THREADS,
    UNCLASSED,
)
from lathed_solid.notation.marking import classed_place, limited, marked_place, pair, said_along, signed_as, with_mark
from lathed_solid.notation.named import angle_at, drill_named, hole_named, thread_named, total
from lathed_solid.notation.tokens import Token
from lathed_solid.notation.tolerance import tolerance_after
from lathed_solid.quantity import LengthUnit

#: no deviation is larger than this (mm) and than half its size
FAR_MM, HALF = 5.0, 0.5


class Phrases:
    """The items of one note."""

    def __init__(self, tokens: list[Token], unit: LengthUnit) -> None:
        self.at, self.unit = Cursor(tokens, unit), unit
        self.out: list[Item] = []
        self.waiting: set[str] = set()  # MAX, MIN said before their size
        self.dropped: set[int] = set()  # brackets around work that shut at these places
        self.said: list[str] = []

    def all(self) -> list[Item]:
        """Every token becomes an item, or part of one."""
        while not self.at.sees("end"):
            self._next()
        self.out += [Item("unread", text=w.upper()) for w in sorted(self.waiting)]
        return self.out

    # one phrase ----------------------------------------------------------------------------------
    def _next(self) -> None:
        at, kind = self.at, self.at.kind
        if count_at(at, self.out) or self._bracketed() or (kind in SIGNS and self._signed()):
            return
        if kind in ROLES and self._role():
            return
        if kind in MARKS:
            self._mark()
        elif kind == "on_radius":
            self.out += on_radius(at.take(), self.unit)
        elif kind == "cross" and self.out and self.out[-1].kind == "holes" and many_behind(at, self.out):
            return
        elif kind == "ball":
            self._ball()
        elif kind == "cross" and other_side_behind(at, self._last(), self.unit):
            return
        elif kind == "number":
            self._number()
        elif kind == "angle":
            self._add(angle_at(at))
        elif kind == "chamfer_c":
            self._chamfer_c()
        elif kind == "drill_named":
            self._add(drill_named(at))
        elif kind in ("clearance", "tapping"):
            hole, said = hole_named(at, self.out)
            self.said += said
            self._add(hole)
            self._add(Item("holes", text="HOLE", column=hole.column))
        elif kind == "into":
            self.out += [Item("purpose", text=at.text, column=at.take().column), Item("holes", text="HOLE")]
        elif (kind == "soft" and at_an_angle(at, self.out)) or (kind in LATE and self._late_class()):
            return
        elif kind in THREADS:
            self._add(thread_named(at))
        elif kind == "total":
            self._add(total(at))
        elif kind == "minus":
            token = at.take()
            if at.sees("number") and not before_count(at):
                self._unread(token)
            else:
                self._add(Item("dash", text="-", column=token.column))
        else:
            token = at.take()
            self._add(Item(ITEM_KINDS.get(kind, kind), text=token.text, column=token.column))

    def _add(self, item: Item) -> None:
        if item.kind in SIZED and self.waiting:
            for mark in sorted(self.waiting):
                item = limited(item, mark) or item
            self.waiting = set()
        self.out.append(item)

    def _unread(self, token: Token) -> None:
        self.out.append(Item("unread", text=token.text, column=token.column))

    def _last(self) -> Item | None:
        return self.out[-1] if self.out else None

    # sizes ---------------------------------------------------------------------------------------
    def _bracketed(self) -> bool:
        """``(50)`` and ``[30]``: for reference, basic; ``(⌀38)``, ``(30°)``, ``[⌀96]``, ``(R5)`` too."""
        at = self.at
        if at.sees("shut") and at.place in self.dropped:
            at.take()
            return True
        if not at.sees("open", "bracket"):
            return False
        if at.sees("open") and same_drill(at, self.out):
            return True
        if at.sees("open") and (end := worked_in_brackets(at, self.out)):
            self.dropped.add(end)
            under = at.sees_kind(1) == "diameter"  # M6 x 12 (⌀5 x 16): its drill
            self._add(Item("slash" if under else "sep", text="/" if under else ",", column=at.take().column))
            return True
        mark = "ref" if at.sees("open") else "basic"
        shut = "shut" if mark == "ref" else "unbracket"
        place, kept, waiting = at.place, len(self.out), self.waiting
        at.take()
        self.waiting = set()
        if at.sees(*SIGNS, "number", "angle", "chamfer_c"):
            self._next()
            one = len(self.out) == kept + 1 and self.out[-1].kind in SIZED
            if one and mark == "ref" and at.sees("ref") and at.sees_kind(1) == shut:
                at.take()  # (48 REF)
            if one and at.sees(shut):
                at.take()
                self.waiting = waiting
                item = self.out.pop()
                if (said := same_in_brackets(self.out, item, self.unit)) is not None:
                    self.said += said
                    self._suffix()
                    return True
                whole = mark == "ref" and whole_in_brackets(self.out, item)
                self._add(replace(item, kind="total") if whole else with_mark(item, mark))
                self._suffix()
                return True
        elif at.sees(*BRACKETED) and at.sees_kind(1) == shut:
            self.waiting = waiting
            self._next()  # (TYP), (THRU)
            at.take()
            return True
        at.place, self.waiting = place, waiting
        del self.out[kept:]
        self._unread(at.take())
        return True

    def _ball(self) -> None:
        """``⌀50 SPHERE``, ``SPHERE R25``: the round size beside the word is that of a sphere."""
        token, last = self.at.take(), self._last()
        if last is not None and (last.kind in ("dia", "radius") or (last.kind == "plain" and token.text == "BALL")):
            self.out[-1] = with_mark(replace(last, kind="radius" if last.kind == "radius" else "dia"), "spherical")
        elif self.at.kind in ("diameter", "radius") and self.at.sees_kind(1) == "number":
            self._signed()
            self.out[-1] = with_mark(self.out[-1], "spherical")
        else:
            self._unread(token)

    def _number(self) -> None:
        at = self.at
        past_one_side(at)
        token = at.token
        size = at.written()
        item = self._sized("plain", size, token, signed=False)
        self._add(item)
        self._suffix()

    def _sized(
        self, kind: str, size: Written, token: Token, *, signed: bool, marks: frozenset[str] = frozenset()
    ) -> Item:
        at = self.at
        found = tolerance_after(at, size, signed=signed, classed=kind not in UNCLASSED)
        value = size.mm
        if found is not None and found.nominal is not None:
            value = found.nominal
        ordinate = value == 0 and kind == "plain" and found is None and len(at.tokens) == 1
        if not ordinate:
            above_zero(value, token.column)
        far = 0.0 if found is None else max((found.high or value) - value, value - (found.low or value))
        if far > max(HALF * value, FAR_MM):
            raise NoteError("a deviation is larger than half its size", column=token.column, received=f"{far:g} mm")
        low, high, fit = (None, None, None) if found is None else (found.low, found.high, found.fit)
        if found is not None and found.said:
            self.said.append(found.said)
        return Item(kind, value, token.text, low, high, fit, size.decimals, token.column, marks)

    def _signed(self) -> bool:
        """``⌀12``, ``R6``, ``SQ 25``, ``HEX 17 A/F``: a sign and its number."""
        at = self.at
        sign = at.token
        skip = 1
        if sign.kind == "hexagon" and at.sees_kind(1) == "flats":
            skip = 2
        while at.sees_kind(skip) == "soft" and at.peek(skip).text.upper() in ("OF", "TO"):
            skip += 1
        if sign.kind == at.sees_kind(skip) == "diameter" and at.sees_kind(skip + 1) == "number":
            skip += 1  # OD ⌀8
        if at.sees_kind(skip) == "typ" and at.sees_kind(skip + 1) == "number":
            self._add(Item("typ", text=at.peek(skip).text, column=at.peek(skip).column))
            skip += 1  # R TYP 3
        if at.sees_kind(skip) in ("max", "min") and at.sees_kind(skip + 1) == "number":
            self.waiting.add(at.sees_kind(skip))
            skip += 1
        basic = at.sees_kind(skip) == "bracket" and at.sees_kind(skip + 1) == "number"
        if (at.sees_kind(skip) != "number" and not basic) or (bool(self.out) and count_behind_word(at)):
            at.take()
            last = self._last()
            if sign.kind in ("hexagon", "flats") and last is not None and last.kind == "hexagon":
                return True  # HEX 17 A/F
            sized = last is not None and last.kind in ("dia", "circle", *WIDENINGS)
            if sign.kind == "diameter" and (sized or [i.kind for i in self.out[-2:]] == ["dia", "outside"]):
                return True  # the word said twice; ⌀120 FLANGE OD
            self._unread(sign)
            if len(at.tokens) == 1:
                raise NoteError("the note stops too early", column=sign.column + len(sign.text), hint="a number")
            return True
        at.place += skip + basic
        token = at.token
        no_pipe(at, sign, self.unit)
        size = at.written()
        marks = frozenset({"spherical"}) if sign.kind.startswith("spherical") else frozenset()
        item = self._sized(signed_as(sign.kind, self.out), size, token, signed=True, marks=marks)
        if basic and at.sees("unbracket"):
            at.take()
            item = replace(item, marks=item.marks | {"basic"})
        self._add(item)
        self._suffix()
        return True

    def _suffix(self) -> None:
        """Words and marks behind a size: ``12 DIA``, ``8 WIDE``, ``12 DEEP ±0.2``, ``3 R``, ``25 SQ``, ``17 A/F``."""
        at = self.at
        while self.out and self.out[-1].kind in SIZED:
            item = self.out[-1]
            after = at.sees_kind(1)
            behind = item.kind == "plain" and at.kind in SIGNS and (
                after != "number" or (not at.token.gap and at.peek(1).gap) or at.text.upper()[:1] in "DRSAH"
                or word_behind(at)
            )  # fmt: skip
            ahead = at.text == "R" and at.token.gap and after == "number" and not at.peek(1).gap  # 20 R3
            if behind and not ahead:
                sign = at.take()
                marks = item.marks | ({"spherical"} if sign.kind.startswith("spherical") else set())
                self.out[-1] = replace(item, kind=signed_as(sign.kind, self.out), marks=marks)
                self._more(signed=True)
            elif (item.kind == "hexagon" and at.sees("hexagon", "flats")) or (
                item.kind == "square" and at.sees("flats")
            ):
                at.take()
            elif (
                item.kind == "plain"
                and at.kind in ROLES
                and at.text != "↧"
                and (after != "number" or at.sees_kind(2) in ROLES or self._closed())
            ):
                word = at.take()
                marks = item.marks | said_along(word)
                self.out[-1] = replace(item, kind=ROLES[word.kind], marks=marks)
                self._more(signed=False)
            elif item.kind == "hexagon" and at.sees("square"):
                at.take()  # 25 A/F SQUARE
                self.out[-1] = replace(item, kind="square")
            elif item.kind == "plain" and at.sees("purpose", "outside") and after in ("diameter", "radius"):
                if at.sees_kind(2) == "number":
                    return
                self.out[-1] = replace(item, kind=SIGNS[after])  # 40 FLANGE DIA, 3 BEND RADIUS
                self.out.append(Item(at.kind, text=at.text, column=at.token.column))
                at.place += 2
                return
            elif item.kind == "dia" and after == "number" and word_behind(at, twice=False):
                at.take()  # ⌀40 ID 2 PLACES
            elif item.kind == "dia" and at.sees("spherical") and after != "number":
                at.take()  # ⌀20 SPHERICAL DIA
                self.out[-1] = with_mark(item, "spherical")
            elif item.kind == "hexagon" and at.text.upper().endswith("FLATS"):
                at.take()  # 14 A/F FLATS, 14 A/F 2 FLATS: two, not six
                self.out[-1] = replace(item, kind="plain")
            elif item.kind in ("thick", "depth") and at.sees(item.kind) and at.text != "↧" and after != "number":
                at.take()  # PLATE 10 THICK, ↧15 MIN FULL THREAD
            else:
                return

    def _closed(self) -> bool:
        """Whether the number behind a word is another's: ``8 WIDE 4 DEEP``, ``16 DEEP 2 PLACES``."""
        if "DEPTH" not in self.at.text.upper():
            worked = [i.kind in OPERATIONS for i in self.out[-2:-1]] == [True]  # DRILL 3.3 DEEP 14
            return not (worked and self.at.sees_kind(2) in ("end", "newline", "separator", "tap"))
        return self.at.sees_kind(2) in ("counted", "cross", "equally", *ROLES)

    def _more(self, *, signed: bool) -> None:
        """A tolerance behind the word: ``12 DEEP ±0.2``, ``20 DIA k6``."""
        item = self.out[-1]
        stacked = self.at.sees("newline") and self.at.sees_kind(1) in ("plus", "minus")
        if item.toleranced or (self.at.sees("newline", "slash") and not stacked):
            return
        size = Written(item.value, item.decimals, factor_of(self.unit))
        found = tolerance_after(self.at, size, signed=signed, classed=item.kind not in UNCLASSED)
        if found is not None:
            value = item.value if found.nominal is None else found.nominal
            self.out[-1] = replace(item, value=value, low=found.low, high=found.high, fit=found.fit)

    def _role(self) -> bool:
        """``DEPTH 12``, ``WIDTH 8``: the word before its number."""
        at = self.at
        skip = 1
        while at.sees_kind(skip) == "soft" and at.peek(skip).text.upper() in ("OF", "TO"):
            skip += 1
        while at.sees_kind(skip) in ("max", "min"):
            self.waiting.add(at.sees_kind(skip))
            skip += 1
        if at.sees_kind(skip) != "number" or at.sees("apart", "from") or (self.out and counted_at(at, skip)):
            if skip > 1 and self.waiting:
                self.waiting.clear()
            if at.sees("depth") and at.sees_kind(1) == "end" and self._last() is None:
                raise NoteError("the note stops too early", column=at.column, hint="a number")
            return False
        marks = said_along(at.token) & {"overall", "thread"}
        kind = "thick" if "overall" in marks else ROLES[at.kind]
        at.place += skip
        token = at.token
        size = at.written()
        self._add(self._sized(kind, size, token, signed=False, marks=marks & {"thread"}))
        self._suffix()
        return True

    def _mark(self) -> None:
        """MAX, MIN, REF ... to the size before, else to the one behind."""
        token = self.at.take()
        if token.kind in ("typ", "nominal"):
            self._add(Item(token.kind, text=token.text, column=token.column))
            return
        back = marked_place(self.out, token.kind)
        ahead = self.at.kind in (*SIGNS, *ROLES, "number", "angle", "bracket")
        if back >= 0 and self.out[back].kind in SIZED and not (ahead and self._prefixed):
            marked = limited(self.out[back], token.kind)
            if marked is not None:
                self.out[back] = marked
                pair(self.out, back)
                if back == len(self.out) - 1:
                    self._suffix()  # 25 MIN DEEP
                return
        if back >= 0 and self.out[back].kind == "thread" and token.kind == "ref":
            self.out[back] = replace(self.out[back], marks=self.out[back].marks | {"ref"})
        elif ahead and token.kind in ("max", "min", "basic", "ref"):
            self.waiting.add(token.kind)
            self._prefixed = True
        else:
            self._unread(token)

    _prefixed = False

    def _late_class(self) -> bool:
        """``⌀12 REAM H7``, ``⌀8 THRU H7``, ``⌀8 DOWEL HOLE H7``: a class behind the words of its hole."""
        back = classed_place(self.out, whole=self.at.kind == "fit")
        if back < 0:
            return False
        between, place = self.out[back + 1 :], self.at.place
        del self.out[back + 1 :]
        self._more(signed=True)
        self.out += between
        return self.at.place > place

    # others ----------------------------------------------------------------------------------------
    def _chamfer_c(self) -> None:
        token = self.at.take()
        value, decimals = plain_number(token.text[1:].strip(), token.column)
        factor = factor_of(self.unit)
        above_zero(value, token.column)
        size = Written(value * factor, decimals, factor)
        self._add(replace(self._sized("chamfer_c", size, token, signed=True), value=value * factor))
