"""The body as a sketch sees it: its edges laid into the sketch's plane, each with a lasting name.

An edge is named by the two faces that meet there (``20/end|20/l3``); of several with the same faces the place in the
plane decides. A line stays a line, a circle square to the plane's normal a circle or an arc, anything else becomes
a chain of places. Beside the edges stand what a drawing shows too, each named by its face and what it is: where a
round face turns away from the eye (``20/c1|~side``), its centreline (``~axis``), where a datum plane cuts the body
(``~section``), and corners (``20/end|20/l1|20/l2|~corner``).
"""

from __future__ import annotations

import math
from typing import Any

from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepAlgoAPI import BRepAlgoAPI_Section
from OCP.BRepBuilderAPI import BRepBuilderAPI_MakeVertex
from OCP.BRepExtrema import BRepExtrema_DistShapeShape
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Ax3, gp_Dir, gp_Pln, gp_Pnt
from OCP.TopoDS import TopoDS, TopoDS_Shape

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import Surface, one_surface
from lathed_solid.kernel.topology import VERTEX, Key, edges, faces, sub_shapes
from lathed_solid.kernel.vectors import Triple
from lathed_solid.part.steps import Frame
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, ROUNDING
from lathed_solid.sketch.laid_edge import Edge

MOST_EDGES = 1500
FLAT = 1e-9


