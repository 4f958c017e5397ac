"""What a click while drawing is taken to mean: shown before it is taken, refused with a key, listed as inferred.

A place near a point is that point, near a line's or an arc's middle its middle, near a circle's quadrant that, near two
curves that cross their crossing, near one curve on it. Edges of the body and the axes count like what is drawn, but
after it. A line nearly level is horizontal, nearly upright vertical; what runs nearly smoothly into the curve that it
ends on is tangent to it. Nothing else is assumed, and nothing that is said already.
"""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from lathed_solid.quantity.tolerances import NOTHING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.geometry import Round, Shape, Straight, shape
from lathed_solid.sketch.holds import QUADRANTS, fixed_at_origin, hold, parted, tie
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.meetings import meetings
from lathed_solid.sketch.model import Arc, Circle, Line, Sketch
from lathed_solid.sketch.orient import joined, line_first
from lathed_solid.sketch.outside import of_axis
from lathed_solid.sketch.plane import parallel

#: a line this near to an axis direction is taken to be along it, rad
NEARLY = math.radians(2.5)
#: relations and dimensions that give a line its direction
DIRECTIONS = ("horizontal", "vertical", "angle", "parallel", "perpendicular")
#: a curve that runs this near to the direction of the one that it ends on is tangent to it, rad
SMOOTHLY = math.radians(6)
#: the same for what ends on a round one, not in its end: where it touches is still open, and seldom clicked well
SMOOTHLY_ON = math.radians(20)
#: of curves that lie under one place, so many are tried for a crossing
CROSSING_OF = 6


@dataclass(frozen=True, slots=True)
class Snap:
    """A clicked place (mm), what it is tied to (``kind`` and the name of what), and at a crossing the second curve.

    Kinds: coincident, midpoint, quadrant, on, crossing; fixed at the origin; ordinates from it, with their ``texts``
    (one of them may lie on a line).
    """

    place: complex
    kind: str = ""
    entity: str = ""
    second: str = ""
    texts: tuple[str, str] = ("", "")

    @property
    def words(self) -> str:
        """What would be taken; empty when nothing is."""
        if self.kind in ("midpoint", "quadrant") or (self.kind == "coincident" and parted(self.entity)[0]):
            return self.entity
        if self.kind == "crossing":
            return f"where {self.entity} and {self.second} cross"
        said = {"coincident": "on the point", "on": "on", "fixed": "at the origin"}
        return f"{said[self.kind]} {self.entity}".strip() if self.kind else ""


#: places by name, and curves by name, that a click can be tied to beside the points and curves of the sketch
Places = Sequence[tuple[str, complex]]


def snap(
    sketch: Sketch,
    shapes: Mapping[str, Shape],
    at: complex,
    reach: float,
    places: Places = (),
    beside: Mapping[str, Shape] | None = None,
) -> Snap:
    """What lies within ``reach`` mm of a place: a point, a corner or end of an edge, a middle or quadrant, a crossing,
    a curve, in this order.

    ``places``: middles and quadrants of the sketch, and all places of edges, within reach. ``beside``: edges and axes
    as curves.
    """
    points = [(abs(complex(p.x, p.y) - at), p) for p in sketch.points if not of_axis(p)]
    near = min(points, key=lambda f: f[0], default=None)
    if near is not None and near[0] <= reach:
        p = near[1]
        return Snap(complex(p.x, p.y), "coincident", p.id)
    found = [(_rank(n), abs(z - at), n, z) for n, z in places if abs(z - at) <= reach]
    if found:
        rank, _, name, z = min(found)
        return Snap(z, ("coincident", "midpoint", "quadrant")[rank], name)
    curves = _near(sketch, shapes, at, reach)
    others = [] if beside is None else _near(None, beside, at, reach)
    crossing = _crossing([*curves, *others], at, reach)
    if crossing is not None:
        return crossing
    for _, s, z in (*curves[:1], *others[:1]):
        return Snap(z, "on", s.id)
    return Snap(at)


def _rank(name: str) -> int:
    what, _ = parted(name)
    return 1 if what == "middle" else 2 if what in QUADRANTS else 0


def _near(
    sketch: Sketch | None, shapes: Mapping[str, Shape], at: complex, reach: float
) -> list[tuple[float, Shape, complex]]:
    """Curves that something can lie on, within reach of a place: distance, curve, nearest place; near ones first."""
    out = []
    for name, s in shapes.items():
        if sketch is not None and sketch.by_id[name].kind == "spline":
            continue
        z = s.near(at, reach)
        if z is not None:
            out.append((abs(z - at), s, z))
    return sorted(out, key=lambda f: f[0])


def _crossing(curves: Sequence[tuple[float, Shape, complex]], at: complex, reach: float) -> Snap | None:
    found = [
        (abs(z - at), Snap(z, "crossing", a.id, b.id))
        for (_, a, _), (_, b, _) in itertools.combinations(curves[:CROSSING_OF], 2)
        if not (a.id.endswith("axis") and b.id.endswith("axis"))
        for _, _, z in meetings(a, b, NOTHING * max(1.0, abs(at)))
        if abs(z - at) <= reach
    ]
    return min(found, key=lambda f: f[0])[1] if found else None


