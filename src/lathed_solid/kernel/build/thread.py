"""Threads on cylinders: as a symbol, or real.

A real thread needs no boolean on helical faces. The stretch is cut away down to a cylinder a little below the root
(beyond
it, in a nut), and a threaded ring that fits exactly takes its place; the two meet in a plain cylinder and flat ends
only.
"""

from __future__ import annotations

import itertools
import math
from typing import Any

from OCP.BOPAlgo import BOPAlgo_GlueEnum
from OCP.BRepAdaptor import BRepAdaptor_Surface
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut, BRepAlgoAPI_Fuse
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeWire
from OCP.BRepLib import BRepLib
from OCP.BRepLProp import BRepLProp_SLProps
from OCP.BRepPrimAPI import BRepPrimAPI_MakeCylinder
from OCP.Geom import Geom_CylindricalSurface, Geom_Line
from OCP.Geom2d import Geom2d_Line
from OCP.gp import gp_Ax2, gp_Ax3, gp_Circ, gp_Dir, gp_Dir2d, gp_Pnt, gp_Pnt2d, gp_Trsf, gp_Vec
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopExp import TopExp
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS_Edge, TopoDS_Face, TopoDS_Wire

from lathed_solid.kernel.build.boolean import cut, operate
from lathed_solid.kernel.build.helicoid import FORWARD, REVERSED, TOLERANCE, UP, Cone, Profile, Stretch, thread_volume
from lathed_solid.kernel.build.refs import named_surface
from lathed_solid.kernel.checks import check_solid, check_sum
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Mark, Parts, Triple
from lathed_solid.kernel.shapes import SOLID, Key, box, faces, sub_shapes
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.words import said
from lathed_solid.part.steps.thread import ResolvedThread

#: how far the major diameter may stray from its cylinder before it is thought a slip, share of the pitch
STRAY = 0.2


def build_thread(parts: Parts, step: ResolvedThread, number: int) -> Parts:
    """The part with the thread. Raises BuildError when it does not fit its cylinder."""
    surface = named_surface(parts, step.face, "cylinder")
    inside = hollow(surface)
    _check_size(step, surface, inside)
    low, high = surface.extent(surface.direction)
    length = step.length if step.length is not None else high - low
    if length > high - low + 1e-9:
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
        data = (step.designation, step.major / 2, step.pitch, length, step.left)
        root = surface.radius + (step.nut_depth if inside else -step.screw_depth)
        return parts.with_thread(step.face, data, Mark(origin, way, root, length))
    ring, ring_volume, inner, outer, top = _ring(step, surface.radius, length, high - low, inside)
    place = gp_Trsf()
    place.SetTransformation(gp_Ax3(gp_Pnt(*origin), gp_Dir(*way)), gp_Ax3(gp_Pnt(0, 0, 0), UP))
    where = TopLoc_Location(place)
    blank = _tube(inner, outer, top, where, f"{number}/ring.floor")
    cleared = cut(parts.bodies[on], [blank])
    solid, named = ring
    names = {Key(f.Moved(where)): frozenset([f"{number}/ring.helix.{n}"]) for f, n in named}
    fuse = BRepAlgoAPI_Fuse()
    # they meet in shared faces only, nothing crosses; an abrupt end covers its face in part
    partly = not step.run_out and length < high - low - 1e-9
    fuse.SetGlue(BOPAlgo_GlueEnum.BOPAlgo_GlueShift if partly else BOPAlgo_GlueEnum.BOPAlgo_GlueFull)
    shape, carried = operate(fuse, cleared, [Body(solid.Moved(where), names)])
    check_solid(shape)
    body = Body(sub_shapes(shape, SOLID)[0], carried)
    check_sum(body.size, cleared.size + ring_volume)
    return parts.with_body(on, body)


def hollow(surface: Surface) -> bool:
    """Whether a cylinder's material lies outside it (a bore)."""
    face = surface.faces[0]
    a = BRepAdaptor_Surface(face)
    u, v = (a.FirstUParameter() + a.LastUParameter()) / 2, (a.FirstVParameter() + a.LastVParameter()) / 2
    at = a.Value(u, v)
    normal = gp_Vec(BRepLProp_SLProps(a, u, v, 1, 1e-9).Normal())
    if face.Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
        normal.Reverse()
    away = gp_Vec(gp_Pnt(*surface.origin), at)
    along = gp_Vec(*surface.direction)
    return bool(away.Subtracted(along.Multiplied(away.Dot(along))).Dot(normal) < 0)


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
    return apart > 1e-6 or (abs(apart) <= 1e-6 and toward >= 0)


