"""Measuring on the finished solid: named faces in, a size out; parameters are never looked at.

Where a probe covers several instances - holes of one step, copies by patterns and mirrors - the one farthest from
what is
expected is reported, so that one bad hole of eight is not averaged away. Sizes of a feature itself (``LOCAL``) are
measured on every copy; sizes between features on the copies that have them all.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BRepExtrema import BRepExtrema_DistShapeShape

from lathed_solid.kernel import thread_proof
from lathed_solid.kernel.bevels import bevel, tangent
from lathed_solid.kernel.circles import bolt_circle, circle_radius, places
from lathed_solid.kernel.directions import clock
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.lengths import depth, height, recess, slot, stretch, wall_thickness
from lathed_solid.kernel.look import Look, Wrap, unwrapped
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.vectors import dot, minus, times
from lathed_solid.kernel.walls import Wall
from lathed_solid.ledger import Probe
from lathed_solid.proof.findings import Finding

__all__ = ["Look", "MeasureError", "Measured", "circle_radius", "gap", "measure"]

PARALLEL = 1e-9
#: sizes of a feature itself, measured on all its copies
LOCAL = frozenset(
    {
        "diameter", "diameter_at", "mouth", "radius", "stretch", "height", "depth", "recess", "slot", "leg",
        "second_leg", "bevel_angle", "cone_angle", "included", "taper", "bolt_circle", "thread_major",
        "thread_length", "wall",
    }
)  # fmt: skip
#: sizes in a frame of the part: of the original alone, a copy stands elsewhere
PLACED = frozenset({"ordinate", "corner", "place_x", "place_y"})
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


@dataclass(frozen=True)
class Case:
    """One instance to be measured: the faces of each of the probe's names under one prefix of copies."""

    look: Look
    probe: Probe
    wrap: Wrap
    groups: tuple[tuple[tuple[Wrap, str], ...], ...]
    expected: float

    def surfaces(self, k: int) -> list[Surface]:
        """All that is left under the probe's k-th name."""
        return [self.look.surface(*f) for f in self.groups[k]] if k < len(self.groups) else []

    def first(self, k: int = 0) -> Surface:
        found = self.surfaces(k)
        if not found:
            raise MeasureError(
                f"the face {self.probe.faces[k] if k < len(self.probe.faces) else ''} is not on the solid"
            )
        return found[0]

    def walls(self, k: int) -> list[Wall]:
        return [Wall(self.look, self.look.surface(*f), *f) for f in self.groups[k]]


#: values of one case, one for each place; the duties found; places that are sound
Result = tuple[list[float], list[Finding], int]


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
    for case in _cases(look, probe, nominal):
        got, more, places_found = _WAYS[probe.kind](case)
        values += got
        findings += more
        sound += places_found
        names += [look.atom(*f) for group in case.groups for f in group]
        at += [look.atom(*f) for f in case.groups[_main(probe)]]
    if not values:
        raise MeasureError("nothing of what was named is on the solid")
    choose = min if probe.kind in NEAREST else max
    worst = choose(values, key=lambda v: abs(v - nominal))
    return Measured(worst, sound, tuple(dict.fromkeys(names)), tuple(findings), tuple(at))


def _cases(look: Look, probe: Probe, nominal: float) -> list[Case]:
    """The original with all its instances, then each copy that can be measured by itself."""
    found = [list(look.find(p)) for p in probe.faces]
    named = enumerate(zip(probe.faces, found, strict=True))
    lacking = next((p for k, (p, f) in named if not f and not _may_lack(probe, k)), None)
    if lacking is not None:
        raise MeasureError(f"the face {lacking} is not on the solid")
    wraps = sorted({w for group in found for w, _ in group}, key=lambda w: (len(w), w))
    if probe.kind == "bolt_circle":
        return [Case(look, probe, (), tuple(tuple(g) for g in found), nominal)]
    out = []
    for wrap in wraps[:1] if probe.kind in PLACED else wraps:
        groups = []
        for k, group in enumerate(found):
            own = tuple(f for f in group if f[0] == wrap)
            if not own and (k > 0 or probe.kind not in LOCAL) and wrap and probe.kind in LOCAL:
                own = tuple(f for f in group if f[0] == ())
            groups.append(own)
        there = groups[:2] if probe.kind == "height" else [groups[_main(probe)]]
        if not any(there) or (wrap and probe.kind not in LOCAL and not all(groups)):
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


