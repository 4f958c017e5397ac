"""A note's meaning in plain words, in the sheet's unit."""

from __future__ import annotations

from lathed_solid.notation.clauses import Clause, Detail, Meaning
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import length, trim

UNITS = {"mm": "mm", "in": "inches"}
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
        "radius": lambda c, u: f"{_count(c)}{'spherical ' if c.spherical else ''}radius {_len(c.size_mm, u)}",
        "fillet": lambda c, u: f"{_count(c)}fillet {_len(c.size_mm, u)}",
        "length": _length,
        "angle": lambda c, u: f"{_count(c)}angle {trim(c.angle_deg or 0, 3)}°",
        "chamfer": _chamfer,
        "thread": _thread,
        "general": _general,
        "taper": lambda c, u: f"{_count(c)}taper 1:{trim(c.taper.ratio, 4) if c.taper else ''}",
        "widening": lambda c, u: _count(c) + ", ".join(_widenings(c, u)),
        "groove": _groove,
        "keyway": _keyway,
        "centre": _centre,
        "slot": _slot,
        "frame": lambda c, u: _frame(c, u),
        "datum": lambda c, u: f"datum {c.datum}",
        "instruction": _instruction,
        "feature": lambda c, _: f"{_count(c)}{c.feature.text} ({c.feature.name})" if c.feature else "feature",
        "texture": lambda c, u: (
            f"surface {c.texture.parameter} {trim(c.texture.limit_um, 3)} µm" if c.texture else "surface"
        ),
        "knurl": lambda c, u: f"knurl {c.knurl.form}, pitch {_len(c.knurl.pitch_mm, u)}" if c.knurl else "knurl",
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
    return f"{_count(c)}{'spherical diameter' if c.spherical else 'diameter'} {_len(c.diameter_mm, unit)}"


def _length(c: Clause, unit: LengthUnit) -> str:
    text = f"{_count(c)}{'square' if c.square else 'hexagon' if c.hexagon else 'length'} {_len(c.size_mm, unit)}"
    if c.pattern and c.pattern.total_mm:
        text += f" in a row, {_len(c.pattern.total_mm, unit)} over all"
    return text


def _chamfer(c: Clause, unit: LengthUnit) -> str:
    if c.second_mm is not None:
        return f"{_count(c)}chamfer {length(c.size_mm or 0, unit)} × {_len(c.second_mm, unit)}"
    return f"{_count(c)}chamfer {_len(c.size_mm, unit)} at {trim(c.angle_deg or 0, 3)}°"


def _general(c: Clause, unit: LengthUnit) -> str:
    if c.rule is None:
        return "general note"
    r = c.rule
    size = ("at most " if r.at_most else "") + _len(r.size_mm, unit)
    if r.low_mm is not None:
        ends = f" to {_len(r.high_mm, unit)}" if r.high_mm is not None else " up"
        size = f"from {_len(r.low_mm, unit)}{ends}"
    angle = f" at {trim(r.angle_deg, 3)}°" if r.angle_deg is not None else ""
    return f"general note: {r.what} {size}{angle}, {r.where}"


def _of(d: Detail, name: str, unit: LengthUnit) -> str:
    """A detail's size with its class or limits."""
    size, fit, low, high = d.told(name)
    if fit or (low is None and high is None):
        return _len(size, unit) + (f" {fit}" if fit else "")
    ends = [f"from {length(low, unit)}"] if low is not None else []
    return f"{_len(size, unit)} ({' '.join([*ends, *([f'to {_len(high, unit)}'] if high else [])])})"


def _within(size: float | None, low: float | None, high: float | None, unit: LengthUnit) -> str:
    """A size with its limits in words."""
    if low is None and high is None:
        return _len(size, unit)
    if high is None:
        return f"at least {_len(low, unit)}"
    if not low:
        return f"at most {_len(high, unit)}"
    return f"{_len(size, unit)} (from {length(low, unit)} to {_len(high, unit)})"


def _groove(c: Clause, unit: LengthUnit) -> str:
    g = c.groove
    if g is None:
        return "groove"
    if g.form:
        return f"{_count(c)}undercut {g.form}, radius {_len(g.radius_mm, unit)}, {_len(g.depth_mm, unit)} deep"
    text = f"{_count(c)}{'ring ' if g.ring else ''}groove {_of(g, 'width', unit)} wide"
    if g.diameter_mm is not None:
        text += f", bottom Ø{_of(g, 'diameter', unit)}"
    if g.depth_mm is not None:
        text += f", {_of(g, 'depth', unit)} deep"
    return text + (f", radius {_len(g.radius_mm, unit)}" if g.radius_mm is not None else "")


def _keyway(c: Clause, unit: LengthUnit) -> str:
    k = c.keyway
    if k is None:
        return "keyway"
    text = f"{_count(c)}keyway {_of(k, 'width', unit)} wide"
    if k.depth_mm is not None:
        text += f", {_of(k, 'depth', unit)} deep"
    return text + (f", {_of(k, 'length', unit)} long" if k.length_mm is not None else "")


