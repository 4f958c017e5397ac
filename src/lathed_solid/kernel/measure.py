"""Measuring on the finished solid: named faces in, a size out; parameters are never looked at.

Where a probe covers several instances, the one farthest from the nominal is reported, so that one bad hole
of eight is not averaged away.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BRepExtrema import BRepExtrema_DistShapeShape

from lathed_solid.kernel.directions import clock
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.surfaces import Surface, one_surface
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.ledger import Probe
from lathed_solid.part.names import split

PARALLEL = 1e-9


@dataclass(frozen=True, slots=True)
class Measured:
    """``value`` in mm or rad, ``found`` instances, ``angle`` (rad) of a chamfer, ``faces`` names used."""

    value: float
    found: int
    faces: tuple[str, ...]
    angle: float | None = None


def measure(body: Body, probe: Probe, nominal: float, parts: Parts | None = None) -> Measured:
    """The size that ``probe`` describes; ``parts`` carry the data of drawn threads. Raises MeasureError when a face is
    gone or of another kind.
    """
    groups: list[list[Surface]] = []
    names: list[str] = []
    for place, pattern in enumerate(probe.faces):
        found = body.find(pattern)
        if not found and _may_lack(probe, place):
            groups.append([])
            continue
        if not found:
            raise MeasureError(f"the face {pattern} is not on the solid")
        groups.append([one_surface(faces) for faces in found.values()])
        names += list(found)
    if probe.kind in ("thread_major", "thread_length"):
        values = [_threaded(probe.kind, name, group, parts) for name, group in zip(names, groups[0], strict=True)]
        return Measured(max(values, key=lambda v: abs(v - nominal)), len(names), tuple(names))
    values = _legs(body, groups[0], names) if probe.kind == "leg" else _WAYS[probe.kind](groups)
    # of instances the worst counts; of an angle and its supplement the one that is meant
    if not values:
        raise MeasureError("nothing of what was named is on the solid")
    choose = min if probe.kind in ("angle", "clock") else max
    worst = choose(values, key=lambda v: abs(v - nominal))
    cones = [abs(s.half_angle) for s in groups[0] if s.kind == "cone"]
    angle = max(cones) if probe.kind == "leg" and cones else None
    return Measured(worst, len(groups[-1]), tuple(names), angle)


Groups = list[list[Surface]]


def _may_lack(probe: Probe, place: int) -> bool:
    """A stretch that meets its neighbour without a shoulder has no plane there."""
    return place > 0 and probe.kind in ("stretch", "diameter_at")


def _need(surface: Surface, *kinds: str) -> Surface:
    if surface.kind not in kinds:
        raise MeasureError(f"a {surface.kind} cannot be measured this way", rule=f"{' or '.join(kinds)} needed")
    return surface


def _diameters(groups: Groups) -> list[float]:
    return [2 * _need(s, "cylinder", "sphere").radius for s in groups[0]]


def _radii(groups: Groups) -> list[float]:
    return [_need(s, "torus", "cylinder", "sphere").radius for s in groups[0]]


def _two(groups: Groups) -> tuple[Surface, list[Surface]]:
    if len(groups) == 1 and len(groups[0]) == 2:
        return groups[0][0], groups[0][1:]
    if len(groups) < 2:
        raise MeasureError("two faces are needed")
    return groups[0][0], groups[1]


def _diameter_at(groups: Groups) -> list[float]:
    (cone, *_), *others = groups
    beside = next((s for group in others for s in group), None)
    if beside is None:
        raise MeasureError("the face where the diameter is told is not on the solid")
    d = _need(cone, "cone").direction
    if beside.kind == "plane":
        along = dot(minus(beside.origin, cone.origin), d)
    else:  # no shoulder: the end of the cone itself that lies towards its neighbour
        ends, towards = cone.extent(d), sum(beside.extent(d)) / 2
        along = min(ends, key=lambda e: abs(e - towards)) - dot(cone.origin, d)
    return [2 * abs(cone.radius + along * math.tan(cone.half_angle))]


def _tapers(groups: Groups) -> list[float]:
    return [0.5 / math.tan(a) for a in _half_angles(groups)]


def _clocks(groups: Groups) -> list[float]:
    """A wall through both sides of the part shows at two angles."""
    datum, walls = _two(groups)
    axis = _need(datum, "plane").direction
    out = []
    for wall in walls:
        d = _need(wall, "cylinder").direction
        if abs(dot(d, axis)) > PARALLEL:
            raise MeasureError("the hole does not stand square to the axis")
        low, high = (e - dot(datum.origin, d) for e in wall.extent(d))
        ways = [way for way, reach in ((d, high), (times(d, -1.0), -low)) if reach > 0]
        out += [clock(axis, way) for way in ways]
    return out


def _distances(groups: Groups) -> list[float]:
    first, others = _two(groups)
    n = _need(first, "plane").direction
    out = []
    for other in others:
        if abs(abs(dot(n, _need(other, "plane").direction)) - 1) > PARALLEL:
            raise MeasureError("the two faces are not parallel")
        out.append(abs(dot(minus(other.origin, first.origin), n)))
    return out


def _stretches(groups: Groups) -> list[float]:
    (wall, *_), *ends = groups
    d = _need(wall, "cylinder", "cone").direction
    low, high = wall.extent(d)
    found = [dot(_need(plane, "plane").origin, d) for group in ends for plane in group]
    if len(found) == 2:
        return [abs(found[0] - found[1])]
    return [max(abs(found[0] - low), abs(found[0] - high))] if found else [high - low]


def _positions(groups: Groups) -> list[float]:
    plane, cylinders = _two(groups)
    n = _need(plane, "plane").direction
    out = []
    for c in cylinders:
        if abs(dot(n, _need(c, "cylinder").direction)) > PARALLEL:
            raise MeasureError("the hole's axis is not parallel to the datum face")
        out.append(abs(dot(minus(c.origin, plane.origin), n)))
    return out


def _depths(groups: Groups) -> list[float]:
    entry, walls = _two(groups)
    out = []
    for wall in walls:
        if entry.kind == "plane":
            inwards = times(entry.direction, -1.0)
            out.append(wall.extent(inwards)[1] - dot(entry.origin, inwards))
            continue
        _need(entry, "cylinder")
        low, high = wall.extent(wall.direction)
        base = dot(entry.origin, wall.direction)
        outwards = wall.direction if (low + high) / 2 > base else times(wall.direction, -1.0)
        out.append(entry.radius - (wall.extent(outwards)[0] - dot(entry.origin, outwards)))
    return out


def _legs(body: Body, bevels: list[Surface], names: list[str]) -> list[float]:
    """A cone's axial extent; a flat bevel's width along the first face of the edge it broke, ``N/(A|B)``."""
    out = []
    for bevel, name in zip(bevels, names, strict=True):
        if bevel.kind == "cone":
            low, high = bevel.extent(bevel.direction)
        else:
            way = _along_first_face(body, _need(bevel, "plane"), name)
            low, high = bevel.extent(way)
        out.append(high - low)
    return out


def _along_first_face(body: Body, bevel: Surface, name: str) -> Triple:
    """The direction in the first face square to the broken edge."""
    edge = name[name.find("(") + 1 : name.rfind(")")]
    first = split(split(edge, "|")[0], "+")[0]
    found = body.find(first)
    if not found:
        raise MeasureError(f"the face {first} beside the bevel is not on the solid")
    face = _need(one_surface(next(iter(found.values()))), "plane")
    edge_way = np.cross(face.direction, bevel.direction)
    if np.linalg.norm(edge_way) < PARALLEL:
        raise MeasureError("the bevel lies in the face beside it")
    way = np.cross(face.direction, edge_way / np.linalg.norm(edge_way))
    return (float(way[0]), float(way[1]), float(way[2]))


def _threaded(kind: str, name: str, wall: Surface, parts: Parts | None) -> float:
    """Of a drawn thread: its major diameter, when the cylinder is one that it can stand on; or the length of it that
    lies on the cylinder as it is now.
    """
    _need(wall, "cylinder")
    data = parts.threads.get(name) if parts is not None else None
    mark = parts.marks.get(name) if parts is not None else None
    if not isinstance(data, tuple) or mark is None:
        raise MeasureError(f"there is no drawn thread on {name}")
    major, pitch = float(data[1]), float(data[2])
    if kind == "thread_major":
        if not major - 1.3 * pitch <= wall.radius <= major + 0.2 * pitch:
            raise MeasureError(f"the cylinder of ⌀{2 * wall.radius:.4g} is no seat for {data[0]}")
        return 2 * major
    low, high = wall.extent(mark.way)
    begin = dot(mark.origin, mark.way)
    return max(0.0, min(begin + mark.length, high) - max(begin, low))


def _half_angles(groups: Groups) -> list[float]:
    return [abs(_need(s, "cone").half_angle) for s in groups[0]]


def _included(groups: Groups) -> list[float]:
    return [2 * a for a in _half_angles(groups)]


def _axes(groups: Groups) -> list[float]:
    first, others = _two(groups)
    d = _need(first, "cylinder").direction
    out = []
    for other in others:
        if abs(abs(dot(d, _need(other, "cylinder").direction)) - 1) > PARALLEL:
            raise MeasureError("the two axes are not parallel")
        apart = minus(other.origin, first.origin)
        out.append(math.sqrt(max(0.0, dot(apart, apart) - dot(apart, d) ** 2)))
    return out


def _gaps(groups: Groups) -> list[float]:
    first, others = _two(groups)
    return [min(gap(a, b) for a in first.faces for b in other.faces) for other in others]


def gap(a: Any, b: Any) -> float:
    """The least distance between two shapes, mm. Raises MeasureError when the kernel cannot tell."""
    found = BRepExtrema_DistShapeShape(a, b)
    if not found.IsDone():
        raise MeasureError("the least distance cannot be found")
    return float(found.Value())


def _angles(groups: Groups) -> list[float]:
    first, others = _two(groups)
    n = _need(first, "plane").direction
    out = []
    for other in others:
        angle = math.acos(max(-1.0, min(1.0, dot(n, _need(other, "plane").direction))))
        out += [angle, math.pi - angle]
    return out


def _bolt_circle(groups: Groups) -> list[float]:
    cylinders = [_need(s, "cylinder") for s in groups[0]]
    axis = np.array(cylinders[0].direction)
    points = np.array([c.origin for c in cylinders])
    points = points - np.outer(points @ axis, axis)
    if len(points) == 1:
        return [2 * float(np.hypot(points[0, 1], points[0, 2]))]  # about the part's own axis
    u = np.linalg.svd(np.eye(3) - np.outer(axis, axis))[0][:, :2]
    return [2 * circle_radius(points @ u)]


def circle_radius(points: np.ndarray) -> float:
    """Radius of the circle through points (n, 2); two points span its diameter.

    Linear least squares of x^2 + y^2 = 2 a x + 2 b y + c (Kasa, IEEE Trans. Instrum. Meas. 25, 1976).
    """
    if len(points) == 2:
        return float(np.linalg.norm(points[0] - points[1])) / 2
    centred = points - points.mean(axis=0)
    a = np.column_stack([2 * centred, np.ones(len(points))])
    solution, *_ = np.linalg.lstsq(a, (centred**2).sum(axis=1), rcond=None)
    return math.sqrt(float(solution[2] + solution[0] ** 2 + solution[1] ** 2))


_WAYS: dict[str, Callable[[Groups], list[float]]] = {
    "diameter": _diameters,
    "diameter_at": _diameter_at,
    "radius": _radii,
    "distance": _distances,
    "stretch": _stretches,
    "position": _positions,
    "depth": _depths,
    "cone_angle": _half_angles,
    "included": _included,
    "taper": _tapers,
    "clock": _clocks,
    "bolt_circle": _bolt_circle,
    "axes": _axes,
    "angle": _angles,
    "gap": _gaps,
}
