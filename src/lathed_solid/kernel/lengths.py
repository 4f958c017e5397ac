"""Depths, heights and stretches where the material is: from the local rim to the true end."""

from __future__ import annotations

from collections.abc import Sequence

from OCP.BRepAdaptor import BRepAdaptor_Surface

from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.kernel.walls import Wall, follow
from lathed_solid.quantity.tolerances import LINEAR

SQUARE = 1e-9
#: mm
NEAR = 1e-6
#: how near a rim's highest place comes to the generator line it lies on, mm
RIM = 1e-4


def depth(wall: Wall, entry: Surface | None) -> float:
    """From the local rim along the axis to the far end of a wall (or of a drill point), mm.

    ``entry``, the face that was drilled, tells which way is out where it is still there.
    """
    axis = wall.axis
    if entry is not None and entry.kind == "plane" and abs(dot(entry.direction, axis)) > 1 - SQUARE:
        out = axis if dot(entry.direction, axis) > 0 else times(axis, -1.0)
    elif entry is not None and entry.kind == "cylinder":
        low, high = wall.span
        base = dot(entry.origin, axis)
        out = axis if (low + high) / 2 > base else times(axis, -1.0)
    elif wall.surface.kind == "cone":
        # a drill point opens towards its hole
        out = times(axis, 1.0 if wall.surface.half_angle > 0 else -1.0)
    else:
        out = wall.entry()
    mouth = wall.mouth(out)
    if entry is not None and entry.kind == "cylinder":
        # the rim on a cylinder is a curve that the kernel only comes near to: its highest place is the generator line
        highest = dot(entry.origin, out) + entry.radius
        mouth = highest if abs(mouth - highest) < RIM else mouth
    return mouth + wall.surface.extent(times(out, -1.0))[1]


def stretch(look: Look, walls: Sequence[Surface], ends: Sequence[Surface]) -> list[float]:
    """The length between two flats, or from one of them to the far end of the round face, its bevels taken in, mm."""
    flats = [s for s in ends if s.kind == "plane"]
    if len(flats) >= 2:
        n = flats[0].direction
        return [abs(dot(minus(flats[1].origin, flats[0].origin), n))]
    if not walls:
        raise MeasureError("neither the round face nor both flats beside it are on the solid")
    d = walls[0].direction
    back = times(d, -1.0)
    # a groove leaves the face in pieces
    first = min(walls, key=lambda w: w.extent(d)[0])
    last = max(walls, key=lambda w: w.extent(d)[1])
    low, high = first.extent(d)[0], last.extent(d)[1]
    if not flats:
        return [high - low]
    at = dot(flats[0].origin, d)
    # the end away from the flat: bevels that fall away belong to the length, cones that rise are neighbours
    if abs(at - low) <= abs(at - high):
        return [abs((follow(look, last, d)[0] if _falls(look, last, d) else high) - at)]
    return [abs(at - (-follow(look, first, back)[0] if _falls(look, first, back) else low))]


def _falls(look: Look, wall: Surface, out: Triple) -> bool:
    """Whether what follows a round face outwards is nothing but its own bevel or round."""
    _, chain = follow(look, wall, out)
    kinds = [BRepAdaptor_Surface(f, False).GetType() for f in chain[len(wall.faces) :]]
    own = {BRepAdaptor_Surface(f, False).GetType() for f in wall.faces}
    return bool(kinds) and not own & set(kinds)


def height(
    tops: Sequence[Surface], feet: Sequence[Surface], faces: Sequence[Surface], sides: Sequence[Surface]
) -> list[float]:
    """Between the two ends of an extrusion; where one is not on the solid, from the other to the sketch's face, or as
    far as the sides reach, mm.
    """
    caps = [*tops, *feet]
    flat = [s for s in caps if s.kind == "plane"]
    if len(flat) >= 2:
        n = flat[0].direction
        return [abs(dot(minus(flat[1].origin, flat[0].origin), n))]
    if not flat:
        raise MeasureError("it goes right through: no end of it is on the solid")
    cap = flat[0]
    n = cap.direction
    for face in faces:
        if face.kind == "plane" and abs(abs(dot(face.direction, n)) - 1) < SQUARE:
            found = abs(dot(minus(face.origin, cap.origin), n))
            if found > NEAR:
                return [found]
    if not sides:
        raise MeasureError("neither the face it stands on nor its sides are on the solid")
    level = dot(cap.origin, n)
    ends = [e for s in sides for e in s.extent(n)]
    return [max(max(ends) - level, level - min(ends))]


def recess(round_face: Surface, flat: Surface) -> float:
    """How deep a flat lies below a cylinder's surface (beyond it, in a bore), square to the flat, mm."""
    if round_face.kind != "cylinder" or flat.kind != "plane":
        raise MeasureError("a cylinder and a flat are needed")
    if abs(dot(round_face.direction, flat.direction)) > SQUARE:
        raise MeasureError("the flat does not run along the cylinder")
    return abs(round_face.radius - abs(dot(minus(flat.origin, round_face.origin), flat.direction)))


def slot(first: Surface, others: Sequence[Surface]) -> float:
    """Over all between two ends, flat or round; with one end only, as far as it reaches from its other side, mm."""
    if not others:
        raise MeasureError("the other end is not on the solid")
    second = others[0]
    if first.kind == second.kind == "plane":
        return abs(dot(minus(second.origin, first.origin), first.direction))
    if first.kind == second.kind == "cylinder":
        apart = minus(second.origin, first.origin)
        along = dot(apart, first.direction)
        across = max(0.0, dot(apart, apart) - along * along) ** 0.5
        return across + first.radius + second.radius
    flat, end = (first, second) if first.kind == "plane" else (second, first)
    if end.kind != "cylinder" or flat.kind != "plane":
        raise MeasureError("ends like these cannot be measured between")
    return abs(dot(minus(end.origin, flat.origin), flat.direction)) + end.radius


def wall_thickness(look: Look, surface: Surface, expected: float) -> float:
    """How thick the material is behind the middle of a face, along its normal, mm."""
    from OCP.BRepClass import BRepClass_FaceClassifier
    from OCP.BRepGProp import BRepGProp_Face
    from OCP.gp import gp_Pnt, gp_Pnt2d, gp_Vec
    from OCP.TopAbs import TopAbs_State

    face = surface.faces[0]
    a = BRepAdaptor_Surface(face)
    f = BRepGProp_Face(face)
    for i in range(1, 12):
        for j in range(1, 12):
            u = a.FirstUParameter() + (a.LastUParameter() - a.FirstUParameter()) * (i * 7 % 12) / 12
            v = a.FirstVParameter() + (a.LastVParameter() - a.FirstVParameter()) * (j * 5 % 12) / 12
            if BRepClass_FaceClassifier(face, gp_Pnt2d(u, v), LINEAR).State() != TopAbs_State.TopAbs_IN:
                continue
            at, normal = gp_Pnt(), gp_Vec()
            f.Normal(u, v, at, normal)
            n = normal.Normalized()
            start = (at.X() - n.X() * 1e-4, at.Y() - n.Y() * 1e-4, at.Z() - n.Z() * 1e-4)
            hits = look.hits(start, (-n.X(), -n.Y(), -n.Z()), max(10 * expected, 1.0))
            if hits:
                return hits[0] + 1e-4
    raise MeasureError("nothing stands behind the face")