def _need(surface: Surface, *kinds: str) -> Surface:
    if surface.kind not in kinds:
        raise MeasureError(f"a {surface.kind} cannot be measured this way", rule=f"{' or '.join(kinds)} needed")
    return surface


# round things ------------------------------------------------------------------------------------
def _diameters(case: Case) -> Result:
    values, findings, sound, pieces = [], [], 0, 0
    for wall in case.walls(0):
        s = _need(wall.surface, "cylinder", "sphere")
        values.append(2 * s.radius)
        if s.kind == "sphere":
            findings.append(Finding("form", word="sphere"))
            sound += 1
            continue
        findings.append(Finding("form", word="hole" if wall.inside else "pin"))
        if wall.sound or ".helix." in wall.core:  # of a thread's crest only a spiral is left
            sound += 1
            pieces += len(wall.pieces)
        else:
            word = "hole" if wall.inside else "pin"
            findings.append(
                Finding("form", holds=False, reason=f"only {wall.share:.0%} of the {word} {wall.name} is left")
            )
        if wall.inside and wall.plugged:
            findings.append(Finding("form", holds=False, reason=f"material stands in the way within {wall.name}"))
        if wall.inside:
            findings.append(Finding("through", holds=not wall.blocked, reason=wall.blocked))
            findings += _with_its_hole(case.look, wall)
    if len(values) > 1:
        findings += _circle_of(case)
    if pieces > sound:
        # a hole through two flanges is one drilled, and two that are seen
        findings.append(Finding("places", float(pieces)))
    return values, findings, sound


def _with_its_hole(look: Look, wall: Wall) -> list[Finding]:
    """A widening stands concentric with the hole that its own step drilled."""
    step, _, entity = wall.core.partition("/")
    head, _, what = entity.partition(".")
    if what not in ("cbore", "cdrill"):
        return []
    return [_concentric(look, wall.surface, wall.wrap, f"{step}/{head}.wall")]


def _concentric(look: Look, wide: Surface, wrap: Wrap, hole: str) -> Finding:
    from lathed_solid.kernel.look import coaxial

    if look.atom(wrap, hole) not in look.body.by_atom:
        return Finding("concentric", holds=False, reason="its hole is not on the solid")
    s = look.surface(wrap, hole)
    holds = coaxial(wide, s.origin, s.direction, 1e-4)
    return Finding("concentric", holds=holds, reason="" if holds else "it stands beside its hole")


def _circle_of(case: Case) -> list[Finding]:
    """How evenly the places of a set stand on their circle."""
    try:
        return bolt_circle(case.surfaces(0), 0.0, False)[1]
    except MeasureError:
        return []


def _radii(case: Case) -> Result:
    values, findings = [], []
    for f in case.groups[0]:
        s = _need(case.look.surface(*f), "torus", "cylinder", "sphere")
        values.append(s.radius)
        findings.append(Finding("form", word="sphere" if s.kind == "sphere" else "round"))
        if tangent(case.look, *f) is False:
            reason = f"{case.look.atom(*f)} does not run smoothly into the faces beside it"
            findings.append(Finding("form", holds=False, reason=reason))
    return values, findings, len(values)


def _mouths(case: Case) -> Result:
    """A countersink's diameter where it meets the local rim; its cone about its hole."""
    values, findings = [], []
    for wrap, core in case.groups[0]:
        s = _need(case.look.surface(wrap, core), "cone")
        step, _, entity = core.partition("/")
        head = entity.partition(".")[0]
        narrow = s.direction if s.half_angle < 0 else times(s.direction, -1.0)
        out = times(narrow, -1.0)
        rim = s.extent(out)[1]
        along = (rim - dot(s.origin, out)) * (1.0 if dot(out, s.direction) > 0 else -1.0)
        values.append(2 * abs(s.radius + along * math.tan(s.half_angle)))
        findings.append(Finding("form", word="hole" if hollow(s) else "pin"))
        findings.append(_concentric(case.look, s, wrap, f"{step}/{head}.wall"))
    return values, findings, len(values)