def outline(body: Body, frame: Frame, *, cut: bool = False) -> list[Edge]:
    """Edges of ``body`` in the frame; points in mm.

    A line has two points; a circle its centre and ``radius``; an arc centre, start, end, counter-clockwise. ``cut``
    asks for the section with the plane as well.
    """
    beside: dict[Key, list[str]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        for edge in edges(face):
            beside.setdefault(Key(edge), []).append(label)
    found: list[dict[str, Any]] = []
    for key, labels in list(beside.items())[:MOST_EDGES]:
        if len(labels) < 2 or labels[0] == labels[1]:
            continue  # a seam
        laid = _laid(key.shape, frame)
        if laid is not None:
            found.append({"name": "|".join(sorted(labels)), **laid})
    found += _round_faces(body, frame)
    found += _corners(body, frame)
    if cut:
        found += _sections(body, frame)
    found.sort(key=lambda e: (e["name"], [round(c, 6) for p in e["points"] for c in p]))
    used: dict[str, int] = {}
    for e in found:
        used[e["name"]] = used.get(e["name"], 0) + 1
        if used[e["name"]] > 1:
            e["name"] += f"@{used[e['name']]}"
    return [Edge.read(e) for e in found]


def _round_faces(body: Body, frame: Frame) -> list[dict[str, Any]]:
    """Silhouettes and centrelines of cylinders, cones and spheres that lie along the plane.

    The eye looks along the normal n. A cylinder's sides lie at its radius to either hand of its axis d, along n x d; a
    cone's radius grows with tan of its half angle along the axis, so its sides are straight too when d is square to n.
    """
    out: list[dict[str, Any]] = []
    n = frame.normal
    for atom, parts in list(body.by_atom.items())[:MOST_EDGES]:
        surface = one_surface(parts)
        if surface.kind == "sphere":
            centre = _flat(gp_Pnt(*surface.origin), frame)
            out.append({"name": f"{atom}|~side", "kind": "circle", "points": [centre], "radius": surface.radius})
        if surface.kind not in ("cylinder", "cone"):
            continue
        d = surface.direction
        if abs(sum(a * b for a, b in zip(d, n, strict=True))) > ROUNDING:
            continue
        low, high = surface.extent(d)
        base = sum(a * b for a, b in zip(surface.origin, d, strict=True))
        aside = (n[1] * d[2] - n[2] * d[1], n[2] * d[0] - n[0] * d[2], n[0] * d[1] - n[1] * d[0])

        def at(along: float, off: float, surface: Surface = surface, base: float = base, aside: Triple = aside) -> Any:
            o, d = surface.origin, surface.direction
            return _flat(gp_Pnt(*(o[i] + d[i] * (along - base) + aside[i] * off for i in range(3))), frame)

        def radius(along: float, surface: Surface = surface, base: float = base) -> float:
            return abs(surface.radius + (along - base) * math.tan(surface.half_angle))

        out.append({"name": f"{atom}|~axis", "kind": "line", "points": sorted([at(low, 0), at(high, 0)])})
        for hand in (-1, 1):
            ends = sorted([at(low, hand * radius(low)), at(high, hand * radius(high))])
            out.append({"name": f"{atom}|~side", "kind": "line", "points": ends})
    return out


def _corners(body: Body, frame: Frame) -> list[dict[str, Any]]:
    """Vertices where three faces or more meet."""
    beside: dict[Key, set[str]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        for vertex in sub_shapes(face, VERTEX):
            beside.setdefault(Key(vertex), set()).add(label)
    return [
        {"name": "|".join([*sorted(labels), "~corner"]), "kind": "point",
         "points": [_flat(BRep_Tool.Pnt_s(TopoDS.Vertex(key.shape)), frame)]}
        for key, labels in list(beside.items())[:MOST_EDGES] if len(labels) > 2
    ]  # fmt: skip


def _sections(body: Body, frame: Frame) -> list[dict[str, Any]]:
    """The curves in which the plane cuts the body's faces."""
    plane = gp_Pln(gp_Ax3(gp_Pnt(*frame.origin), gp_Dir(*frame.normal), gp_Dir(*frame.x)))
    section = BRepAlgoAPI_Section(body.shape, plane, True)
    if not section.IsDone():
        return []
    out = []
    for edge in edges(section.Shape())[:MOST_EDGES]:
        found = TopoDS_Shape()
        laid = _laid(edge, frame)
        if laid is None:
            continue
        # along a seam the operation names no face
        face = found if section.HasAncestorFaceOn1(edge, found) else _carrier(body, edge)
        if face is None:
            continue
        label = "+".join(sorted(body.names.get(Key(face), ())))
        out.append({"name": f"{label}|~section", **laid})
    return out


def _carrier(body: Body, edge: Any) -> Any | None:
    """The face that an edge's middle lies on."""
    curve = BRepAdaptor_Curve(edge)
    middle = BRepBuilderAPI_MakeVertex(curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)).Vertex()
    return next((f for f in faces(body.shape) if BRepExtrema_DistShapeShape(middle, f).Value() < LINEAR), None)


def _laid(edge: Any, frame: Frame) -> dict[str, Any] | None:
    curve = BRepAdaptor_Curve(edge)
    first, last = curve.FirstParameter(), curve.LastParameter()
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
        a, b = (_flat(curve.Value(t), frame) for t in (first, last))
        return {"kind": "line", "points": [a, b]} if math.dist(a, b) > LINEAR else None
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        axis = circle.Axis().Direction()
        along = sum(p * q for p, q in zip((axis.X(), axis.Y(), axis.Z()), frame.normal, strict=True))
        if abs(abs(along) - 1) < FLAT:
            centre = _flat(circle.Location(), frame)
            if last - first > 2 * math.pi - ANGULAR:
                return {"kind": "circle", "points": [centre], "radius": circle.Radius()}
            ends = [_flat(curve.Value(t), frame) for t in (first, last)]
            return {"kind": "arc", "points": [centre, *(ends if along > 0 else ends[::-1])]}
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle and last - first > 2 * math.pi - ANGULAR:
        first += _highest(curve, frame)
        last = first + 2 * math.pi
    points = [_flat(curve.Value(first + (last - first) * k / 24), frame) for k in range(25)]
    # seen from its side a curve is a line, from its farthest place to the one farthest from that
    one = max(points, key=lambda p: math.dist(points[0], p))
    two = max(points, key=lambda p: math.dist(one, p))
    if math.dist(one, two) < LINEAR:
        return None
    if _off_line(points, one, two) < ROUNDING:
        return {"kind": "line", "points": sorted([one, two])}
    return {"kind": "chain", "points": points}


def _highest(curve: Any, frame: Frame) -> float:
    """Where a full circle, seen aslant, reaches farthest from its centre: its wide axis in the plane."""
    circle = curve.Circle()
    axes = [circle.XAxis().Direction(), circle.YAxis().Direction()]
    (a, b), (c, d) = (
        [sum(p * q for p, q in zip((v.X(), v.Y(), v.Z()), way, strict=True)) for way in (frame.x, frame.y)]
        for v in axes
    )
    return 0.5 * math.atan2(2 * (a * c + b * d), a * a + b * b - c * c - d * d)


def _flat(p: Any, frame: Frame) -> tuple[float, float]:
    d = [p.X() - frame.origin[0], p.Y() - frame.origin[1], p.Z() - frame.origin[2]]
    x, y = (sum(a * b for a, b in zip(d, axis, strict=True)) for axis in (frame.x, frame.y))
    return (x + 0.0, y + 0.0)


def _off_line(points: list[tuple[float, float]], one: tuple[float, float], two: tuple[float, float]) -> float:
    """How far points lie off the line through two places."""
    (ax, ay), (bx, by) = one, two
    return max(abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) for x, y in points) / math.dist(one, two)
