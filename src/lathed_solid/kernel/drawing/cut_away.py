"""A solid with everything in front of a plane taken away, and the bounds of what the plane cuts through."""

from __future__ import annotations

from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut
from OCP.BRepPrimAPI import BRepPrimAPI_MakeBox
from OCP.BRepTools import BRepTools_WireExplorer
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Ax2, gp_Dir, gp_Pnt
from OCP.TopAbs import TopAbs_Orientation
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.drawing.figures import Half, Place
from lathed_solid.kernel.drawing.flat import Flat
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import WIRE, box, faces, sub_shapes
from lathed_solid.kernel.vectors import dot
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR

#: chords of a curved bound
CHORDS = 24


def cut_away(shape: Any, flat: Flat, level: float, half: Half = "") -> tuple[Any, tuple[tuple[Place, ...], ...]]:
    """The rest of a shape behind the plane at ``level`` towards the eye, and the cut faces' bounds in the side; of a
    ``half`` what lies beyond the middle stays whole. Raises MeasureError when the kernel cannot cut it.
    """
    low, high = box(shape)
    size = 4 * max(h - k for h, k in zip(high, low, strict=True)) + 10
    middle = [(h + k) / 2 for h, k in zip(high, low, strict=True)]
    off = level - dot((middle[0], middle[1], middle[2]), flat.eye)
    ways = zip(middle, flat.eye, flat.right, flat.up, strict=True)
    begin, below = (0.0 if half == "right" else -size / 2), (-size if half == "low" else -size / 2)
    corner = [m + off * e + begin * r + below * u for m, e, r, u in ways]
    frame = gp_Ax2(gp_Pnt(*corner), gp_Dir(*flat.eye), gp_Dir(*flat.right))
    operation = BRepAlgoAPI_Cut(shape, BRepPrimAPI_MakeBox(frame, size, size, size).Solid())
    if not operation.IsDone():
        raise MeasureError("the kernel cannot cut this solid open")
    rest = operation.Shape()
    found = cut_faces(rest, flat, level)
    return rest, tuple(_bound(TopoDS.Wire(w), TopoDS.Face(f), flat) for f in found for w in sub_shapes(f, WIRE))


def cut_faces(rest: Any, flat: Flat, level: float) -> list[Any]:
    """The faces of what was cut that lie in the plane of the cut."""
    out = []
    for face in faces(rest):
        s = read_surface(face)
        here = s.kind == "plane" and dot(s.direction, flat.eye) > 1 - ANGULAR
        if here and abs(dot(s.origin, flat.eye) - level) < LINEAR:
            out.append(face)
    return out


def _bound(wire: Any, face: Any, flat: Flat) -> tuple[Place, ...]:
    out: list[Place] = []
    explorer = BRepTools_WireExplorer(wire, face)
    while explorer.More():
        curve = BRepAdaptor_Curve(explorer.Current())
        first, last = curve.FirstParameter(), curve.LastParameter()
        many = 1 if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line else CHORDS
        points = [curve.Value(first + (last - first) * k / many) for k in range(many + 1)]
        if explorer.Current().Orientation() == TopAbs_Orientation.TopAbs_REVERSED:
            points.reverse()
        out += [flat.of((p.X(), p.Y(), p.Z())) for p in points[:-1]]
        explorer.Next()
    return tuple(out)
