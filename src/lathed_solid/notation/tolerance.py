"""The tolerance behind a size or an angle: ±, one or two deviations, a class, limits, a range; stacked or in brackets.

A dash between two numbers is a deviation when what follows is small beside the size, a range when the two are alike and
written as a drawing writes them (with decimals, or both with their sign), and otherwise not read.
"""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.notation.cursor import Cursor
from lathed_solid.notation.items import LARGEST, NoteError, Written, degrees, plain_number
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.standards import StandardError, deviations

#: a deviation is at most this share of its size, a range's ends are at least that share of each other
SMALL, ALIKE = 0.2, 0.5
#: limits of more than this, mm, are nearer to each other: ⌀6.6/⌀11 are two sizes
FINE, NEAR = 3.0, 0.85
#: the same with DIA behind the lower one
WORDED = 5e-3
#: limits on two lines: no further apart than this share, or this, mm
STACKED, STACKED_MM = 0.02, 0.12
#: and small ones are alike at least by this share
STACKED_LEAST = 0.8
#: deviations given beside a class agree with the table to this, mm
GIVEN = 1.1e-3
DEGREES = ("angle", "number", "minutes")
LINES = ("newline", "separator", "slash")


@dataclass(frozen=True, slots=True)
class Tolerance:
    """Limits in mm (or degrees), the class; ``nominal`` where the limits alone were given."""

    low: float | None = None
    high: float | None = None
    fit: str | None = None
    nominal: float | None = None
    said: str = ""


def tolerance_after(at: Cursor, size: Written, *, signed: bool, classed: bool = True) -> Tolerance | None:
    """What stands behind a size at the cursor, which is moved past it; None for nothing that is a tolerance.

    ``signed``: a ⌀ or R stands with the size; ``classed``: it is one that can have a class, which the radius and the
    chamfer have not, so that the M8 of ``C1 M8`` is a thread. Raises NoteError for a class that the tables do not
    have at this size.
    """
    bracketed = at.sees("open") and at.sees_kind(1) in ("plus_minus", "plus", "minus", "number")
    if bracketed:
        return _in_brackets(at, size)
    if at.sees("plus_minus"):
        return _symmetric(at, size)
    if at.sees("fit_pair") and classed:
        return Tolerance(fit=at.take().text.replace(" ", ""))
    if at.sees("fit") and classed and _is_fit(at, signed=signed):
        return _fit(at, size)
    if at.sees("pipe") and signed and at.text.strip() in ("G5", "G6"):
        return _fit(at, size)
    if at.sees("metric") and classed and _is_m_class(at, size, signed=signed):
        return _fit(at, size)
    if signed and classed and at.sees("chamfer_c") and at.text[1:].strip() in C_GRADES:
        raise NoteError("a class, or a chamfer: this can be read either way", column=at.column, received=at.text,
                        hint=f"the class in limits, or a comma: ⌀25, {at.text}")  # fmt: skip
    if classed and _class_r(at):
        return _class_or_radius(at, size, signed=signed)
    if at.sees("minus") and at.sees_kind(1) == "angle" and not at.token.gap and not at.peek(1).gap:
        raise NoteError("a chamfer, or a length and an angle: this can be read either way", column=at.column,
                        received=f"-{at.peek(1).text}", hint=f"x {at.peek(1).text}, or a comma")  # fmt: skip
    mark = at.place
    over = at.sees_kind(1) in ("plus", "minus") and at.sees_kind(2) == "number"
    nought = at.sees_kind(1) == "number" and at.sees_kind(2) in ("newline", "minus", "plus")
    if at.sees("newline") and (over or nought):
        at.take()  # over each other behind the size
    pair = deviations_at(at, size)
    if pair is not None:
        return _with_class(at, size, pair)
    at.place = mark
    return _limits(at, size, signed=signed)


def _is_fit(at: Cursor, *, signed: bool) -> bool:
    """``⌀25 R6``: a class or a radius? It is not guessed. ``25 C1`` is a chamfer."""
    letter = at.text.rstrip("0123456789")
    return letter != "C" or not at.token.gap or signed


def _class_r(at: Cursor) -> bool:
    """``r6``, ``R7`` right behind a size: letters that are a radius anywhere else."""
    number = at.peek(1)
    return at.sees("radius") and at.text in ("r", "R") and not number.gap and number.text in R_GRADES


