"""Counts: ``4X``, ``4 HOLES``, ``(4)``, ``4-``, ``QTY 4``; and whether a number and an X are a count or a size.

``2X 20`` counts by the way it is written (the X at its number, a gap behind it), ``2 x 1`` is two sizes; what can be
read either way is refused with both ways to write it.
"""

from __future__ import annotations

import itertools
import re

from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.items import Item, NoteError, degrees, plain_number
from lathed_solid.notation.kinds import OPERATIONS, ROLES, SIGNS, THREADS
from lathed_solid.notation.tokens import Token
from lathed_solid.quantity.tolerances import ROUNDING

WIDENINGS = ("cbore", "csk", "spotface", "cdrill")
FEATURES = ("keyway", "groove", "slot", "centre", "ring", "undercut", "knurl")
WORDS = {"ONE": 1, "TWO": 2, "THREE": 3, "FOUR": 4, "FIVE": 5, "SIX": 6, "SEVEN": 7, "EIGHT": 8, "NINE": 9, "TEN": 10,
         "TWELVE": 12}  # fmt: skip
#: so many are counted before a word that tells what a size is of; such words
FEW, BEFORE = 12, ("wide", "long", "thick", "outside", "min", "max")
#: what is counted by its name
NAMED = frozenset({"slot", "groove", "keyway", "pocket", "round", "chamfer"})
#: what follows a count and an X
COUNTABLE = (*SIGNS, *THREADS, *OPERATIONS, *WIDENINGS, *FEATURES, "chamfer_c", "chamfer", "round", "total", "counted",
             "equally", "drill_named", "clearance", "pocket", "frame", "profile")  # fmt: skip
#: what a count and a dash may stand before
BEHIND_DASH = (*SIGNS, *THREADS, *OPERATIONS, "chamfer_c", "centre")
HOLES = re.compile(r"HOLE|HLS?\b")
#: several, and how many at most are counted by a bare number
HOLES_MANY, COUNTED_MOST = re.compile(r"HOLES\b|HLS\b", re.I), 60
SPACES = re.compile(r"SPACES?\b")
COUNT_LIMIT = 500
#: the legs of a chamfer are no further from each other than this
UNLIKE = 4.0


