"""Which dimensions a clause of a note states: the values of the callouts it makes, its own size first, each with the
duties that the clause lays on it.

Lengths in mm, angles in rad. A general note states one size, which a rule drives.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any, Literal

from lathed_solid.ledger.duties import Duty
from lathed_solid.ledger.roles import DEPTHS, RADII, ROUND, Role

if TYPE_CHECKING:
    from lathed_solid.notation import Clause
    from lathed_solid.notation.clauses import Detail, Entry

Values = list[dict[str, Any]]


def dimensions(c: Clause) -> Values:
    """Keyword values of each callout; empty for a clause that states no dimension of its own."""
    base: dict[str, Any] = {"count": c.count or 1, "reference": bool(c.reference)}
    out = [{**base, **values} for values in _WAYS[c.kind](c)]
    if c.count:
        for values in out:
            if values["count"] == c.count:
                places = Duty(kind="places", value=float(c.count))
                values["duties"] = (*values.get("duties", ()), places)
    return out


def beside(c: Clause) -> Duty | None:
    """What a clause that stands behind a size asks of that size's feature; None for one that stands for itself."""
    if c.kind == "datum":
        return Duty(kind="datum", word=c.datum or "")
    if c.kind == "frame" and c.frame is not None:
        f = c.frame
        return Duty(kind="geometry", value=f.tolerance_mm, word=f.characteristic, datums=f.datums,
                    diametral=bool(f.diametral))  # fmt: skip
    return None


def _own(c: Clause) -> dict[str, Any]:
    """The clause's own limits. A pair of classes says nothing of which side is drawn: the proof asks the solid."""
    return {"low": c.low_mm, "high": c.high_mm, "fit": c.fit, "decimals": c.decimals}


def _size(role: Role, value: float | None, meaning: str = "", **more: Any) -> dict[str, Any]:
    return {"role": role, "kind": KIND[role], "nominal": value, "meaning": meaning or role, **more}


def _entry(entry: Entry, word: Literal["counterbore", "counterdrill", "countersink", "spotface"]) -> Values:
    """A widening's sizes, concentric with its hole."""
    middle = Duty(kind="concentric")
    diameter: Role = f"{word} diameter"  # type: ignore[assignment]
    out = [_size(diameter, entry.diameter_mm, duties=(HOLE, middle), decimals=entry.diameter_decimals,
                 low=entry.diameter_low_mm, high=entry.diameter_high_mm)]  # fmt: skip
    if entry.depth_mm is not None and word != "countersink":
        depth: Role = f"{word} depth"  # type: ignore[assignment]
        out.append(_entry_depth(depth, entry))
    if entry.angle_deg is not None and word == "countersink":
        low, high = _radians(entry.low_deg, entry.high_deg)
        out.append(_size("countersink angle", math.radians(entry.angle_deg), low=low, high=high))
    return out


def _entry_depth(role: Role, e: Entry) -> dict[str, Any]:
    return _size(role, e.depth_mm, decimals=e.depth_decimals, low=e.depth_low_mm, high=e.depth_high_mm)


def _radians(*degrees: float | None) -> tuple[float | None, ...]:
    return tuple(None if v is None else math.radians(v) for v in degrees)


def _entries(c: Clause) -> Values:
    out: Values = []
    for entry, word in ((c.cbore, "counterbore"), (c.cdrill, "counterdrill"), (c.csk, "countersink"),
                        (c.spotface, "spotface")):  # fmt: skip
        if entry is not None:
            out += _entry(entry, word)  # type: ignore[arg-type]
    if c.bolt_circle_mm:
        spaced = (Duty(kind="equal spacing"),) if (c.count or 1) > 1 else ()
        places = (Duty(kind="places", value=float(c.count)),) if c.count else ()
        out.append(_size("bolt circle", c.bolt_circle_mm, count=1, reference=False, duties=(*spaced, *places),
                         low=c.circle_low_mm, high=c.circle_high_mm))  # fmt: skip
    return out


def _hole(c: Clause) -> Values:
    duties: tuple[Duty, ...] = (HOLE,)
    if c.through:
        duties = (*duties, Duty(kind="through"))
    if c.pattern and c.pattern.kind == "circle" and not c.bolt_circle_mm and (c.count or 1) > 1:
        duties = (*duties, Duty(kind="equal spacing"))
    out = [_size("hole diameter", c.diameter_mm, duties=duties, **_own(c))]
    if c.depth_mm is not None:
        out.append(_depth(c, "hole depth"))
    return out + _entries(c)