def _diameter_at(case: Case) -> Result:
    cone = _need(case.first(), "cone")
    beside = next((s for k in range(1, len(case.probe.faces)) for s in case.surfaces(k)), None)
    if beside is None:
        raise MeasureError("the face where the diameter is told is not on the solid")
    d = cone.direction
    if beside.kind == "plane":
        along = dot(minus(beside.origin, cone.origin), d)
    else:  # no shoulder: the end of the cone itself that lies towards its neighbour
        ends, towards = cone.extent(d), sum(beside.extent(d)) / 2
        along = min(ends, key=lambda e: abs(e - towards)) - dot(cone.origin, d)
    form = Finding("form", word="hole" if hollow(cone) else "pin")
    return [2 * abs(cone.radius + along * math.tan(cone.half_angle))], [form], 1


def _half_angles(case: Case) -> Result:
    values = [abs(_need(s, "cone").half_angle) for s in case.surfaces(0)]
    return values, [], len(values)


def _included(case: Case) -> Result:
    values, _, n = _half_angles(case)
    return [2 * a for a in values], [], n


def _tapers(case: Case) -> Result:
    values, _, n = _half_angles(case)
    return [0.5 / math.tan(a) for a in values], [], n


def _bolt_circles(case: Case) -> Result:
    walls = list(case.walls(0))
    for w in walls:
        _need(w.surface, "cylinder", "cone")
    value, findings = bolt_circle([w.surface for w in walls], case.expected, case.probe.about == "origin")
    sound = [w for w in walls if w.surface.kind != "cylinder" or w.sound]
    return [value], [*findings, Finding("places", float(len(sound)))], len(sound)


def _place(k: int) -> Callable[[Case], Result]:
    def found(case: Case) -> Result:
        walls = case.walls(0)
        values = []
        entry = next((s for s in case.surfaces(1) if s.kind == "plane"), None)
        for wall in walls:
            out = wall.entry() if entry is None else entry.direction
            both = [out] if entry is not None else [out, times(out, -1.0)]
            found = [float(places([wall.surface], way)[0][k]) for way in both]
            values.append(min(found, key=lambda v: abs(v - case.expected)))
        return values, [], len(values)

    return found


# lengths -----------------------------------------------------------------------------------------
def _two(case: Case) -> tuple[Surface, list[Surface]]:
    if len(case.probe.faces) == 1 and len(case.surfaces(0)) == 2:
        return case.surfaces(0)[0], case.surfaces(0)[1:]
    if len(case.groups) < 2:
        raise MeasureError("two faces are needed")
    return case.first(0), case.surfaces(1)


def _distances(case: Case) -> Result:
    first, others = _two(case)
    n = _need(first, "plane").direction
    out = []
    for other in others:
        if abs(abs(dot(n, _need(other, "plane").direction)) - 1) > PARALLEL:
            raise MeasureError("the two faces are not parallel")
        out.append(abs(dot(minus(other.origin, first.origin), n)))
    return out, [], len(out)


def _positions(case: Case) -> Result:
    plane, cylinders = _two(case)
    n = _need(plane, "plane").direction
    out = []
    for c in cylinders:
        if c.kind != "sphere" and abs(dot(n, _need(c, "cylinder", "cone", "torus").direction)) > PARALLEL:
            raise MeasureError("the hole's axis is not parallel to the datum face")
        out.append(abs(dot(minus(c.origin, plane.origin), n)))
    return out, [], len(out)


def _axes(case: Case) -> Result:
    first, others = _two(case)
    d = _need(first, "cylinder", "cone", "torus").direction
    out = []
    for other in others:
        if abs(abs(dot(d, _need(other, "cylinder", "cone", "torus").direction)) - 1) > PARALLEL:
            raise MeasureError("the two axes are not parallel")
        apart = minus(other.origin, first.origin)
        out.append(math.sqrt(max(0.0, dot(apart, apart) - dot(apart, d) ** 2)))
    return out, [], len(out)


