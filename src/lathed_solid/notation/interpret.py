"""From a note to clauses, by the order in which draughtsmen write.

Letters that look alike become one (``letters``), the text becomes words, signs and numbers (``tokens``), numbers get
their signs, tolerances and words (``phrases``), and the families of notes (``families``) make clauses of them. Every
word and every number ends in a clause or is kept as unread, with the nearest that could be; nothing is guessed.
"""

from __future__ import annotations

import re
from dataclasses import replace

from lathed_solid.notation.clauses import Clause, Instruction, Meaning
from lathed_solid.notation.either_way import (
    bare_round,
    boss_deep,
    named_by_thread,
    stepped,
    turned_down,
    turned_first,
)
from lathed_solid.notation.families import READS, Run
from lathed_solid.notation.families.circles import circle_before, take_circle
from lathed_solid.notation.families.pockets import pocket_ahead
from lathed_solid.notation.families.run import (
    OPERATIONS,
    WIDENINGS,
    Fields,
    Prefix,
    finish,
    of_a_step,
    once_around,
    own_limits,
    side_before,
)
from lathed_solid.notation.families.threads import read_hole
from lathed_solid.notation.families.turned import feature_ahead, read_feature
from lathed_solid.notation.families.widenings import USUAL_ANGLES, read_alone, screw_said, words_first
from lathed_solid.notation.german import in_english
from lathed_solid.notation.instructions import without_instructions
from lathed_solid.notation.items import Item, NoteError
from lathed_solid.notation.joining import joined
from lathed_solid.notation.letters import Letters, of_sizes, plain_letters
from lathed_solid.notation.lines import read_by_lines
from lathed_solid.notation.named import hole_for
from lathed_solid.notation.phrases import Phrases
from lathed_solid.notation.plain import describe
from lathed_solid.notation.spelling import nearest_words
from lathed_solid.notation.tokens import tokens
from lathed_solid.quantity import LengthUnit

MAX_NOTE = 500
#: of which a width is a length along the axis
RINGS = frozenset({"collar", "flange", "rim", "disc", "shoulder", "hub"})
#: of steels, EN 10027-2
MATERIAL_NUMBER = re.compile(r"1\.[0-9]{4}")


def read_note(text: str, unit: LengthUnit = "mm") -> Meaning:
    """The meaning of one drawing note. Raises NoteError (with a column) when it cannot be read at all."""
    if not text.strip():
        raise NoteError("the note is empty", hint="Ø12, 4X Ø6.6 THRU, R2, 1x45°")
    if len(text) > MAX_NOTE:
        raise NoteError(f"the note is longer than {MAX_NOTE} characters")
    letters = plain_letters(text)
    if "\n" in letters.text.strip():
        return read_by_lines(letters, lambda it: _read_letters(it, text, unit))
    return _read_letters(letters, text, unit)


def _read_letters(letters: Letters, text: str, unit: LengthUnit) -> Meaning:
    """The meaning of a note in plain letters. Raises NoteError."""
    instructions: list[Clause] = []
    if not of_sizes(letters.text):  # the patterns of the others take longer to make ready than such a note to read
        letters, instructions = without_instructions(in_english(letters), unit, text)
    phrases = Phrases(tokens(letters), unit)
    items = phrases.all()
    said = list(phrases.said)
    run = Run(unit, words_first(joined(items, said)), assumed=said)
    while not run.sees("end"):
        _clause(run)
    if run.elsewhere:
        run.unread.append("unless stated")
    run.done = turned_down(run.done, run.assumed, unit)
    boss_deep(items, unit)
    run.done = stepped(run.done, items, unit)
    named_by_thread(run.done, items)
    fine, said_of_it = turned_first(letters.text, run.done)
    if said_of_it:
        run.say(said_of_it)
    run.done = [*bare_round(items, fine), *instructions]
    if not run.done and (words := _words_alone(letters, text, run.unread)) is not None:
        run.done, run.unread, run.unread_at = [words], [], []
        run.say("words without a size: kept as they are written")
    unread = tuple(run.unread)
    if not run.done and not unread:
        raise NoteError("nothing in this note could be read", hint="Ø12, 4X Ø6.6 THRU, R2, 1x45°")
    meaning = Meaning(
        note=text, unit=unit, clauses=tuple(run.done), assumed=tuple(dict.fromkeys(run.assumed)), unread=unread,
        unread_at=tuple(run.unread_at),
        nearest=nearest_words(unread),
    )  # fmt: skip
    return meaning.model_copy(update={"plain": describe(meaning)})


