"""Tolerances of form, direction and place, measured where the model shows what they ask.

What a model can break is its construction, not a machine's: a plane is flat, a cylinder round. Form is measured on the
kind of surface; direction and place of one feature from another, the datum, whose callout carries its letter.

| characteristic                | of                 | from          | measured, mm                                 |
|-------------------------------|--------------------|---------------|----------------------------------------------|
| flatness, straightness        | flat or round face | -             | 0 on a plane (a cylinder has straight lines) |
| circularity, cylindricity     | round face         | -             | 0 on a cylinder                              |
| parallelism, perpendicularity | flat or round face | flat or round | the lean over the feature's own reach        |
| concentricity                 | round face         | round face    | twice the distance of the axes, and the lean |
| runout, total runout          | round or flat face | round face    | the same, or the lean of the face            |
| position                      | round face         | round face    | as concentricity, where no size leads to it  |
| position                      | round face         | flat or round | twice what the sizes of its place miss by    |
| symmetry                      | two flat faces     | the same, round face | twice the distance of the middle planes |

A feature's true place is given by the sizes that end at it and have no limits of their own (ASME Y14.5 7.2, basic
sizes): each is measured on the solid, its misses dx, dy, .. make one distance sqrt(dx^2 + dy^2 ..), doubled to the
diameter of the zone that holds the axis, and the axis' lean from the first datum over its depth is added. Of a zone
that is no cylinder the largest miss counts.

Angularity and profile are not judged here. Compound datums (A-B) neither.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.vectors import Triple
from lathed_solid.ledger import Callout, Duty
from lathed_solid.part import Document
from lathed_solid.proof.derived import expected
from lathed_solid.proof.findings import Finding
from lathed_solid.proof.resolve import Shown

#: sizes that can say a place
PLACING = ("length", "row total", "bolt circle")
FLAT_FORMS, ROUND_FORMS = ("flatness", "straightness"), ("circularity", "cylindricity", "straightness")


def judge_geometry(document: Document, shown: dict[int, list[Shown]], look: Look) -> None:
    """Add to what is shown of each callout what was measured of its tolerances of form, direction and place."""
    owners = {d.word: c for c in document.callouts for d in c.duties if d.kind == "datum"}
    for callout in document.callouts:
        asked = [d for d in callout.duties if d.kind == "geometry"]
        found = shown[callout.balloon]
        place = next((i for i, s in enumerate(found) if s.value is not None), None)
        if not asked or place is None:
            continue
        placed = _misses(document, callout, shown)
        findings = [_finding(callout, d, owners, shown, look, placed) for d in asked]
        found[place] = replace(found[place], findings=(*found[place].findings, *findings))


def _finding(
    callout: Callout,
    duty: Duty,
    owners: Mapping[str, Callout],
    shown: Mapping[int, Sequence[Shown]],
    look: Look,
    placed: Mapping[str, Sequence[float]],
) -> Finding:
    said = duty.said(callout.unit)
    missing = [letter for letter in duty.datums if letter not in owners]
    if missing:
        return Finding("geometry", word=said, reason=f"no callout carries the datum {', '.join(missing)}")
    own = _surfaces(shown[callout.balloon], look)
    base = _surfaces(shown[owners[duty.datums[0]].balloon], look) if duty.datums else []
    if duty.word == "position":
        offs = _places(duty, own, base, placed)
    elif duty.word == "symmetry":
        owner = shown[owners[duty.datums[0]].balloon] if duty.datums else ()
        offs = [_aside(_walls(shown[callout.balloon], look), base, _walls(owner, look))]
    else:
        offs = [_off(duty.word, s, base) for s in own]
    if not offs or any(o is None for o in offs):
        return Finding("geometry", word=said, reason="it rests on what the model does not show")
    return Finding("geometry", value=max(o for o in offs if o is not None), word=said)


def _misses(document: Document, callout: Callout, shown: Mapping[int, Sequence[Shown]]) -> dict[str, list[float]]:
    """By how much the sizes that lead to each face of a callout miss, mm; not those with limits of their own."""
    own = {f for s in shown[callout.balloon] if s.value is not None for f in s.at}
    out: dict[str, list[float]] = {}
    for other in document.callouts:
        own_limits = other.fit is not None or other.low is not None or other.high is not None
        if other.role not in PLACING or own_limits or other.reference:
            continue
        for s in shown[other.balloon]:
            if s.value is None:
                continue
            try:
                miss = abs(s.value) - abs(expected(document, s.showing, other))
            except LathedError:
                continue
            for face in own & {*s.faces, *s.at}:
                out.setdefault(face, []).append(miss / 2 if other.role == "bolt circle" else miss)
    return out


def _places(
    duty: Duty, own: Sequence[Surface], base: Sequence[Surface], placed: Mapping[str, Sequence[float]]
) -> list[float | None]:
    """How far axes are from their true places, as a diameter or a width; None where nothing says their place."""
    if not base or any(s.kind != "cylinder" for s in own) or base[0].kind not in ("plane", "cylinder"):
        return [None]
    if not placed:
        # another axis than the datum's own is meant where the feature does not lie about it: its place is not said
        return [_off("concentricity", s, base) if _about(s, base[0]) else None for s in own]
    # a frame does not say whether the axis stands on its datum or lies along it: the smaller lean is meant
    lean = max(min(_lean(s, base[0], along=way) for way in (True, False)) for s in own)
    zone = [math.hypot(*misses) if duty.diametral else max(map(abs, misses)) for misses in placed.values()]
    return [2 * miss + lean for miss in zone]


def _walls(found: Sequence[Shown], look: Look) -> list[Surface]:
    """The two flat faces that a width was measured between; none where it is no width."""
    first = [s for s in _surfaces(found[:1], look) if s.kind == "plane"][:1]
    across = _surfaces([replace(f, at=()) for f in found[:1]], look) if first else []
    both = [s for s in across if s.kind == "plane" and _parallel(s.direction, first[0].direction)]
    return both if len(both) == 2 else []


def _aside(walls: Sequence[Surface], base: Sequence[Surface], datum: Sequence[Surface]) -> float | None:
    """Twice the distance of a width's middle plane from the datum's axis or middle plane; None where there is none."""
    if not walls or not base:
        return None
    normal = walls[0].direction
    middle = sum(_dot(w.origin, normal) for w in walls) / 2
    if base[0].kind == "cylinder" and abs(_dot(base[0].direction, normal)) < 1e-9:
        return 2 * abs(middle - _dot(base[0].origin, normal))
    if datum and _parallel(datum[0].direction, normal):
        return 2 * abs(middle - sum(_dot(w.origin, normal) for w in datum) / 2)
    return None


def _parallel(a: Triple, b: Triple) -> bool:
    return abs(abs(_dot(a, b)) - 1) < 1e-9


def _dot(a: Triple, b: Triple) -> float:
    return float(np.dot(a, b))


def _about(s: Surface, datum: Surface) -> bool:
    return datum.kind == "cylinder" and _lean(s, datum, along=True) < s.radius and _apart(s, datum) < s.radius


def _surfaces(found: Sequence[Shown], look: Look) -> list[Surface]:
    """The faces that a callout was measured at."""
    out = []
    for name in dict.fromkeys(f for s in found if s.value is not None for f in (s.at or s.faces)):
        try:
            for wrap, core in look.find(name):
                out.append(look.surface(wrap, core))
        except (LathedError, ValueError):
            continue
    return out


def _off(word: str, s: Surface, base: Sequence[Surface]) -> float | None:
    """How far a surface is from what is asked of it, mm; None where that does not show."""
    if not base:
        fits = (s.kind == "plane" and word in FLAT_FORMS) or (s.kind == "cylinder" and word in ROUND_FORMS)
        return 0.0 if fits else None
    datum = base[0]
    if {s.kind, datum.kind} - {"plane", "cylinder"}:
        return None
    if word == "concentricity" and s.kind == datum.kind == "cylinder":
        return 2 * _apart(s, datum)
    if word in ("runout", "total runout") and datum.kind == "cylinder":
        # a face square to the axis leans with its normal off the axis, a cylinder runs out with its axis off it
        return (
            2 * _apart(s, datum) + _lean(s, datum, along=True) if s.kind == "cylinder" else _lean(s, datum, along=True)
        )
    if word in ("parallelism", "perpendicularity"):
        # directions of a plane and of an axis stand square where the surfaces are parallel
        crossed = s.kind != datum.kind
        return _lean(s, datum, along=(word == "parallelism") != crossed)
    return None


def _lean(s: Surface, datum: Surface, *, along: bool) -> float:
    """How far a surface leans over its own reach, where its direction should be along the datum's, or square to it."""
    a, b = np.array(s.direction, float), np.array(datum.direction, float)
    dot = min(1.0, abs(float(a @ b)))
    sine = math.sqrt(max(0.0, 1 - dot * dot)) if along else dot
    low, high = s.extent(s.direction) if s.kind == "cylinder" else _reach(s)
    return sine * (high - low) if sine > 1e-9 else 0.0


def _reach(s: Surface) -> tuple[float, float]:
    """The widest extent of a flat face along two ways in it."""
    n = np.array(s.direction, float)
    helper = np.array((1.0, 0.0, 0.0)) if abs(n[0]) < 0.9 else np.array((0.0, 1.0, 0.0))
    u = np.cross(n, helper)
    u /= np.linalg.norm(u)
    spans = [s.extent(tuple(float(x) for x in w)) for w in (u, np.cross(n, u))]  # type: ignore[arg-type]
    return max(spans, key=lambda e: e[1] - e[0])


def _apart(a: Surface, b: Surface) -> float:
    """Distance of the first axis' origin from the second axis, mm."""
    d, apart = np.array(b.direction, float), np.array(a.origin, float) - np.array(b.origin, float)
    return float(np.linalg.norm(apart - d * float(apart @ d)))
