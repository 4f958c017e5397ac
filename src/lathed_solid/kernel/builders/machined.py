"""Ready details on cylinders and end faces: each a tool cut away, sized from the face where the step says nothing."""

from __future__ import annotations

import math
from dataclasses import dataclass

from OCP.gp import gp_Ax1, gp_Dir, gp_Pnt, gp_Vec

from lathed_solid.kernel.builders.boolean import apply
from lathed_solid.kernel.builders.contour import revolve_contour
from lathed_solid.kernel.builders.planar import Placed, planar_face
from lathed_solid.kernel.builders.references import axis_of, named_surface, plane_of
from lathed_solid.kernel.builders.solids import prism
from lathed_solid.kernel.directions import upwards
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts, ThreadData, Triple
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import box
from lathed_solid.part.steps import Frame
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.regions import XY, PieceFigure, RegionFigure
from lathed_solid.quantity.message_units import said
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR
from lathed_solid.standards import StandardError
from lathed_solid.standards.machine import centre_hole, key_for, ring_groove
from lathed_solid.turned import Segment

OVER = 0.5


@dataclass(frozen=True)
class AxialSeat:
    """A cylinder seen from a flat face square to it: ``foot`` on the axis in that face, ``way`` into the cylinder."""

    surface: Surface
    foot: gp_Pnt
    way: gp_Vec
    room: float
    inside: bool

    @property
    def radius(self) -> float:
        """Of the cylinder, mm."""
        return self.surface.radius

    def frame(self, angle: float) -> Frame:
        """Origin at the foot, x outwards at an angle (0 towards Z, or X on an upright cylinder), y along ``way``."""
        d = self.way
        up = gp_Vec(*upwards(_t(d)))
        out = up.Multiplied(math.cos(angle)).Added(d.Crossed(up).Multiplied(math.sin(angle)))
        return Frame(_t(self.foot), _t(out), _t(d))


def _t(v: gp_Vec | gp_Pnt) -> Triple:
    return (v.X(), v.Y(), v.Z())


def seat(parts: Parts, face: str, from_face: str) -> AxialSeat:
    """Raises BuildError when the two faces do not belong together."""
    s = named_surface(parts, face, "cylinder")
    plane = plane_of(parts, from_face)
    d = gp_Vec(*s.direction)
    n = gp_Vec(*plane.direction)
    if abs(abs(n.Dot(d)) - 1) > ANGULAR:
        raise BuildError(f"{from_face} does not stand square to {face}", hint="pick an end face or shoulder")
    along = gp_Vec(gp_Pnt(*s.origin), gp_Pnt(*plane.origin)).Dot(d)
    foot = gp_Pnt(*s.origin).Translated(d.Multiplied(along))
    low, high = s.extent(s.direction)
    level = gp_Vec(gp_Pnt(0, 0, 0), foot).Dot(d)
    if abs(level - low) <= abs(level - high):
        return AxialSeat(s, foot, d, high - level, hollow(s))
    return AxialSeat(s, foot, d.Reversed(), level - low, hollow(s))


def build_machined(parts: Parts, step: ResolvedMachined, number: int) -> Parts:
    """The part with the detail. Raises BuildError."""
    if step.what == "knurl":
        named_surface(parts, step.face, "cylinder")
        return parts.with_thread(step.face, ThreadData(f"knurl {step.form}", 0.0, step.width or 0.0))
    try:
        return {"keyway": _keyway, "groove": _groove, "centre": _centre, "flats": _flats}[step.what](
            parts, step, number
        )
    except StandardError as exc:
        raise BuildError(exc.what, hint=exc.hint) from None


def _loop(corners: list[XY], names: list[str]) -> RegionFigure:
    """A polygon, counter-clockwise."""
    pieces = []
    for i, (a, name) in enumerate(zip(corners, names, strict=True)):
        b = corners[(i + 1) % len(corners)]
        pieces.append(PieceFigure(name, "line", a, ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2), b))
    return RegionFigure(tuple(pieces), (), 0.0, 0.0, 0.0)