def _class_or_radius(at: Cursor, size: Written, *, signed: bool) -> Tolerance | None:
    """The class of a shaft is taken; that of a hole may be a radius. Raises NoteError."""
    letter, number = at.token, at.peek(1)
    if letter.text == "R":
        if not signed:
            return None
        raise NoteError("a class, or a radius of its own: this can be read either way", column=letter.column,
                        received=f"R{number.text}", hint=f"limits, or a comma: ⌀25, R{number.text}")  # fmt: skip
    at.take()
    return _fit(at, size, "r")


#: grades that the classes r and R are used with
R_GRADES = ("5", "6", "7", "8")
#: grades of the class C that are no chamfer of a usual size
C_GRADES = ("8", "9", "10", "11", "12", "13")


def _is_m_class(at: Cursor, size: Written, *, signed: bool) -> bool:
    """``⌀20 m6``, ``⌀35 M7`` are classes; ``⌀5 M6`` is the drill of a thread."""
    number = at.text[1:].strip()
    if not number.isdigit() or int(number) not in range(4, 10) or at.sees_kind(1) == "pitch_class":
        return False
    if at.sees_kind(1) == "cross" and not (signed and at.sees_kind(2) == "number"):
        return False
    drilled = 0.7 * int(number) <= size.mm < int(number)
    if at.text.startswith("M") and signed and size.mm == int(number) and at.sees_kind(1) != "cross":
        raise NoteError("a class, or a thread: this can be read either way", column=at.column, received=at.text,
                        hint=f"the class in limits, or a comma: ⌀{number}, {at.text}")  # fmt: skip
    if at.text.startswith("m"):
        return at.sees_kind(1) != "cross" or not drilled
    if at.sees_kind(1) == "cross" and size.mm > int(number):
        raise NoteError("a class, or a thread: this can be read either way", column=at.column, received=at.text,
                        hint=f"⌀25 m6 for the shaft's class, or a comma: ⌀25, {at.text}")  # fmt: skip
    return signed and not drilled and at.sees_kind(1) != "cross"


def _fit(at: Cursor, size: Written, letter: str = "") -> Tolerance:
    token = at.take()
    name = letter + token.text.replace(" ", "")
    try:
        lower, upper = deviations(size.mm, name)
    except StandardError as exc:
        raise NoteError(exc.what, column=token.column, rule=exc.rule, hint=exc.hint) from None
    found = Tolerance(size.mm + lower, size.mm + upper, name)
    bracketed = at.sees("open") and at.sees_kind(1) in ("plus", "minus", "number", "plus_minus")
    if bracketed or (at.sees("plus", "minus", "number") and at.sees_kind(1) in ("number", "slash", "minus", "plus")):
        mark = at.place
        given = _in_brackets(at, size) if bracketed else deviations_at(at, size)
        if given is None or not _agree(given, found):
            at.place = mark  # left where it stands: it is told as unread
    return found


def _with_class(at: Cursor, size: Written, given: Tolerance) -> Tolerance:
    """``⌀30 -0.020/-0.041 (f7)``, ``⌀30 +0.021/0 H7``: the class behind its deviations, where it has these."""
    bracketed = at.sees("open") and at.sees_kind(1) == "fit" and at.sees_kind(2) == "shut"
    if not bracketed and not at.sees("fit"):
        return given
    mark = at.place
    at.place += bracketed
    try:
        found = _fit(at, size)
    except NoteError:
        found = Tolerance()
    if (bracketed and not at.sees("shut")) or not _agree(given, found):
        at.place = mark  # left where it stands: it is told as unread
        return given
    at.place += bracketed
    return found


def _agree(given: Tolerance, table: Tolerance) -> bool:
    pairs = ((given.low, table.low), (given.high, table.high))
    return all(a is not None and b is not None and abs(a - b) <= GIVEN for a, b in pairs)


#: limits that are written out beside their size are no further from it, as a share
BESIDE = 0.05


