"""Sizes that are said twice (``20 x 20 SQ``) or by halves (``ON R25``), and signs that mean two things (``R 1/2``)."""

from __future__ import annotations

import itertools
import math
import re
from collections.abc import Sequence

from lathed_solid.notation.clauses import Clause, Entry, Thread
from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.items import Item, NoteError, above_zero, degrees, factor_of, plain_number
from lathed_solid.notation.tokens import NUMBER, Token
from lathed_solid.notation.word_files import names_of
from lathed_solid.quantity import LengthUnit

#: no chamfer is as steep, degrees
STEEP = 90.0
#: what is round, so that a size of it may be its diameter; items that say which way a size runs
_ROUND = f"{names_of('round')}|TURN|TURNED"
ROUND = re.compile(rf"\b(?:{_ROUND})S?\b", re.I)
#: these too are mostly round, and as often told by their lengths
ROUNDED = re.compile(
    rf"\b(?:{_ROUND}|BOSS|SPIGOT|COLLAR|HUB|SHANK|STEM|REGISTER|JOURNAL|NECK|HEAD|DIS[CK]|PEG"
    r"|STUD|RIM|FLANGE|SHOULDER|PILOT|TRUNNION)(?:E?S)?\b", re.I
)  # fmt: skip
ALONG = frozenset({"long", "wide", "thick", "depth", "apart", "from", "square", "flats", "hexagon"})
#: what a clause says of its depth
DEPTH = ("depth_mm", "depth_decimals", "depth_low_mm", "depth_high_mm", "depth_to", "point_deg")
#: said of a number behind a diameter's X
CROSSED = "taken as its depth"
#: clauses that stand beside a size
BESIDE = frozenset({"frame", "datum", "texture", "instruction"})
#: words of a hole that is no step of another
CROSSING = frozenset({"CROSS", "RADIAL"})
#: of one that is, or that goes on narrower
STEPS = frozenset({"STEPPED", "THEN"})
#: a flat is no smaller, mm
LEAST = 0.1
#: what is turned and then ground, and of which share of a size no more is left for that
GROUND = re.compile(r"[ ]*TURN(?:ED)?\b.*\b(?:GRIND|GROUND|LAP|HONE|POLISH).*", re.I | re.S)
STOCK = 0.05
GRIND = re.compile(r"\bGRIND[ ]+TO\b", re.I)


def past_one_side(at: Cursor) -> None:
    """Before ``20 x 20 SQ`` or ``2 x 2 x 45°``: past the first side, where both are the same."""
    kinds = tuple(at.sees_kind(k) for k in (1, 2, 3, 4))
    twice = kinds[:3] == ("cross", "number", "square") or kinds == ("cross", "number", "cross", "angle")
    if twice and at.value_at(0) == at.value_at(2):
        at.place += 2


def other_side_behind(at: Cursor, last: Item | None, unit: LengthUnit) -> bool:
    """Behind ``SQ 20``: past ``x 20``, where it is the same side."""
    if last is None or last.kind != "square" or at.sees_kind(1) != "number":
        return False
    if at.value_at(1) * factor_of(unit) != last.value:
        return False
    at.place += 2
    return True


def at_an_angle(at: Cursor, out: list[Item]) -> bool:
    """``2 AT 45°``: leg and angle of a chamfer; the word becomes their X."""
    if not out or out[-1].kind != "plain" or at.text.upper() != "AT" or at.sees_kind(1) != "angle":
        return False
    legs = degrees(at.peek(1).text) < STEEP  # 4 AT 90° are four
    if legs:
        out.append(Item("cross", text="x", column=at.take().column))
    return legs


def no_pipe(at: Cursor, sign: Token, unit: LengthUnit) -> None:
    """``R 1/2`` on a sheet in mm may be a radius or a taper pipe thread of ISO 7-1. Raises NoteError."""
    if unit == "in" or sign.kind != "radius" or "/" not in at.text or at.sees_kind(1) in ("inch", "unit"):
        return
    raise NoteError(
        "a radius in a fraction, or a taper pipe thread: this can be read either way", column=sign.column,
        received=sign.text + at.text, hint='R12.7, R1/2", or G1/2 for a parallel pipe thread',
    )  # fmt: skip


def on_radius(token: Token, unit: LengthUnit) -> list[Item]:
    """``ON R25``: the circle that holes stand on, by its radius."""
    number = re.search(NUMBER, token.text)
    assert number is not None
    value = plain_number(number[0], token.column)[0] * factor_of(unit)
    above_zero(value, token.column)
    return [Item("dia", 2 * value, token.text, column=token.column), Item("circle", text="BC", column=token.column)]