def count_at(at: Cursor, out: list[Item]) -> bool:
    """``4X``, ``4 HOLES``, ``(4)``, ``4-``, ``QTY 4``, ``4 EQUI-SPACED HOLES``, ``FOUR HOLES``; moves past it."""
    if at.sees("rows"):
        token = at.take()
        rows, each = re.split(r"\s+ROWS\s+(?:OF|X)\s+", token.text.upper())
        _add(out, token, (WORDS.get(rows) or int(rows)) * int(each), said="PLACES")
        return True
    if at.sees("count_qty"):
        token = at.take()
        word = token.text.split()[0].upper()
        digits = re.search(r"\d+", token.text)
        _add(
            out,
            token,
            int(digits[0]) if digits else WORDS[word],
            said=token.text.upper() if word in WORDS or HOLES.search(token.text.upper()) else "PLACES",
        )
        return True
    line = itertools.takewhile(lambda i: i.kind != "sep", reversed(out))
    if at.sees_kind(1) == "counted" and [i.kind for i in line] == ["cross", "thread", "count"]:
        return False  # THREE M8 x 16 HOLES
    bracketed = at.sees("open") and at.sees_kind(1) == "number" and at.peek(1).text.isdigit()
    number = at.peek(1) if bracketed else at.token
    if number.kind != "number" or not number.text.isdigit() or len(number.text) > 3:
        return False
    if bracketed:
        return _in_brackets(at, out, number)
    if at.sees_kind(1) == "cross":
        return _and_cross(at, out, number)
    row = [at.sees_kind(k) for k in (2, 3)] == ["number", "total"]
    if at.peek(1).text == "@" and (row or at.sees_kind(2) == "angle"):
        at.place += 2  # 3 @ 20 = 60
        _add(out, number, int(number.text), said="")
        return True
    after, said, equally = 1, "", False
    named = at.peek(1).text.upper()
    many = at.sees_kind(1) in NAMED and named.endswith("S") and named != "RECESS" and not named.startswith("ALL ")
    if at.sees_kind(1) == "purpose" and at.sees_kind(2) == "counted":
        out.append(Item("purpose", text=at.peek(1).text, column=at.peek(1).column))
        after, said = 3, at.peek(2).text.upper()  # 2 DOWEL HOLES
    elif many and (at.sees_kind(1) != "round" or _with_size(at, number)):
        pass  # 2 SLOTS 8 x 30, 4 CORNERS R6, 4 CORNERS 5 x 45°
    elif at.sees_kind(1) == "round" and _behind_radius(at, out):
        said, after = "PLACES", 2  # R6 TYP 4 CORNERS
    elif at.sees_kind(1) == "tap" and "HOLE" in at.peek(1).text.upper():
        said = "HOLES"  # 4 TAPPED HOLES M8
    elif at.sees_kind(1) in ("counted", "equally"):
        words, after = "", 1
        while at.sees_kind(after) in ("counted", "equally"):
            words, after = words + at.sees_kind(after) + at.peek(after).text.upper(), after + 1
        if "counted" not in words and at.sees_kind(after) not in ("slot", "groove", "keyway"):
            return False  # 3 EQ SPACED SLOTS are counted
        equally = "equally" in words or "EQUI" in words
        said = words
    elif at.sees_kind(1) == "through_all" and "HOLES" in at.peek(1).text.upper():
        said = "HOLES"  # 6 THRU HOLES ⌀5.5
    elif at.sees_kind(1) in OPERATIONS and at.sees_kind(2) == "counted" and HOLES.search(at.peek(2).text.upper()):
        said = "HOLES"  # 4 REAMED HOLES ⌀8 H7
    elif _before_holes(at, number):
        said = "HOLES"  # 4 M6 TAPPED HOLES, 2 ⌀10 H7 HOLES
    elif at.sees_kind(1) in ("drill_named", "clearance"):
        pass  # 4 NO. 7 DRILL, 4 CLEARANCE HOLES FOR M6
    elif at.sees_kind(1) == "minus" and (at.sees_kind(2) in BEHIND_DASH or _of_fractions(at)):
        after = 2  # 4-⌀6.6
    else:
        return False
    if out and out[-1].kind == "cross":
        out.pop()  # THRU X 4 PLACES
        either = len(out) == 1 and out[0].kind == "plain" and out[0].text.isdigit() and number.text != "1"
        if either and HOLES.search(said):
            raise NoteError("so many holes of this size, or the other way round: this can be read either way",
                            column=out[0].column, received=f"{out[0].text} x {number.text} HOLES",
                            hint=f"{out[0].text}X ⌀{number.text}, or {number.text}X ⌀{out[0].text}")  # fmt: skip
    at.place += after
    if SPACES.search(said) and not (at.sees("soft") and at.text.upper() == "ON"):
        said = "PLACES"
    _add(out, number, int(number.text), said=said)
    if equally:
        out.append(Item("equally", text="EQ SP", column=number.column))
    return True


def _with_size(at: Cursor, number: Token) -> bool:
    """Whether the word for edges behind a count has its size: ``4 FILLETS 6``. Raises NoteError for ``4 CORNERS 6``."""
    bare = at.sees_kind(2) == "number" and at.sees_kind(4) != "angle"
    if bare and "CORNER" in at.peek(1).text.upper():
        raise NoteError("a radius, or a chamfer: this can be read either way", column=number.column,
                        received=f"{number.text} {at.peek(1).text} {at.peek(2).text}",
                        hint=f"R{at.peek(2).text}, or {at.peek(2).text} x 45°")  # fmt: skip
    return at.sees_kind(2) in ("radius", "number")


