"""A thread put into the part's shell in place of its cylinder's face: no boolean, nothing is computed twice.

The cylinder's face ends at two full circles (``seat``). At the start, a flat neighbour square to the axis gets the
thread's rim instead of its circle; a bevel gives way as far as the thread goes; any other neighbour keeps its circle,
and a flat ring closes the gap. At the end the thread either runs to the neighbour likewise, or runs out on the
cylinder, whose face keeps the rest. Everything else - a keyway across the cylinder, an abrupt end - is left to the
ring and its boolean: ``grafted`` returns None.

The faces of one pitch are checked and integrated once. A face's share of the volume, V = 1/3 of the integral of x . n,
grows by d A / 3 when it is shifted by d along the axis, A being the area of its projection along that axis.
"""

from __future__ import annotations

import math
from typing import Any

from OCP.BRep import BRep_Builder, BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepCheck import BRepCheck_Analyzer
from OCP.Geom import Geom_Plane
from OCP.gp import gp_Ax3, gp_Pln, gp_Vec
from OCP.TopExp import TopExp
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS, TopoDS_Compound, TopoDS_Face, TopoDS_Shell, TopoDS_Solid, TopoDS_Wire

from lathed_solid.kernel.builders.helicoid import FORWARD, REVERSED, TOLERANCE, Stretch, flat_line
from lathed_solid.kernel.builders.thread_seat import NEAR, TURN, AxialFrame, Joint, ThreadSeat, in_wire, pieces
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import face_share
from lathed_solid.kernel.topology import VERTEX, Key, sub_shapes
from lathed_solid.quantity.tolerances import LINEAR

CLEAR = 1e-4
BUILDER = BRep_Builder()
#: the cells of bevels are called so
BEVELS = ("bevel.start", "bevel.end")


def grafted(body: Body, seat: ThreadSeat, frame: AxialFrame, stretch: Stretch, prefix: str) -> Body | None:
    """``body`` with the stretch in place of its seat; None when that needs a boolean. ``prefix`` begins new names."""
    (bottom, top), room = stretch.ends, seat.ends[1].level
    partly = top < room - LINEAR
    where = TopLoc_Location(frame.place)
    swapped: dict[Key, Any] = {}
    fresh: list[tuple[Any, str]] = []
    gone = []
    for end, bevel, last in zip(seat.ends, seat.bevels, (False, True), strict=True):
        level = top if last else bottom
        if last and partly:
            if max(abs(r - seat.radius) for r in stretch.rim_radii[level]) > NEAR:
                return None
            continue
        beyond = bevel is not None and abs(level - bevel.outer.level) < NEAR
        joint = end
        if beyond:
            assert bevel is not None
            joint = bevel.outer
            gone.append(bevel.face)
        rim = stretch.rim(last).Moved(where)
        if joint.flat:
            swapped[Key(joint.neighbour)] = _swapped(joint, rim, frame)
        elif _clear(stretch, level, joint.radius):
            fresh.append((_ring(joint, rim, frame, last, stretch.inwards), f"{prefix}.{'end' if last else 'start'}"))
        else:
            return None
    rest = None
    if partly:
        rest = _rest(seat, stretch.rim(True).Moved(where), frame, top)
        if rest is None:
            return None
    return _joined(body, seat, stretch, where, {**swapped, **{Key(f): None for f in gone}, Key(seat.cylinder): rest},
                   fresh, prefix)  # fmt: skip


def _clear(stretch: Stretch, level: float, radius: float) -> bool:
    """Whether the rim stays off a circle, so that a flat ring has room between them."""
    sign = -1.0 if stretch.inwards else 1.0
    return min(sign * (radius - r) for r in stretch.rim_radii[level]) > CLEAR


def _swapped(joint: Joint, rim: Any, frame: AxialFrame) -> Any:
    """The flat neighbour with the rim instead of its circle."""
    out = TopoDS.Face(joint.neighbour.EmptyCopied())
    for wire in pieces(joint.neighbour):
        if Key(joint.circle) in in_wire(wire):
            wire = rim if frame.forward(pieces(wire)[0]) else rim.Reversed()
        BUILDER.Add(out, wire)
    return out


def _ring(joint: Joint, rim: Any, frame: AxialFrame, top: bool, inwards: bool) -> Any:
    """The flat ring between a neighbour's circle and the thread's rim."""
    at = frame.origin.Translated(gp_Vec(frame.way).Multiplied(joint.level))
    face, wire = TopoDS_Face(), TopoDS_Wire()
    BUILDER.MakeFace(face, Geom_Plane(gp_Pln(gp_Ax3(at, frame.way))), TOLERANCE)
    BUILDER.MakeWire(wire)
    circle = TopoDS.Edge(joint.circle.Oriented(FORWARD))
    BUILDER.Add(wire, circle if frame.forward(circle) else circle.Reversed())
    wire.Closed(True)
    outer, inner = (rim, wire) if inwards else (wire, rim)
    BUILDER.Add(face, outer)
    BUILDER.Add(face, inner.Reversed())
    # the material is on the neighbour's side
    return face.Reversed() if top else face


