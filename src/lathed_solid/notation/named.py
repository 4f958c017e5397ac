"""What stands under a name or a sign of its own: drills by number and letter, threads, the total of a row."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterable

from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.items import Item, NoteError, degrees, factor_of, plain_number
from lathed_solid.notation.tokens import Token
from lathed_solid.notation.tolerance import angle_tolerance
from lathed_solid.quantity.units import decimal
from lathed_solid.standards import StandardError, clearance_hole, thread_form
from lathed_solid.standards.clearance import clearance_standard
from lathed_solid.standards.drills import drill
from lathed_solid.standards.thread_limits import drill_for

#: what is screwed into a part, and what of a part is tapped
INTO = re.compile(
    r"(?:grease )?nipple|(?:[a-z]+ )?ports?(?: [a-z] ?-)?|sae orb(?: port)?"
    r"|(?:grub|set|jacking|clamp(?:ing)?|adjusting) screws?|eye[ -]?bolt|lifting eye"
    r"|in(?:to)? (?:the |each |both |one )?(?:(?:shaft|spindle) )?"
    r"(?:bore|hub|ends?|faces?|base|flange|head|centre of end)"
    r"|(?:drain|filler|level|blanking|oil|vent) plug|pads?|boss(?:es)?|lugs?|flange|plate|block|housing|cover|bracket"
)


def drill_named(at: Cursor) -> Item:
    """``#7``, ``LETTER F``, ``"Q"``: its diameter by the table."""
    token = at.take()
    bare = re.sub(r"^(?:LETTER|LTR\.?)\s+", "LETTER ", token.text, flags=re.I)
    name = re.search(r'#?\s*\d+|(?<=LETTER )\s*"?[A-Z]', bare, re.I)
    bare = (name[0] if name else token.text).strip(' "')
    try:
        size = drill(bare if not bare.isdigit() else f"#{bare}")
    except StandardError as exc:
        raise NoteError(exc.what, column=token.column, received=token.text, hint=exc.hint) from None
    return Item("dia", size.diameter, text=size.name, column=token.column, marks=frozenset({"drill"}))


#: the size of an inch screw
INCH_SCREW = r"(?:NO\.?|#)\s*\d+|(?:\d[ -])?\d+/\d+"
#: words of a clearance hole's series (ISO 273)
SERIES = {"FINE": "fine", "CLOSE": "fine", "COARSE": "coarse", "FREE": "coarse"}


def clearance(at: Cursor) -> tuple[Item, str]:
    """``CLEARANCE HOLE FOR M8``: its diameter by ISO 273, medium unless the note says how; and what was taken."""
    token = at.take()
    text = token.text.upper()
    metric = re.search(r"M\s*(\d+(?:[.,]\d+)?)", text)
    other = re.search(rf"{INCH_SCREW}|\d+\s*B\.?A", text)  # 4 BA: no table here
    name = metric or other
    assert name is not None
    thread = inch_name(name[0]) if metric is None else f"M{decimal(metric[1]):g}"
    series = next((found for word, found in SERIES.items() if re.search(rf"\b{word}\b", text)), "medium")
    size, taken = hole_for(thread, series, token.column, token.text)
    return Item("dia", size, text=token.text, column=token.column), taken


def inch_name(said: str) -> str:
    """``NO. 10``, ``1-1/8``: an inch screw's size as the tables name it."""
    number = re.fullmatch(r"(?:NO\.?|#)\s*(\d+)", said.strip(), re.I)
    return f"#{number[1]}" if number else said.strip().replace("-", " ")


def hole_for(thread: str, series: str, column: int, received: str | None = None) -> tuple[float, str]:
    """The hole (mm) that a screw goes through, and what was taken. Raises NoteError for one without a table."""
    try:
        size = clearance_hole(thread, series)
    except StandardError as exc:
        raise NoteError(exc.what, column=column, received=received, hint=exc.hint) from None
    return size, f"{thread} {series} by {clearance_standard(thread)}"


