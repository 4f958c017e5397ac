"""Sizes of round things and of bevels, with the duties that show on them."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType

from lathed_solid.kernel import thread_proof
from lathed_solid.kernel.bevels import against_flat, bevel, tangent
from lathed_solid.kernel.case import Case, Result, need
from lathed_solid.kernel.circles import bolt_circle, places
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, Wrap, coaxial
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.kernel.vectors import dot, minus, times
from lathed_solid.kernel.walls import Wall
from lathed_solid.proof.findings import Finding
from lathed_solid.quantity.tolerances import ANGULAR

#: a widening farther off its hole's axis stands beside it, mm
BESIDE = 1e-4
#: of a drawn arc at least this much must be left
LEFT = 0.75


def diameters(case: Case) -> Result:
    """Twice the radius of cylinders and spheres, mm, with how much of a turn is left of each."""
    values, findings, sound, pieces = [], [], 0, 0
    for wall in case.walls(0):
        s = need(wall.surface, "cylinder", "sphere")
        values.append(2 * s.radius)
        if s.kind == "sphere":
            findings.append(Finding("form", word="sphere"))
            sound += 1
            continue
        findings.append(Finding("form", word="hole" if wall.inside else "pin"))
        drawn = case.probe.share
        if ".helix." in wall.core:  # of a thread's crest only a spiral is left
            sound, pieces = sound + 1, pieces + 1
        elif wall.sound if drawn == 1 else wall.share >= LEFT * drawn:
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
            findings += with_its_hole(case.look, wall)
    if len(values) > 1:
        findings += _circle_of(case)
    if pieces > sound:
        # a hole through two flanges is one drilled, and two that are seen
        findings.append(Finding("places", float(pieces)))
    return values, findings, sound


def with_its_hole(look: Look, wall: Wall) -> list[Finding]:
    """A widening stands concentric with the hole that its own step drilled, or with those in its floor."""
    step, _, entity = wall.core.partition("/")
    head, _, what = entity.partition(".")
    if what in ("cbore", "cdrill"):
        return [_concentric(look, wall.surface, wall.wrap, f"{step}/{head}.wall")]
    return [_about(wall.surface, s) for s in _below(look, wall)]


def _below(look: Look, wall: Wall) -> list[Surface]:
    """Narrower holes in a flat floor of this one."""
    out = []
    for floor in {Key(o): o for f in wall.surface.faces for e in edges(f) for o in look.neighbours(e)}.values():
        flat = look.read(floor)
        if flat.kind != "plane" or abs(abs(dot(flat.direction, wall.axis)) - 1) > ANGULAR:
            continue
        level = dot(flat.origin, flat.direction)
        if sum(wall.surface.extent(flat.direction)) / 2 < level:
            continue  # the face that it enters
        for edge in edges(floor):
            curve = BRepAdaptor_Curve(edge)
            if curve.GetType() != GeomAbs_CurveType.GeomAbs_Circle or curve.Circle().Radius() >= wall.surface.radius:
                continue
            for s in map(look.read, look.neighbours(edge)):
                along = s.kind == "cylinder" and abs(abs(dot(s.direction, wall.axis)) - 1) < ANGULAR
                if along and hollow(s) and sum(s.extent(flat.direction)) / 2 < level:
                    out.append(s)
    return out


def _concentric(look: Look, wide: Surface, wrap: Wrap, hole: str) -> Finding:
    if not look.has(look.atom(wrap, hole)):
        return Finding("concentric", holds=False, reason="its hole is not on the solid")
    return _about(wide, look.surface(wrap, hole))


def _about(wide: Surface, hole: Surface) -> Finding:
    holds = coaxial(wide, hole.origin, hole.direction, BESIDE)
    return Finding("concentric", holds=holds, reason="" if holds else "it stands beside its hole")


def _circle_of(case: Case) -> list[Finding]:
    """How evenly the places of a set stand on their circle."""
    try:
        return bolt_circle(case.surfaces(0), 0.0, False)[1]
    except MeasureError:
        return []


def radii(case: Case) -> Result:
    """The minor radius of tori, else the radius, mm."""
    values, findings = [], []
    for f in case.groups[0]:
        s = need(case.look.surface(*f), "torus", "cylinder", "sphere")
        values.append(s.radius)
        findings.append(Finding("form", word="sphere" if s.kind == "sphere" else "round"))
        if tangent(case.look, *f) is False:
            reason = f"{case.look.atom(*f)} does not run smoothly into the faces beside it"
            findings.append(Finding("form", holds=False, reason=reason))
    return values, findings, len(values)


def mouths(case: Case) -> Result:
    """A countersink's diameter where it meets the local rim; its cone about its hole."""
    values, findings = [], []
    for wrap, core in case.groups[0]:
        s = need(case.look.surface(wrap, core), "cone")
        step, _, entity = core.partition("/")
        head = entity.partition(".")[0]
        narrow = s.direction if s.half_angle < 0 else times(s.direction, -1.0)
        out = times(narrow, -1.0)
        rim = _rim(s)
        if rim is None:
            along = (s.extent(out)[1] - dot(s.origin, out)) * (1.0 if dot(out, s.direction) > 0 else -1.0)
            rim = abs(s.radius + along * math.tan(s.half_angle))
        values.append(2 * rim)
        findings.append(Finding("form", word="hole" if hollow(s) else "pin"))
        findings.append(_concentric(case.look, s, wrap, f"{step}/{head}.wall"))
    return values, findings, len(values)