def _rest(seat: ThreadSeat, rim: Any, frame: AxialFrame, top: float) -> Any:
    """The cylinder's face from the rim, where the thread has run out, to its far circle; None when they do not meet."""
    start, cylinder = seat.ends[0], seat.cylinder
    seam = TopoDS.Edge(seat.seam.Oriented(FORWARD))
    first, last = TopExp.FirstVertex_s(seam), TopExp.LastVertex_s(seam)
    at_first = abs(frame.level(BRep_Tool.Pnt_s(first)) - start.level) < NEAR
    curve = BRepAdaptor_Curve(seam)
    # the seam is a straight line: its parameter is its length
    t0, t1 = curve.FirstParameter(), curve.LastParameter()
    t0, t1 = (t0 + top, t1) if at_first else (t0, t1 - top)
    at = curve.Value(t0 if at_first else t1)
    vertices = [TopoDS.Vertex(v) for v in sub_shapes(rim, VERTEX)]
    meeting = next((v for v in vertices if BRep_Tool.Pnt_s(v).Distance(at) < NEAR * 10), None)
    if meeting is None:
        return None
    shorter = TopoDS.Edge(seam.EmptyCopied())
    BUILDER.Add(shorter, (meeting if at_first else first).Oriented(FORWARD))
    BUILDER.Add(shorter, (last if at_first else meeting).Oriented(REVERSED))
    BUILDER.Range(shorter, t0, t1)
    out, wire = TopoDS.Face(cylinder.EmptyCopied()), TopoDS_Wire()
    BUILDER.MakeWire(wire)
    for arc in pieces(rim):
        _lay_on(arc, cylinder)
    (old,) = pieces(cylinder)
    for edge in pieces(old):
        if Key(edge) == Key(seam):
            BUILDER.Add(wire, shorter.Oriented(edge.Orientation()))
        elif Key(edge) == Key(start.circle):
            for arc in pieces(rim if frame.forward(edge) else rim.Reversed()):
                BUILDER.Add(wire, arc)
        else:
            BUILDER.Add(wire, edge)
    wire.Closed(True)
    BUILDER.Add(out, wire)
    return out


def _lay_on(arc: Any, cylinder: Any) -> None:
    """Give half a circle its straight line on the cylinder's (u, v)."""
    c = BRepAdaptor_Curve(TopoDS.Edge(arc))
    axes = BRepAdaptor_Surface(cylinder, False).Cylinder().Position()

    def angle(t: float) -> float:
        out = gp_Vec(axes.Location(), c.Value(t))
        return math.atan2(out.Dot(gp_Vec(axes.YDirection())), out.Dot(gp_Vec(axes.XDirection()))) % TURN

    middle = angle(0.5)
    quarter = math.copysign(TURN / 4, angle(0.75) - middle)
    level = gp_Vec(axes.Location(), c.Value(0.5)).Dot(gp_Vec(axes.Direction()))
    where = TopLoc_Location()
    under = BRep_Tool.Surface_s(cylinder, where)
    flat = flat_line((middle - quarter, level), (middle + quarter, level))
    BUILDER.UpdateEdge(TopoDS.Edge(arc), flat, under, where, TOLERANCE)


def _joined(
    body: Body,
    seat: ThreadSeat,
    stretch: Stretch,
    where: TopLoc_Location,
    changed: dict[Key, Any],
    fresh: list[tuple[Any, str]],
    prefix: str,
) -> Body | None:
    """The new solid with its names and what is known of the volume; None when the boundary check fails.

    ``changed``: what takes a face's place, or None.
    """
    shell, solid, doubtful = TopoDS_Shell(), TopoDS_Solid(), TopoDS_Compound()
    BUILDER.MakeShell(shell)
    BUILDER.MakeSolid(solid)
    BUILDER.MakeCompound(doubtful)
    names, shares = dict(body.names), dict(body.shares)
    atoms_of = {p.name: frozenset([f"{prefix}.{p.name}"]) for p in stretch.pieces}
    for bevel, name in zip(seat.bevels, BEVELS, strict=True):
        if bevel is not None:
            atoms_of[name] = body.names.get(Key(bevel.face), frozenset())
    for face in seat.standing:
        key = Key(face)
        if key in changed:
            atoms, new = names.pop(key, frozenset()), changed[key]
            shares.pop(key, None)
            if new is None:
                continue
            BUILDER.Add(doubtful, new)
            names[Key(new)] = atoms
            face = new
        BUILDER.Add(shell, face)
    for face, name in fresh:
        BUILDER.Add(shell, face)
        BUILDER.Add(doubtful, face)
        names[Key(face)] = frozenset([name])
    sign = -1.0 if stretch.inwards else 1.0
    first = 0.0
    for piece in stretch.pieces:
        face = piece.face.Moved(where)
        BUILDER.Add(shell, face)
        if piece.pitches == 0:
            BUILDER.Add(doubtful, face)
            first = face_share(TopoDS.Face(face))
        key = Key(face)
        names[key] = atoms_of[piece.name]
        shares[key] = sign * (first + piece.pitches * stretch.profile.pitch * piece.across / 3)
    if not BRep_Tool.IsClosed_s(shell) or not BRepCheck_Analyzer(doubtful, True, True).IsValid():
        return None
    shell.Closed(True)
    BUILDER.Add(solid, shell)
    return Body(solid, names, shares)