def tapping(at: Cursor) -> tuple[Item, str]:
    """``TAPPING SIZE M8``: the hole of the tap's drill; and what was taken."""
    token = at.take()
    name = re.search(r"M\s*\d+(?:[.,]\d+)?(?:\s*x\s*\d+(?:[.,]\d+)?)?", token.text, re.I)
    assert name is not None
    try:
        size = drill_for(form := thread_form(name[0].replace(",", "."))).diameter
    except StandardError as exc:
        raise NoteError(exc.what, column=token.column, received=token.text, hint=exc.hint) from None
    return Item("dia", size, text=token.text, column=token.column), f"the tap's drill of {form.designation}"


def total(at: Cursor) -> Item:
    """``(=100)`` of ``5X 20``, ``= 360°`` of ``6X 60°``."""
    token = at.take()
    value, decimals = plain_number(re.sub(r"[()=°\s]", "", token.text), token.column)
    if "°" in token.text:
        return Item("total_angle", value, token.text, decimals=decimals, column=token.column)
    return Item("total", value * factor_of(at.unit), token.text, decimals=decimals, column=token.column)


def thread_named(at: Cursor) -> Item:
    """A designation, with its pitch and class where they are no length and no count."""
    token = at.take()
    text = " ".join(token.text.split())
    if token.kind == "metric" and "P" not in text.upper() and at.sees("cross") and at.sees_kind(1) == "number":
        text += _pitch(at, text)
    klass = ""
    if token.kind == "metric" and at.sees("pitch_class"):
        klass = at.take().text.strip("- ")
    return Item("thread", text=f"{token.kind}|{text}|{klass}", column=token.column)


def _pitch(at: Cursor, text: str) -> str:
    """``x1.25`` of ``M8x1.25``; nothing for ``M8 x 20``, ``M6 x 2 HOLES``, ``M8 x 12 DEEP``."""
    number = at.peek(1)
    value, major = plain_number(number.text)[0], plain_number(re.sub(r"[^\d.,]", "", text))[0]
    after = at.sees_kind(2)
    own_word = after in ("depth", "long", "wide") and at.sees_kind(3) != "number"  # x 12 DEEP
    if "/" in number.text or value > 8 or value > major / 2 or own_word or after in ("counted", "equally"):
        return ""
    at.place += 2
    return f"x{number.text}"


def for_what(token: Token) -> Item:
    """A clearance or tapping hole's screw behind the hole's own size: only what that is for. Raises NoteError."""
    if token.kind == "tapping" and not re.search(r"\b(?:FOR|OF|SIZE)\b", token.text, re.I):
        raise NoteError("what the hole is for, or its thread: this can be read either way", column=token.column,
                        received=token.text, hint="TAP DRILL FOR M10, or TAP DRILL, M10")  # fmt: skip
    return Item("purpose", text=token.text, column=token.column)


def hole_named(at: Cursor, out: list[Item]) -> tuple[Item, list[str]]:
    """A clearance hole or a tapping hole by its screw, and what was taken; behind a size only what that is for."""
    line = itertools.takewhile(lambda i: i.kind != "sep", reversed(out))
    to_clear = bool(out) and out[-1].kind == "soft" and any(i.kind == "dia" for i in out)  # ⌀6.6 HOLE, TO CLEAR M6
    if to_clear or any(i.kind in ("dia", "plain") for i in line):
        return for_what(at.take()), []
    hole, said = (clearance if at.sees("clearance") else tapping)(at)
    return hole, [said]


def angle_at(at: Cursor) -> Item:
    """An angle with its limits, degrees. Raises NoteError for one of zero."""
    token = at.take()
    value = degrees(token.text, token.column)
    if value <= 0:
        raise NoteError("an angle goes above 0 up to 360 degrees", column=token.column, received=value)
    low, high = angle_tolerance(at, value) or (None, None)
    if low is not None and high is not None:
        low, high = min(low, value), max(high, value)
    return Item("angle", value, token.text, low, high, column=token.column)


def screwed_in(said: Iterable[str]) -> bool:
    """Whether the words of a note tell what is screwed into the part there, or what of the part is tapped."""
    return any(INTO.fullmatch(words) for words in said)
