"""Which dimensions a clause of a note states: the values of the callouts it makes, its own size first.

Lengths in mm, angles in rad. A general note states one size, which a rule drives.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from lathed_solid.notation import Clause

Values = list[dict[str, Any]]


def dimensions(c: Clause) -> Values:
    """Keyword values of each callout; empty for a clause that states no dimension of its own."""
    base: dict[str, Any] = {"count": c.count or 1, "reference": bool(c.reference)}
    return [{**base, **values} for values in _WAYS[c.kind](c)]


def _own(c: Clause) -> dict[str, Any]:
    """The clause's own limits. A pair of classes says nothing of which side is drawn, so it limits nothing."""
    fit = None if c.fit is None or "/" in c.fit else c.fit
    return {"low": c.low_mm, "high": c.high_mm, "fit": fit, "decimals": c.decimals}


def _size(kind: str, value: float | None, meaning: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "nominal": value, "meaning": meaning, **more}


def _entries(c: Clause) -> Values:
    out: Values = []
    if c.cbore:
        out.append(_size("diameter", c.cbore.diameter_mm, "counterbore diameter"))
        out.append(_size("depth", c.cbore.depth_mm, "counterbore depth"))
    if c.cdrill:
        out.append(_size("diameter", c.cdrill.diameter_mm, "counterdrill diameter"))
        out.append(_size("depth", c.cdrill.depth_mm, "counterdrill depth"))
    if c.csk:
        out.append(_size("diameter", c.csk.diameter_mm, "countersink diameter"))
    if c.spotface:
        out.append(_size("diameter", c.spotface.diameter_mm, "spotface diameter"))
    if c.bolt_circle_mm:
        out.append(_size("diameter", c.bolt_circle_mm, "bolt circle", count=1, reference=False))
    return out


def _hole(c: Clause) -> Values:
    out = [_size("diameter", c.diameter_mm, "hole diameter", **_own(c))]
    if c.depth_mm is not None:
        out.append(_size("depth", c.depth_mm, f"hole depth to the {c.depth_to}"))
    return out + _entries(c)


def _thread(c: Clause) -> Values:
    t = c.thread
    if t is None:
        return []
    out = [_size("diameter", t.major_mm, f"major diameter, {t.designation}")]
    if t.depth_mm:
        out.append(_size("length", t.depth_mm, "thread depth" if t.internal else "thread length"))
    if c.diameter_mm is not None:
        out.append(_size("diameter", c.diameter_mm, "drill diameter"))
    if c.depth_mm is not None:
        out.append(_size("depth", c.depth_mm, "drill depth"))
    return out + _entries(c)


def _diameter(c: Clause) -> Values:
    meaning = "spotface diameter" if c.spotface else "spherical diameter" if c.spherical else "diameter"
    pair = f", fit {c.fit}" if c.fit and "/" in c.fit else ""
    return [_size("diameter", c.diameter_mm, meaning + pair, **_own(c))]


def _radius(c: Clause) -> Values:
    return [_size("radius", c.size_mm, "spherical radius" if c.spherical else "radius", **_own(c))]


def _length(c: Clause) -> Values:
    out = [_size("length", c.size_mm, "square" if c.square else "length", **_own(c))]
    if c.pattern and c.pattern.total_mm:
        out.append(_size("length", c.pattern.total_mm, "over all spaces", count=1, reference=True))
    return out


def _chamfer(c: Clause) -> Values:
    angle = math.atan2(c.second_mm, c.size_mm or 1.0) if c.second_mm else math.radians(c.angle_deg or 45)
    return [_size("chamfer", c.size_mm, "chamfer", angle=angle, **_own(c))]


def _angle(c: Clause) -> Values:
    low, high = (None if v is None else math.radians(v) for v in (c.low_deg, c.high_deg))
    return [_size("angle", math.radians(c.angle_deg or 0), "angle", low=low, high=high)]


def _groove(c: Clause) -> Values:
    g = c.groove
    if g is None:
        return []
    word = "undercut" if g.form else "groove"
    sizes = (("length", g.width_mm, "width"), ("diameter", g.diameter_mm, "diameter"), ("depth", g.depth_mm, "depth"),
             ("radius", g.radius_mm, "radius"))  # fmt: skip
    return [_size(kind, value, f"{word} {what}") for kind, value, what in sizes if value is not None]


def _keyway(c: Clause) -> Values:
    k = c.keyway
    if k is None:
        return []
    sizes = (("length", k.width_mm, "keyway width"), ("depth", k.depth_mm, "keyway depth"),
             ("length", k.length_mm, "keyway length"))  # fmt: skip
    return [
        _size(kind, value, what, **({"fit": k.fit} if what == "keyway width" else {}))
        for kind, value, what in sizes
        if value is not None
    ]


def _centre(c: Clause) -> Values:
    if c.centre is None:
        return []
    out = [_size("diameter", c.centre.pilot_mm, "centre hole pilot")]
    if c.centre.countersink_mm is not None:
        out.append(_size("diameter", c.centre.countersink_mm, "centre hole countersink"))
    return out


def _taper(c: Clause) -> Values:
    return [_size("taper", c.taper.ratio, "taper")] if c.taper else []


def _knurl(c: Clause) -> Values:
    return [_size("length", c.knurl.pitch_mm, f"pitch of knurl {c.knurl.form}", reference=True)] if c.knurl else []


def _general(c: Clause) -> Values:
    r = c.rule
    if r is None:
        return []
    limits = {"low": 0.0, "high": r.size_mm} if r.at_most else {}
    if r.what in ("break", "chamfer"):
        angle = math.radians(r.angle_deg or 45)
        return [_size("chamfer", r.size_mm, f"general {r.what}", angle=angle, **limits)]
    return [_size("radius", r.size_mm, f"general {r.what}", **limits)]


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