def _slot(c: Clause, unit: LengthUnit) -> str:
    s = c.slot
    if s is None:
        return "slot"
    if s.length_mm is None:
        text = f"{_count(c)}slot {_of(s, 'width', unit)} wide"
    else:
        text = f"{_count(c)}slot {_of(s, 'width', unit)} × {_of(s, 'length', unit)} over {s.over}"
    if s.depth_mm is not None:
        return text + f", {_of(s, 'depth', unit)} deep"
    return text + (", through" if s.through else "")


def _frame(c: Clause, unit: LengthUnit) -> str:
    f = c.frame
    if f is None:
        return "tolerance of form or place"
    zone = "Ø" if f.diametral else ""
    to = f" to {', '.join(f.datums)}" if f.datums else ""
    return f"{f.characteristic} within {zone}{_len(f.tolerance_mm, unit)}{to}"


def _places(n: int) -> str:
    return "fractions" if n < 0 else f"{n} place{'s' * (n != 1)}"


def _instruction(c: Clause, unit: LengthUnit) -> str:
    """What is told of the material, the tolerances or the unit; else the words themselves."""
    i = c.instruction
    if i is None or i.what in ("work", "sheet"):
        return (
            f"{'words for the shop' if i is None or i.what == 'work' else 'words on the sheet'}: {i.text if i else ''}"
        )
    if i.what == "general tolerance":
        angles = [f"angles ±{trim(i.angle_deg, 3)}°"] if i.angle_deg is not None else []
        if i.letter is not None:
            return ", ".join([f"general tolerance ISO 2768-{i.letter}", *angles])
        if i.plus_minus_mm is not None:
            return ", ".join([f"general tolerance ±{_len(i.plus_minus_mm, unit)}", *angles])
        places = [f"{_places(n)} ±{_len(by, unit)}" for n, by in i.by_places or ()]
        return f"general tolerance: {', '.join([*places, *angles])}"
    return f"material {i.material}" if i.what == "material" else f"sizes in {UNITS[i.unit or unit]}"


def _centre(c: Clause, unit: LengthUnit) -> str:
    if c.centre is None:
        return "centre hole"
    text = f"{_count(c)}centre hole form {c.centre.form}, pilot Ø{_len(c.centre.pilot_mm, unit)}"
    return text + (f", countersink Ø{_len(c.centre.countersink_mm, unit)}" if c.centre.countersink_mm else "")


def _hole(c: Clause, unit: LengthUnit) -> str:
    many = "s" if (c.count or 1) > 1 else ""
    kind = "through" if c.through else "blind"
    text = f"{_number(c.count)} {kind} hole{many} Ø{_len(c.diameter_mm, unit)}"
    if c.depth_mm is not None:
        text += f", {_within(c.depth_mm, c.depth_low_mm, c.depth_high_mm, unit)} deep to the {c.depth_to}"
    text += "".join(f", {words}" for words in _widenings(c, unit))
    if c.pattern and not c.bolt_circle_mm:
        text += ", equally spaced"
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
    if t.starts:
        text += f", {_number(t.starts)} starts"
    if t.depth_mm:
        text += f", {_within(t.depth_mm, t.depth_low_mm, t.depth_high_mm, unit)} long"
    if c.diameter_mm is not None:
        text += f", drilled Ø{_len(c.diameter_mm, unit)}"
    if c.depth_mm is not None:
        text += f", drilled {_within(c.depth_mm, c.depth_low_mm, c.depth_high_mm, unit)} deep"
    text += "".join(f", {words}" for words in _widenings(c, unit))
    if c.bolt_circle_mm:
        text += f", on a bolt circle Ø{_len(c.bolt_circle_mm, unit)}"
    return text + (", through" if c.through else "")


def _widenings(c: Clause, unit: LengthUnit) -> list[str]:
    """What widens a hole, each in words."""
    out = []
    for entry, word in ((c.cbore, "counterbore"), (c.csk, "countersink"), (c.spotface, "spotface"),
                        (c.cdrill, "counterdrill")):  # fmt: skip
        if entry is None:
            continue
        bare = entry.diameter_low_mm is None and entry.diameter_high_mm is None
        size = _within(entry.diameter_mm, entry.diameter_low_mm, entry.diameter_high_mm, unit)
        if entry.depth_mm is not None and bare:
            size = length(entry.diameter_mm or 0, unit)
        text = f"{word} Ø{size}"
        if entry.depth_mm is not None:
            text += f" × {_within(entry.depth_mm, entry.depth_low_mm, entry.depth_high_mm, unit)} deep"
        out.append(text + (f" at {trim(entry.angle_deg or 0, 2)}°" if word == "countersink" else ""))
    return out


def _limits(c: Clause, unit: LengthUnit) -> str:
    if c.low_deg is not None and c.high_deg is not None:
        degrees = f", from {trim(c.low_deg, 3)}° to {trim(c.high_deg, 3)}°"
        return _limits(c.model_copy(update={"low_deg": None}), unit) + degrees
    if c.low_mm is None and c.high_mm is None:
        return ""
    if c.high_mm is None:
        return f", at least {_len(c.low_mm, unit)}"
    name = f" {c.fit}:" if c.fit else ""
    return f",{name} from {length(c.low_mm or 0.0, unit)} to {_len(c.high_mm, unit)}"