def _rim(cone: Surface) -> float | None:
    """Radius of the widest circle that goes round more than half of a cone, mm: where a countersink meets its face,
    also beside a wall that it cuts a little higher; None when there is none.
    """
    round_: dict[float, float] = {}
    for edge in (e for f in cone.faces for e in edges(f)):
        curve = BRepAdaptor_Curve(edge)
        if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
            r = round(curve.Circle().Radius(), 7)
            round_[r] = round_.get(r, 0.0) + curve.LastParameter() - curve.FirstParameter()
    return max((r for r, turn in round_.items() if turn > math.pi), default=None)


def diameter_at(case: Case) -> Result:
    """A cone's diameter where it meets the next named plane, or at its end beside it, mm."""
    cone = need(case.first(), "cone")
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


def half_angles(case: Case) -> Result:
    """From the axis to the cone, rad."""
    values = [abs(need(s, "cone").half_angle) for s in case.surfaces(0)]
    return values, [], len(values)


def included(case: Case) -> Result:
    """The whole angle of cones, rad."""
    values, _, n = half_angles(case)
    return [2 * a for a in values], [], n


def tapers(case: Case) -> Result:
    """n of 1:n, the length over which the diameter changes by one."""
    values, _, n = half_angles(case)
    return [0.5 / math.tan(a) for a in values], [], n


def bolt_circles(case: Case) -> Result:
    """The circle through the axes, of the place farthest off, mm."""
    walls = list(case.walls(0))
    for w in walls:
        need(w.surface, "cylinder", "cone")
    value, findings = bolt_circle([w.surface for w in walls], case.expected, case.probe.about == "origin")
    sound = [w for w in walls if w.surface.kind != "cylinder" or w.sound]
    return [value], [*findings, Finding("places", float(len(sound)))], len(sound)


def place(k: int) -> Callable[[Case], Result]:
    """Where axes stand in the frame of the face they enter: coordinate ``k``, mm."""

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


def legs(case: Case) -> Result:
    """A bevel's leg along its first face, mm."""
    return _bevels(case, lambda b: b.first)


def second_legs(case: Case) -> Result:
    """A bevel's leg along its other face, mm."""
    return _bevels(case, lambda b: b.second)


def bevel_angles(case: Case) -> Result:
    """Between a bevel and its first face, rad."""
    try:
        return _bevels(case, lambda b: b.angle)
    except MeasureError:
        on = next((f[3:] for f in case.probe.faces[1:2] if f.startswith("on:")), "")
        angles = [a for f in case.groups[0] if (a := against_flat(case.look, *f, on)) is not None]
        if len(angles) < len(case.groups[0]):
            raise
        return angles, [], len(angles)


def _bevels(case: Case, value: Callable[[Any], float]) -> Result:
    values, findings = [], []
    first, second = (case.probe.faces[k] if k < len(case.probe.faces) else "" for k in (1, 2))
    on = ""
    if first.startswith("on:"):
        first, on = "", first[3:]
    for wrap, core in case.groups[0]:
        found = bevel(case.look, wrap, core, first, second, on)
        face = case.look.surface(wrap, core)
        if face.kind == "cone":  # a bore's mouth told by its diameter is a round thing
            findings.append(Finding("form", word="hole" if hollow(face) else "pin"))
        values.append(value(found))
        findings += [Finding("leg angle", found.angle), Finding("second leg", found.second)]
    return values, findings, len(values)


def threaded(case: Case) -> Result:
    """Major diameter or length of drawn threads, mm, as the probe asks."""
    values, findings = [], []
    for f in case.groups[0]:
        value, more = thread_proof.drawn(case.look, *f, case.probe.kind)
        values.append(value)
        findings += more
    return values, findings, len(values)