def _in_brackets(at: Cursor, size: Written) -> Tolerance | None:
    mark = at.place
    at.take()
    found = _symmetric(at, size) if at.sees("plus_minus") else deviations_at(at, size)
    if found is None and at.sees("number") and at.sees_kind(1) in ("slash", "minus"):
        one = at.written()
        at.take()
        if at.sees("number"):
            two = at.written()
            near = abs(one.mm - size.mm) <= BESIDE * size.mm and abs(two.mm - size.mm) <= BESIDE * size.mm
            found = Tolerance(min(one.mm, two.mm), max(one.mm, two.mm)) if near else None
    if found is None or not at.sees("shut"):
        at.place = mark
        return None
    at.take()
    return found


def _symmetric(at: Cursor, size: Written) -> Tolerance | None:
    if at.sees_kind(1) != "number":
        return None
    at.take()
    d = at.written(size)
    _in_range(d.mm, at)
    return Tolerance(size.mm - d.mm, size.mm + d.mm)


def deviations_at(at: Cursor, size: Written) -> Tolerance | None:
    """``+0.2/-0.1``, ``-0.1 -0.2``, ``0/-0.2``, ``+0.2``: over each other or side by side."""
    mark = at.place
    one = _deviation(at, size, first=True)
    if one is None:
        at.place = mark
        return None
    before = at.place
    while at.sees(*LINES) and at.text.strip() in ("", "/", ",", "\n"):
        at.take()
    two = _deviation(at, size, first=False)
    if two is None:
        at.place = before
        if one == 0.0:  # a nought that stands alone is another size
            at.place = mark
            return None
        two = 0.0
    _in_range(max(abs(one), abs(two)), at)
    return Tolerance(size.mm + min(one, two), size.mm + max(one, two))


def _deviation(at: Cursor, size: Written, *, first: bool) -> float | None:
    """One signed deviation, mm; a nought needs no sign beside another."""
    if at.sees("number") and not first and not plain_number(at.text)[0]:
        at.take()
        return 0.0
    if first and at.sees("number") and not plain_number(at.text)[0]:
        skip = 2 if at.sees_kind(1) in ("slash", "newline") else 1
        if at.sees_kind(skip) in ("plus", "minus") and at.sees_kind(skip + 1) == "number":
            at.take()
            return 0.0
        return None
    if not at.sees("plus", "minus") or at.sees_kind(1) != "number":
        return None
    sign = -1.0 if at.sees("minus") else 1.0
    if sign < 0 and first and (_counts(at) or not _is_deviation(at, size)):
        return None
    apart = at.peek(-1).kind in ("slash", "newline", "separator")
    if not first and sign < 0 and not apart and (_counts(at) or not _is_deviation(at, size, behind=True)):
        return None
    at.take()
    return sign * at.written(size).mm


def _counts(at: Cursor) -> bool:
    """``- 4 HOLES``, ``-4X``, ``- 2 PLACES``: the dash stands before a count."""
    if at.sees_kind(1) != "number" or not at.peek(1).text.isdigit() or not int(at.peek(1).text[:9]):
        return False
    return at.sees_kind(2) in ("counted", "equally", "cross", "diameter", "radius", "metric")


def _is_deviation(at: Cursor, size: Written, *, behind: bool = False) -> bool:
    """Whether a signed number is small enough; ``behind``: another deviation stands before it."""
    value = plain_number(at.peek(1).text)[0]
    share = abs(value) / size.value if size.value else 1.0
    spaced = at.token.gap and not at.peek(1).gap  # 5 -1.5
    if not behind and not at.token.gap and size.decimals == 0 and at.sees_kind(2) in ("diameter", "drill", "radius"):
        return False  # 8-0.703 DIA: a count or a deviation?
    dashed = at.sees("minus") and not behind and not at.token.gap and at.peek(1).text.isdigit()
    if dashed and int(at.peek(1).text[:9]):
        return False  # 12-345, 2026-11-29
    return share <= SMALL or (spaced and share < ALIKE)


