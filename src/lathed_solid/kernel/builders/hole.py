"""Holes: one revolved tool for each place, all subtracted in one cut."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.contour import revolve_contour
from lathed_solid.kernel.builders.material import Material
from lathed_solid.kernel.builders.planar import frame_of
from lathed_solid.kernel.builders.references import axis_of, named_surface, plane_of, point_of
from lathed_solid.kernel.directions import aside, upwards
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.figures import Mark
from lathed_solid.kernel.names import Body, Bore
from lathed_solid.kernel.parts import Parts, ThreadData
from lathed_solid.kernel.topology import box
from lathed_solid.part.steps import Frame, ResolvedHole, face_frame
from lathed_solid.quantity.message_units import said
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, RELATIVE_READ, ROUNDING
from lathed_solid.turned import Segment

#: how far a tool stands out of the face it enters, mm
OVERSHOOT = 0.5

Places = list[tuple[gp_Pnt, gp_Vec]]


def build_hole(parts: Parts, hole: ResolvedHole, number: int) -> Parts:
    """The part with the holes cut. Raises BuildError when the face is missing or of the wrong kind."""
    found = drilled(parts, hole, f"{number}/")
    out = apply(parts, number, found.mode, found.tools, found.on)
    if hole.thread is not None:
        designation, major, pitch, length, left = hole.thread
        data = ThreadData(designation, 2 * major, pitch, length, left)
        for i, (o, d) in enumerate(_places(parts, hole)):
            wall = f"{number}/h{i}.wall"
            low, high = named_surface(out, wall, "cylinder").extent((d.X(), d.Y(), d.Z()))
            start = gp_Vec(gp_Pnt(0, 0, 0), o).Dot(d)
            depth = min(length, high - start) if length is not None else high - start
            begin = max(low - start, 0.0)
            at = o.Translated(d.Multiplied(begin))
            mark = Mark((at.X(), at.Y(), at.Z()), (d.X(), d.Y(), d.Z()), major, max(depth - begin, 0.0))
            out = out.with_thread(wall, data, mark)
    return out


def drilled(parts: Parts, hole: ResolvedHole, prefix: str, motion: gp_Trsf | None = None) -> Material:
    """The holes' tools, at moved places when ``motion`` is given. Raises BuildError."""
    if not parts.bodies:
        raise BuildError("there is no body to drill", hint="a turned table as step 10")
    on = parts.carrying(hole.face)
    places = _places(parts, hole)
    if motion is not None:
        places = [(o.Transformed(motion), d.Transformed(motion)) for o, d in places]
    low, high = box(parts.bodies[on].shape)
    through = math.dist(low, high) + OVERSHOOT
    tools: list[Body] = []
    for i, (origin, direction) in enumerate(places):
        end = through if not hole.until else _to_face(parts, hole.until, origin, direction)
        side = _perpendicular(direction)

        def place(z: float, r: float, o: gp_Pnt = origin, d: gp_Vec = direction, s: gp_Vec = side) -> gp_Pnt:
            return o.Translated(d.Multiplied(z).Added(s.Multiplied(r)))

        segments = _profile(hole, end)
        made = revolve_contour(segments, gp_Ax1(origin, gp_Dir(direction)), place, f"{prefix}h{i}.")
        o, d = ((v.X(), v.Y(), v.Z()) for v in (origin, direction.Normalized()))
        bore = Bore(o, d, tuple(segments), tuple(f"{prefix}h{i}.{s.name}" for s in segments))
        tools.append(replace(made, bore=bore))
    return Material("cut", tools, (on,))


