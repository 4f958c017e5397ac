"""Where a thread sits: a whole cylinder between two full circles, and what stands beside it.

A bevel beside the cylinder - a short coaxial cone that falls away - belongs to the thread's seat: the thread is cut
through it, and the bevel keeps what the thread leaves of it.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Ax3, gp_Dir, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopExp import TopExp_Explorer
from OCP.TopoDS import TopoDS, TopoDS_Iterator

from lathed_solid.kernel.builders.helicoid import FORWARD, UP
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Triple
from lathed_solid.kernel.surfaces import Surface, read_surface
from lathed_solid.kernel.topology import EDGE, FACE, SHELL, Key, edges, sub_shapes
from lathed_solid.quantity.tolerances import ANGULAR

NEAR = 1e-7
SQUARE = 1e-12
TURN = 2 * math.pi
#: a cone beside the cylinder is a bevel when it is no longer than so many pitches
BEVEL = 2.5


@dataclass(frozen=True)
class AxialFrame:
    """Where a thread stands: its own z = 0 at ``origin``, its z along ``way``, its theta = 0 on the seam."""

    origin: gp_Pnt
    way: gp_Dir
    place: gp_Trsf

    def level(self, p: gp_Pnt) -> float:
        """How far along the axis a place is, mm."""
        return gp_Vec(self.origin, p).Dot(gp_Vec(self.way))

    def forward(self, edge: Any) -> bool:
        """Whether a circle, as it stands in its wire, goes counter-clockwise about the frame's way."""
        along = gp_Vec(BRepAdaptor_Curve(TopoDS.Edge(edge)).Circle().Axis().Direction()).Dot(gp_Vec(self.way)) > 0
        return bool(along == (edge.Orientation() == FORWARD))


def axial_frame(surface: Surface, origin: Triple, way: Triple) -> AxialFrame:
    """The frame on a cylinder."""
    x = BRepAdaptor_Surface(surface.faces[0]).Cylinder().Position().XDirection()
    at, along = gp_Pnt(*origin), gp_Dir(*way)
    place = gp_Trsf()
    place.SetTransformation(gp_Ax3(at, along, x), gp_Ax3(gp_Pnt(0, 0, 0), UP, gp_Dir(1, 0, 0)))
    return AxialFrame(at, along, place)


@dataclass(frozen=True)
class Joint:
    """A full circle at an end, at a level along the frame, and the face beside it.

    ``flat``: that face is square to the axis, and the circle is all of one of its wires.
    """

    circle: Any
    level: float
    radius: float
    neighbour: Any
    flat: bool


@dataclass(frozen=True)
class Bevel:
    """A short cone beside the cylinder, from its circle to the joint ``outer``."""

    face: Any
    outer: Joint


@dataclass(frozen=True)
class ThreadSeat:
    """A whole cylinder: all faces as they stand, its own, its seam, its ends, and the bevels there."""

    standing: list[Any]
    cylinder: Any
    seam: Any
    radius: float
    ends: tuple[Joint, Joint]
    bevels: tuple[Bevel | None, Bevel | None]


def seat_of(
    body: Body, surface: Surface, frame: AxialFrame, room: float, pitch: float, inside: bool
) -> ThreadSeat | None:
    """The seat of a thread on a cylinder ``room`` mm long; None when it is not a whole cylinder between circles."""
    if len(surface.faces) != 1 or len(sub_shapes(body.shape, SHELL)) != 1:
        return None
    wanted, standing = Key(surface.faces[0]), []
    explorer = TopExp_Explorer(body.shape, FACE)
    while explorer.More():
        standing.append(TopoDS.Face(explorer.Current()))
        explorer.Next()
    cylinder = next(f for f in standing if Key(f) == wanted)
    own = _band(cylinder)
    if own is None:
        return None
    joints = [_joint(standing, cylinder, c, frame) for level in (0.0, room) for c in own[1]
              if abs(frame.level(_centre(c)) - level) < NEAR]  # fmt: skip
    if len(joints) != 2 or joints[0] is None or joints[1] is None:
        return None
    found = [_bevel(standing, j, frame, outwards, BEVEL * pitch, inside)
             for j, outwards in ((joints[0], -1.0), (joints[1], 1.0))]  # fmt: skip
    return ThreadSeat(standing, cylinder, own[0], surface.radius, (joints[0], joints[1]), (found[0], found[1]))


def _band(face: Any) -> tuple[Any, list[Any]] | None:
    """Seam and circles of a face that is a whole band between two circles, else None."""
    own = edges(face)
    seams = [e for e in own if BRep_Tool.IsClosed_s(e, face)]
    circles = [e for e in own if _full_circle(e)]
    return (seams[0], circles) if len(own) == 3 and len(seams) == 1 and len(circles) == 2 else None


def _joint(standing: Sequence[Any], face: Any, circle: Any, frame: AxialFrame) -> Joint | None:
    """The joint at one of a face's circles; None when more than one face or wire is beside it."""
    beside = [(f, w) for f in standing if Key(f) != Key(face) for w in pieces(f) if Key(circle) in in_wire(w)]
    if len(beside) != 1:
        return None
    other, wire = beside[0]
    s = read_surface(other)
    square = s.kind == "plane" and abs(gp_Vec(*s.direction).Dot(gp_Vec(frame.way))) > 1 - SQUARE
    radius = BRepAdaptor_Curve(circle).Circle().Radius()
    return Joint(circle, frame.level(_centre(circle)), radius, other, square and len(in_wire(wire)) == 1)


def _bevel(
    standing: Sequence[Any], at: Joint, frame: AxialFrame, outwards: float, most: float, inside: bool
) -> Bevel | None:
    """The bevel beside an end of the cylinder, if there is one."""
    own = _band(at.neighbour) if read_surface(at.neighbour).kind == "cone" else None
    if own is None:
        return None
    far = next((c for c in own[1] if Key(c) != Key(at.circle)), None)
    outer = None if far is None else _joint(standing, at.neighbour, far, frame)
    if outer is None or not 0 < (outer.level - at.level) * outwards <= most:
        return None
    off = gp_Vec(_centre(at.circle), _centre(outer.circle)).Crossed(gp_Vec(frame.way)).Magnitude()
    falls = outer.radius > at.radius if inside else outer.radius < at.radius
    return Bevel(at.neighbour, outer) if falls and off < NEAR else None


def pieces(shape: Any) -> list[Any]:
    """The wires of a face, or the edges of a wire, as they stand in it."""
    out, each = [], TopoDS_Iterator(shape)
    while each.More():
        out.append(each.Value())
        each.Next()
    return out


def in_wire(wire: Any) -> set[Key]:
    """The edges of a wire."""
    return {Key(e) for e in sub_shapes(wire, EDGE)}


def _full_circle(edge: Any) -> bool:
    c = BRepAdaptor_Curve(edge)
    whole = abs(c.LastParameter() - c.FirstParameter() - TURN) < ANGULAR
    return c.GetType() == GeomAbs_CurveType.GeomAbs_Circle and whole


def _centre(edge: Any) -> gp_Pnt:
    return BRepAdaptor_Curve(edge).Circle().Location()