def _limits(at: Cursor, size: Written, *, signed: bool) -> Tolerance | None:
    """``25.2/24.8``, ``24.8-25.2``, ``24.8 TO 25.2``, or on two lines; the sign may be said twice."""
    mark = at.place
    kind = at.kind
    dashed = kind == "minus" or (kind == "soft" and at.text.upper() == "TO")
    if kind not in ("slash", "newline") and not dashed:
        return None
    at.take()
    twice = signed and at.sees("diameter", "radius", "spherical", "spherical_radius")
    if twice:
        at.take()
    if at.sees("number"):
        other = at.written(size)
        share = min(other.mm, size.mm) / max(other.mm, size.mm) if other.mm > 0 and size.mm > 0 else 0.0
        decimals = bool(size.decimals) and bool(other.decimals)
        legs = at.sees("cross") and at.sees_kind(1) == "angle"  # 0.5-1.0 X 45°
        alone = legs or not at.sees("cross", "counted", "drill", "depth", "wide", "long", "open", "plus_minus")
        word = at.sees("diameter") and 1 - share > WORDED  # 25.02 over 25.00 DIA; 80 over 60 DIA are two sizes
        alone = alone and not (kind == "newline" and word)
        if kind == "newline":
            near = 1 - share <= STACKED or (abs(other.mm - size.mm) <= STACKED_MM + LINEAR and share >= STACKED_LEAST)
            good = decimals and size.decimals == other.decimals and near and alone and not other.own_unit
            good = good and not at.sees("number", "plus", "minus", "fit")
        elif dashed:
            good = share >= ALIKE and (decimals or twice) and alone
        else:
            beside = bool(size.decimals or other.decimals) and share >= 1 - BESIDE  # ⌀30/⌀29.9
            good = share >= ALIKE and (decimals or beside or not twice)  # ⌀20/⌀22 are two diameters
        good = good and (share >= NEAR or max(size.mm, other.mm) <= FINE)
        if good and abs(other.mm - size.mm) > LINEAR:
            low, high = sorted((size.mm, other.mm))
            said = "two sizes one over the other taken as limits" if kind == "newline" else ""
            return Tolerance(low, high, nominal=(low + high) / 2, said=said)
    at.place = mark
    return None


def _in_range(value: float, at: Cursor) -> None:
    if value > LARGEST:
        raise NoteError("a limit goes up to 1 km", column=at.column, received=value)


# angles ------------------------------------------------------------------------------------
def angle_tolerance(at: Cursor, value: float) -> tuple[float, float] | None:
    """The limits behind an angle, degrees: ``±1°``, ``±30'``, ``+1°/-0°``, ``/28°``, ``-32°``; None for none."""
    if at.sees("plus_minus") and at.sees_kind(1) in DEGREES:
        at.take()
        d = _degrees(at)
        return value - d, value + d
    if at.sees("minus") and at.sees_kind(1) == "minutes" and not at.token.gap and not at.peek(1).gap:
        minutes = at.peek(1).text
        raise NoteError("minutes of the angle, or a deviation: this can be read either way", column=at.column,
                        received=f"-{minutes}", hint=f"{value:g}° {minutes}, or +0 -{minutes}")  # fmt: skip
    if at.sees("plus", "minus") and at.sees_kind(1) in DEGREES and not _counts(at):
        if at.sees("minus") and at.sees_kind(1) == "angle" and degrees(at.peek(1).text) >= ALIKE * value:
            at.take()
            other = _degrees(at)
            return min(value, other), max(value, other)
        found = [_signed_degrees(at)]
        if at.sees("slash", "newline"):
            at.take()
        if (at.sees("plus", "minus") and at.sees_kind(1) in DEGREES) or (at.sees("number", "angle") and _nought(at)):
            found.append(_signed_degrees(at))
        else:
            found.append(0.0)
        return value + min(found), value + max(found)
    to = at.sees("slash") or (at.sees("soft") and at.text.upper() == "TO")
    if to and at.sees_kind(1) == "angle" and degrees(at.peek(1).text) >= ALIKE * value:
        at.take()
        other = _degrees(at)
        return min(value, other), max(value, other)
    return None


def _nought(at: Cursor) -> bool:
    return degrees(at.text) == 0.0


def _signed_degrees(at: Cursor) -> float:
    sign = 1.0
    if at.sees("plus", "minus"):
        sign = -1.0 if at.take().kind == "minus" else 1.0
    return sign * _degrees(at)


def _degrees(at: Cursor) -> float:
    token = at.take()
    return degrees(token.text) / (60 if token.kind == "minutes" else 1)
