"""Distances, positions, depths and angles between faces."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np
from OCP.BRepExtrema import BRepExtrema_DistShapeShape

from lathed_solid.kernel.case import PARALLEL, Case, Result, need
from lathed_solid.kernel.directions import clock
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.lengths import depth
from lathed_solid.kernel.round_sizes import with_its_hole
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import edges
from lathed_solid.kernel.vectors import dot, minus, times
from lathed_solid.quantity.tolerances import LINEAR


def _two(case: Case) -> tuple[Surface, list[Surface]]:
    if len(case.probe.faces) == 1 and len(case.surfaces(0)) == 2:
        return case.surfaces(0)[0], case.surfaces(0)[1:]
    if len(case.groups) < 2:
        raise MeasureError("two faces are needed")
    return case.first(0), case.surfaces(1)


def distances(case: Case) -> Result:
    """From the first plane to each of the others along its normal, mm. Raises MeasureError for planes that are not
    parallel.
    """
    first, others = _two(case)
    n = need(first, "plane").direction
    out = []
    for other in others:
        if abs(abs(dot(n, need(other, "plane").direction)) - 1) > PARALLEL:
            raise MeasureError("the two faces are not parallel")
        out.append(abs(dot(minus(other.origin, first.origin), n)))
    return out, [], len(out)


def positions(case: Case) -> Result:
    """From a plane to each axis along the plane's normal, mm. Raises MeasureError for an axis that leans."""
    plane, cylinders = _two(case)
    n = need(plane, "plane").direction
    out = []
    for c in cylinders:
        if c.kind != "sphere" and abs(dot(n, need(c, "cylinder", "cone", "torus").direction)) > PARALLEL:
            raise MeasureError("the hole's axis is not parallel to the datum face")
        out.append(abs(dot(minus(c.origin, plane.origin), n)))
    return out, [], len(out)


def sides(way: float) -> Callable[[Case], Result]:
    """From a plane to the far (``way`` 1) or near (-1) side of each cylinder, mm."""

    def found(case: Case) -> Result:
        middles, findings, sound = positions(case)
        radii = [need(c, "cylinder").radius for c in _two(case)[1]]
        return [abs(m + way * r) for m, r in zip(middles, radii, strict=True)], findings, sound

    return found


def coaxial(case: Case) -> Result:
    """How far cylinders about one axis lie within each other, mm. Raises MeasureError for other axes."""
    first, others = _two(case)
    values, _, _ = axes(case)
    if any(v > LINEAR for v in values):
        raise MeasureError("the two round faces have no common axis")
    radius = need(first, "cylinder").radius
    return [abs(need(o, "cylinder").radius - radius) for o in others], [], len(others)


def axes(case: Case) -> Result:
    """Between parallel axes, mm. Raises MeasureError for those that are not."""
    first, others = _two(case)
    d = need(first, "cylinder", "cone", "torus").direction
    out = []
    for other in others:
        if abs(abs(dot(d, need(other, "cylinder", "cone", "torus").direction)) - 1) > PARALLEL:
            raise MeasureError("the two axes are not parallel")
        apart = minus(other.origin, first.origin)
        out.append(math.sqrt(max(0.0, dot(apart, apart) - dot(apart, d) ** 2)))
    return out, [], len(out)


def depths(case: Case) -> Result:
    """From the rim to the far end of each wall along its axis, mm."""
    values, findings, sound = [], [], 0
    entry = case.surfaces(0)[0] if case.groups[0] and not case.wrap else None
    for wall in case.walls(1):
        values.append(depth(wall, entry))
        sound += 1 if wall.surface.kind != "cylinder" or wall.sound else 0
        findings += with_its_hole(case.look, wall) if wall.surface.kind == "cylinder" else []
    return values, findings, sound


def ordinates(case: Case) -> Result:
    """From the sketch's origin along its direction, mm, with the sign; to the middle of two faces' axes."""
    origin, way = case.in_sketch()
    if len(case.probe.faces) > 1:
        ends = [(np.array(need(case.first(k), "cylinder").origin) - origin) @ way for k in (0, 1)]
        return [float(sum(ends)) / 2], [], 1
    out = []
    for s in case.surfaces(0):
        if s.kind == "plane" and abs(abs(float(np.dot(s.direction, way))) - 1) > PARALLEL:
            raise MeasureError("the face does not stand square to the dimension")
        if s.kind in ("cylinder", "cone") and abs(float(np.dot(s.direction, way))) > PARALLEL:
            raise MeasureError("the axis does not stand square to the dimension")
        out.append(float((np.array(s.origin) - origin) @ way))
    return out, [], len(out)