def _depth(c: Clause, meaning: str) -> dict[str, Any]:
    tip = c.depth_to == "tip"
    role: Role = "hole depth to the tip" if tip else "drill depth" if meaning == "drill depth" else "hole depth"
    words = meaning if meaning == "drill depth" and not tip else f"{meaning} to the {c.depth_to}"
    return _size(role, c.depth_mm, words, decimals=c.depth_decimals, low=c.depth_low_mm, high=c.depth_high_mm)


def _thread(c: Clause) -> Values:
    t = c.thread
    if t is None:
        return []
    duties = [Duty(kind="form", word="hole" if t.internal else "pin"), Duty(kind="pitch", value=t.pitch_mm),
              Duty(kind="hand", word=t.hand), Duty(kind="starts", value=float(t.starts or 1))]  # fmt: skip
    if t.thread_class:
        duties.append(Duty(kind="thread class", word=t.designation))
    if c.through and t.internal:
        duties.append(Duty(kind="through"))
    out = [_size("major diameter", t.major_mm, f"major diameter, {t.designation}", duties=tuple(duties))]
    if t.depth_mm:
        words = "thread depth" if t.internal else "thread length"
        out.append(_size("thread length", t.depth_mm, words, low=t.depth_low_mm, high=t.depth_high_mm))
    if c.diameter_mm is not None:
        out.append(_size("drill diameter", c.diameter_mm, duties=(HOLE,)))
    if c.depth_mm is not None:
        out.append(_depth(c, "drill depth"))
    return out + _entries(c)


def _diameter(c: Clause) -> Values:
    role: Role = "sphere diameter" if c.spherical else "diameter"
    meaning = "spherical diameter" if c.spherical else role
    pair = f", fit {c.fit}" if c.fit and "/" in c.fit else ""
    form = Duty(kind="form", word="sphere" if c.spherical else "round")
    out = [_size(role, c.diameter_mm, meaning + pair, duties=(form,), **_own(c))]
    if c.pattern and c.pattern.kind == "circle" and (c.count or 1) > 1:
        out[0]["duties"] = (*out[0]["duties"], Duty(kind="equal spacing"))
    return out


def _widening(c: Clause) -> Values:
    """Its sizes without its hole's, which another callout says: concentric with nothing."""
    out = _entries(c)
    out[0]["duties"] = (HOLE,)
    return out


def _radius(c: Clause) -> Values:
    word = "sphere" if c.spherical else "round"
    role: Role = "sphere radius" if c.spherical else "radius"
    meaning = "spherical radius" if c.spherical else role
    return [_size(role, c.size_mm, meaning, duties=(Duty(kind="form", word=word),), **_own(c))]


def _length(c: Clause) -> Values:
    if not c.size_mm:
        return []  # the zero that ordinates count from
    if c.square:
        out = [_size("square", c.size_mm, duties=(Duty(kind="both ways", value=c.size_mm),), **_own(c))]
    else:
        out = [_size("length", c.size_mm, "across flats" if c.hexagon else "", **_own(c))]
    if c.pattern and c.pattern.total_mm:
        out.append(_size("row total", c.pattern.total_mm, "over all spaces", count=1, reference=True))
    return out


def _chamfer(c: Clause) -> Values:
    angle = math.atan2(c.second_mm, c.size_mm or 1.0) if c.second_mm else math.radians(c.angle_deg or 45)
    low, high = _radians(c.low_deg, c.high_deg)
    duty = Duty(kind="leg angle", value=angle, low=low, high=high)
    if c.second_mm:
        duty = Duty(kind="second leg", value=c.second_mm, low=c.second_low_mm, high=c.second_high_mm)
    return [_size("chamfer", c.size_mm, angle=angle, duties=(duty,), **_own(c))]


def _angle(c: Clause) -> Values:
    low, high = _radians(c.low_deg, c.high_deg)
    return [_size("angle", math.radians(c.angle_deg or 0), low=low, high=high)]


def _groove(c: Clause) -> Values:
    g = c.groove
    if g is None:
        return []
    if g.form:
        return _detail(g, ("undercut radius", "undercut depth"))
    return _detail(g, ("groove width", "groove diameter", "groove depth", "groove radius"))


def _detail(d: Detail, roles: Sequence[Role]) -> Values:
    """The sizes of a detail that are stated, each with its own fit or limits; a role ends on the name of its size."""
    told = ((role, *d.told(role.split()[-1])) for role in roles)
    return [_size(role, size, fit=fit, low=low, high=high) for role, size, fit, low, high in told if size is not None]