def _profile(hole: ResolvedHole, through: float) -> list[Segment]:
    """The tool's half section: z along the drill from the entry, r the radius."""
    r, end = hole.radius, hole.depth if hole.depth is not None else through
    points: list[tuple[float, float, str]] = [(-OVERSHOOT, 0.0, "top")]
    mouth = 0.0
    for kind, wide, deep, angle in hole.entry:
        mouth = deep
        if kind == "csk":
            slope = math.tan(angle / 2)
            points.append((-OVERSHOOT, wide + OVERSHOOT * slope, "csk"))
            mouth = (wide - r) / slope
        else:
            points += [(-OVERSHOOT, wide, kind), (deep, wide, f"{kind}_floor")]
            if kind == "cdrill":
                mouth = deep + (wide - r) / math.tan(angle / 2)
        points.append((mouth, r, "wall"))
    if not hole.entry:
        points.append((-OVERSHOOT, r, "wall"))
    if end <= mouth:
        raise BuildError("the hole ends within the widening at its mouth", hint="a deeper hole")
    if hole.point is None or hole.depth is None:
        points += [(end, r, "floor"), (end, 0.0, "axis")]
    else:
        cone = r / math.tan(hole.point / 2)
        shoulder = end - cone if hole.to_tip else end
        if shoulder <= mouth:
            raise BuildError(
                "the drill point is longer than the hole is deep", hint="a deeper hole, or depth to the shoulder"
            )
        points += [(shoulder, r, "tip"), (shoulder + cone, 0.0, "axis")]
    return [
        Segment(name, (z, rr), (points[(i + 1) % len(points)][0], points[(i + 1) % len(points)][1]))
        for i, (z, rr, name) in enumerate(points)
    ]


def _to_face(parts: Parts, name: str, origin: gp_Pnt, direction: gp_Vec) -> float:
    """How far a flat face (or plane) lies along the drill, mm."""
    plane = plane_of(parts, name)
    n = gp_Vec(*plane.direction)
    facing = n.Dot(direction)
    if abs(facing) < RELATIVE_READ:
        raise BuildError(f"{name} runs along the hole, which never meets it", hint="pick another face")
    far = n.Dot(gp_Vec(origin, gp_Pnt(*plane.origin))) / facing
    if far <= LINEAR:
        raise BuildError(f"{name} lies behind the face that is drilled", hint="pick another face")
    return float(far)


def _places(parts: Parts, hole: ResolvedHole) -> Places:
    ways: dict[str, Callable[[Parts, ResolvedHole], Places]] = {
        "radial": _radial, "circle": _on_circle, "plane": _in_plane, "sketch": _sketched, "edges": _on_edges,
        "walls": _from_walls,
    }  # fmt: skip
    return ways[hole.places.kind](parts, hole)


def _face(parts: Parts, hole: ResolvedHole) -> tuple[Frame, gp_Vec]:
    """The frame on the flat face, and the way into it."""
    s = named_surface(parts, hole.face, "plane")
    return face_frame(s.origin, s.direction, 0.0, False), gp_Vec(*(-c for c in s.direction))


def _at(frame: Frame, x: float, y: float) -> gp_Pnt:
    return gp_Pnt(*(frame.origin[i] + frame.x[i] * x + frame.y[i] * y for i in range(3)))


def _on_circle(parts: Parts, hole: ResolvedHole) -> Places:
    frame, inwards = _face(parts, hole)
    ((cx, cy),) = hole.places.xy
    out: Places = []
    across = abs(abs(inwards.X()) - 1) < ANGULAR
    for i in range(hole.places.count):
        a = hole.places.angle + 2 * math.pi * i / hole.places.count
        if across:
            # angles are seen from outside the face, 0 upwards (+Z), turning clockwise
            turn = -a if inwards.X() > 0 else a
            reach = hole.places.reach
            centre = _at(frame, cx, cy)
            out.append((centre.Translated(gp_Vec(0, reach * math.sin(turn), reach * math.cos(turn))), inwards))
        else:
            x, y = cx + hole.places.reach * math.cos(a), cy + hole.places.reach * math.sin(a)
            out.append((_at(frame, x, y), inwards))
    return out


def _in_plane(parts: Parts, hole: ResolvedHole) -> Places:
    frame, inwards = _face(parts, hole)
    return [(_at(frame, x, y), inwards) for x, y in hole.places.xy]


def _sketched(parts: Parts, hole: ResolvedHole) -> Places:
    """Points of a sketch, carried square to the face onto it."""
    assert hole.places.plane is not None
    frame = frame_of(hole.places.plane, parts)
    face, inwards = _face(parts, hole)
    out: Places = []
    for x, y in hole.places.xy:
        p = _at(frame, x, y)
        off = gp_Vec(p, gp_Pnt(*face.origin)).Dot(inwards)
        out.append((p.Translated(inwards.Multiplied(off)), inwards))
    return out


