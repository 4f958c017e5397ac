"""Working out datums on the part as it stands."""

from __future__ import annotations

import math

import numpy as np

from lathed_solid.kernel.builders.references import axis_of, named_surface, plane_of, point_of, square_to
from lathed_solid.kernel.directions import aside, upwards
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.parts import Datum, Parts, Triple
from lathed_solid.part.steps.datum import ResolvedDatum
from lathed_solid.quantity.tolerances import ANGULAR, ROUNDING


def build_datum(parts: Parts, step: ResolvedDatum, number: int) -> Parts:
    """The part with a datum more. Raises BuildError."""
    made = {"plane": _plane, "axis": _axis, "point": _point, "zero": _zero}[step.what](parts, step)
    return parts.with_datum("zero" if step.what == "zero" else f"{number}/{step.what}", made)


def _vector(t: Triple) -> np.ndarray:
    return np.array(t, dtype=float)


def _triple(v: np.ndarray) -> Triple:
    return (float(v[0]), float(v[1]), float(v[2]))


def _unit(v: np.ndarray, what: str) -> np.ndarray:
    size = float(np.linalg.norm(v))
    if size < ROUNDING:
        raise BuildError(what, hint="pick others")
    return v / size


def _flat(origin: np.ndarray, normal: np.ndarray, x: Triple | None = None) -> Datum:
    n = _triple(normal)
    return Datum("plane", _triple(origin), n, x or square_to(n))


def _plane(parts: Parts, step: ResolvedDatum) -> Datum:
    if step.way == "offset":
        p = plane_of(parts, step.names[0])
        return _flat(_vector(p.origin) + step.distance * _vector(p.direction), _vector(p.direction), p.x)
    if step.way == "midway":
        a, b = (plane_of(parts, n) for n in step.names)
        if abs(abs(float(_vector(a.direction) @ _vector(b.direction))) - 1) > ANGULAR:
            raise BuildError("the two faces are not parallel", hint="an axis where they meet, and a plane at an angle")
        n = _vector(a.direction)
        gap = float((_vector(b.origin) - _vector(a.origin)) @ n)
        return _flat(_vector(a.origin) + n * gap / 2, n, a.x)
    if step.way == "angle":
        axis, p = axis_of(parts, step.names[0]), plane_of(parts, step.names[1])
        d, n = _vector(axis.direction), _vector(p.direction)
        if abs(float(d @ n)) > ANGULAR:
            raise BuildError("the axis does not lie along the plane", hint="an edge of that face, or an axis in it")
        c, s = math.cos(step.angle), math.sin(step.angle)
        return _flat(_vector(axis.origin), c * n + s * np.cross(d, n), axis.direction)
    if step.way == "points":
        o, u, v = (_vector(point_of(parts, n)) for n in step.names)
        normal = _unit(np.cross(u - o, v - o), "the three points lie in one line")
        return _flat(o, normal, _triple((u - o) / np.linalg.norm(u - o)))
    if step.way == "tangent":
        round_face = named_surface(parts, step.names[0], "cylinder")
        up, side = _vector(upwards(round_face.direction)), _vector(aside(round_face.direction))
        out = math.cos(step.angle) * up + math.sin(step.angle) * side
        return _flat(_vector(round_face.origin) + round_face.radius * out, out, round_face.direction)
    axis, at = axis_of(parts, step.names[0]), _vector(point_of(parts, step.names[1]))
    return _flat(at, _vector(axis.direction))


def _axis(parts: Parts, step: ResolvedDatum) -> Datum:
    if step.way == "of":
        return axis_of(parts, step.names[0])
    if step.way == "points":
        a, b = (_vector(point_of(parts, n)) for n in step.names)
        return Datum("axis", _triple(a), _triple(_unit(b - a, "the two points are one")))
    p, q = (plane_of(parts, n) for n in step.names)
    n, m = _vector(p.direction), _vector(q.direction)
    d = _unit(np.cross(n, m), "the two planes are parallel")
    heights = np.array([n @ _vector(p.origin), m @ _vector(q.origin), 0.0])
    at = np.linalg.solve(np.array([n, m, d]), heights)
    return Datum("axis", _triple(at), _triple(d))


def _point(parts: Parts, step: ResolvedDatum) -> Datum:
    if step.way == "at":
        return Datum("point", step.at)
    if step.way == "of":
        return Datum("point", point_of(parts, step.names[0]))
    axis, p = axis_of(parts, step.names[0]), plane_of(parts, step.names[1])
    d, n = _vector(axis.direction), _vector(p.direction)
    if abs(float(d @ n)) < ANGULAR:
        raise BuildError("the axis never meets that plane", hint="another plane")
    t = float((_vector(p.origin) - _vector(axis.origin)) @ n) / float(d @ n)
    return Datum("point", _triple(_vector(axis.origin) + t * d))


def _zero(parts: Parts, step: ResolvedDatum) -> Datum:
    """A frame: origin, Z as ``direction``, X as ``x``."""
    origin, along_x, along_z = step.names
    z = _vector(_direction(parts, along_z)) * (-1 if step.way[1] == "-" else 1)
    x = _vector(_direction(parts, along_x)) * (-1 if step.way[0] == "-" else 1)
    x = _unit(x - z * float(x @ z), "X and Z run along one another")
    return Datum("plane", point_of(parts, origin), _triple(z), _triple(x))


def _direction(parts: Parts, name: str) -> Triple:
    """Of an axis, or a flat face's normal."""
    try:
        return axis_of(parts, name).direction
    except BuildError:
        return plane_of(parts, name).direction
