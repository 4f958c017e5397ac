"""Measuring by hand: everything sensible about one or two picked faces or edges, as a person with a caliper would ask.

What can be measured again later (on the same named faces, after an edit) carries a probe and can be kept as a check.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.BRepClass3d import BRepClass3d_SolidClassifier
from OCP.BRepGProp import BRepGProp
from OCP.GCPnts import GCPnts_AbscissaPoint
from OCP.GeomAbs import GeomAbs_CurveType
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt
from OCP.GProp import GProp_GProps
from OCP.IntCurvesFace import IntCurvesFace_ShapeIntersector
from OCP.TopAbs import TopAbs_State
from OCP.TopoDS import TopoDS

from lathed_solid.kernel.edges import named_edges
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.figures import Hand, Thing
from lathed_solid.kernel.measure import gap, measure
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.surfaces import Surface, one_surface, recognised
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.ledger import Probe
from lathed_solid.ledger.probe import ProbeKind
from lathed_solid.quantity.tolerances import RELATIVE, ROUNDING

#: rad: directions this near are parallel
PARALLEL = 1e-9
#: how far off a face its two sides are looked at, mm
JUST = 1e-3


def by_hand(body: Body, things: Sequence[Thing]) -> tuple[Hand, ...]:
    """All sizes of one thing, or between two. Raises MeasureError for what is gone."""
    shapes = [_shape(body, t) for t in things[-2:]]
    if not shapes:
        return ()
    if len(shapes) == 1:
        return tuple(_alone(body, things[-1], shapes[0]))
    return tuple(_between(body, things[-2:], shapes))


def axis_of(body: Body, thing: Thing) -> tuple[Triple, Triple] | None:
    """(origin, direction) of the axis of a round face, or along a straight edge; None for other things."""
    pieces = _shape(body, thing)
    if thing.kind == "edge":
        d = _direction(thing, pieces)
        p = BRepAdaptor_Curve(TopoDS.Edge(pieces[0])).Line().Location() if d is not None else None
        return None if d is None or p is None else ((p.X(), p.Y(), p.Z()), d)
    surface = recognised(one_surface(pieces))
    return (surface.origin, surface.direction) if surface.kind in ("cylinder", "cone") else None


def _shape(body: Body, thing: Thing) -> list[Any]:
    if thing.kind == "edge":
        return named_edges(body, thing.name)
    found = next(iter(body.find(thing.name.split("+")[0]).values()), None)
    if not found:
        raise MeasureError(f"the face {thing.name} is not on the solid")
    return found


def _atom(thing: Thing) -> str:
    return thing.name.split("+")[0]


def _probed(body: Body, label: str, kind: ProbeKind, faces: tuple[str, ...], unit: str = "mm") -> list[Hand]:
    try:
        value = measure(body, Probe(kind=kind, faces=faces), 0.0).value
    except MeasureError:
        return []
    return [Hand(label, value, unit, kind, faces)]


# one thing -----------------------------------------------------------------------------------------
def _alone(body: Body, thing: Thing, pieces: list[Any]) -> list[Hand]:
    if thing.kind == "edge":
        return _edge(pieces)
    surface, atom = recognised(one_surface(pieces)), _atom(thing)
    out: list[Hand] = []
    if surface.kind in ("cylinder", "sphere"):
        out += _probed(body, "diameter", "diameter", (atom,))
    if surface.kind == "torus":
        out += _probed(body, "radius of the round", "radius", (atom,))
    if surface.kind == "cone":
        out += _probed(body, "included angle", "included", (atom,), "rad")
        out += _probed(body, "half angle", "cone_angle", (atom,), "rad")
    if surface.kind in ("cylinder", "cone"):
        low, high = surface.extent(surface.direction)
        out.append(Hand("length along its axis", high - low, "mm"))
    g = GProp_GProps()
    for face in pieces:
        BRepGProp.SurfaceProperties_s(face, g, ROUNDING, False)
    out.append(Hand("area", float(g.Mass()), "mm2"))
    wall = _wall(body, surface, thing.point)
    return [*out, Hand("wall thickness here", wall, "mm")] if wall is not None else out


def _edge(pieces: list[Any]) -> list[Hand]:
    curves = [BRepAdaptor_Curve(TopoDS.Edge(p)) for p in pieces]
    length = sum(float(GCPnts_AbscissaPoint.Length_s(c)) for c in curves)
    out = [Hand("length", length, "mm")]
    if all(c.GetType() == GeomAbs_CurveType.GeomAbs_Circle for c in curves):
        r = curves[0].Circle().Radius()
        out = [Hand("diameter", 2 * r, "mm"), Hand("radius", r, "mm"), Hand("arc length", length, "mm")]
        if length < 2 * math.pi * r * (1 - RELATIVE):
            out.append(Hand("arc angle", length / r, "rad"))
    return out


def _wall(body: Body, surface: Surface, point: Triple) -> float | None:
    """Through the material from a point of a face, square to it, to where it ends; None where that cannot be told."""
    inwards = _inwards(body, surface, point)
    if inwards is None:
        return None
    ray = IntCurvesFace_ShapeIntersector()
    ray.Load(body.shape, 1e-7)
    ray.Perform(gp_Lin(gp_Pnt(*point), gp_Dir(*inwards)), 1e-4, 1e6)
    hits = [ray.WParameter(i) for i in range(1, ray.NbPnt() + 1)]
    return min((h for h in hits if h > 1e-4), default=None)


def _inwards(body: Body, surface: Surface, point: Triple) -> Triple | None:
    """The direction into the material at a point of a flat or round face."""
    if surface.kind == "plane":
        return times(surface.direction, -1.0)
    if surface.kind != "cylinder":
        return None
    away = minus(point, surface.origin)
    along = dot(away, surface.direction)
    radial = minus(away, times(surface.direction, along))
    size = math.sqrt(dot(radial, radial))
    if size < ROUNDING:
        return None
    out = times(radial, 1.0 / size)
    probe = gp_Pnt(*(p + JUST * d for p, d in zip(_on(surface, along, out), out, strict=True)))
    hollow = BRepClass3d_SolidClassifier(body.shape, probe, 1e-7).State() == TopAbs_State.TopAbs_IN
    return out if hollow else times(out, -1.0)


def _on(surface: Surface, along: float, out: Triple) -> Triple:
    """The point of a cylinder at a height along its axis, in a direction out from it."""
    foot = tuple(o + along * d for o, d in zip(surface.origin, surface.direction, strict=True))
    x, y, z = (f + surface.radius * d for f, d in zip(foot, out, strict=True))
    return (x, y, z)


# two things ----------------------------------------------------------------------------------------
def _between(body: Body, things: Sequence[Thing], shapes: list[list[Any]]) -> list[Hand]:
    out: list[Hand] = []
    if all(t.kind == "face" for t in things):
        out += _faces(body, things, [recognised(one_surface(s)) for s in shapes])
    lines = [_direction(t, s) for t, s in zip(things, shapes, strict=True)]
    if all(t.kind == "edge" for t in things) and None not in lines:
        a, b = (line for line in lines if line is not None)
        out.append(Hand("angle between them", math.acos(max(-1.0, min(1.0, abs(dot(a, b))))), "rad"))
    centres = [_centre(t, s) for t, s in zip(things, shapes, strict=True)]
    if None not in centres and all(t.kind == "edge" for t in things):
        a, b = (c for c in centres if c is not None)
        out.append(Hand("centre to centre", math.dist(a, b), "mm"))
    least = min(gap(a, b) for a in shapes[0] for b in shapes[1])
    probed = all(t.kind == "face" for t in things)
    out.append(Hand("least distance", least, "mm", *(("gap", tuple(map(_atom, things))) if probed else ())))
    out.append(Hand("between the picked points", math.dist(things[0].point, things[1].point), "mm"))
    for k, axis in enumerate("xyz"):
        out.append(Hand(f"picked points, along {axis}", abs(things[0].point[k] - things[1].point[k]), "mm"))
    return out


def _faces(body: Body, things: Sequence[Thing], surfaces: list[Surface]) -> list[Hand]:
    a, b = surfaces
    names = (_atom(things[0]), _atom(things[1]))
    kinds = {a.kind, b.kind}
    if kinds == {"plane"}:
        found = _probed(body, "distance", "distance", names)
        return found or _probed(body, "angle", "angle", names, "rad")
    if kinds == {"plane", "cylinder"}:
        flat, round_ = names if a.kind == "plane" else names[::-1]
        out = _probed(body, "axis to face", "position", (flat, round_))
        if not out:
            out = _probed(body, "depth of the wall", "depth", (flat, round_))
        return out
    if kinds == {"cylinder"}:
        out = _probed(body, "axis to axis", "axes", names)
        if not out:
            angle = math.acos(min(1.0, abs(dot(a.direction, b.direction))))
            out = [Hand("angle of the axes", angle, "rad")]
        return out
    if "cone" in kinds and "plane" in kinds:
        cone, flat = names if a.kind == "cone" else names[::-1]
        return _probed(body, "diameter at the face", "diameter_at", (cone, flat))
    return []


def _direction(thing: Thing, pieces: list[Any]) -> Triple | None:
    curve = BRepAdaptor_Curve(TopoDS.Edge(pieces[0])) if thing.kind == "edge" else None
    if curve is None or curve.GetType() != GeomAbs_CurveType.GeomAbs_Line:
        return None
    d = curve.Line().Direction()
    return (d.X(), d.Y(), d.Z())


def _centre(thing: Thing, pieces: list[Any]) -> Triple | None:
    curve = BRepAdaptor_Curve(TopoDS.Edge(pieces[0])) if thing.kind == "edge" else None
    if curve is None or curve.GetType() != GeomAbs_CurveType.GeomAbs_Circle:
        return None
    p = curve.Circle().Location()
    return (p.X(), p.Y(), p.Z())
