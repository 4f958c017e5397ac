"""Which dimensions a clause of a note states: the values of the callouts it makes, its own size first, each with the
duties that the clause lays on it.

Lengths in mm, angles in rad. A general note states one size, which a rule drives.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Literal

from lathed_solid.ledger.duties import Duty
from lathed_solid.ledger.roles import DEPTHS, RADII, ROUND, Role

if TYPE_CHECKING:
    from lathed_solid.notation import Clause
    from lathed_solid.notation.clauses import Entry

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


def _own(c: Clause) -> dict[str, Any]:
    """The clause's own limits. A pair of classes says nothing of which side is drawn: the proof asks the solid."""
    return {"low": c.low_mm, "high": c.high_mm, "fit": c.fit, "decimals": c.decimals}


def _size(role: Role, value: float | None, meaning: str = "", **more: Any) -> dict[str, Any]:
    return {"role": role, "kind": KIND[role], "nominal": value, "meaning": meaning or role, **more}


def _entry(entry: Entry, word: Literal["counterbore", "counterdrill", "countersink", "spotface"]) -> Values:
    """A widening's sizes, concentric with its hole."""
    middle = Duty(kind="concentric")
    diameter: Role = f"{word} diameter"  # type: ignore[assignment]
    out = [_size(diameter, entry.diameter_mm, duties=(HOLE, middle), decimals=entry.diameter_decimals)]
    if entry.depth_mm is not None and word != "countersink":
        depth: Role = f"{word} depth"  # type: ignore[assignment]
        out.append(_size(depth, entry.depth_mm, decimals=entry.depth_decimals))
    if entry.angle_deg is not None and word == "countersink":
        out.append(_size("countersink angle", math.radians(entry.angle_deg)))
    return out


def _entries(c: Clause) -> Values:
    out: Values = []
    for entry, word in ((c.cbore, "counterbore"), (c.cdrill, "counterdrill"), (c.csk, "countersink"),
                        (c.spotface, "spotface")):  # fmt: skip
        if entry is not None:
            out += _entry(entry, word)  # type: ignore[arg-type]
    if c.bolt_circle_mm:
        spaced = (Duty(kind="equal spacing"),) if (c.count or 1) > 1 else ()
        places = (Duty(kind="places", value=float(c.count)),) if c.count else ()
        out.append(_size("bolt circle", c.bolt_circle_mm, count=1, reference=False, duties=(*spaced, *places)))
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
    return _size(role, c.depth_mm, words, decimals=c.depth_decimals)


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
        out.append(_size("thread length", t.depth_mm, "thread depth" if t.internal else "thread length"))
    if c.diameter_mm is not None:
        out.append(_size("drill diameter", c.diameter_mm, duties=(HOLE,)))
    if c.depth_mm is not None:
        out.append(_depth(c, "drill depth"))
    return out + _entries(c)


def _diameter(c: Clause) -> Values:
    role: Role = "spotface diameter" if c.spotface else "sphere diameter" if c.spherical else "diameter"
    meaning = "spherical diameter" if c.spherical else role
    pair = f", fit {c.fit}" if c.fit and "/" in c.fit else ""
    form = Duty(kind="form", word="sphere" if c.spherical else "hole" if c.spotface else "round")
    own = _own(c) if not c.spotface else {"decimals": c.spotface.diameter_decimals}
    out = [_size(role, c.diameter_mm, meaning + pair, duties=(form,), **own)]
    if c.spotface and c.spotface.depth_mm is not None:
        out.append(_size("spotface depth", c.spotface.depth_mm, decimals=c.spotface.depth_decimals))
    if c.pattern and c.pattern.kind == "circle" and (c.count or 1) > 1:
        out[0]["duties"] = (*out[0]["duties"], Duty(kind="equal spacing"))
    return out


def _radius(c: Clause) -> Values:
    word = "sphere" if c.spherical else "round"
    role: Role = "sphere radius" if c.spherical else "radius"
    meaning = "spherical radius" if c.spherical else role
    return [_size(role, c.size_mm, meaning, duties=(Duty(kind="form", word=word),), **_own(c))]


def _length(c: Clause) -> Values:
    if c.square:
        out = [_size("square", c.size_mm, duties=(Duty(kind="both ways", value=c.size_mm),), **_own(c))]
    else:
        out = [_size("length", c.size_mm, **_own(c))]
    if c.pattern and c.pattern.total_mm:
        out.append(_size("row total", c.pattern.total_mm, "over all spaces", count=1, reference=True))
    return out


def _chamfer(c: Clause) -> Values:
    angle = math.atan2(c.second_mm, c.size_mm or 1.0) if c.second_mm else math.radians(c.angle_deg or 45)
    duty = Duty(kind="second leg", value=c.second_mm) if c.second_mm else Duty(kind="leg angle", value=angle)
    return [_size("chamfer", c.size_mm, angle=angle, duties=(duty,), **_own(c))]


def _angle(c: Clause) -> Values:
    low, high = (None if v is None else math.radians(v) for v in (c.low_deg, c.high_deg))
    return [_size("angle", math.radians(c.angle_deg or 0), low=low, high=high)]


def _groove(c: Clause) -> Values:
    g = c.groove
    if g is None:
        return []
    if g.form:
        sizes: tuple[tuple[Role, float | None], ...] = (
            ("undercut radius", g.radius_mm), ("undercut depth", g.depth_mm))  # fmt: skip
    else:
        sizes = (("groove width", g.width_mm), ("groove diameter", g.diameter_mm), ("groove depth", g.depth_mm),
                 ("groove radius", g.radius_mm))  # fmt: skip
    return [_size(role, value) for role, value in sizes if value is not None]


def _keyway(c: Clause) -> Values:
    k = c.keyway
    if k is None:
        return []
    sizes: tuple[tuple[Role, float | None], ...] = (
        ("keyway width", k.width_mm), ("keyway depth", k.depth_mm), ("keyway length", k.length_mm))  # fmt: skip
    fits = {"keyway width": k.fit}
    return [_size(role, value, fit=fits.get(role)) for role, value in sizes if value is not None]


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


def _general(c: Clause) -> Values:
    r = c.rule
    if r is None:
        return []
    limits = {"low": 0.0, "high": r.size_mm} if r.at_most else {}
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
         "knurl pitch"), "length",
    ),
}  # fmt: skip

_WAYS: dict[str, Callable[[Clause], Values]] = {
    "hole": _hole,
    "thread": _thread,
    "diameter": _diameter,
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
}
