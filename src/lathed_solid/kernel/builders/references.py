"""What steps refer to by name: flat faces and planes, axes, points.

A plane is a flat face, a datum plane (``40/plane``, or its step alone, ``40``) or one of XY, XZ, YZ through the part's
origin. An axis is the axis of a round face, a straight or round edge, a datum axis (``50/axis``) or X, Y, Z. A point is
a corner (``A|B|C|~corner``), a datum point, the centre of a round edge, or O.
"""

from __future__ import annotations

import math

from OCP.BRep import BRep_Tool
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.edges import named_edges
from lathed_solid.kernel.errors import BuildError
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Datum, Parts, Triple, gone
from lathed_solid.kernel.surfaces import Surface, one_surface
from lathed_solid.kernel.topology import VERTEX, Key, faces, sub_shapes

BASE = {
    "XY": Datum("plane", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0), (1.0, 0.0, 0.0)),
    "XZ": Datum("plane", (0.0, 0.0, 0.0), (0.0, -1.0, 0.0), (1.0, 0.0, 0.0)),
    "YZ": Datum("plane", (0.0, 0.0, 0.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "X": Datum("axis", (0.0, 0.0, 0.0), (1.0, 0.0, 0.0)),
    "Y": Datum("axis", (0.0, 0.0, 0.0), (0.0, 1.0, 0.0)),
    "Z": Datum("axis", (0.0, 0.0, 0.0), (0.0, 0.0, 1.0)),
    "O": Datum("point", (0.0, 0.0, 0.0)),
}


def named_surface(parts: Parts, name: str, *kinds: str) -> Surface:
    """The surface of that name. Raises BuildError, with candidates, when it is gone or is none of ``kinds``."""
    found = parts.whole.find(name) if parts.whole is not None else {}
    if not found:
        raise gone(parts, name, kinds[0] if kinds else "")
    surface = one_surface(next(iter(found.values())))
    if kinds and surface.kind not in kinds:
        raise BuildError(f"the face {name} is a {surface.kind}, a {kinds[0]} is needed", hint="pick another face")
    return surface


def datum(parts: Parts, name: str, kind: str) -> Datum | None:
    """A datum or base element of that name; None when it is no such name. Raises BuildError for another kind."""
    found = parts.datums.get(name) or BASE.get(name) or parts.datums.get(f"{name}/{kind}")
    if found is not None and found.kind != kind:
        raise BuildError(f"{name} is a {found.kind}, a {kind} is needed", hint="pick another")
    return found


def plane_of(parts: Parts, name: str) -> Datum:
    """Origin, normal (outward for a face) and a direction in the plane. Raises BuildError."""
    known = datum(parts, name, "plane")
    if known is not None:
        return known
    s = named_surface(parts, name, "plane")
    return Datum("plane", s.origin, s.direction, square_to(s.direction))


def axis_of(parts: Parts, name: str) -> Datum:
    """A place on the axis and its direction. Raises BuildError."""
    known = datum(parts, name, "axis")
    if known is not None:
        return known
    if "|" in name and not name.endswith("~corner"):
        curve = BRepAdaptor_Curve(named_edges(whole(parts), name)[0])
        if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line:
            line = curve.Line()
            at, d = line.Location(), line.Direction()
        elif curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
            circle = curve.Circle()
            at, d = circle.Location(), circle.Axis().Direction()
        else:
            raise BuildError(f"the edge {name} is neither straight nor round", hint="pick another edge")
        return Datum("axis", (at.X(), at.Y(), at.Z()), (d.X(), d.Y(), d.Z()))
    s = named_surface(parts, name, "cylinder", "cone", "torus", "sphere")
    return Datum("axis", s.origin, s.direction)


def point_of(parts: Parts, name: str) -> Triple:
    """A place in mm. Raises BuildError."""
    known = datum(parts, name, "point")
    if known is not None:
        return known.origin
    body = whole(parts)
    if name.endswith("|~corner"):
        return _corner(body, name)
    if "|" in name:
        curve = BRepAdaptor_Curve(named_edges(body, name)[0])
        if curve.GetType() == GeomAbs_CurveType.GeomAbs_Circle:
            c = curve.Circle().Location()
        else:
            c = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2)
        return (c.X(), c.Y(), c.Z())
    raise BuildError(f"{name} is no point", hint="a corner, a round edge or a datum point")


def whole(parts: Parts) -> Body:
    """All bodies as one. Raises BuildError where there is none yet."""
    if parts.whole is None:
        raise BuildError("there is no body yet", hint="add material first")
    return parts.whole


def _corner(body: Body, name: str) -> Triple:
    wanted = set(name.removesuffix("|~corner").split("|"))
    beside: dict[Key, set[str]] = {}
    for face, label in zip(faces(body.shape), body.labels, strict=True):
        for vertex in sub_shapes(face, VERTEX):
            beside.setdefault(Key(vertex), set()).add(label)
    found = [k for k, labels in beside.items() if wanted <= labels]
    if len(found) != 1:
        raise BuildError(f"the corner {name} is {'gone' if not found else 'not one place any more'}", hint="pick again")
    p = BRep_Tool.Pnt_s(TopoDS.Vertex(found[0].shape))
    return (p.X(), p.Y(), p.Z())


def square_to(v: Triple) -> Triple:
    """A unit direction square to ``v``: the part's X laid into the plane, or Y where v runs along X."""
    toward = (1.0, 0.0, 0.0) if abs(v[0]) < 0.9 else (0.0, 1.0, 0.0)
    along = sum(a * b for a, b in zip(toward, v, strict=True))
    x = [a - along * b for a, b in zip(toward, v, strict=True)]
    size = math.sqrt(sum(a * a for a in x))
    return (x[0] / size, x[1] / size, x[2] / size)
