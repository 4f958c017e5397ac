"""A note's meaning in plain words, in the sheet's unit."""

from __future__ import annotations

from lathed_solid.notation.clauses import Clause, Meaning
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length, trim

_NUMBERS = (
    "no",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
)


def describe(meaning: Meaning) -> str:
    """One line of plain words for the whole note; empty when nothing was read."""
    return "; ".join(describe_clause(c, meaning.unit) for c in meaning.clauses)


def describe_clause(c: Clause, unit: LengthUnit) -> str:
    """One clause in words."""
    words = {
        "hole": _hole,
        "diameter": _diameter,
        "radius": lambda c, u: f"{_count(c)}radius {_len(c.size_mm, u)}",
        "fillet": lambda c, u: f"{_count(c)}fillet {_len(c.size_mm, u)}",
        "length": lambda c, u: f"{_count(c)}length {_len(c.size_mm, u)}",
        "angle": lambda c, u: f"{_count(c)}angle {trim(c.angle_deg or 0, 3)}°",
        "chamfer": lambda c, u: f"{_count(c)}chamfer {_len(c.size_mm, u)} at {trim(c.angle_deg or 0, 3)}°",
        "thread": _thread,
        "general": lambda c, u: "general note",
    }[c.kind](c, unit)
    return words + _limits(c, unit) + (", for reference" if c.reference else "")


def _len(mm: float | None, unit: LengthUnit) -> str:
    return f"{length(mm or 0.0, unit)} {unit}"


def _count(c: Clause) -> str:
    return f"{_number(c.count)} times " if c.count and c.count > 1 else ""


def _number(count: int | None) -> str:
    n = count or 1
    return _NUMBERS[n] if n < len(_NUMBERS) else str(n)


def _diameter(c: Clause, unit: LengthUnit) -> str:
    return f"{_count(c)}diameter {_len(c.diameter_mm, unit)}"


def _hole(c: Clause, unit: LengthUnit) -> str:
    many = "s" if (c.count or 1) > 1 else ""
    kind = "through" if c.through else "blind"
    text = f"{_number(c.count)} {kind} hole{many} Ø{_len(c.diameter_mm, unit)}"
    if c.depth_mm is not None:
        text += f", {_len(c.depth_mm, unit)} deep to the {c.depth_to}"
    if c.cbore:
        text += f", counterbore Ø{length(c.cbore.diameter_mm or 0, unit)} × {_len(c.cbore.depth_mm, unit)} deep"
    if c.csk:
        text += f", countersink Ø{_len(c.csk.diameter_mm, unit)} at {trim(c.csk.angle_deg or 0, 2)}°"
    if c.bolt_circle_mm:
        text += f", on a bolt circle Ø{_len(c.bolt_circle_mm, unit)}"
    return text


def _thread(c: Clause, unit: LengthUnit) -> str:
    t = c.thread
    if t is None:
        return "thread"
    side = "internal" if t.internal else "external"
    text = f"{_count(c)}{side} thread {t.designation}, pitch {trim(t.pitch_mm, 3)} mm"
    if t.hand == "left":
        text += ", left hand"
    if t.depth_mm:
        text += f", {_len(t.depth_mm, unit)} long"
    return text + (", through" if c.through else "")


def _limits(c: Clause, unit: LengthUnit) -> str:
    if c.low_deg is not None and c.high_deg is not None:
        return f", from {trim(c.low_deg, 3)}° to {trim(c.high_deg, 3)}°"
    if c.low_mm is None and c.high_mm is None:
        return ""
    if c.high_mm is None:
        return f", at least {_len(c.low_mm, unit)}"
    name = f" {c.fit}:" if c.fit else ""
    return f",{name} from {length(c.low_mm or 0.0, unit)} to {_len(c.high_mm, unit)}"