def _words_alone(letters: Letters, text: str, unread: list[str]) -> Clause | None:
    """A note of two words and more that holds no number and no word of sizes, nor one that is nearly such a word."""
    found = tokens(letters)
    words = [t.text for t in found if t.kind == "unread"]
    strange = any(t.kind not in ("unread", "soft", "separator", "newline", "purpose", "outside") for t in found)
    strange = strange or any(t.kind == "purpose" and re.search(r"\d", t.text) for t in found)  # FOR M8
    if len(found) < 2 or not words or strange or not all(len(w) > 1 and w.isalpha() for w in words):
        return None
    if nearest_words(tuple(unread)):
        return None
    return Clause(kind="instruction", instruction=Instruction(what="work", text=" ".join(text.split())))


def _clause(run: Run) -> None:
    """One clause, or the items that begin none."""
    long = run.peek(1).kind == "long" or (run.peek(1).kind == "thick" and _bar(run)) or _ring_wide(run)
    if (
        _hexagon(run)
        and run.sees("cross")
        and run.peek(1).kind in ("plain", "depth")
        and run.peek(2).kind in ("end", "sep")
    ):
        run.items[run.at + 1] = replace(run.peek(1), kind="long")  # HEX 13 x 8
        run.say("taken as its length")
        long = True
    sided = run.sees("cross") and run.peek(1).kind in ("wide", "thick") and run.peek(1).value > 0
    block = sided and bool(run.done) and run.done[-1].kind in ("length", "knurl")  # KNURL RAA 1 x 16 WIDE
    long = long or block  # 120 LONG x 80 WIDE x 15 THICK
    if run.done and run.done[-1].kind == "length" and run.sees("cross") and run.peek(1).kind == "dia":
        run.take()  # 30 LONG x ⌀12
    if run.done and run.sees("cross") and (long or (run.peek(1).value and of_a_step(run))):
        run.take()  # KNURL RAA 0.8 x 20 LONG, FLAT 12 LG x 1 DP
    crossed = run.peek(-1).kind == "cross" and (run.sees("long", "wide") or block or of_a_step(run))
    fresh = run.at == 0 or run.peek(-1).kind == "sep" or crossed
    prefix = _prefix(run)
    item = run.peek()
    if item.kind in ("end", "sep"):
        if prefix.circle is not None and prefix == Prefix(circle=prefix.circle) and not run.done and not run.unread:
            run.say("the circle of holes that are not in this note")
            finish(run, {"kind": "diameter", "diameter_mm": prefix.circle.value, **own_limits(prefix.circle)}, Prefix())
        else:
            _leave_prefix(run, prefix)
        if item.kind == "sep":
            run.take()
        return
    fields = _read(run, prefix, item, fresh=fresh)
    if fields is None:
        _leave_prefix(run, prefix)
        return
    if "drill" in prefix.operations and fields["kind"] not in ("hole", "thread"):
        run.unread.append("drill")
    if "tap" in prefix.operations and fields["kind"] != "thread":
        run.unread.append("tap")
    if prefix.circle is not None and fields.get("bolt_circle_mm") != prefix.circle.value:
        run.unread.append(prefix.circle.text + " circle")
    if prefix.equally and "pattern" not in fields and not fields.get("equally"):
        run.unread.append("equally spaced")
    finish(run, fields, prefix)


def _prefix(run: Run) -> Prefix:
    """Count, DRILL, TAP, EQ SP and the like before a size."""
    prefix = Prefix()
    while True:
        item = run.peek()
        if item.kind == "count" and prefix.count is None:
            prefix.count = int(run.take().value)
            prefix.holes = prefix.holes or item.text == "holes"
            prefix.spaces = item.text == "spaces"
        elif prefix.circle is None and circle_before(run):
            prefix.circle = take_circle(run)
        elif item.kind in OPERATIONS:
            prefix.operations.append(run.take().kind)
        elif item.kind == "equally":
            run.take()
            prefix.equally = True
        elif item.kind == "elsewhere":
            run.take()
            run.elsewhere = True
        elif (
            item.kind == "sep"
            and not item.text.startswith("\n")
            and (prefix.count or prefix.operations or prefix.circle or run.elsewhere)
        ):
            run.take()
        elif item.kind == "holes" and (prefix.count or prefix.operations or run.peek(1).kind in ("dia", "thread")):
            run.take()
            prefix.holes = True
        elif (item.kind == "cross" and prefix.count) or (item.kind == "threaded" and run.peek(1).kind == "thread"):
            run.take()
        elif (
            item.kind == "through" and run.peek(1).kind == "dia" and (prefix.operations or "HOLE" in item.text.upper())
        ):
            run.items[run.at : run.at + 2] = [run.peek(1), item]  # THRU HOLES ⌀5.5, DRILL THRU ⌀5.5
            prefix.holes = True
        elif item.kind in ("inner", "outer", "hand") and run.peek(1).kind == "threaded":
            del run.items[run.at + 1]  # LEFT HAND THREAD M16
        elif item.kind in ("inner", "outer", "hand") and run.peek(1).kind == "thread":
            run.items[run.at : run.at + 2] = [run.peek(1), item]  # EXT THREAD M30 x 1.5
        elif item.kind == "typ":
            run.take()
            run.say("typical: holds at every like place")
        elif item.kind == "side" and ("NEAR" in item.text.upper() or "FAR" in item.text.upper()):
            run.say(" ".join(run.take().text.lower().split()))  # NEAR SIDE ONLY ⌀5 x 10
        elif side_before(run, prefix):
            prefix.side = run.take()
        else:
            return prefix