def _before_holes(at: Cursor, number: Token) -> bool:
    """Whether a bare number stands before a thread or a diameter of HOLES, which it counts."""
    if at.sees_kind(1) not in (*THREADS, "diameter") or not at.peek(1).gap or int(number.text) > COUNTED_MOST:
        return False
    ahead = 2
    while at.sees_kind(ahead) not in ("end", "newline", "separator"):
        if at.sees_kind(ahead) in ("counted", "tap", "through_all") and HOLES_MANY.search(at.peek(ahead).text):
            return ahead == 3 or not at.peek(ahead - 1).text.isdigit()
        ahead += 1
    return False


def _behind_radius(at: Cursor, out: list[Item]) -> bool:
    """Whether CORNERS are those of the radius or the chamfer before."""
    sized = next((i for i in reversed(out) if i.kind not in ("typ", "sep", "soft")), None)
    corners = at.peek(1).text.upper().rstrip(".") in ("CORNERS", "CNRS")
    return corners and sized is not None and sized.kind in ("radius", "chamfer_c", "angle")


def _of_fractions(at: Cursor) -> bool:
    """``2 - 1/4 DIA HOLES``: so many of a fraction; a deviation is no fraction with a word behind it."""
    return at.sees_kind(2) == "number" and "/" in at.peek(2).text and at.sees_kind(3) in ("diameter", *OPERATIONS)


def _add(out: list[Item], token: Token, count: int, *, said: str) -> None:
    """``said``: the words that stand with it; HOLES says what is counted."""
    if not 1 <= count <= COUNT_LIMIT:
        raise NoteError("a count goes from 1 to 500", column=token.column, received=count)
    line = list(itertools.takewhile(lambda i: i.kind != "sep", reversed(out)))
    named = [i for i in line if i.kind == "holes"]
    if len(named) == 1 and all(i.kind == "purpose" for i in line if i is not named[0]):
        out.remove(named[0])  # DOWEL HOLES 3 OFF ⌀6.6, HOLES B 3 x ⌀6.6
        said = "HOLES"
    out.append(Item("count", count, text=_counted(said), column=token.column))


def _counted(said: str) -> str:
    """What is counted."""
    return "" if not said else "holes" if HOLES.search(said) else "spaces" if SPACES.search(said) else "places"


def _in_brackets(at: Cursor, out: list[Item], number: Token) -> bool:
    """``(5) .31 DRILL``; ``(50)`` is a reference."""
    counted = at.sees_kind(2) in ("counted", "cross") and at.sees_kind(3) == "shut"
    bare = at.sees_kind(2) == "shut" and (
        at.sees_kind(3) in (*SIGNS, *THREADS, *OPERATIONS, "chamfer_c", "counted", "drill_named")
        or (at.sees_kind(3) == "number" and at.sees_kind(4) in ("drill", "ream", "bore", "diameter"))
    )
    if at.sees_kind(2) == "shut" and not out and int(number.text) <= FEW:
        bare = at.sees_kind(3) not in ("end", "newline", "separator", "cross", "plus_minus", "plus", "minus", "slash")
    if at.sees_kind(2) == "shut" and out and out[-1].kind == "holes":
        bare = True  # HOLES (6)
    behind = at.sees_kind(2) == "shut" and at.sees_kind(3) in ("through_all", "depth") and _of_size(out, number)
    if not counted and not bare and not behind:
        return False
    said = "PLACES" if behind else at.peek(2 if counted else 3).text.upper()
    at.place += 4 if counted else 3
    if bare and at.sees("counted"):
        at.take()
        counted = True
    _add(out, number, int(number.text), said=said if counted or behind else "")
    return True


def _of_size(out: list[Item], number: Token) -> bool:
    """``⌀11 (4) THRU``: whether a number in brackets counts the holes of the size before; one near that size (mm) tells
    it again.
    """
    size, count = out[-1] if out else None, int(number.text)
    return size is not None and size.kind in ("dia", "thread") and count <= FEW and abs(size.value - count) > 1.0