def _depths(case: Case) -> Result:
    values, findings, sound = [], [], 0
    entry = case.surfaces(0)[0] if case.groups[0] and not case.wrap else None
    for wall in case.walls(1):
        values.append(depth(wall, entry))
        sound += 1 if wall.surface.kind != "cylinder" or wall.sound else 0
        findings += _with_its_hole(case.look, wall) if wall.surface.kind == "cylinder" else []
    return values, findings, sound


def _legs(case: Case) -> Result:
    return _bevels(case, lambda b: b.first)


def _second_legs(case: Case) -> Result:
    return _bevels(case, lambda b: b.second)


def _bevel_angles(case: Case) -> Result:
    return _bevels(case, lambda b: b.angle)


def _bevels(case: Case, value: Callable[[Any], float]) -> Result:
    values, findings = [], []
    first, second = (case.probe.faces[k] if k < len(case.probe.faces) else "" for k in (1, 2))
    on = ""
    if first.startswith("on:"):
        first, on = "", first[3:]
    for wrap, core in case.groups[0]:
        found = bevel(case.look, wrap, core, first, second, on)
        values.append(value(found))
        findings += [Finding("leg angle", found.angle), Finding("second leg", found.second)]
    return values, findings, len(values)


def _frame(case: Case) -> tuple[np.ndarray, np.ndarray]:
    """Origin and direction in space of a probe in a sketch's plane."""
    frame = case.look.frame(case.probe.sketch)
    dx, dy = case.probe.along
    return np.array(frame.origin), dx * np.array(frame.x) + dy * np.array(frame.y)


def _ordinates(case: Case) -> Result:
    origin, way = _frame(case)
    out = []
    for s in case.surfaces(0):
        if s.kind == "plane" and abs(abs(float(np.dot(s.direction, way))) - 1) > PARALLEL:
            raise MeasureError("the face does not stand square to the dimension")
        if s.kind in ("cylinder", "cone") and abs(float(np.dot(s.direction, way))) > PARALLEL:
            raise MeasureError("the axis does not stand square to the dimension")
        out.append(float((np.array(s.origin) - origin) @ way))
    return out, [], len(out)


def _corners(case: Case) -> Result:
    """Where two flats would meet: from a third one, or from the origin, along a direction of the sketch."""
    origin, way = _frame(case)
    frame = case.look.frame(case.probe.sketch)
    a, b = (_need(case.first(k), "plane") for k in (0, 1))
    normals = np.array([a.direction, b.direction, frame.normal])
    if abs(np.linalg.det(normals)) < PARALLEL:
        raise MeasureError("the two faces at the corner do not meet")
    at = np.linalg.solve(normals, np.array([dot(a.direction, a.origin), dot(b.direction, b.origin),
                                            float(np.dot(frame.normal, origin))]))  # fmt: skip
    base = origin if len(case.probe.faces) < 3 else np.array(_need(case.first(2), "plane").origin)
    value = float((at - base) @ way)
    return [value if len(case.probe.faces) < 3 else abs(value)], [], 1


def _apart(case: Case) -> Result:
    _, way = _frame(case)
    first, others = _two(case)
    out = [abs(float((np.array(o.origin) - np.array(first.origin)) @ way)) for o in others]
    return out, [], len(out)


# angles ------------------------------------------------------------------------------------------
def _clocks(case: Case) -> Result:
    """A wall through both sides of the part shows at two angles."""
    datum, walls = _two(case)
    axis = _need(datum, "plane").direction
    out = []
    for wall in walls:
        d = _need(wall, "cylinder").direction
        if abs(dot(d, axis)) > PARALLEL:
            raise MeasureError("the hole does not stand square to the axis")
        low, high = (e - dot(datum.origin, d) for e in wall.extent(d))
        ways = [way for way, reach in ((d, high), (times(d, -1.0), -low)) if reach > 0]
        out += [clock(axis, way) for way in ways]
    return out, [], len(walls)


