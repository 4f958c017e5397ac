"""Threads on cylinders: as a symbol, or real.

A real thread is laid out without booleans (``helicoid``) and put into the part's shell in place of its cylinder's
face (``shell_replacement``), or, where more than that face is concerned, as a ring that fits a cleared space
(``ring``).
"""

from __future__ import annotations

import itertools
import math

from lathed_solid.kernel.builders.helicoid import Stretch
from lathed_solid.kernel.builders.references import named_surface
from lathed_solid.kernel.builders.ring import with_ring
from lathed_solid.kernel.builders.shell_replacement import BEVELS, grafted
from lathed_solid.kernel.builders.thread_seat import Joint, ThreadSeat, axial_frame, seat_of
from lathed_solid.kernel.builders.unrolled import Cone, Profile, thread_volume
from lathed_solid.kernel.checks import check_sum
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.parts import Parts, ThreadData, Triple
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import box
from lathed_solid.part.steps.thread import ResolvedThread
from lathed_solid.quantity.message_units import said
from lathed_solid.quantity.tolerances import LINEAR, ROUNDING

#: how far the major diameter may stray from its cylinder before it is thought a slip, share of the pitch
STRAY = 0.2


def build_thread(parts: Parts, step: ResolvedThread, number: int) -> Parts:
    """The part with the thread. Raises BuildError when it does not fit its cylinder."""
    surface = named_surface(parts, step.face, "cylinder")
    inside = hollow(surface)
    _check_size(step, surface, inside)
    low, high = surface.extent(surface.direction)
    length = step.length if step.length is not None else high - low
    if length > high - low + ROUNDING:
        raise BuildError(f"the thread of {said(length)} is longer than its cylinder", rule=f"{said(high - low)} long")
    on = parts.carrying(step.face)
    at_high = _starts_high(parts, step, surface, low, high)
    base = sum(a * b for a, b in zip(surface.origin, surface.direction, strict=True))
    level, sign = (high, -1.0) if at_high else (low, 1.0)
    origin: Triple = tuple(  # type: ignore[assignment]
        o + (level - base) * d for o, d in zip(surface.origin, surface.direction, strict=True)
    )
    way: Triple = tuple(sign * d for d in surface.direction)  # type: ignore[assignment]
    if not step.real:
        data = ThreadData(step.designation, step.major, step.pitch, length, step.left, step.starts)
        root = surface.radius + (step.nut_depth if inside else -step.screw_depth)
        return parts.with_thread(step.face, data, Mark(origin, way, root, length))
    body, frame, prefix = parts.bodies[on], axial_frame(surface, origin, way), f"{number}/ring"
    seat = seat_of(body, surface, frame, high - low, step.pitch, inside)
    stretch, wall = _stretch(step, surface.radius, length, high - low, inside, seat)
    threaded = None if seat is None else grafted(body, seat, frame, stretch, f"{prefix}.helix")
    if threaded is None:
        seat = None
        stretch, wall = _stretch(step, surface.radius, length, high - low, inside, None)
        partly = not step.run_out and length < high - low - ROUNDING
        threaded = with_ring(body, stretch, surface.radius, wall, frame.place, partly, prefix)
    more = thread_volume(stretch.layout) - _filled(stretch, surface.radius, seat)
    check_sum(threaded.size, body.size - more if inside else body.size + more)
    return parts.with_body(on, threaded)


def _filled(stretch: Stretch, radius: float, seat: ThreadSeat | None) -> float:
    """Volume within the cylinder's face, and within the bevels that the stretch reaches over, mm3."""
    low, high = stretch.ends
    out = 0.0
    if seat is not None:
        for bevel, end in zip(seat.bevels, seat.ends, strict=True):
            if bevel is not None and low - 1e-7 <= bevel.outer.level <= high + 1e-7:
                r = bevel.outer.radius
                out += math.pi * abs(bevel.outer.level - end.level) * (r * r + r * radius + radius * radius) / 3
        low, high = max(low, 0.0), min(high, seat.ends[1].level)
    return out + math.pi * radius * radius * (high - low)


def _check_size(step: ResolvedThread, surface: Surface, inside: bool) -> None:
    if not step.major:
        return
    wanted = step.major / 2 - (step.nut_depth if inside else 0.0)
    if abs(surface.radius - wanted) > STRAY * step.pitch:
        what = "a bore" if inside else "a cylinder"
        raise BuildError(
            f"{step.designation} needs {what} of about ⌀{said(2 * wanted)}, this one is ⌀{said(2 * surface.radius)}",
            hint="another face, or another thread",
        )