def _leave_prefix(run: Run, prefix: Prefix) -> None:
    words = [f"{prefix.count}X"] if prefix.count is not None else []
    if prefix.side is not None:
        run.leave(prefix.side)
    words += [prefix.circle.text + " circle"] if prefix.circle is not None else []
    words += [*prefix.operations, *(["equally spaced"] if prefix.equally else [])]
    run.unread += words


def _read(run: Run, prefix: Prefix, item: Item, *, fresh: bool) -> Fields | None:
    following = run.peek(1)
    if item.kind == "profile" and not (fresh or run.peek(-1).kind == "count"):
        run.leave(run.take())  # what stands before it is one of its sizes
        return None
    if item.kind in ("plain", "wide", "long") and pocket_ahead(run):
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind == "dia" and prefix.spaces and following.kind in ("end", "sep"):
        run.say(f"the circle of {prefix.count} spaces")  # 8 EQUAL SPACES ON ⌀90: it is one circle
        prefix.count, prefix.equally = None, False
        return {"kind": "diameter", "diameter_mm": run.take().value, **own_limits(item)}
    bored = following.kind == "sep" and bool(set(prefix.operations) & {"bore", "ream", "drill", "tap"})
    word = {"radius": "slot", "dia": "groove"}.get(item.kind)
    ends = any(i.kind == word for i in run.line())  # R4 x 20 CRS SLOT, ⌀26 x 1.3 GROOVE
    if not bored and (ends or item.kind in ("plain", "wide", "long", "depth", "thick")) and feature_ahead(run):
        return read_feature(run, prefix)
    around = once_around(prefix.count, item) and following.kind != "plain"
    if item.kind == "angle" and (prefix.holes or around) and following.kind == "apart" and not following.value:
        del run.items[run.at + 1]  # 3 HOLES 120° APART ⌀5
        following = run.peek(1)
    spaced = around and following.kind == "sep" and run.peek(2).kind in ("dia", "thread") and _on_circle(run)
    if item.kind == "angle" and spaced:
        del run.items[run.at + 1]  # 3 x 120°, ⌀6 x 10 DEEP, ON ⌀44 PCD
        following = run.peek(1)
    if item.kind == "angle" and (prefix.holes or around) and following.kind in ("dia", "plain", "thread"):
        if not once_around(prefix.count, item):
            run.leave(run.take())
            return None
        run.take()  # 3 HOLES AT 120° ⌀5
        run.say("equally spaced on the full circle")
        prefix.equally = True
        return _read(run, prefix, run.peek(), fresh=fresh)
    drilled = bool(set(prefix.operations) & {"drill", "ream", "bore"}) or prefix.holes
    ahead = 2 if following.kind == "sep" and following.text != "\n" else 1
    counted = run.peek(ahead).kind == "count" and run.peek(ahead).text == "holes"
    drilled = drilled or (counted and not run.opens(ahead + 1, line=False))
    if item.kind == "plain" and MATERIAL_NUMBER.fullmatch(item.text) and len(run.items) == 1 and run.unit == "mm":
        raise NoteError("a length, or the number of a material: this can be read either way", column=item.column,
                        received=item.text, hint=f"MATERIAL {item.text}, or {float(item.text):.3f}")  # fmt: skip
    if item.kind == "plain" and following.kind == "starts" and run.peek(2).kind == "thread":
        run.items[run.at : run.at + 3] = [run.peek(2), item, following]  # 2 START TR20x8 P4
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind == "plain" and _sized_behind(run):
        run.leave(run.take())
        return None
    widened = following.kind in WIDENINGS and not (item.value in USUAL_ANGLES and not item.decimals)
    again = "ref" in item.marks and not fresh  # ⌀25 (1") THRU
    worked = drilled or widened or following.kind in ("drill", "ream", "bore", "through", "holes")
    if item.kind == "plain" and worked and not again:
        return read_hole(run, prefix)
    if item.kind == "depth" and item.value and following.kind == "end" and run.at == 0:
        run.say("a depth by itself")
        run.items[run.at] = replace(item, kind="thick")
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind == "depth" and item.value and following.kind == "thread":
        run.items[run.at : run.at + 2] = [following, item]  # 20 FULL THREAD M12
        return _read(run, prefix, run.peek(), fresh=fresh)
    socket = _hexagon(run) and following.kind in ("end", "sep")
    if item.kind == "depth" and item.value and (of_a_step(run) or socket):
        run.items[run.at] = replace(item, kind="thick")  # FLAT 2 DEEP
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind == "depth" and item.value and following.kind in WIDENINGS:
        run.items[run.at : run.at + 2] = [following, item]  # 10 DEEP SPOTFACE ⌀30
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind == "depth" and item.value and (prefix.operations or not run.done):
        raise NoteError("a depth without a hole before it", column=item.column, hint="Ø5 ↧12")
    if item.kind == "included" and following.kind == "angle" and run.peek(2).kind not in ("csk", "cdrill"):
        run.items[run.at : run.at + 2] = [following, item]  # INCLUDED ANGLE 60°
        return _read(run, prefix, run.peek(), fresh=fresh)
    if item.kind in ("taper", "point") and following.kind == "angle":
        run.items[run.at : run.at + 2] = [following, item]  # TAPER 3°, POINT 120°
        return _read(run, prefix, run.peek(), fresh=fresh)
    screw = screw_said(run) if item.kind in ("cbore", "csk") and "drill" in prefix.operations else ""
    if screw and following.kind not in ("dia", "plain", "angle"):
        return _for_screw(run, prefix, screw)
    if item.kind == "angle" and following.kind in ("csk", "cdrill"):
        return read_alone(run, prefix)
    if item.kind == "through" and not run.done and not run.unread:
        raise NoteError("THRU without a size before it", column=item.column, hint="Ø6.6 THRU")
    if item.kind in ("plain", "depth", "long", "wide", "thick", "angle") and not _may_begin(
        run, item, prefix, fresh=fresh
    ):
        run.leave(run.take())
        return None
    read = READS.get(item.kind)
    if read is None:
        run.leave(run.take())
        return None
    return read(run, prefix)


