"""Holes: one revolved tool for each place, all subtracted in one cut."""

from __future__ import annotations

import math

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Vec

from lathed_solid.kernel.build.boolean import cut
from lathed_solid.kernel.build.contour import revolve_contour
from lathed_solid.kernel.build.faces import named_surface
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.shapes import box
from lathed_solid.part.steps import ResolvedHole
from lathed_solid.turned import Segment

#: how far a tool stands out of the face it enters, mm
OVERSHOOT = 0.5


def build_hole(body: Body | None, hole: ResolvedHole, prefix: str) -> Body:
    """``body`` with the holes cut. Raises BuildError when the face is missing or of the wrong kind."""
    if body is None:
        raise BuildError("there is no body to drill", hint="a turned table as step 10")
    places = _radial_places(body, hole) if hole.radial else _flat_places(body, hole)
    low, high = box(body.shape)
    through = math.dist(low, high) + OVERSHOOT
    profile = _profile(hole, through)
    tools = []
    for i, (origin, direction) in enumerate(places):
        side = _perpendicular(direction)

        def place(z: float, r: float, o: gp_Pnt = origin, d: gp_Vec = direction, s: gp_Vec = side) -> gp_Pnt:
            return o.Translated(d.Multiplied(z).Added(s.Multiplied(r)))

        tools.append(revolve_contour(profile, gp_Ax1(origin, gp_Dir(direction)), place, f"{prefix}h{i}."))
    return cut(body, tools)


def _profile(hole: ResolvedHole, through: float) -> list[Segment]:
    """The tool's half section: z along the drill from the entry, r the radius."""
    r, end = hole.radius, hole.depth if hole.depth is not None else through
    points: list[tuple[float, float, str]] = [(-OVERSHOOT, 0.0, "top")]
    if hole.cbore_radius is not None and hole.cbore_depth is not None:
        points.append((-OVERSHOOT, hole.cbore_radius, "cbore"))
        points.append((hole.cbore_depth, hole.cbore_radius, "cbore_floor"))
        points.append((hole.cbore_depth, r, "wall"))
    else:
        points.append((-OVERSHOOT, r, "wall"))
    if hole.point is None or hole.depth is None:
        points += [(end, r, "floor"), (end, 0.0, "axis")]
    else:
        cone = r / math.tan(hole.point / 2)
        shoulder = end - cone if hole.to_tip else end
        if shoulder <= (hole.cbore_depth or 0.0):
            raise BuildError(
                "the drill point is longer than the hole is deep", hint="a deeper hole, or depth to the shoulder"
            )
        points += [(shoulder, r, "tip"), (shoulder + cone, 0.0, "axis")]
    return [
        Segment(name, (z, rr), (points[(i + 1) % len(points)][0], points[(i + 1) % len(points)][1]))
        for i, (z, rr, name) in enumerate(points)
    ]


def _flat_places(body: Body, hole: ResolvedHole) -> list[tuple[gp_Pnt, gp_Vec]]:
    surface = named_surface(body, hole.face, "plane")
    x, _, _ = surface.origin
    inwards = gp_Vec(*(-c for c in surface.direction))
    if abs(abs(inwards.X()) - 1) > 1e-9:
        raise BuildError("the face does not stand square to the part's axis", received=hole.face)
    out = []
    for i in range(hole.count):
        a = hole.angle + 2 * math.pi * i / hole.count
        # angles are seen from outside the face, 0 upwards (+Z), turning clockwise
        turn = -a if inwards.X() > 0 else a
        out.append((gp_Pnt(x, hole.reach * math.sin(turn), hole.reach * math.cos(turn)), inwards))
    return out


def _radial_places(body: Body, hole: ResolvedHole) -> list[tuple[gp_Pnt, gp_Vec]]:
    surface = named_surface(body, hole.face, "cylinder")
    if abs(abs(surface.direction[0]) - 1) > 1e-9 or math.hypot(surface.origin[1], surface.origin[2]) > 1e-9:
        raise BuildError("the cylinder is not about the part's axis", received=hole.face)
    datum = named_surface(body, hole.datum, "plane")
    x = datum.origin[0] - math.copysign(hole.reach, datum.direction[0])
    low, high = surface.extent((1.0, 0.0, 0.0))
    if not low <= x <= high:
        raise BuildError(
            f"the hole at {hole.reach:g} from {hole.datum} does not lie on {hole.face}",
            rule=f"that face runs from {low:.4g} to {high:.4g} along the axis",
        )
    out = []
    for i in range(hole.count):
        a = hole.angle + 2 * math.pi * i / hole.count
        outward = gp_Vec(0, math.sin(a), math.cos(a))
        out.append((gp_Pnt(x, 0, 0).Translated(outward.Multiplied(surface.radius)), outward.Reversed()))
    return out


def _perpendicular(v: gp_Vec) -> gp_Vec:
    other = gp_Vec(1, 0, 0) if abs(v.X()) < 0.9 else gp_Vec(0, 0, 1)
    return v.Crossed(other).Normalized()