def _angles(case: Case) -> Result:
    first, others = _two(case)
    n = _need(first, "plane").direction
    out = []
    for other in others:
        angle = math.acos(max(-1.0, min(1.0, dot(n, _need(other, "plane").direction))))
        out += [angle, math.pi - angle]
    return out, [], len(others)


def _drafts(case: Case) -> Result:
    plane = _need(case.first(0), "plane")
    out = []
    for side in case.surfaces(1):
        if side.kind == "cone":
            out.append(abs(side.half_angle))
        else:
            lean = abs(dot(plane.direction, _need(side, "plane").direction))
            if lean < 1 - PARALLEL:  # the other end is no side
                out.append(math.asin(lean))
    return out, [], len(out)


def _turns(case: Case) -> Result:
    """From the first flat to the second the way the material turns, below a full turn."""
    a, b = _need(case.first(0), "plane"), _need(case.first(1), "plane")
    between = math.acos(max(-1.0, min(1.0, dot(a.direction, times(b.direction, -1.0)))))
    return [between, 2 * math.pi - between], [], 1


# the rest ----------------------------------------------------------------------------------------
def _threaded(case: Case) -> Result:
    values, findings = [], []
    for f in case.groups[0]:
        value, more = thread_proof.drawn(case.look, *f, case.probe.kind)
        values.append(value)
        findings += more
    return values, findings, len(values)


def _real(look: Look, probe: Probe) -> Measured:
    prefix = probe.faces[0].removesuffix(".**")
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
        numbers = sorted({int(w[-1].removeprefix(base)) for a in look.body.by_atom for w, _ in unwrapped(a)
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
    for atom in look.body.by_atom:
        for wrap, core in unwrapped(atom):
            if wrap and wrap[-1] == after:
                first = (*wrap[:-1], before) if before else wrap[:-1]
                if look.atom(first, core) in look.body.by_atom:
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


def _gaps(case: Case) -> Result:
    first, others = _two(case)
    out = [min(gap(a, b) for a in first.faces for b in other.faces) for other in others]
    return out, [], len(out)


def gap(a: Any, b: Any) -> float:
    """The least distance between two shapes, mm. Raises MeasureError when the kernel cannot tell."""
    found = BRepExtrema_DistShapeShape(a, b)
    if not found.IsDone():
        raise MeasureError("the least distance cannot be found")
    return float(found.Value())


def _simple(way: Callable[[Case], list[float]]) -> Callable[[Case], Result]:
    def found(case: Case) -> Result:
        values = way(case)
        return values, [], len(values)

    return found


_WAYS: dict[str, Callable[[Case], Result]] = {
    "diameter": _diameters,
    "diameter_at": _diameter_at,
    "mouth": _mouths,
    "radius": _radii,
    "distance": _distances,
    "stretch": _simple(lambda c: stretch(c.look, c.surfaces(0) + c.surfaces(3), c.surfaces(1) + c.surfaces(2))),
    "height": _simple(lambda c: height(c.surfaces(0), c.surfaces(1), c.surfaces(2), c.surfaces(3))),
    "position": _positions,
    "depth": _depths,
    "recess": _simple(lambda c: [recess(c.first(0), c.first(1))]),
    "slot": _simple(lambda c: [slot(c.first(0), c.surfaces(1))]),
    "leg": _legs,
    "second_leg": _second_legs,
    "bevel_angle": _bevel_angles,
    "cone_angle": _half_angles,
    "included": _included,
    "taper": _tapers,
    "draft": _drafts,
    "clock": _clocks,
    "bolt_circle": _bolt_circles,
    "place_x": _place(0),
    "place_y": _place(1),
    "axes": _axes,
    "apart": _apart,
    "ordinate": _ordinates,
    "corner": _corners,
    "angle": _angles,
    "turn": _turns,
    "thread_major": _threaded,
    "thread_length": _threaded,
    "gap": _gaps,
    "wall": _simple(lambda c: [wall_thickness(c.look, s, c.expected) for s in c.surfaces(0)]),
}