def _for_screw(run: Run, prefix: Prefix, screw: str) -> Fields | None:
    """``DRILL & C'BORE FOR M8 CAP SCREW``: the hole is that of its screw. Raises NoteError for one without a table."""
    size, taken = hole_for(screw, "medium", run.peek().column)
    run.say(taken)
    run.items.insert(run.at, Item("dia", size))
    return read_hole(run, prefix)


def _bar(run: Run) -> bool:
    """Whether the last clause is the square or the hexagon of a bar: its length may stand behind."""
    return bool(run.done) and bool(run.done[-1].square or run.done[-1].hexagon)


def _hexagon(run: Run) -> bool:
    return bool(run.done) and bool(run.done[-1].hexagon)


def _ring_wide(run: Run) -> bool:
    """``COLLAR ⌀40 x 6 WIDE``: how long a ring is along the axis."""
    across = [c.kind for c in run.done[-1:]] == ["diameter"]
    return across and run.peek(1).kind == "wide" and bool(RINGS & set(run.assumed))


def _on_circle(run: Run) -> bool:
    """Whether a circle is told in this line."""
    return any(item.kind == "circle" for item in run.line())


def _sized_behind(run: Run) -> bool:
    """``3 x 6 HOLES ⌀4``: the holes have their size behind, so that a bare number before them is none."""
    ahead = 2 if run.peek(1).kind == "cross" else 1
    counted = run.peek(ahead)
    return counted.kind == "count" and counted.text == "holes" and run.peek(ahead + 1).kind == "dia"


def _may_begin(run: Run, item: Item, prefix: Prefix, *, fresh: bool) -> bool:
    """A bare number beside a clause that was read is nobody's: it is left unread."""
    if not run.done and run.unread == [] and fresh:
        return True
    crossed = run.peek(1).kind == "cross" or run.peek(1).kind in ("chamfer",)
    if crossed and fresh:
        return True
    if not fresh:
        # ⌀22 h6 L=40, HEX 24 A/F x 12 HIGH
        return item.kind in ("long", "thick") and bool(run.done) and (run.done[-1].kind == "diameter" or _bar(run))
    return item.toleranced or item.kind in ("long", "wide", "thick", "angle") or prefix.count is not None


__all__ = ["MAX_NOTE", "NoteError", "read_note"]
