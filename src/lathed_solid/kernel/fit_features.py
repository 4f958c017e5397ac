"""What a part offers a fit to hold on to: its named faces, edges and datums as plain features in the part's own frame.

Axes point the way in which their greatest component is positive, so that two parts drawn alike run the same way.
Threads bring their helix: a drawn one its pitch and hand, a real one also where its crest lies, read off its flanks.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType

from lathed_solid.fit.features import Feature, Helix
from lathed_solid.kernel import thread_proof
from lathed_solid.kernel.directions import upwards
from lathed_solid.kernel.edges import edges_of
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.parts import Datum, Parts
from lathed_solid.kernel.surfaces import Surface, hollow, one_surface, recognised
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR

#: of a size, within which two edges of one name are one straight line or circle
ONE = 1e-7


def fit_features(parts: Parts) -> dict[str, Feature]:
    """All that can be held on to, by name: faces (``10/sB``), edges by their long names, datums."""
    body = parts.whole
    if body is None:
        return {}
    look = Look(body, parts)
    out: dict[str, Feature] = {}
    for atom, there in body.by_atom.items():
        found = _face(recognised(one_surface(there)))
        if found is not None:
            out[atom] = found
    out |= _threads(look, parts, out)
    for edge in edges_of(body):
        found = _edge(edge.pieces)
        if found is not None:
            out[edge.name] = found
    out |= {name: _datum(d) for name, d in parts.datums.items()}
    return out


def _ahead(d: Triple) -> Triple:
    """A direction or its opposite: that of which the greatest component is positive."""
    greatest = max(range(3), key=lambda k: (round(abs(d[k]), 9), -k))
    return d if d[greatest] > 0 else times(d, -1.0)


def _face(s: Surface) -> Feature | None:
    if s.kind == "plane":
        return Feature("flat", _middle(s), s.direction, upwards(s.direction))
    if s.kind == "sphere":
        return Feature("ball", s.origin, radius=s.radius, hollow=hollow(s))
    if s.kind not in ("cylinder", "cone", "torus"):
        return None
    d = _ahead(s.direction)
    low, high = s.extent(d)
    half_way = (low + high) / 2 - dot(s.origin, d)
    origin = minus(s.origin, times(d, -half_way))
    kind = {"cylinder": "round", "cone": "cone", "torus": "line"}[s.kind]
    half = s.half_angle if dot(d, s.direction) > 0 else -s.half_angle
    radius = s.radius + (half_way * math.tan(half) if kind == "cone" else 0.0)
    return Feature(
        kind, origin, d, upwards(d), radius if kind != "line" else 0.0, half,  # type: ignore[arg-type]
        kind != "line" and hollow(s), (low - high) / 2, (high - low) / 2,
    )  # fmt: skip


def _middle(s: Surface) -> Triple:
    """The middle of a flat's box, brought into the flat: the plane's own origin may lie far away."""
    x, y, z = (sum(s.extent(way)) / 2 for way in ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0)))
    off = dot(minus((x, y, z), s.origin), s.direction)
    return minus((x, y, z), times(s.direction, off))


def _edge(pieces: list[Any]) -> Feature | None:
    """A straight edge as a line, a round one as a rim; None for others."""
    found: Feature | None = None
    for piece in pieces:
        curve = BRepAdaptor_Curve(piece)
        kind = curve.GetType()
        if kind == GeomAbs_CurveType.GeomAbs_Line:
            d = curve.Line().Direction()
            first, last = curve.FirstParameter(), curve.LastParameter()
            at, half = curve.Value((first + last) / 2), abs(last - first) / 2
            way = _ahead((d.X(), d.Y(), d.Z()))
            now = Feature("line", (at.X(), at.Y(), at.Z()), way, upwards(way), low=-half, high=half)
        elif kind == GeomAbs_CurveType.GeomAbs_Circle:
            circle = curve.Circle()
            at, d = circle.Location(), circle.Axis().Direction()
            way = _ahead((d.X(), d.Y(), d.Z()))
            now = Feature("rim", (at.X(), at.Y(), at.Z()), way, upwards(way), circle.Radius())
        else:
            return None
        if found is not None and not _same(found, now):
            return None
        found = found or now
    return found


def _same(a: Feature, b: Feature) -> bool:
    if a.kind != b.kind or abs(a.radius - b.radius) > ONE or abs(dot(a.direction, b.direction) - 1) > ANGULAR:
        return False
    away = minus(b.origin, a.origin)
    off = away if a.kind == "rim" else minus(away, times(a.direction, dot(away, a.direction)))
    return dot(off, off) < ONE * ONE


def _datum(d: Datum) -> Feature:
    if d.kind == "point":
        return Feature("point", d.origin)
    if d.kind == "axis":
        return Feature("line", d.origin, d.direction, upwards(d.direction))
    return Feature("flat", d.origin, d.direction, d.x)


def _threads(look: Look, parts: Parts, known: dict[str, Feature]) -> dict[str, Feature]:
    """Round faces with their threads; of real ones every face of the thread stands for it."""
    out: dict[str, Feature] = {}
    for name, data in parts.threads.items():
        seat = known.get(name)
        if seat is not None and seat.kind == "round":
            lead = data.pitch * data.starts * (-1 if data.left else 1)
            out[name] = _with_helix(seat, Helix(data.pitch, lead))
    for name in [n for n in known if n.endswith(".crest")]:
        prefix = name.removesuffix(".crest")
        if f"{prefix}.root" not in known:
            continue
        try:
            told = {f.kind: f for f in thread_proof.real(look, prefix)[1]}
            seat = known[name]
            sign = 1.0 if told["hand"].word == "right" else -1.0
            pitch, starts = told["pitch"].value or 0.0, told["starts"].value or 1.0
            surface = look.surface(*next(iter(look.find(name))))
            crest = _crest(look, prefix, surface, seat)
        except MeasureError:
            continue
        made = _with_helix(seat, Helix(pitch, pitch * starts * sign, crest))
        out |= {f"{prefix}.{end}": made for end in ("crest", "root", "flank.a", "flank.b")}
    return out


def _crest(look: Look, prefix: str, surface: Surface, seat: Feature) -> float:
    """Where a crest crosses the seat's ``x``, from its origin along its own direction, mm."""
    along = thread_proof.crest_place(look, prefix) - dot(seat.origin, surface.direction)
    # ``upwards`` is the same for a direction and its opposite; the helix is the same from either side
    return along * math.copysign(1.0, dot(surface.direction, seat.direction))


def _with_helix(seat: Feature, helix: Helix) -> Feature:
    return replace(seat, helix=helix)
