"""Picked regions as faces in space: exact edges on the sketch's plane, each remembering its entity."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeEdge, BRepBuilderAPI_MakeFace, BRepBuilderAPI_MakeWire
from OCP.collections import Array1_double, Array1_gp_Pnt, Array1_int
from OCP.Geom import Geom_BezierCurve, Geom_BSplineCurve
from OCP.gp import gp_Ax2, gp_Ax3, gp_Circ, gp_Dir, gp_Elips, gp_Pln, gp_Pnt, gp_Trsf, gp_Vec
from OCP.TopLoc import TopLoc_Location
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.builders.material import moved_direction, moved_point
from lathed_solid.kernel.builders.references import named_surface
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.parts import Parts
from lathed_solid.part.steps import Frame, face_frame
from lathed_solid.part.steps.planes import oriented
from lathed_solid.part.steps.regions import XY, PieceFigure, RegionFigure
from lathed_solid.part.steps.resolved import ResolvedPlane

#: ends nearer than this become one vertex, mm
ONE_VERTEX = 6


@dataclass(frozen=True)
class PlanarFace:
    """A face and its boundary edges with the entities they come from."""

    shape: Any
    edges: list[tuple[str, Any]]

    def moved(self, where: TopLoc_Location) -> PlanarFace:
        """The same elsewhere."""
        return PlanarFace(self.shape.Moved(where), [(name, e.Moved(where)) for name, e in self.edges])


def frame_of(plane: ResolvedPlane, parts: Parts, motion: gp_Trsf | None = None) -> Frame:
    """The plane's frame, moved; read from the part for a plane on a face or datum. Raises BuildError."""
    frame = plane.frame
    if frame is None:
        found = parts.datums.get(plane.face)
        if found is not None:
            n, x = found.direction, found.x
            y = (n[1] * x[2] - n[2] * x[1], n[2] * x[0] - n[0] * x[2], n[0] * x[1] - n[1] * x[0])
            frame = oriented(Frame(found.origin, x, y), plane.turn, plane.flip)
        else:
            surface = named_surface(parts, plane.face, "plane")
            frame = face_frame(surface.origin, surface.direction, plane.turn, plane.flip)
    if motion is None:
        return frame
    return Frame(moved_point(frame.origin, motion), moved_direction(frame.x, motion), moved_direction(frame.y, motion))


class Placed:
    """Places sketch positions in space, one point object for one place."""

    def __init__(self, frame: Frame) -> None:
        self.frame = frame
        self._points: dict[tuple[float, float], gp_Pnt] = {}

    def at(self, p: XY) -> gp_Pnt:
        """A place of the plane in space; places that are one by rounding are one point."""
        key = (round(p[0], ONE_VERTEX), round(p[1], ONE_VERTEX))
        return self._points.setdefault(key, self.exact(p))

    def exact(self, p: XY) -> gp_Pnt:
        """A place of the plane (mm) in space, not rounded."""
        o, x, y = self.frame.origin, self.frame.x, self.frame.y
        return gp_Pnt(*(o[i] + x[i] * p[0] + y[i] * p[1] for i in range(3)))

    def array(self, places: tuple[XY, ...]) -> Array1_gp_Pnt:
        """Several places, as the kernel's curves take them."""
        out = Array1_gp_Pnt(1, len(places))
        for i, p in enumerate(places, 1):
            out.SetValue(i, self.exact(p))
        return out

    def direction(self, d: XY) -> gp_Dir:
        """A direction of the plane in space, as a unit vector."""
        x, y = self.frame.x, self.frame.y
        return gp_Dir(*(x[i] * d[0] + y[i] * d[1] for i in range(3)))

    @property
    def normal(self) -> gp_Dir:
        """Of the plane: x cross y."""
        return gp_Dir(*self.frame.normal)

    @property
    def plane(self) -> gp_Pln:
        """The plane itself, with the frame's x."""
        return gp_Pln(gp_Ax3(self.exact((0.0, 0.0)), self.normal, gp_Dir(*self.frame.x)))


def shifted(placed: Placed, by: float) -> TopLoc_Location:
    """A motion along the plane's normal, mm."""
    shift = gp_Trsf()
    shift.SetTranslation(gp_Vec(placed.normal).Multiplied(by))
    return TopLoc_Location(shift)