def _on_edges(parts: Parts, hole: ResolvedHole) -> Places:
    face, inwards = _face(parts, hole)
    out: Places = []
    for name in hole.places.edges:
        p = gp_Pnt(*point_of(parts, name))
        axis_of(parts, name)  # refuses what is not round
        off = gp_Vec(p, gp_Pnt(*face.origin)).Dot(inwards)
        out.append((p.Translated(inwards.Multiplied(off)), inwards))
    return out


def _from_walls(parts: Parts, hole: ResolvedHole) -> Places:
    """Each place lies at its distances from the lines in which two walls meet the face: p . g = w + s d for both."""
    s = named_surface(parts, hole.face, "plane")
    normal, inwards = gp_Vec(*s.direction), gp_Vec(*(-c for c in s.direction))
    foot = gp_Pnt(*s.origin)
    lines = []
    for name in hole.places.walls:
        wall = plane_of(parts, name)
        n = gp_Vec(*wall.direction)
        g = n.Subtracted(normal.Multiplied(n.Dot(normal)))
        if g.Magnitude() < RELATIVE_READ:
            raise BuildError(f"{name} does not stand up from the face", hint="pick a wall beside it")
        g.Normalize()
        level = gp_Vec(foot, gp_Pnt(*wall.origin)).Dot(n) / g.Dot(n)
        # the face is where more of it lies, seen from that line
        low, high = (v - gp_Vec(gp_Pnt(0, 0, 0), foot).Dot(g) for v in s.extent((g.X(), g.Y(), g.Z())))
        lines.append((g, level, 1.0 if high - level > level - low else -1.0))
    (g, a, s1), (h, b, s2) = lines
    cosine = g.Dot(h)
    if abs(cosine) > 1 - RELATIVE_READ:
        raise BuildError("the two walls are parallel: they give one distance only", hint="pick one across the other")
    out: Places = []
    for x, y in hole.places.xy:
        u, v = a + s1 * x, b + s2 * y
        along, across = (u - v * cosine) / (1 - cosine**2), (v - u * cosine) / (1 - cosine**2)
        out.append((foot.Translated(g.Multiplied(along).Added(h.Multiplied(across))), inwards))
    return out


def _radial(parts: Parts, hole: ResolvedHole) -> Places:
    """On a cylinder about X: angles from the part's Z; on others from its Z, or X where it stands upright."""
    surface = named_surface(parts, hole.face, "cylinder")
    d = gp_Vec(*surface.direction)
    datum = named_surface(parts, hole.places.datum, "plane")
    n = gp_Vec(*datum.direction)
    if abs(abs(n.Dot(d)) - 1) > ANGULAR:
        raise BuildError(f"{hole.places.datum} does not stand square to the cylinder", hint="pick its end face")
    onto = gp_Vec(gp_Pnt(*surface.origin), gp_Pnt(*datum.origin)).Dot(n)
    foot = gp_Pnt(*surface.origin).Translated(n.Multiplied(onto - hole.places.reach))
    along = gp_Vec(gp_Pnt(0, 0, 0), foot).Dot(d)
    low, high = surface.extent(surface.direction)
    if not low - ROUNDING <= along <= high + ROUNDING:
        raise BuildError(
            f"the hole at {said(hole.places.reach)} from {hole.places.datum} does not lie on {hole.face}",
            rule=f"that face runs from {said(low)} to {said(high)} along its axis",
        )
    up, across = gp_Vec(*upwards(surface.direction)), gp_Vec(*aside(surface.direction))
    out: Places = []
    for i in range(hole.places.count):
        a = hole.places.angle + 2 * math.pi * i / hole.places.count
        outward = across.Multiplied(math.sin(a)).Added(up.Multiplied(math.cos(a)))
        out.append((foot.Translated(outward.Multiplied(surface.radius)), outward.Reversed()))
    return out


def _perpendicular(v: gp_Vec) -> gp_Vec:
    other = gp_Vec(1, 0, 0) if abs(v.X()) < 0.9 else gp_Vec(0, 0, 1)
    return v.Crossed(other).Normalized()