def _and_cross(at: Cursor, out: list[Item], number: Token) -> bool:
    """Whether ``n X`` counts what follows, or is a size and an X."""
    after = at.sees_kind(2)
    counts = (
        after in (*COUNTABLE, "end", "newline")
        or (after == "soft" and at.peek(2).text.upper() in ("ON", "∠"))
        or (after == "radius")
        or (after == "long" and at.sees_kind(3) == "number" and _few_named(number, out))  # 4 x BOLT CENTRES 60
        or (after in ("purpose", *BEFORE) and _few(at, number))  # 2X DOWEL ⌀8, 2X RIB 8 THICK
        or (after in ("purpose", "outside") and _few_named(number, out))  # 2 x BOSS ⌀25
        or (after == "number" and bool(out) and out[-1].kind == "equally")
        or (after == "open" and at.sees_kind(3) in ("diameter", "number", "angle"))
        or (after == "angle" and _counts_angles(at, number))
        or (after in ("number", "bracket") and _counts_sizes(at))
    )
    if after in ("end", "newline") and not out:
        counts = True
    if counts and _in_feature(out, after):
        counts = False
    if not counts:
        return False
    at.place += 2
    said = "PLACES" if after in ("end", "newline") or at.text.upper() == "ON" else ""
    while at.sees("counted"):
        said += at.take().text.upper()
    _add(out, number, int(number.text), said=said)
    return True


def _in_feature(out: list[Item], after: str) -> bool:
    """``GROOVE 4 X ⌀20``: what stands before the X is the groove's width."""
    feature = bool(out) and out[-1].kind in ("keyway", "groove", "slot", "pocket")
    return feature and after in ("diameter", "number", "radius")


def _counts_angles(at: Cursor, number: Token) -> bool:
    """``3 x 120°``, ``6X 60°``, ``2X 30° ±1°`` count; ``2 x 45°`` is a chamfer; ``2X 45°`` may be either."""
    each, n = degrees(at.peek(2).text), int(number.text)
    tight = not at.peek(1).gap and at.peek(2).gap
    if at.sees_kind(3) in ("chamfer", "breaks"):
        return [at.sees_kind(k) for k in (4, 5)] == ["cross", "number"]  # 2X 30° CHAMFER x 3
    if at.sees_kind(3) == "total":
        return True  # 8 x 45° (=360°)
    if n == 1:
        return False
    if at.sees_kind(3) == "cross" and at.sees_kind(4) == "number":
        return True  # 2X 45° X .03
    ambiguous = each == 45 and n <= 5 and (tight or at.sees_kind(3) == "plus_minus")
    if ambiguous:
        raise NoteError("a chamfer or so many places: this can be read either way", column=number.column,
                        received=f"{n}X 45°", hint=f"{n} x 45° CHAMFER, or {n} PLACES 45°")  # fmt: skip
    if each >= 90 or at.sees_kind(3) == "plus_minus" or (n > 2 and abs(n * each - 360) < 1e-9 and each != 45):
        return True
    return tight


