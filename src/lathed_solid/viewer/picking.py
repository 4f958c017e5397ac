"""What a picked face says of itself: its surface in words, and where on it the pointer is."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Pnt, gp_Vec

from lathed_solid.kernel.figures import NearEdge, Picked
from lathed_solid.kernel.surfaces import Surface, read_surface
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.names import read_edge
from lathed_solid.part.steps import face_frame

#: edges that meet at a larger cosine give one distance twice; so many centres of round edges are told
ACROSS, ROUNDS = 0.9, 3
#: a frame whose y climbs at a larger sine stands upright
STANDING = 0.5


def picked_face(
    face: Any, label: str, point: Triple, edge_names: Mapping[Key, str], faces: Mapping[str, Sequence[Any]]
) -> Picked:
    """A face under the pointer at ``point`` (mm); ``label`` is its name, empty for none. ``faces`` bear names."""
    surface = read_surface(face)
    names = (label,) if label else ()
    near = _near(face, surface, label, point, edge_names, faces) if surface.kind == "plane" and label else ()
    return Picked("face", names, point, _facts(surface), _place(surface, point), surface.kind, near,
                  toppled=_toppled(surface))  # fmt: skip


def picked_edge(label: str, point: Triple, faces: Mapping[str, Sequence[Any]]) -> Picked:
    """An edge under the pointer; ``faces`` are those that bear a name."""
    told = read_edge(label) if label else None
    beside = sorted(min(side) for side in told.faces) if told is not None else ()
    found = ((n, read_surface(f[0])) for n in beside if (f := faces.get(n)))
    flat, surface = next(((n, s) for n, s in found if s.kind == "plane"), ("", None))
    return Picked(
        "edge", (label,) if label else (), point, flat=flat, toppled=surface is not None and _toppled(surface)
    )


def _near(
    face: Any, surface: Surface, label: str, point: Triple, names: Mapping[Key, str], faces: Mapping[str, Sequence[Any]]
) -> tuple[NearEdge, ...]:
    """What a place on a flat face can be told from: two of its straight edges, and centres of its round ones."""
    at, own = gp_Pnt(*point), frozenset(label.split("+"))
    straight: list[tuple[float, NearEdge, gp_Vec]] = []
    rounds: list[NearEdge] = []
    for edge in edges(face):
        name = names.get(Key(edge), "")
        told = read_edge(name) if name else None
        if told is None:
            continue
        wall = min(told.faces[0] if told.faces[0] != own else told.faces[1])
        curve = BRepAdaptor_Curve(edge)
        if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
            beyond = faces.get(wall)
            if not beyond or read_surface(beyond[0]).kind != "plane":
                continue  # a round's edge: no distance is told from it
            near = BRepExtrema_DistShapeShape(BRepBuilderAPI_MakeVertex(at).Vertex(), edge).Value()
            way = gp_Vec(curve.Line().Direction())
            square = gp_Vec(*surface.direction).Crossed(way)
            away = gp_Vec(curve.Line().Location(), at).Dot(square)
            if away < 0:
                square.Reverse()
            low, high = surface.extent((square.X(), square.Y(), square.Z()))
            level = gp_Vec(gp_Pnt(0, 0, 0), curve.Line().Location()).Dot(square)
            # a place is told from where more of the face lies
            sign = 1.0 if high - level > level - low else -1.0
            straight.append((near, NearEdge(name, wall, sign * abs(away), max(high - level, level - low)), way))
        elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
            circle = curve.Circle()
            rounds.append(NearEdge(name, wall, at.Distance(circle.Location()), radius=circle.Radius()))
    straight.sort(key=lambda s: s[0])
    first = straight[:1]
    second = [s for s in straight[1:] if abs(s[2].Dot(first[0][2])) < ACROSS][:1]
    rounds.sort(key=lambda r: r.away)
    return (*(s[1] for s in (*first, *second)), *rounds[:ROUNDS])


def _place(s: Surface, point: tuple[float, float, float]) -> tuple[float, float] | None:
    """A point of a flat face in the frame that holes are placed in."""
    if s.kind != "plane":
        return None
    frame = face_frame(s.origin, s.direction, 0.0, False)
    off = [p - o for p, o in zip(point, frame.origin, strict=True)]
    x, y = (sum(a * b for a, b in zip(off, axis, strict=True)) for axis in (frame.x, frame.y))
    return x, y


def _toppled(s: Surface) -> bool:
    return s.kind == "plane" and face_frame(s.origin, s.direction, 0.0, False).y[2] < -STANDING


def _facts(s: Surface) -> str:
    """A face in words."""
    if s.kind == "cylinder":
        return f"cylinder ⌀{2 * s.radius:.3f}"
    if s.kind == "cone":
        return f"cone, half angle {math.degrees(abs(s.half_angle)):.2f}°"
    if s.kind == "torus":
        return f"radius {s.radius:.3f}"
    return "flat face" if s.kind == "plane" else s.kind
