"""Bevels and rounds, measured from the rims of the two faces as they would meet.

In the section square to a broken edge the two faces and the bevel are lines: flat faces by their planes, coaxial faces
(cylinder, cone, flat square to the axis) in the half plane through the axis. With C where the faces would meet, P where
the bevel meets the first and Q where it meets the second, the legs are |CP| and |CQ|, and the angle is that at P
between CP and the bevel. Nothing is read from the bevel's own edges, which later steps may have shortened.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.GCPnts import GCPnts_AbscissaPoint

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look, Wrap, coaxial, turned_about
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.kernel.vectors import dot, minus
from lathed_solid.part.names import read_edge
from lathed_solid.quantity.tolerances import ANGULAR, LINEAR, ROUNDING

TANGENT = 1e-5
#: a line in the section: n . p = c, n a unit vector
Line = tuple[Any, float]


@dataclass(frozen=True, slots=True)
class Bevel:
    """``first`` and ``second`` leg in mm, ``angle`` in rad between the bevel and the first face."""

    first: float
    second: float
    angle: float


def bevel(look: Look, wrap: Wrap, core: str, first: str = "", second: str = "", on: str = "") -> Bevel:
    """A bevel between two faces: those named, those in its own name ``N/(A|B)``, or those beside it. Raises
    MeasureError.
    """
    face = look.surface(wrap, core)
    a, b = _sides(look, wrap, core, face, first, second, on)
    if face.kind == "plane" and a.kind == b.kind == "plane":
        return _flat(face, a, b)
    if face.kind == "cone" and all(_about(s, face) for s in (a, b)):
        return _round(face, a, b)
    raise MeasureError("a bevel between faces like these cannot be told from its rims",
                       rule="flat faces, or round ones about one axis")  # fmt: skip


def against_flat(look: Look, wrap: Wrap, core: str, on: str) -> float | None:
    """The angle of a round bevel to its first face, a flat one square to its axis, whatever the other face became.

    None where they are no such faces.
    """
    face = look.surface(wrap, core)
    first = _one(look, wrap, on or "".join(_in_name(core)[:1]))
    if face.kind != "cone" or first is None or first.kind != "plane" or not _about(first, face):
        return None
    return math.pi / 2 - abs(face.half_angle)


def _about(s: Surface, axis: Surface) -> bool:
    return s.kind in ("plane", "cylinder", "cone") and turned_about(s, axis.origin, axis.direction)


def _sides(
    look: Look, wrap: Wrap, core: str, face: Surface, first: str, second: str, on: str
) -> tuple[Surface, Surface]:
    """The two faces that the bevel lies between, the one with the first leg before the other."""
    names = [first, second] if first else _in_name(core)
    if on and len(names) == 2 and on in names[1].split("+") and on not in names[0].split("+"):
        names.reverse()
    found = [_one(look, wrap, n) for n in names]
    near = _beside(look, face)
    if len(found) < 2:
        found = [*near, None, None][:2]
    # a face whose name is gone (eaten, or merged into another) is the one that stands beside
    for i, there in enumerate(found):
        if there is None:
            other = found[1 - i]
            left = [s for s in near if other is None or not _same(s, other)]
            found[i] = left[0] if left else None
    if found[0] is None or found[1] is None:
        raise MeasureError("a face beside the bevel is not on the solid", hint="pick the faces to measure between")
    return found[0], found[1]


def _in_name(core: str) -> list[str]:
    """The two faces in the name of a blend: ``40/(20/end|20/l1)``."""
    inner = core[core.find("(") + 1 : core.rfind(")")] if "(" in core else ""
    read = read_edge(inner) if inner else None
    return ["+".join(sorted(side)) for side in read.faces] if read else []


def _one(look: Look, wrap: Wrap, names: str) -> Surface | None:
    for name in names.split("+") if names else ():
        if look.has(look.atom(wrap, name)):
            return look.surface(wrap, name)
        if look.has(name):
            return look.surface((), name)
    return None


def _same(a: Surface, b: Surface) -> bool:
    return any(Key(x) == Key(y) for x in a.faces for y in b.faces)


def _beside(look: Look, face: Surface) -> list[Surface]:
    """Faces along the longer edges of a bevel, the longest first."""
    found: list[tuple[float, Surface]] = []
    own = {Key(f) for f in face.faces}
    for piece in face.faces:
        for edge in edges(piece):
            for other in look.neighbours(edge):
                if Key(other) not in own:
                    s = look.read(other)
                    if s.kind in ("plane", "cylinder", "cone"):
                        found.append((edge_length(edge), s))
    found.sort(key=lambda f: -f[0])
    out: list[Surface] = []
    for _, s in found:
        if not any(_same(s, k) for k in out):
            out.append(s)
    return out


def edge_length(edge: Any) -> float:
    """mm."""
    return float(GCPnts_AbscissaPoint.Length_s(BRepAdaptor_Curve(edge)))


def _flat(face: Surface, a: Surface, b: Surface) -> Bevel:
    na, nb, nf = (np.array(s.direction) for s in (a, b, face))
    t = np.cross(na, nb)
    if np.linalg.norm(t) < LINEAR:
        raise MeasureError("the faces beside the bevel do not meet")
    t /= np.linalg.norm(t)
    if abs(t @ nf) > LINEAR:
        raise MeasureError("the bevel does not run along the edge of its two faces")
    x = na - (na @ t) * t
    x /= np.linalg.norm(x)
    y = np.cross(t, x)

    def line(s: Surface) -> Line:
        n = np.array(s.direction)
        return np.array([n @ x, n @ y]), float(n @ np.array(s.origin))

    return _section(line(face), line(a), line(b))


def _round(face: Surface, a: Surface, b: Surface) -> Bevel:
    d = face.direction

    def line(s: Surface) -> Line:
        along = dot(s.origin, d)
        if s.kind == "cylinder":
            return np.array([0.0, 1.0]), s.radius
        if s.kind == "plane":
            return np.array([1.0, 0.0]), along
        sign = 1.0 if dot(s.direction, d) > 0 else -1.0
        slope = sign * math.tan(s.half_angle)
        n = np.array([-slope, 1.0])
        size = float(np.linalg.norm(n))
        return n / size, (s.radius - slope * along) / size

    return _section(line(face), line(a), line(b))


def _section(face: Line, a: Line, b: Line) -> Bevel:
    corner, p, q = _meet(a, b), _meet(a, face), _meet(b, face)
    first, second = float(np.linalg.norm(p - corner)), float(np.linalg.norm(q - corner))
    if first < ROUNDING or second < ROUNDING:
        raise MeasureError("the bevel has no width")
    u, v = (corner - p) / first, (q - p) / np.linalg.norm(q - p)
    return Bevel(first, second, math.acos(max(-1.0, min(1.0, float(u @ v)))))


def _meet(a: Line, b: Line) -> Any:
    matrix = np.array([a[0], b[0]])
    if abs(np.linalg.det(matrix)) < ROUNDING:
        raise MeasureError("the bevel runs along the face beside it")
    return np.linalg.solve(matrix, np.array([a[1], b[1]]))


def tangent(look: Look, wrap: Wrap, core: str) -> bool | None:
    """Whether a rounding runs smoothly into the faces of its name; None where that cannot be told."""
    face = look.surface(wrap, core)
    told = [_touches(face, s) for s in (_one(look, wrap, n) for n in _in_name(core)) if s is not None]
    known = [t for t in told if t is not None]
    return all(known) if known else None


def _touches(blend: Surface, side: Surface) -> bool | None:
    if blend.kind == "cylinder" and side.kind == "plane":
        return abs(abs(dot(minus(blend.origin, side.origin), side.direction)) - blend.radius) < TANGENT
    if blend.kind == "torus":
        ring = _major(blend)
        if side.kind == "plane" and abs(abs(dot(side.direction, blend.direction)) - 1) < ANGULAR:
            return abs(abs(dot(minus(blend.origin, side.origin), side.direction)) - blend.radius) < TANGENT
        if side.kind == "cylinder" and coaxial(side, blend.origin, blend.direction):
            return abs(abs(ring - side.radius) - blend.radius) < TANGENT
    return None


def _major(torus: Surface) -> float:
    return float(BRepAdaptor_Surface(torus.faces[0]).Torus().MajorRadius())