def profile_of(step: ResolvedThread, radius: float, inside: bool) -> Profile:
    """One pitch of the thread's outline, crest to crest, on a cylinder of ``radius`` mm."""
    p = step.pitch
    if step.profile:
        sign = 1.0 if inside else -1.0
        corners = tuple((z, radius + sign * d) for z, d in step.profile)
        return Profile(corners, tuple("flank" if a[1] != b[1] else "crest" if abs(a[1] - radius) < 1e-9 else "root"
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


def _ring(
    step: ResolvedThread, radius: float, length: float, room: float, inside: bool
) -> tuple[Any, float, float, float, float]:
    """The threaded ring about Z from z = 0, its volume, and the tube it fills: inner and outer radius and length."""
    profile = profile_of(step, radius, inside)
    radii = [r for _, r in profile.corners]
    deep, p = (max(radii) if inside else min(radii)), step.pitch
    spare = 0.25 * p
    wall = deep + spare if inside else deep - spare
    if wall <= 0.05 * radius:
        raise BuildError("the thread is deeper than its cylinder is thick", hint="a finer thread")
    cones: list[Cone] = []
    top = length
    if step.lead_in:
        # 45 degrees, from just past the root at the end face
        if inside:
            cones.append(Cone("beyond", deep + 0.05 * p, -1.0, "leadin"))
        else:
            cones.append(Cone("within", deep - 0.05 * p, 1.0, "leadin"))
    if step.run_out and room > length + 1e-9:
        reach = abs(radius - deep)
        top = min(length + reach + 0.02 * p, room)
        if inside:
            cones += [Cone("within", deep + length, -1.0, "runout"), Cone("beyond", radius, 0.0, "plain")]
        else:
            cones += [Cone("beyond", deep - length, 1.0, "runout"), Cone("within", radius, 0.0, "plain")]
    hand = -1 if step.left else 1
    stretch = Stretch(profile, (0.0, top), tuple(cones), hand, step.starts, inside)
    made = _closed_ring(stretch, wall, top, inside)
    size = abs(thread_volume(stretch.cells) - math.pi * wall * wall * top)
    return (made, size, wall, radius, top) if not inside else (made, size, radius, wall, top)


def _closed_ring(stretch: Stretch, wall: float, top: float, inside: bool) -> tuple[Any, list[tuple[Any, str]]]:
    """The stretch with a plain cylinder at ``wall`` and flat rings at the ends: one closed solid."""
    b = stretch.builder
    rims = []
    for z in (0.0, top):
        circle = gp_Circ(gp_Ax2(gp_Pnt(0, 0, z), UP, gp_Dir(1, 0, 0)), wall)
        rims.append(BRepBuilderAPI_MakeEdge(circle).Edge())
    wires = [BRepBuilderAPI_MakeWire(e).Wire() for e in rims]
    surface = Geom_CylindricalSurface(gp_Ax3(gp_Pnt(0, 0, 0), UP, gp_Dir(1, 0, 0)), wall)
    face, wire, here = TopoDS_Face(), TopoDS_Wire(), TopLoc_Location()
    b.MakeFace(face, surface, TOLERANCE)
    b.MakeWire(wire)
    seam = TopoDS_Edge()
    b.MakeEdge(seam, Geom_Line(gp_Pnt(wall, 0, 0), UP), TOLERANCE)
    low, high = (TopExp.FirstVertex_s(e) for e in rims)
    b.Add(seam, low.Oriented(FORWARD))
    b.Add(seam, high.Oriented(REVERSED))
    b.Range(seam, 0.0, top)
    turn = 2 * math.pi
    right, left = (Geom2d_Line(gp_Pnt2d(u, 0.0), gp_Dir2d(0, 1)) for u in (turn, 0.0))
    b.UpdateEdge(seam, right, left, surface, here, TOLERANCE)
    for edge, z in zip(rims, (0.0, top), strict=True):
        b.UpdateEdge(edge, Geom2d_Line(gp_Pnt2d(0.0, z), gp_Dir2d(1, 0)), surface, here, TOLERANCE)
    for edge, way in ((rims[0], FORWARD), (seam, FORWARD), (rims[1], REVERSED), (seam, REVERSED)):
        b.Add(wire, edge.Oriented(way))
    wire.Closed(True)
    b.Add(face, wire)
    wall_face = face if inside else face.Reversed()
    caps = [(stretch.cap(False, wires[0]), "start"), (stretch.cap(True, wires[1]), "end")]
    solid, named = stretch.solid([*caps, (wall_face, "wall")])
    BRepLib.SameParameter_s(solid, TOLERANCE, False)
    return solid, named


def _tube(inner: float, outer: float, top: float, where: TopLoc_Location, name: str) -> Body:
    """What is cut away for the ring: from the ring's own wall to the cylinder's surface and a little past it."""
    # past the surface, on the open side only
    axes = gp_Ax2(gp_Pnt(0, 0, 0), UP, gp_Dir(1, 0, 0))
    whole = BRepPrimAPI_MakeCylinder(axes, outer, top).Shape()
    core = BRepPrimAPI_MakeCylinder(axes, inner, top).Shape()
    tube = sub_shapes(BRepAlgoAPI_Cut(whole, core).Shape(), SOLID)[0].Moved(where)
    # what is left of it where a thread ends abruptly against a shoulder
    return Body(tube, {Key(f): frozenset([name]) for f in faces(tube)})