def many_behind(at: Cursor, out: list[Item]) -> bool:
    """``⌀4 HOLES x 6``: how many, not how deep; moves past it."""
    many, after = at.peek(1), at.sees_kind(2)
    if many.kind != "number" or not many.text.isdigit() or after in ("depth", "unit", "inch", "plus_minus", "cross"):
        return False
    if not 2 <= int(many.text) <= 100:
        return False
    out.append(Item("count", int(many.text), text="holes", column=many.column))
    at.place += 2
    return True


def bare_round(items: Sequence[Item], done: Sequence[Clause]) -> Sequence[Clause]:
    """``20k6 BEARING JOURNAL``: a size of what is round that has a class is its diameter. ``20 SHAFT``, ``TURN 20`` may
    be either. Raises NoteError.
    """
    sized = [c for c in done if c.kind not in BESIDE]
    lengths = [c for c in sized if c.kind == "length"]
    if len(lengths) != 1 or (len(sized) > 1 and not lengths[0].fit) or any(i.kind in ALONG for i in items):
        return done
    size = next((i for i in items if i.kind == "plain" and i.value == lengths[0].size_mm), None)
    if size is not None:
        _no_tiny_flat(size, items)
    said = next((i for i in items if i.kind in ("purpose", "outside", "turn") and ROUND.search(i.text)), None)
    if said is None or size is None:
        return done
    if size.fit is not None:
        across = lengths[0].model_copy(update={"kind": "diameter", "diameter_mm": size.value, "size_mm": None})
        return [across if c is lengths[0] else c for c in done]
    raise NoteError(
        f"a diameter, or a length along the {said.text.lower()}: this can be read either way", column=size.column,
        received=size.text, hint=f"⌀{size.text}, or {size.text} LONG",
    )  # fmt: skip


def _no_tiny_flat(size: Item, items: Sequence[Item]) -> None:
    """``.0005 FLAT`` is a flatness, or the size of a flat. Raises NoteError."""
    if size.value < LEAST and any(i.text.upper() == "FLAT" for i in items):
        raise NoteError("a flatness, or a flat's size: this can be read either way", column=size.column,
                        received=f"{size.text} FLAT", hint=f"FLATNESS {size.text}, or a FLAT's depth")  # fmt: skip


def boss_deep(items: Sequence[Item], unit: LengthUnit) -> None:
    """``SHOULDER ⌀44, DEPTH 15``: how long it is, or how deep a hole. Raises NoteError."""
    for k, item in enumerate(items[:-2]):
        bored = (items[k + 1].fit or "")[:1].isupper()  # REGISTER ⌀52 H7 x 4.5 DEEP
        if item.kind != "outside" or items[k + 1].kind != "dia" or bored:
            continue
        depth = items[k + 3] if items[k + 2].kind in ("sep", "cross") and len(items) > k + 3 else items[k + 2]
        if depth.kind == "depth" and depth.value and not items[k + 2].text.startswith("\n"):
            word, across = item.text.lower(), f"{items[k + 1].value / factor_of(unit):g}"
            raise NoteError(
                f"the depth of a hole, or a length along the {word}: this can be read either way", column=depth.column,
                received=f"{depth.text} deep", hint=f"{depth.text} LONG, or HOLE ⌀{across} x {depth.text} DEEP",
            )  # fmt: skip


def stepped(done: list[Clause], items: Sequence[Item], unit: LengthUnit) -> list[Clause]:
    """``⌀9 THRU, ⌀15 x 8.6 DEEP`` in one line: a counterbore, or another hole; where STEPPED is said, one hole of both.
    Raises NoteError.
    """
    for k, (one, two) in enumerate(itertools.pairwise(done)):
        if one.kind != "hole" or two.kind != "hole" or any(w is not None for w in (one.cbore, one.spotface, one.csk)):
            continue
        if one.depth_mm is not None and two.through:
            one, two = two, one  # ⌀25 H7 x 10, ⌀22 THRU
        size, deep, before = two.diameter_mm, two.depth_mm, one.depth_mm or math.inf
        if size is None or deep is None or one.diameter_mm is None or size <= one.diameter_mm or deep >= before:
            continue
        at = next((k for k, i in enumerate(items) if i.kind in ("dia", "plain") and i.value == size), 0)
        behind = [i for i in items[:at] if i.kind == "sep"]
        if any(i.text.upper() in CROSSING for i in items):
            continue
        said = {i.text.upper() for i in items[:at]} | ({"THEN"} & {i.text.upper() for i in items})
        if said & STEPS:
            return [*done[:k], _in_steps(one, two), *done[k + 2 :]]
        if (two.count or 1) == 1 and not (behind and behind[-1].text.startswith("\n")):
            factor = factor_of(unit)
            raise NoteError(
                "a counterbore, or another hole: this can be read either way", column=items[at].column,
                received=f"⌀{size / factor:g}", hint=f"⌴ ⌀{size / factor:g} ↧{deep / factor:g}, or a line for each",
            )  # fmt: skip
    return done