def corners(case: Case) -> Result:
    """Where two flats would meet: from a third one, or from the origin, along a direction of the sketch."""
    origin, way = case.in_sketch()
    at = _corner(case, 0, origin)
    base = origin if len(case.probe.faces) < 3 else np.array(need(case.first(2), "plane").origin)
    value = float((at - base) @ way)
    return [value if len(case.probe.faces) < 3 else abs(value)], [], 1


def between_corners(case: Case) -> Result:
    """From where the first two flats would meet to where the others would, along a direction of the sketch."""
    origin, way = case.in_sketch()
    return [abs(float((_corner(case, 2, origin) - _corner(case, 0, origin)) @ way))], [], 1


def _corner(case: Case, k: int, origin: np.ndarray) -> np.ndarray:
    """Where the flats of the k-th name and the next one meet in a plane through ``origin`` along the sketch's."""
    frame = case.look.frame(case.probe.sketch)
    a, b = _meeting(case, k, k + 1), _meeting(case, k + 1, k)
    normals = np.array([a.direction, b.direction, frame.normal])
    if abs(np.linalg.det(normals)) < PARALLEL:
        raise MeasureError("the two faces at the corner do not meet")
    at = np.linalg.solve(normals, np.array([dot(a.direction, a.origin), dot(b.direction, b.origin),
                                            float(np.dot(frame.normal, origin))]))  # fmt: skip
    return np.asarray(at)


def _meeting(case: Case, k: int, other: int) -> Surface:
    """The flat of the k-th name. Where a copy has none of its own, as its foot has grown together with the body, the
    one beside the ``other`` that meets it as it does on the original.
    """
    if case.surfaces(k) or not case.wrap:
        return need(case.first(k), "plane")
    look, own = case.look, need(case.first(other), "plane")
    mine, beside = (
        next((look.surface(*f) for f in look.find(case.probe.faces[i]) if not f[0]), None) for i in (k, other)
    )
    if mine is not None and beside is not None:
        lean = abs(dot(mine.direction, beside.direction))
        for edge in (e for face in own.faces for e in edges(face)):
            for s in map(look.read, look.neighbours(edge)):
                if s.kind == "plane" and abs(abs(dot(s.direction, own.direction)) - lean) < PARALLEL:
                    return s
    raise MeasureError(f"the face {case.probe.faces[k]} of a copy is not on the solid")


def apart(case: Case) -> Result:
    """Between two round things along a direction of the sketch, mm."""
    _, way = case.in_sketch()
    first, others = _two(case)
    out = [abs(float((np.array(o.origin) - np.array(first.origin)) @ way)) for o in others]
    return out, [], len(out)


def clocks(case: Case) -> Result:
    """A wall through both sides of the part shows at two angles."""
    datum, walls = _two(case)
    axis = need(datum, "plane").direction
    out = []
    for wall in walls:
        d = need(wall, "cylinder").direction
        if abs(dot(d, axis)) > PARALLEL:
            raise MeasureError("the hole does not stand square to the axis")
        low, high = (e - dot(datum.origin, d) for e in wall.extent(d))
        ways = [way for way, reach in ((d, high), (times(d, -1.0), -low)) if reach > 0]
        out += [clock(axis, way) for way in ways]
    return out, [], len(walls)


def angles(case: Case) -> Result:
    """Between two planes, rad; the supplement where that is nearer to what is expected."""
    first, others = _two(case)
    n = need(first, "plane").direction
    out = []
    for other in others:
        angle = math.acos(max(-1.0, min(1.0, dot(n, need(other, "plane").direction))))
        out += [angle, math.pi - angle]
    return out, [], len(others)


def drafts(case: Case) -> Result:
    """How far faces lean from square to a plane, rad."""
    plane = need(case.first(0), "plane")
    out = []
    for side in case.surfaces(1):
        if side.kind == "cone":
            out.append(abs(side.half_angle))
        else:
            lean = abs(dot(plane.direction, need(side, "plane").direction))
            if lean < 1 - PARALLEL:  # the other end is no side
                out.append(math.asin(lean))
    return out, [], len(out)


def turns(case: Case) -> Result:
    """From the first flat to the second the way the material turns, below a full turn."""
    a, b = need(case.first(0), "plane"), need(case.first(1), "plane")
    between = math.acos(max(-1.0, min(1.0, dot(a.direction, times(b.direction, -1.0)))))
    return [between, 2 * math.pi - between], [], 1


def gaps(case: Case) -> Result:
    """The least distance between two faces, mm."""
    first, others = _two(case)
    out = [min(gap(a, b) for a in first.faces for b in other.faces) for other in others]
    return out, [], len(out)


def gap(a: Any, b: Any) -> float:
    """The least distance between two shapes, mm. Raises MeasureError when the kernel cannot tell."""
    found = BRepExtrema_DistShapeShape(a, b)
    if not found.IsDone():
        raise MeasureError("the least distance cannot be found")
    return float(found.Value())
