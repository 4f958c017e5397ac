"""Inner corners and recessed flats: what fixes the cutters, and what no round cutter can leave.

A hollow rounding between two walls is left by an upright cutter of its radius when the way along its axis is open. A
sharp inner edge between two flats can be left by a cutter that stands upright on one of them; where the way along both
their normals is blocked (a pocket's corner) it cannot.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from OCP.BRepAdaptor import BRepAdaptor_Curve, BRepAdaptor_Surface
from OCP.BRepClass import BRepClass_FaceClassifier
from OCP.BRepGProp import BRepGProp, BRepGProp_Face
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Pnt, gp_Pnt2d, gp_Vec
from OCP.GProp import GProp_GProps
from OCP.TopAbs import TopAbs_State

from lathed_solid.kernel.look import Look
from lathed_solid.kernel.shop.figures import Floor, InnerCorner, SharpCorner
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import Key, box, edges
from lathed_solid.kernel.vectors import Triple, dot, times
from lathed_solid.quantity.tolerances import LINEAR

#: of a turn: a hollow cylinder with no more left is a rounding
ROUNDING = 0.6
#: how far off the material it is looked from, mm
OFF = 1e-3
#: a flat is recessed when it lies so deep below the box, mm
RECESSED = 1e-3
#: flats closer to one plane than this do not make a corner (sine)
CREASE = 0.05
#: a way along a flat, or square to it (sine)
LEVEL = 1e-6
MOST = 4000
#: a cutter longer than so many diameters is avoided where another reaches
SLENDER = 4.0
MAIN: tuple[Triple, ...] = ((1, 0, 0), (-1, 0, 0), (0, 1, 0), (0, -1, 0), (0, 0, 1), (0, 0, -1))


def inner_corners(look: Look) -> tuple[InnerCorner, ...]:
    """Hollow roundings: parts of cylinders, and the throats of tori and balls."""
    out = []
    for name, faces in list(look.body.by_atom.items())[:MOST]:
        if ".helix." in name:  # a thread's or a coil's own form
            continue
        for face in faces:
            s = look.read(face)
            if s.kind not in ("cylinder", "torus", "sphere") or not hollow(s):
                continue
            a = BRepAdaptor_Surface(face)
            share = (a.LastUParameter() - a.FirstUParameter()) / (2 * math.pi)
            if s.kind == "cylinder" and share > ROUNDING:
                continue
            at, normal = _middle(face)
            start = _moved(at, normal, OFF)
            if s.kind == "cylinder":
                low, high = s.extent(s.direction)
                out.append(InnerCorner(s.radius, high - low, _reached(look, s, start, high - low), name, at))
            else:
                out.append(InnerCorner(s.radius, 0.0, False, name, at))
    return tuple(out)


def _reached(look: Look, s: Surface, start: Triple, depth: float) -> bool:
    """Whether an upright cutter along its axis leaves a rounding best; a long one that is open from aside is left by
    the corner of a cutter that stands across.
    """
    along = any(look.free(start, way) for way in (s.direction, times(s.direction, -1.0)))
    across = [w for w in MAIN if abs(dot(w, s.direction)) < LEVEL]
    return along and not (depth > SLENDER * 2 * s.radius and any(look.free(start, w) for w in across))


def sharp_corners(look: Look) -> tuple[SharpCorner, ...]:
    """Straight inner edges between two flats that no round cutter can leave."""
    out: list[SharpCorner] = []
    seen: set[Key] = set()
    name_of = {Key(f): atom for atom, faces in look.body.by_atom.items() for f in faces}
    for face in [f for faces in look.body.by_atom.values() for f in faces][:MOST]:
        if look.read(face).kind != "plane":
            continue
        for edge in edges(face):
            key = Key(edge)
            if key in seen:
                continue
            seen.add(key)
            beside = [f for f in look.neighbours(edge) if look.read(f).kind == "plane"]
            curve = BRepAdaptor_Curve(edge)
            if len(beside) != 2 or curve.GetType() != GeomAbs_CurveType.GeomAbs_Line:
                continue
            a, b = (look.read(f).direction for f in beside)
            if abs(dot(a, b)) > math.sqrt(1 - CREASE * CREASE):
                continue
            first, last = curve.FirstParameter(), curve.LastParameter()
            p = curve.Value((first + last) / 2)
            at = (p.X(), p.Y(), p.Z())
            between = (a[0] + b[0], a[1] + b[1], a[2] + b[2])
            void = _moved(at, between, OFF)
            # inner: air between both normals, and material on the other side of each
            if look.inside(void) or not look.inside(_moved(_moved(at, a, OFF), b, -OFF)):
                continue
            if not (look.free(void, a) or look.free(void, b)):
                names = (name_of[Key(beside[0])], name_of[Key(beside[1])])
                out.append(SharpCorner(names, at, last - first))
    return tuple(out)


def floors(look: Look, ways: Sequence[Triple]) -> tuple[Floor, ...]:
    """Flats that lie below the part's box the way that they face; towards which of ``ways`` each is open."""
    low, high = box(look.body.shape)
    middle = tuple((a + b) / 2 for a, b in zip(low, high, strict=True))
    half = tuple((b - a) / 2 for a, b in zip(low, high, strict=True))
    out = []
    for name, faces in list(look.body.by_atom.items())[:MOST]:
        for face in faces:
            s = look.read(face)
            if s.kind != "plane":
                continue
            top = sum(m * d + h * abs(d) for m, h, d in zip(middle, half, s.direction, strict=True))
            deep = top - dot(s.origin, s.direction)
            if deep > RECESSED:
                places = [_moved(p, s.direction, OFF) for p in _places(face)]
                usable = (w for w in ways if dot(w, s.direction) > 1 - LEVEL or abs(dot(w, s.direction)) < LEVEL)
                open_ = tuple(w for w in usable if all(look.free(p, w) for p in places))
                out.append(Floor(s.direction, deep, _area(face), name, open_))
    return tuple(out)


def _places(face: object) -> list[Triple]:
    """Some places on a face, up to nine."""
    a = BRepAdaptor_Surface(face)
    u0, u1, v0, v1 = a.FirstUParameter(), a.LastUParameter(), a.FirstVParameter(), a.LastVParameter()
    out: list[Triple] = []
    for k in range(36):
        u, v = u0 + (u1 - u0) * (k * 7 % 36 + 0.5) / 36, v0 + (v1 - v0) * (k * 11 % 36 + 0.5) / 36
        if BRepClass_FaceClassifier(face, gp_Pnt2d(u, v), LINEAR).State() == TopAbs_State.TopAbs_IN:
            p = a.Value(u, v)
            out.append((p.X(), p.Y(), p.Z()))
        if len(out) == 9:
            break
    return out


def _area(face: object) -> float:
    g = GProp_GProps()
    BRepGProp.SurfaceProperties_s(face, g)
    return float(g.Mass())


def _middle(face: object) -> tuple[Triple, Triple]:
    """The middle of a face's parameters, and the normal there."""
    f, a = BRepGProp_Face(face), BRepAdaptor_Surface(face)
    at, n = gp_Pnt(), gp_Vec()
    f.Normal((a.FirstUParameter() + a.LastUParameter()) / 2, (a.FirstVParameter() + a.LastVParameter()) / 2, at, n)
    size = n.Magnitude() or 1.0
    return (at.X(), at.Y(), at.Z()), (n.X() / size, n.Y() / size, n.Z() / size)


def _moved(p: Triple, way: Iterable[float], by: float) -> Triple:
    x, y, z = (c + by * d for c, d in zip(p, way, strict=True))
    return (x, y, z)
