"""The body as a sketch sees it: its edges laid into the sketch's plane, each with a lasting name.

An edge is named by the two faces that meet there (``20/end|20/l3``); of several with the same faces the place in the
plane decides. A line stays a line, a circle square to the plane's normal a circle or an arc, anything else becomes
a chain of places.
"""

from __future__ import annotations

import math
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType

from lathed_solid.kernel.names import Body
from lathed_solid.kernel.shapes import Key, edges, faces
from lathed_solid.part.steps import Frame

MOST_EDGES = 1500
FLAT = 1e-9


def outline(body: Body, frame: Frame) -> list[dict[str, Any]]:
    """Edges of ``body`` in the frame: ``name``, ``kind`` (line, circle, arc, chain) and ``points`` in mm.

    A line has two points; a circle its centre and ``radius``; an arc centre, start, end, counter-clockwise.
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
    found.sort(key=lambda e: (e["name"], [round(c, 6) for p in e["points"] for c in p]))
    used: dict[str, int] = {}
    for e in found:
        used[e["name"]] = used.get(e["name"], 0) + 1
        if used[e["name"]] > 1:
            e["name"] += f"@{used[e['name']]}"
    return found


def _laid(edge: Any, frame: Frame) -> dict[str, Any] | None:
    curve = BRepAdaptor_Curve(edge)
    first, last = curve.FirstParameter(), curve.LastParameter()
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
        a, b = (_flat(curve.Value(t), frame) for t in (first, last))
        return {"kind": "line", "points": [a, b]} if math.dist(a, b) > 1e-6 else None
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
        circle = curve.Circle()
        axis = circle.Axis().Direction()
        along = sum(p * q for p, q in zip((axis.X(), axis.Y(), axis.Z()), frame.normal, strict=True))
        if abs(abs(along) - 1) < FLAT:
            centre = _flat(circle.Location(), frame)
            if last - first > 2 * math.pi - 1e-9:
                return {"kind": "circle", "points": [centre], "radius": circle.Radius()}
            ends = [_flat(curve.Value(t), frame) for t in (first, last)]
            return {"kind": "arc", "points": [centre, *(ends if along > 0 else ends[::-1])]}
    if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle and last - first > 2 * math.pi - 1e-9:
        first += _highest(curve, frame)
        last = first + 2 * math.pi
    points = [_flat(curve.Value(first + (last - first) * k / 24), frame) for k in range(25)]
    # seen from its side a curve is a line, from its farthest place to the one farthest from that
    one = max(points, key=lambda p: math.dist(points[0], p))
    two = max(points, key=lambda p: math.dist(one, p))
    if math.dist(one, two) < 1e-6:
        return None
    if _off_line(points, one, two) < 1e-9:
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