def _in_steps(hole: Clause, wider: Clause) -> Clause:
    """``STEPPED HOLE ⌀10 THRU, ⌀16 x 8``: the wider one as the counterbore."""
    entry = Entry(diameter_mm=wider.diameter_mm, diameter_low_mm=wider.low_mm, diameter_high_mm=wider.high_mm,
                  diameter_decimals=wider.decimals, depth_mm=wider.depth_mm, depth_low_mm=wider.depth_low_mm,
                  depth_high_mm=wider.depth_high_mm, depth_decimals=wider.depth_decimals)  # fmt: skip
    return hole.model_copy(update={"cbore": entry, "count": max(hole.count or 1, wider.count or 1)})


def turned_down(done: list[Clause], said: list[str], unit: LengthUnit) -> list[Clause]:
    """``⌀24 x 10, ⌀30 x 15``, ``HEX 24 A/F x 10, ⌀16 x 30``: depths, or lengths along a shaft. Raises NoteError.
    ``⌀50 x 8, 4 HOLES ⌀6.6 ON 38 PCD``: holes stand on what is so wide and long.
    """
    deep = [c for c in done if c.kind == "hole" and _crossed_alone(c)] if CROSSED in said else []
    if not deep:
        return done
    first = deep[0]
    across, long = first.diameter_mm or 0.0, first.depth_mm or 0.0
    if any(0.0 < (c.bolt_circle_mm or 0.0) < across for c in done):
        outside = first.model_copy(update={"kind": "diameter", "count": None, "through": None, **dict.fromkeys(DEPTH)})
        length = Clause(kind="length", size_mm=long, decimals=first.depth_decimals, low_mm=first.depth_low_mm,
                        high_mm=first.depth_high_mm)  # fmt: skip
        said[said.index(CROSSED)] = "taken as its length"
        at = done.index(first)
        return [*done[:at], outside, length, *done[at + 1 :]]
    crossed = any(s.startswith("cross") for s in said) and len(done) > 1  # ⌀6 x 25, CROSS DRILL ⌀3
    threads = (c.thread for c in done if c.thread is not None)
    barred = crossed or any(c.hexagon or c.square for c in done) or any(_no_hole(t, across) for t in threads)
    if len(deep) > 1 or barred:
        sizes = f"⌀{across / factor_of(unit):g} x {long / factor_of(unit):g}"
        raise NoteError("depths of holes, or lengths along a shaft: this can be read either way", received=sizes,
                        hint=f"{sizes} DEEP, or {sizes} LONG")  # fmt: skip
    return done


def _no_hole(thread: Thread, across: float) -> bool:
    """Whether a thread beside a diameter (mm) is that of a shaft, or in its end."""
    return not thread.internal or thread.major_mm < across


def _crossed_alone(clause: Clause) -> bool:
    """A blind hole that nothing but an X and a number makes one."""
    told = (clause.fit, clause.cbore, clause.csk, clause.spotface, clause.cdrill, clause.bolt_circle_mm)
    return bool(clause.depth_mm) and (clause.count or 1) == 1 and all(t is None for t in told)


def named_by_thread(done: Sequence[Clause], items: Sequence[Item]) -> None:
    """``DRILL M8`` is a hole for a screw, or for a tap; ``M8 WASHER`` is no thread. Raises NoteError."""
    if [i.kind for i in items] == ["thread", "purpose"] and "WASHER" in items[1].text.upper():
        raise NoteError("a thread, or a washer for it: this can be read either way", column=items[0].column,
                        received=items[0].text.split("|")[1], hint="M8, or the washer's own sizes")  # fmt: skip
    bare = [i for i in items if i.kind not in ("typ", "purpose")]
    if [i.kind for i in bare[1:]] == ["thread"] and bare[0].kind in ("drill", "ream", "bore") and len(done) == 1:
        thread = bare[1].text.split("|")[1]
        raise NoteError("a hole for a screw, or a tapped one: this can be read either way", column=bare[0].column,
                        received=f"{bare[0].text} {thread}", hint=f"TAP {thread}, or {thread} CLEARANCE")  # fmt: skip


def turned_first(text: str, done: Sequence[Clause]) -> tuple[Sequence[Clause], str]:
    """``TURN ⌀42.5, GRIND ⌀42 h5``: the ground size is the part's; and what was turned before, in words."""
    sized = [c for c in done if c.kind not in BESIDE]
    if [c.kind for c in sized] != ["diameter", "diameter"]:
        return done, ""
    rough, fine = (c.diameter_mm or 0.0 for c in sized)
    bare = sized[0].fit is None and sized[0].low_mm is None
    again = rough == fine and bare and GRIND.search(text)  # ⌀22, GRIND TO ⌀22 g6
    if not again and not (GROUND.fullmatch(text) and 0.0 < rough - fine < STOCK * fine):
        return done, ""
    return [c for c in done if c is not sized[0]], "" if again else "a size that is turned before it is ground"