def _starts_high(parts: Parts, step: ResolvedThread, surface: Surface, low: float, high: float) -> bool:
    """Whether the thread starts at the far end along the axis' own direction."""
    d = surface.direction
    if step.start:
        plane = named_surface(parts, step.start, "plane")
        at = sum(a * b for a, b in zip(plane.origin, d, strict=True))
        return abs(at - high) < abs(at - low)
    # the end nearer to the part's own; where both are alike the right or upper one
    corners = box(parts.bodies[parts.carrying(step.face)].shape)
    reach = [sum(c[k] * x for c, x in zip(zip(*corners, strict=True), d, strict=True)) for k in (0, 1)]
    first, last = min(reach), max(reach)
    toward = d[0] if abs(d[0]) > 0.5 else d[2]
    apart = (low - first) - (last - high)
    return apart > LINEAR or (abs(apart) <= LINEAR and toward >= 0)


def profile_of(step: ResolvedThread, radius: float, inside: bool) -> Profile:
    """One pitch of the thread's outline, crest to crest, on a cylinder of ``radius`` mm."""
    p = step.pitch
    if step.profile:
        sign = 1.0 if inside else -1.0
        corners = tuple((z, radius + sign * d) for z, d in step.profile)
        return Profile(corners, tuple("flank" if a[1] != b[1] else "crest" if abs(a[1] - radius) < ROUNDING else "root"
                                      for a, b in itertools.pairwise(corners)))  # fmt: skip
    depth = step.nut_depth if inside else step.screw_depth
    rise = depth * math.tan(step.flank)
    # the crest stays as wide as the basic profile has it: P/8 (screw) or P/4 (nut) at 60 degrees; the root takes the
    # rest
    if step.flank > math.radians(20):
        crest = p * (0.25 if inside else 0.125)
    else:
        crest = 0.366 * p
    root = p - crest - 2 * rise
    if root <= 0.01 * p:
        root = 0.05 * p
        crest = p - root - 2 * rise
    top, bottom = (radius, radius + depth) if inside else (radius, radius - depth)
    corners = ((0.0, bottom), (root, bottom), (root + rise, top), (p - rise, top), (p, bottom))
    return Profile(corners, ("root", "flank.a", "crest", "flank.b"))


def _stretch(
    step: ResolvedThread, radius: float, length: float, room: float, inside: bool, seat: ThreadSeat | None
) -> tuple[Stretch, float]:
    """The threaded stretch about Z from z = 0, and the radius a little beyond its root where a ring would end."""
    profile = profile_of(step, radius, inside)
    radii = [r for _, r in profile.corners]
    deep, p = (max(radii) if inside else min(radii)), step.pitch
    spare = 0.25 * p
    wall = deep + spare if inside else deep - spare
    if wall <= 0.05 * radius:
        raise BuildError("the thread is deeper than its cylinder is thick", hint="a finer thread")
    cones: list[Cone] = []
    bottom, top = 0.0, length
    first, last = seat.bevels if seat is not None else (None, None)
    if first is not None:
        # the bevel is the lead-in
        bottom = first.outer.level
        cones.append(_cone(first.outer, 0.0, radius, inside, BEVELS[0]))
    elif step.lead_in:
        # 45 degrees, from just past the root at the end face
        if inside:
            cones.append(Cone("beyond", deep + 0.05 * p, -1.0, "leadin"))
        else:
            cones.append(Cone("within", deep - 0.05 * p, 1.0, "leadin"))
    if step.run_out and room > length + ROUNDING:
        reach = abs(radius - deep)
        top = min(length + reach + 0.02 * p, room)
        if inside:
            cones += [Cone("within", deep + length, -1.0, "runout"), Cone("beyond", radius, 0.0, "plain")]
        else:
            cones += [Cone("beyond", deep - length, 1.0, "runout"), Cone("within", radius, 0.0, "plain")]
    elif last is not None and length > room - ROUNDING:
        top = last.outer.level
        cones.append(_cone(last.outer, room, radius, inside, BEVELS[1]))
    hand = -1 if step.left else 1
    stretch = Stretch(profile, (bottom, top), tuple(cones), hand, step.starts, inside)
    return stretch, wall


def _cone(outer: Joint, level: float, radius: float, inside: bool, name: str) -> Cone:
    """A bevel from the cylinder at ``level`` to its outer circle, as a bound on the thread."""
    slope = (outer.radius - radius) / (outer.level - level)
    return Cone("beyond" if inside else "within", radius - slope * level, slope, name)