def _keyway(parts: Parts, step: ResolvedMachined, number: int) -> Parts:
    s = seat(parts, step.face, step.from_face)
    if step.width is None or step.depth is None:
        key = key_for(2 * s.radius)
    width = step.width if step.width is not None else key.width
    depth = step.depth if step.depth is not None else (key.hub_depth if s.inside else key.shaft_depth)
    length = step.length if step.length is not None else s.room - step.at
    if width >= 2 * s.radius or (not s.inside and depth >= 2 * s.radius):
        raise BuildError(f"a key seat {said(width)} wide and {said(depth)} deep does not fit ⌀{said(2 * s.radius)}")
    if step.at + length > s.room + LINEAR or step.at < -LINEAR:
        raise BuildError("the key seat runs past its cylinder", rule=f"there is {said(s.room)} from {step.from_face}")
    f = s.frame(step.angle)
    # drawn in the plane that touches the bottom: x across, y along the axis
    out = gp_Vec(*f.x)
    level = s.radius + depth if s.inside else s.radius - depth
    base = s.foot.Translated(out.Multiplied(level))
    across = gp_Vec(*f.y).Crossed(out)
    frame = Frame(_t(base), _t(across), f.y)  # normal x cross y points outwards
    open_a, open_b = step.at < LINEAR, step.at + length > s.room - LINEAR
    y0 = step.at - (OVER if open_a else 0.0)
    y1 = step.at + length + (OVER if open_b else 0.0)
    h = width / 2
    if step.form == "square" or (open_a and open_b):
        region = _loop([(-h, y0), (h, y0), (h, y1), (-h, y1)], ["end.a", "side.a", "end.b", "side.b"])
    else:
        region = _slot(h, y0, y1, open_a, open_b)
    # outside the cut goes out past the surface, in a bore it comes in past it
    reach = -(depth + s.radius) if s.inside else depth + s.radius
    tool = prism(
        planar_face(region, Placed(frame)), gp_Vec(*frame.normal).Multiplied(reach), f"{number}/", "bottom", "top"
    )
    return apply(parts, number, "cut", [tool])


def _slot(h: float, y0: float, y1: float, open_a: bool, open_b: bool) -> RegionFigure:
    if y1 - y0 <= 2 * h:
        raise BuildError("a key seat with round ends must be longer than it is wide")
    a, b = y0 + (0.0 if open_a else h), y1 - (0.0 if open_b else h)
    pieces = [PieceFigure("side.a", "line", (h, a), (h, (a + b) / 2), (h, b))]
    if open_b:
        pieces.append(PieceFigure("end.b", "line", (h, b), (0.0, b), (-h, b)))
    else:
        pieces.append(PieceFigure("end.b", "arc", (h, b), (0.0, b + h), (-h, b), True, (0.0, b, h)))
    pieces.append(PieceFigure("side.b", "line", (-h, b), (-h, (a + b) / 2), (-h, a)))
    if open_a:
        pieces.append(PieceFigure("end.a", "line", (-h, a), (0.0, a), (h, a)))
    else:
        pieces.append(PieceFigure("end.a", "arc", (-h, a), (0.0, a - h), (h, a), True, (0.0, a, h)))
    return RegionFigure(tuple(pieces), (), 0.0, 0.0, 0.0)


def _groove(parts: Parts, step: ResolvedMachined, number: int) -> Parts:
    s = seat(parts, step.face, step.from_face)
    if step.width is None or step.diameter is None:
        diameter, width = ring_groove(2 * s.radius)
    bottom = (step.diameter if step.diameter is not None else diameter) / 2
    wide = step.width if step.width is not None else width
    if (bottom <= s.radius) if s.inside else (bottom >= s.radius):
        raise BuildError(f"a groove of ⌀{said(2 * bottom)} cuts nothing from ⌀{said(2 * s.radius)}")
    if step.at + wide > s.room + LINEAR:
        raise BuildError("the groove runs past its cylinder", rule=f"there is {said(s.room)} from {step.from_face}")
    edge = s.radius - OVER if s.inside else s.radius + OVER
    z0, z1 = step.at, step.at + wide
    low, high = sorted((bottom, edge))
    names = ["near", "bottom", "far", "mouth"] if s.inside else ["near", "mouth", "far", "bottom"]
    corners = [(z0, low), (z0, high), (z1, high), (z1, low)]
    segments = [Segment(n, a, corners[(i + 1) % 4]) for i, (a, n) in enumerate(zip(corners, names, strict=True))]
    return apply(parts, number, "cut", [_turned(s, segments, f"{number}/")])