def _keyway(c: Clause) -> Values:
    return [] if c.keyway is None else _detail(c.keyway, ("keyway width", "keyway depth", "keyway length"))


def _centre(c: Clause) -> Values:
    if c.centre is None:
        return []
    out = [_size("centre pilot", c.centre.pilot_mm, "centre hole pilot", duties=(HOLE,))]
    if c.centre.countersink_mm is not None:
        wide = _size("centre countersink", c.centre.countersink_mm, "centre hole countersink", duties=(HOLE,))
        out.append(wide)
    return out


def _taper(c: Clause) -> Values:
    return [_size("taper", c.taper.ratio)] if c.taper else []


def _knurl(c: Clause) -> Values:
    return [_size("knurl pitch", c.knurl.pitch_mm, f"pitch of knurl {c.knurl.form}", reference=True)] if c.knurl else []


def _slot(c: Clause) -> Values:
    s = c.slot
    if s is None:
        return []
    over = "over all" if s.over == "all" else "between centres"
    out = [_size("length", s.width_mm, "slot width", fit=s.fit, low=s.width_low_mm, high=s.width_high_mm)]
    if s.length_mm is not None:
        words = f"slot length {over}"
        out.append(_size("length", s.length_mm, words, low=s.length_low_mm, high=s.length_high_mm))
    if s.depth_mm is not None:
        out.append(_size("depth", s.depth_mm, "slot depth", low=s.depth_low_mm, high=s.depth_high_mm))
    return out


def _frame(c: Clause) -> Values:
    """Kept and shown; a relation to datums that the model does not know is not judged here."""
    f = c.frame
    if f is None:
        return []
    to = f" to {', '.join(f.datums)}" if f.datums else ""
    return [_size("frame", f.tolerance_mm, f"{f.characteristic}{to}, not judged here", reference=True)]


def _texture(c: Clause) -> Values:
    t = c.texture
    meaning = f"surface {t.parameter} {t.limit_um:g} µm, not judged here" if t else ""
    return [_size("texture", t.limit_um / 1000, meaning, reference=True)] if t else []


def _feature(c: Clause) -> Values:
    f = c.feature
    return [_size("feature", f.size_mm, f"{f.name}: {f.text}, not judged here", reference=True)] if f else []


def _general(c: Clause) -> Values:
    r = c.rule
    if r is None:
        return []
    limits = {"low": 0.0, "high": r.size_mm} if r.at_most else {"low": r.low_mm, "high": r.high_mm}
    if r.what in ("break", "chamfer"):
        angle = math.radians(r.angle_deg or 45)
        duty = Duty(kind="leg angle", value=angle)
        return [_size("general chamfer", r.size_mm, f"general {r.what}", angle=angle, duties=(duty,), **limits)]
    return [
        _size("general radius", r.size_mm, f"general {r.what}", duties=(Duty(kind="form", word="round"),), **limits)
    ]


HOLE = Duty(kind="form", word="hole")
#: what kind of number each role is
KIND: dict[Role, str] = {
    **dict.fromkeys(ROUND | {"bolt circle", "major diameter"}, "diameter"),
    **dict.fromkeys(RADII, "radius"),
    **dict.fromkeys(DEPTHS | {"depth", "groove depth", "keyway depth", "undercut depth"}, "depth"),
    "chamfer": "chamfer", "general chamfer": "chamfer", "taper": "taper",
    "angle": "angle", "countersink angle": "angle",
    **dict.fromkeys(
        ("length", "square", "row total", "thread length", "groove width", "keyway width", "keyway length",
         "knurl pitch", "frame", "texture", "feature"), "length",
    ),
}  # fmt: skip

_WAYS: dict[str, Callable[[Clause], Values]] = {
    "hole": _hole,
    "thread": _thread,
    "diameter": _diameter,
    "widening": _widening,
    "radius": _radius,
    "fillet": _radius,
    "length": _length,
    "chamfer": _chamfer,
    "angle": _angle,
    "groove": _groove,
    "keyway": _keyway,
    "centre": _centre,
    "taper": _taper,
    "knurl": _knurl,
    "general": _general,
    "slot": _slot,
    "frame": _frame,
    "texture": _texture,
    "feature": _feature,
    "datum": lambda _: [],
    "instruction": lambda _: [],
}