def _counts_sizes(at: Cursor) -> bool:
    """``2X 20``, ``5 x .31 DIA``, ``2x 1x45°`` count; ``3 x 1.5`` is two sizes."""
    tight = not at.peek(1).gap and at.peek(2).gap
    if at.sees_kind(2) == "bracket":
        return tight
    after = at.sees_kind(3)
    if after == "open" and [at.sees_kind(k) for k in (4, 5)] == ["number", "shut"]:
        whole = abs(int(at.text) * plain_number(at.peek(2).text)[0] - plain_number(at.peek(4).text)[0]) < ROUNDING
        return whole or (tight and _few(at, at.token))
    each = at.peek(2).text
    if after == "total" and int(at.text) > FEW and each.isdigit() and 1 < int(each) <= FEW:
        raise NoteError("so many of this, or the other way round: this can be read either way", column=at.column,
                        received=f"{at.text} x {each}",
                        hint=f"{each} x {at.text}, or {at.text} SPACES OF {each}")  # fmt: skip
    if after in ("diameter", *OPERATIONS, "radius", "total") or (after == "open" and at.sees_kind(4) == "total"):
        return True
    if after == "unit" and at.sees_kind(4) in ("diameter", *OPERATIONS):
        return True
    if after == "cross":  # 2x 1x45°, 2X 8 x 4 x 30 KEYWAY
        return tight or at.sees_kind(4) == "angle"
    if after == "slot" and at.peek(3).text.upper().endswith("S") and int(at.text) <= FEW:
        if plain_number(at.peek(2).text)[0] < int(at.text) or tight:
            return True  # 2 X .25 SLOTS
        raise NoteError("so many slots, or a slot's width and length: this can be read either way", column=at.column,
                        received=f"{at.text} x {at.peek(2).text}", hint="2X 8 WIDE SLOT, or SLOT 2 x 8")  # fmt: skip
    legs = sorted((plain_number(at.text)[0], plain_number(at.peek(2).text)[0]))
    if tight and after == "chamfer" and legs[1] > UNLIKE * legs[0]:
        return True
    if tight and after == "chamfer":
        raise NoteError("two legs, or so many places: this can be read either way", column=at.column,
                        received=f"{at.text}X {at.peek(2).text} CHAMFER", hint="2 PLACES, or 2 x 1")  # fmt: skip
    if tight and after in ("keyway", "groove") and at.sees_kind(4) in ("end", "newline"):
        raise NoteError("width and depth, or so many: this can be read either way", column=at.column,
                        received=f"{at.text}X {at.peek(2).text}", hint="2 KEYWAYS 8 WIDE, or 8 x 4 DEEP")  # fmt: skip
    return tight


def _few(at: Cursor, number: Token) -> bool:
    """``2X`` before a word: no size has its X so near."""
    return int(number.text) <= FEW and not at.peek(1).gap and at.peek(2).gap


def _few_named(number: Token, out: list[Item]) -> bool:
    """A few of what has a name, at the beginning of a line: no size stands before it."""
    return int(number.text) <= FEW and (not out or out[-1].kind == "sep")


def counted_at(at: Cursor, skip: int) -> bool:
    """``16 DRILL DEPTH 2 PLACES``: the number behind the word, so many ahead, is a count."""
    number, word = at.peek(skip), at.peek(skip + 1)
    return word.kind == "counted" and number.text.isdigit() and HOLES.search(word.text.upper()) is None


def _diameter_word(at: Cursor) -> bool:
    """DIA, OD, ID, no sign."""
    return at.kind == "diameter" and at.text[:1].isalpha()


def word_behind(at: Cursor, *, twice: bool = True) -> bool:
    """``40 ID 2 PLACES``, ``40 OD 20 ID``: a word for a diameter before a number that has a word of its own.

    ``twice``: such a word behind that number too counts as its own.
    """
    word = _diameter_word(at) and at.sees_kind(1) == "number"
    own = at.sees_kind(2)
    return word and (
        own in ("counted", "depth", *ROLES) or (twice and own == "diameter" and at.sees_kind(3) != "number")
    )


def count_behind_word(at: Cursor) -> bool:
    """``⌀120 FLANGE OD 2 PLACES``, ``TAPER 1:16 ON DIA 2 PLACES``: the number behind the word is a count."""
    return _diameter_word(at) and counted_at(at, 1)


def before_count(at: Cursor) -> bool:
    """Whether a dash stands before ``4 HOLES``, ``4X``."""
    counted = at.text.isdigit() and at.sees_kind(1) in ("counted", "equally", "cross")
    ahead = 1
    while at.sees_kind(ahead) in ("plus", "minus", "plus_minus", "slash", "number") and ahead < 7:
        ahead += 1
    return counted or at.sees_kind(ahead) in ("depth", "long", "wide")  # DRILL 6 - 12 DEEP
