"""Measuring on the finished solid: named faces in, a size out; parameters are never looked at.

Where a probe covers several instances - holes of one step, copies by patterns and mirrors - the one farthest from
what is expected is reported, so that one bad hole of eight is not averaged away. Sizes of a feature itself (``LOCAL``)
are measured on every copy; sizes between features on the copies that have them all.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass

from lathed_solid.kernel import coil, thread_proof
from lathed_solid.kernel import flat_sizes as flat
from lathed_solid.kernel import round_sizes as round_
from lathed_solid.kernel.case import Case, Result
from lathed_solid.kernel.circles import circle_radius
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.flat_sizes import gap
from lathed_solid.kernel.lengths import height, recess, slot, stretch, wall_thickness
from lathed_solid.kernel.look import Look, unwrapped
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.vectors import dot, minus, times
from lathed_solid.ledger import Probe
from lathed_solid.proof.findings import Finding

__all__ = ["Look", "MeasureError", "Measured", "cases", "circle_radius", "gap", "measure"]

#: sizes of a feature itself, measured on all its copies
LOCAL = frozenset(
    {
        "diameter", "arc_diameter", "diameter_at", "mouth", "radius", "stretch", "height", "depth", "recess", "slot",
        "leg", "second_leg", "bevel_angle", "cone_angle", "included", "taper", "bolt_circle", "thread_major",
        "thread_length", "wall", "corners",
    }
)  # fmt: skip
#: sizes in a frame of the part: of the original alone, a copy stands elsewhere
PLACED = frozenset({"ordinate", "corner", "place_x", "place_y"})
#: of these, copies that stand elsewhere are counted
FROM_ORIGIN = frozenset({"ordinate", "corner"})
#: mm
SAME_LEVEL = 1e-4
#: sizes that are told by how far flat faces reach, not by their planes alone
OUTLINED = frozenset({"height", "stretch", "slot", "recess", "gap", "wall", "spacing"})
#: of these the nearest of several is meant: an angle or its supplement, a hole seen from either side
NEAREST = frozenset({"angle", "clock"})


@dataclass(frozen=True, slots=True)
class Measured:
    """``value`` in mm, rad or a ratio, ``found`` sound places, ``faces`` names used, ``findings`` of the duties;
    ``at``: of the faces those that are the places.
    """

    value: float
    found: int
    faces: tuple[str, ...]
    findings: tuple[Finding, ...] = ()
    at: tuple[str, ...] = ()


def measure(body: Body | Look, probe: Probe, nominal: float, parts: Parts | None = None) -> Measured:
    """The size that ``probe`` describes, ``nominal`` the value expected; ``parts`` carry the data of drawn threads.

    Raises MeasureError when a face is gone or of another kind.
    """
    look = body if isinstance(body, Look) else Look(body, parts)
    if probe.kind == "spacing":
        return _spacing(look, probe, nominal)
    if probe.kind in ("real_major", "real_length", "pitch"):
        return _real(look, probe)
    values: list[float] = []
    findings: list[Finding] = []
    names: list[str] = []
    at: list[str] = []
    sound = 0
    for case in cases(look, probe, nominal):
        got, more, places_found = WAYS[probe.kind](case)
        values += got
        findings += more
        sound += places_found
        names += [look.atom(*f) for group in case.groups for f in group]
        at += [look.first_name(look.atom(*f)) for f in case.groups[_main(probe)]]
    if not values:
        raise MeasureError("nothing of what was named is on the solid")
    if probe.kind in FROM_ORIGIN:
        levels = _levels(look, probe, nominal, values)
        findings += [Finding("places", float(n)) for n in levels if n > sound]
    choose = min if probe.kind in NEAREST else max
    worst = choose(values, key=lambda v: abs(v - nominal))
    return Measured(worst, sound, tuple(dict.fromkeys(names)), tuple(findings), tuple(at))


def _levels(look: Look, probe: Probe, nominal: float, own: list[float]) -> tuple[int, int]:
    """At how many levels the copies of what was measured stand, as one view shows them, and how many there are."""
    found = list(own)
    for case in cases(look, probe, nominal, copies=True)[1:]:
        try:
            found += WAYS[probe.kind](case)[0]
        except MeasureError:
            continue
    found.sort()
    return 1 + sum(b - a > SAME_LEVEL for a, b in itertools.pairwise(found)), len(found)


def cases(look: Look, probe: Probe, nominal: float, *, copies: bool = False) -> list[Case]:
    """The original with all its instances, then each copy that can be measured by itself (``copies``: of sizes that
    have a place too).
    """
    local = probe.kind in LOCAL or (copies and probe.kind in FROM_ORIGIN)
    found = [list(look.find(p)) for p in probe.faces]
    named = enumerate(zip(probe.faces, found, strict=True))
    lacking = next((p for k, (p, f) in named if not f and not _may_lack(probe, k)), None)
    if lacking is not None:
        raise MeasureError(f"the face {lacking} is not on the solid")
    wraps = sorted({w for group in found for w, _ in group}, key=lambda w: (len(w), w))
    if probe.kind == "bolt_circle":
        return [Case(look, probe, (), tuple(tuple(g) for g in found), nominal)]
    out = []
    for wrap in wraps[:1] if probe.kind in PLACED and not copies else wraps:
        groups = [tuple(f for f in group if f[0] == wrap) for group in found]
        cornered = probe.kind in ("corner", "corners")
        there = groups[:2] if probe.kind == "height" else groups if cornered else [groups[_main(probe)]]
        if wrap and local and any(there) and not cornered:
            # what a copy does not bring along it shares with the original
            groups[1:] = [
                own or tuple(f for f in group if f[0] == ()) for own, group in zip(groups[1:], found[1:], strict=True)
            ]
        if not any(there) or (wrap and not local and not all(groups)):
            continue
        out.append(Case(look, probe, wrap, tuple(groups), nominal))
    if not out:
        raise MeasureError(f"the face {probe.faces[_main(probe)]} is not on the solid")
    return out


def _main(probe: Probe) -> int:
    """The name whose faces are the instances."""
    return 1 if probe.kind in ("depth", "position", "clock") and len(probe.faces) > 1 else 0


def _may_lack(probe: Probe, place: int) -> bool:
    """Neighbours that a feature may have lost: a shoulder, the flat it was entered by, a face beside a bevel."""
    if probe.kind in ("stretch", "height"):
        return True
    return (
        place > 0
        and probe.kind in ("diameter_at", "mouth", "leg", "second_leg", "bevel_angle", "slot", "place_x", "place_y")
    ) or (place == 0 and probe.kind == "depth")


def _real(look: Look, probe: Probe) -> Measured:
    prefix = probe.faces[0].removesuffix(".**")
    if prefix.endswith("/coil.helix"):
        rise, told = coil.pitch(look, prefix)
        return Measured(rise, 1, tuple(look.atom(*f) for f in look.find(f"{prefix}.**")), tuple(told))
    major, findings = thread_proof.real(look, prefix)
    if probe.kind == "pitch":
        value = next(f.value for f in findings if f.kind == "pitch") or 0.0
    else:
        value = major if probe.kind == "real_major" else thread_proof.real_length(look, prefix)
    return Measured(value, 1, (f"{prefix}.crest", f"{prefix}.root"), tuple(findings))


def _spacing(look: Look, probe: Probe, expected: float) -> Measured:
    """From originals to their copies, or from copy to copy: the shift, or the turn of flats about the axis between."""
    tag = probe.faces[0]
    if not tag.endswith("*"):
        steps = [("", tag)]
    else:
        base = tag[:-1]
        numbers = sorted({int(w[-1].removeprefix(base)) for a in look.atoms for w, _ in unwrapped(a)
                          if w and w[-1].startswith(base) and w[-1].removeprefix(base).isdigit()})  # fmt: skip
        steps = [("" if k == 1 else f"{base}{k - 1}", f"{base}{k}") for k in numbers if k == 1 or k - 1 in numbers]
    angle = probe.about == "turn"
    values, names = [], []
    for before, after in steps:
        found = _step_between(look, before, after, angle)
        if found:
            # a flat shows its shift along its normal only: the greatest of all is the whole
            values.append(min(found, key=lambda v: abs(v - expected)) if angle else max(found))
            names.append(after)
    if not values:
        raise MeasureError("no original stands beside its copy")
    worst = max(values, key=lambda v: abs(v - expected))
    return Measured(worst, len(values), tuple(names), at=tuple(names))


def _step_between(look: Look, before: str, after: str, angle: bool) -> list[float]:
    out = []
    for atom in look.atoms:
        for wrap, core in unwrapped(atom):
            if wrap and wrap[-1] == after:
                first = (*wrap[:-1], before) if before else wrap[:-1]
                if look.has(look.atom(first, core)):
                    a, b = look.surface(first, core), look.surface(wrap, core)
                    out += _turned(a, b) if angle else _shifted(a, b)
    return out


def _shifted(a: Surface, b: Surface) -> list[float]:
    apart = minus(b.origin, a.origin)
    if a.kind == "plane":
        return [abs(dot(apart, a.direction))]
    if a.kind == "sphere":
        return [math.sqrt(dot(apart, apart))]
    if a.kind in ("cylinder", "cone", "torus"):
        across = minus(apart, times(a.direction, dot(apart, a.direction)))
        return [math.sqrt(dot(across, across))]
    return []


def _turned(a: Surface, b: Surface) -> list[float]:
    if a.kind == "plane":
        return [math.acos(max(-1.0, min(1.0, dot(a.direction, b.direction))))]
    return []


def _simple(way: Callable[[Case], list[float]]) -> Callable[[Case], Result]:
    def found(case: Case) -> Result:
        values = way(case)
        return values, [], len(values)

    return found


WAYS: dict[str, Callable[[Case], Result]] = {
    "diameter": round_.diameters,
    "arc_diameter": round_.diameters,
    "diameter_at": round_.diameter_at,
    "mouth": round_.mouths,
    "radius": round_.radii,
    "distance": flat.distances,
    "stretch": _simple(lambda c: stretch(c.look, c.surfaces(0) + c.surfaces(3), c.surfaces(1) + c.surfaces(2))),
    "height": _simple(lambda c: height(c.surfaces(0), c.surfaces(1), c.surfaces(2), c.surfaces(3))),
    "position": flat.positions,
    "near_side": flat.sides(-1.0),
    "far_side": flat.sides(1.0),
    "coaxial": flat.coaxial,
    "depth": flat.depths,
    "recess": _simple(lambda c: [recess(c.first(0), c.first(1))]),
    "slot": _simple(lambda c: [slot(c.first(0), c.surfaces(1))]),
    "leg": round_.legs,
    "second_leg": round_.second_legs,
    "bevel_angle": round_.bevel_angles,
    "cone_angle": round_.half_angles,
    "included": round_.included,
    "taper": round_.tapers,
    "draft": flat.drafts,
    "clock": flat.clocks,
    "bolt_circle": round_.bolt_circles,
    "place_x": round_.place(0),
    "place_y": round_.place(1),
    "axes": flat.axes,
    "apart": flat.apart,
    "ordinate": flat.ordinates,
    "corner": flat.corners,
    "corners": flat.between_corners,
    "angle": flat.angles,
    "turn": flat.turns,
    "coil_radius": coil.radii,
    "coil_ordinate": coil.ordinates,
    "coil_groove": coil.across(air=True),
    "coil_ridge": coil.across(air=False),
    "thread_major": round_.threaded,
    "thread_length": round_.threaded,
    "gap": flat.gaps,
    "wall": _simple(lambda c: [wall_thickness(c.look, s, c.expected) for s in c.surfaces(0)]),
}
