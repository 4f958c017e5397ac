"""Bounds of flat faces as closed loops of straight and circular pieces, for what follows a line: a laser, a scriber.

Each corner of a loop has the bulge of the piece that follows: the tangent of a quarter of its angle, positive to the
left (counter-clockwise), zero for a straight one. The area of a loop is that of its polygon and, for each piece of
chord c and angle t about radius r = c / (2 sin(t / 2)), the segment r^2 (t - sin t) / 2 with its sign.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepTools import BRepTools_WireExplorer
from OCP.GCPnts import GCPnts_QuasiUniformDeflection
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.drawing.cut_away import cut_away, cut_faces
from lathed_solid.kernel.drawing.figures import Place
from lathed_solid.kernel.drawing.flat import FLATS, Flat
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.loop_figures import Corner, Loop
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import WIRE, sub_shapes
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.part.steps import face_frame
from lathed_solid.quantity.tolerances import ANGULAR

#: the sides that look along an axis towards its negative end: what a section square to it shows
TOWARDS = {"x": "right", "y": "back", "z": "top"}


@dataclass(frozen=True)
class _Plane:
    """Directions in a flat face's plane."""

    right: Triple
    up: Triple
    normal: Triple

    def of(self, p: Any) -> Place:
        """A place of space in it."""
        at = (p.X(), p.Y(), p.Z())
        return dot(at, self.right) + 0.0, dot(at, self.up) + 0.0


def face_loops(body: Body, name: str, chord: float) -> tuple[Loop, ...]:
    """The bounds of a named flat face, in the frame of the face. Raises MeasureError for none, or one that is not
    flat.
    """
    found = [f for faces in body.find(name).values() for f in faces]
    if not found:
        raise MeasureError(f"there is no face {name}", hint="its name as the window shows it under the pointer")
    s = read_surface(found[0])
    if s.kind != "plane":
        raise MeasureError("a flat face is needed", where=name, received=f"a {s.kind}")
    frame = face_frame((0.0, 0.0, 0.0), s.direction, 0.0, False)
    return _loops(found, _Plane(frame.x, frame.y, s.direction), chord)


def section_loops(body: Body, axis: str, at: float, chord: float) -> tuple[Loop, ...]:
    """The bounds of the cut square to an axis. Raises MeasureError where the plane misses the solid."""
    flat: Flat = FLATS[TOWARDS[axis]]
    rest, _ = cut_away(body.shape, flat, at * sum(flat.eye))
    found = cut_faces(rest, flat, at * sum(flat.eye))
    if not found:
        raise MeasureError("the section misses the solid", where=f"{axis} = {at:g} mm")
    return _loops(found, _Plane(flat.right, flat.up, flat.eye), chord)


def _loops(faces: Sequence[Any], plane: _Plane, chord: float) -> tuple[Loop, ...]:
    out: list[Loop] = []
    for face in faces:
        wires = sub_shapes(face, WIRE)
        own = [Loop(tuple(_corners(TopoDS.Wire(wire), TopoDS.Face(face), plane, chord))) for wire in wires]
        # outer bounds run to the left, whichever way the face's own surface looks
        out += own if sum(loop.area for loop in own) > 0 else [loop.turned for loop in own]
    return tuple(out)


def _corners(wire: Any, face: Any, plane: _Plane, chord: float) -> Iterable[Corner]:
    explorer = BRepTools_WireExplorer(wire, face)
    while explorer.More():
        edge = explorer.Current()
        curve = BRepAdaptor_Curve(edge)
        back = explorer.Orientation() == TopAbs_Orientation.TopAbs_REVERSED
        first, last = curve.FirstParameter(), curve.LastParameter()
        if back:
            first, last = last, first
        kind = curve.GetType()
        if kind == GeomAbs_CurveType.GeomAbs_Line:
            yield (*plane.of(curve.Value(first)), 0.0)
        elif kind == GeomAbs_CurveType.GeomAbs_Circle and _level(curve, plane):
            axis = curve.Circle().Axis().Direction()
            sense = math.copysign(1.0, dot((axis.X(), axis.Y(), axis.Z()), plane.normal))
            many = 2 if abs(last - first) > math.pi + 1e-9 else 1  # no piece over half a turn
            bulge = sense * math.tan((last - first) / many / 4)
            for k in range(many):
                yield (*plane.of(curve.Value(first + (last - first) * k / many)), bulge)
        else:
            yield from ((*plane.of(p), 0.0) for p in _chords(curve, chord, back))
        explorer.Next()


def _level(curve: Any, plane: _Plane) -> bool:
    axis = curve.Circle().Axis().Direction()
    return abs(dot((axis.X(), axis.Y(), axis.Z()), plane.normal)) > 1 - ANGULAR


def _chords(curve: Any, chord: float, back: bool) -> list[Any]:
    """Places along a free curve, no chord farther off than ``chord`` mm; its end belongs to the next piece."""
    found = GCPnts_QuasiUniformDeflection(curve, chord)
    if not found.IsDone() or found.NbPoints() < 2:
        raise MeasureError("a bound of the face cannot be followed")
    points = [found.Value(k) for k in range(1, found.NbPoints() + 1)]
    return (points[::-1] if back else points)[:-1]