def _turned(s: AxialSeat, segments: list[Segment], prefix: str) -> Body:
    out = gp_Vec(*s.frame(0.0).x)

    def place(z: float, r: float) -> gp_Pnt:
        return s.foot.Translated(s.way.Multiplied(z).Added(out.Multiplied(r)))

    return revolve_contour(segments, gp_Ax1(s.foot, gp_Dir(s.way)), place, prefix)


def _centre(parts: Parts, step: ResolvedMachined, number: int) -> Parts:
    """Form A: a pilot with a drill point, and a countersink of 60 degrees (ISO 6411)."""
    plane, axis = plane_of(parts, step.face), axis_of(parts, step.from_face)
    d, n = gp_Vec(*axis.direction), gp_Vec(*plane.direction)
    if abs(abs(d.Dot(n)) - 1) > ANGULAR:
        raise BuildError(f"{step.face} does not stand square to {step.from_face}", hint="pick an end face")
    along = gp_Vec(gp_Pnt(*axis.origin), gp_Pnt(*plane.origin)).Dot(d)
    foot, way = gp_Pnt(*axis.origin).Translated(d.Multiplied(along)), n.Reversed()
    pilot = (step.diameter or 0.0) / 2
    table = centre_hole(2 * pilot)
    wide, depth = table.countersink / 2, table.least_depth or 0.0
    cone = (wide - pilot) * math.sqrt(3)
    end = cone + depth
    slope = math.tan(math.radians(30))
    points = [(-OVER, 0.0, "top"), (-OVER, wide + OVER * slope, "csk"), (cone, pilot, "pilot"), (end, pilot, "tip"),
              (end + pilot / math.tan(math.radians(59)), 0.0, "axis")]  # fmt: skip
    segments = [Segment(name, (z, r), points[(i + 1) % len(points)][:2]) for i, (z, r, name) in enumerate(points)]
    side = gp_Vec(0, 0, 1) if abs(way.Z()) < 0.9 else gp_Vec(1, 0, 0)

    def place(z: float, r: float) -> gp_Pnt:
        return foot.Translated(way.Multiplied(z).Added(side.Multiplied(r)))

    tool = revolve_contour(segments, gp_Ax1(foot, gp_Dir(way)), place, f"{number}/")
    return apply(parts, number, "cut", [tool])


def _to_the_end(parts: Parts, face: str, s: AxialSeat) -> float:
    """How far the body goes on past the cylinder where that is its end, broken by a bevel at most; else nothing."""
    corners = box(parts.bodies[parts.carrying(face)].shape)
    ways = zip(zip(*corners, strict=True), _t(s.foot), _t(s.way), strict=True)
    reach = sum(max((a - f) * w, (b - f) * w) for (a, b), f, w in ways)
    rest = reach - s.room
    return rest if 0 <= rest <= s.radius / 2 else 0.0


def _flats(parts: Parts, step: ResolvedMachined, number: int) -> Parts:
    s = seat(parts, step.face, step.from_face)
    if s.inside:
        raise BuildError("flats go on an outside cylinder", hint="pick a shaft's face")
    across = (step.width or 0.0) / 2
    if across >= s.radius:
        raise BuildError(f"flats {said(2 * across)} apart do not touch ⌀{said(2 * s.radius)}")
    length = step.length if step.length is not None else s.room
    if length > s.room + LINEAR:
        raise BuildError("the flats run past their cylinder", rule=f"it is {said(s.room)} long")
    far = s.radius + 1.0
    past = _to_the_end(parts, step.face, s) + OVER
    tools = []
    for k in range(step.count):
        frame = s.frame(step.angle + 2 * math.pi * k / step.count)
        out, way = gp_Vec(*frame.x), gp_Vec(*frame.y)
        across_way = way.Crossed(out)
        base = Frame(_t(s.foot.Translated(out.Multiplied(across))), _t(across_way), _t(way))
        y1 = length + (past if length > s.room - LINEAR else 0.0)
        region = _loop([(-far, -OVER), (far, -OVER), (far, y1), (-far, y1)], [f"a.{k}", f"b.{k}", "shoulder", f"c.{k}"])
        face = planar_face(region, Placed(base))
        tools.append(prism(face, out.Multiplied(far - across + 1.0), f"{number}/", f"flat.{k}", f"top.{k}"))
    return apply(parts, number, "cut", tools)