def planar_face(region: RegionFigure, placed: Placed) -> PlanarFace:
    """The region as a face. Raises BuildError when the kernel refuses its boundary."""
    stored: list[tuple[str, Any]] = []
    outer = _wire(region.outer, placed, stored)
    face = BRepBuilderAPI_MakeFace(placed.plane, outer, True)
    for hole in region.holes:
        face.Add(_wire(hole, placed, stored))
    if not face.IsDone():
        raise BuildError("a region does not bound an area", hint="run the check on the sketch")
    return PlanarFace(face.Face(), stored)


def planar_wire(loop: tuple[PieceFigure, ...], placed: Placed) -> tuple[Any, list[tuple[str, Any]]]:
    """A closed loop as a wire, and its edges with their entities. Raises BuildError."""
    stored: list[tuple[str, Any]] = []
    return _wire(loop, placed, stored), stored


def path_wire(pieces: tuple[PieceFigure, ...], placed: Placed) -> Any:
    """A chain of pieces, open or closed, as a wire. Raises BuildError where it does not join."""
    maker = BRepBuilderAPI_MakeWire()
    for piece in pieces:
        maker.Add(_edge(piece, placed))
        if not maker.IsDone():
            raise BuildError(f"the path does not join at {piece.entity}", hint="close the gap in the sketch")
    return maker.Wire()


def _wire(loop: tuple[PieceFigure, ...], placed: Placed, stored: list[tuple[str, Any]]) -> Any:
    maker = BRepBuilderAPI_MakeWire()
    for piece in loop:
        maker.Add(_edge(piece, placed))
        if not maker.IsDone():
            raise BuildError(f"the outline does not join at {piece.entity}", hint="close the gap in the sketch")
        stored.append((piece.entity, maker.Edge()))
    wire = maker.Wire()
    if not wire.Closed():
        raise BuildError("an outline is open", hint="run the check on the sketch")
    return wire


def _edge(piece: PieceFigure, placed: Placed) -> Any:
    """The edge, reversed where the loop runs against its curve: the first one gives the wire its sense."""
    edge = _forward(piece, placed)
    return edge if piece.left else TopoDS.Edge(edge.Reversed())


def _forward(piece: PieceFigure, placed: Placed) -> Any:
    start, end = placed.at(piece.start), placed.at(piece.end)
    if piece.kind == "line":
        return BRepBuilderAPI_MakeEdge(start, end).Edge()
    first, last = (start, end) if piece.left else (end, start)
    whole = piece.start == piece.end
    if piece.kind == "arc":
        x, y, radius = piece.figures
        circle = gp_Circ(gp_Ax2(placed.exact((x, y)), placed.normal, gp_Dir(*placed.frame.x)), radius)
        made = BRepBuilderAPI_MakeEdge(circle) if whole else BRepBuilderAPI_MakeEdge(circle, first, last)
    elif piece.kind == "ellipse":
        x, y, mx, my, minor = piece.figures
        major = (mx * mx + my * my) ** 0.5
        if major >= minor:
            axes, a, b = gp_Ax2(placed.exact((x, y)), placed.normal, placed.direction((mx, my))), major, minor
        else:
            axes, a, b = gp_Ax2(placed.exact((x, y)), placed.normal, placed.direction((-my, mx))), minor, major
        oval = gp_Elips(axes, a, b)
        made = BRepBuilderAPI_MakeEdge(oval) if whole else BRepBuilderAPI_MakeEdge(oval, first, last)
    else:
        t0, t1, *knots, poles = piece.figures
        points = placed.array(poles)
        curve = _spline(knots[0], points) if piece.kind == "spline" else Geom_BezierCurve(points)
        made = BRepBuilderAPI_MakeEdge(curve, first, last, min(t0, t1), max(t0, t1))
    if not made.IsDone():
        raise BuildError(f"the kernel cannot make the edge of {piece.entity}", hint="run the check on the sketch")
    return made.Edge()


def _spline(knots: tuple[float, ...], points: Array1_gp_Pnt) -> Any:
    """A cubic B-spline with the same parameter as the sketch's."""
    distinct = sorted(set(knots))
    values, many = Array1_double(1, len(distinct)), Array1_int(1, len(distinct))
    for i, k in enumerate(distinct, 1):
        values.SetValue(i, k)
        many.SetValue(i, knots.count(k))
    return Geom_BSplineCurve(points, values, many, 3)