def tied(draft: SketchBuilder, point: str, s: Snap, edges: Iterable[Edge] = ()) -> None:
    """Tie a made point to what its click fell on, as inferred.

    Raises SketchError when what it fell on cannot be held on to.
    """
    if s.kind in ("fixed", "ordinates"):
        at = {"x": s.place.real, "y": s.place.imag}
        draft.entities[point] = draft.entities[point].model_copy(update=at)
    if s.kind == "fixed":
        draft.add("fixed", point, inferred=True)
    elif s.kind == "ordinates":
        _by_ordinates(draft, point, s.texts)
        if s.entity:
            draft.add("on", point, hold(draft, s.entity, edges), inferred=True)
    elif s.kind in ("midpoint", "quadrant"):
        what, thing = parted(s.entity)
        tie(draft, point, what, hold(draft, thing, edges), inferred=True)
    elif s.kind == "crossing":
        for name in (s.entity, s.second):
            draft.add("on", point, hold(draft, name, edges), inferred=True)
    else:
        draft.add(s.kind, point, hold(draft, s.entity, edges), inferred=True)  # type: ignore[arg-type]


def _by_ordinates(draft: SketchBuilder, point: str, texts: tuple[str, str]) -> None:
    """Dimensions from the origin; level with it or upright over it where an ordinate is zero. Nothing is inferred."""
    if texts == ("0", "0"):
        there = fixed_at_origin(draft)
        if there is None:
            draft.add("fixed", point)
        else:
            draft.add("coincident", there, point)
        return
    origin = hold(draft, "origin")
    for text, kind, level in zip(texts, ("across_x", "across_y"), ("vertical", "horizontal"), strict=True):
        if text == "0":
            draft.add(level, origin, point)  # type: ignore[arg-type]
        elif text:
            draft.add(kind, origin, point, value=text)  # type: ignore[arg-type]


def smooth_ends(draft: SketchBuilder, made: Iterable[str]) -> None:
    """Put tangencies, as inferred, on the ``made`` lines and arcs and the curves that they nearly run into.

    An end that is one point with the end of another curve, or lies on another curve, counts; one of the two is round.
    """
    figure = draft.figure()
    leader = joined(figure)
    ends: dict[str, list[tuple[str, int]]] = {}
    for e in draft.entities.values():
        if isinstance(e, Line | Arc):
            for k, p in enumerate(e.points[-2:]):
                ends.setdefault(leader[p], []).append((e.id, k))
    on = [c for c in draft.constraints.values() if c.kind == "on" and not c.reference]
    for name in made:
        e = draft.entities[name]
        if not isinstance(e, Line | Arc) or e.construction:
            continue
        s = shape(figure, name)
        for k, p in enumerate(e.points[-2:]):
            others = {o: SMOOTHLY for o, _ in ends[leader[p]] if o != name}
            others |= {c.of[1]: SMOOTHLY_ON for c in on if leader[c.of[0]] == leader[p] and c.of[1] != name}
            for other, within in others.items():
                if _smoothly(figure, s, k, other, within) and not _said(draft, name, other):
                    pair = line_first(draft.entities[other], e)
                    draft.add("tangent", *pair, inferred=True)


def _smoothly(figure: Sketch, s: Shape, k: int, other: str, within: float) -> bool:
    o = figure.by_id[other]
    if not isinstance(o, Line | Arc | Circle):
        return False
    t = shape(figure, other)
    if isinstance(s, Straight) and isinstance(t, Straight):
        return False
    here = s.at(k)
    if min(abs(t.along(0)), abs(s.along(k))) < NOTHING:
        return False
    if isinstance(t, Round) and abs(here - t.centre) < NOTHING:
        return False
    u, v = s.along(k), t.along(t.find(here))
    return parallel(u, v, math.sin(within))


def square_sides(draft: SketchBuilder, made: Iterable[str]) -> None:
    """Put relations, as inferred, on the ``made`` lines that have no direction yet: square to a line at their ends,
    or parallel to the far side of the line that they start at, where they nearly are.
    """
    figure = draft.figure()
    leader = joined(figure)
    lines = [e for e in draft.entities.values() if isinstance(e, Line)]
    given = {n for c in draft.constraints.values() if c.kind in DIRECTIONS for n in c.of}

    def at(point: str, *but: str) -> list[Line]:
        return [o for o in lines if o.id not in but and leader[point] in (leader[o.start], leader[o.end])]

    def way(line: Line) -> complex:
        return complex(*figure.at(line.end)) - complex(*figure.at(line.start))

    for name in made:
        own = draft.entities[name]
        if not isinstance(own, Line) or own.construction or name in given or abs(way(own)) < NOTHING:
            continue
        beside = [o for p in own.points for o in at(p, name) if abs(way(o)) > NOTHING]
        across = [f for o in beside for p in o.points for f in at(p, name, o.id) if abs(way(f)) > NOTHING]
        square = next((o for o in beside if parallel(way(own), 1j * way(o), math.sin(NEARLY))), None)
        along = next((f for f in across if f not in beside and parallel(way(own), way(f), math.sin(NEARLY))), None)
        if square is not None:
            draft.add("perpendicular", square.id, name, inferred=True)
        elif along is not None:
            draft.add("parallel", along.id, name, inferred=True)


def _said(draft: SketchBuilder, a: str, b: str) -> bool:
    return any(c.kind == "tangent" and set(c.of) == {a, b} for c in draft.constraints.values())


def level(start: complex, end: complex) -> tuple[complex, str]:
    """``end`` moved level with or upright over ``start`` when it nearly is, and which ("" for neither)."""
    d = end - start
    if abs(d) < NOTHING:
        return end, ""
    angle = cmath.phase(d)
    if min(abs(angle), math.pi - abs(angle)) < NEARLY:
        return complex(end.real, start.imag), "horizontal"
    if abs(abs(angle) - math.pi / 2) < NEARLY:
        return complex(start.real, end.imag), "vertical"
    return end, ""
