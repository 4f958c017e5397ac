"""What a figure can be held on to without drawing it first, by name.

Names are the words for the thing. A thing alone: an entity of the sketch (``l1``), an edge laid into its plane by its
own name, the frame's ``origin``, ``x axis`` and ``y axis``. A place of a thing: ``start of``, ``end of``, ``centre of``
an edge; ``middle of`` a line or an arc; ``right of``, ``top of``, ``left of`` and ``bottom of`` a circle, or of an arc
that reaches there. ``hold`` makes the entity for a name when something is tied to it or dimensioned from it, and finds
the one made before. A point at the middle is tied by *midpoint*; one at a quadrant lies on the curve, level with its
centre or upright over it.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterable, Iterator, Mapping, Set

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Round, Shape, Straight, shape
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Point, Sketch
from lathed_solid.sketch.outside import AXES, FRAME, lay, standing_for

OF = " of "
QUADRANTS = {"right": 1 + 0j, "top": 1j, "left": -1 + 0j, "bottom": -1j}
_ENDS = {"line": ("start", "end"), "circle": ("centre",), "arc": ("centre", "start", "end")}


def parted(name: str) -> tuple[str, str]:
    """A name as place and thing; no place ("") for a thing alone."""
    what, of, thing = name.partition(OF)
    return (what, thing) if of else ("", name)


def places_of(s: Shape) -> Iterator[tuple[str, complex]]:
    """Middle and quadrants of a curve, by name; mm."""
    if isinstance(s, Straight):
        yield f"middle{OF}{s.id}", s.at(0.5)
    elif isinstance(s, Round):
        if not s.closed:
            yield f"middle{OF}{s.id}", s.at(0.5)
        for what, way in QUADRANTS.items():
            turn = (math.atan2(way.imag, way.real) - s.start) % (2 * math.pi)
            if s.closed or ROUNDING < turn < s.turn - ROUNDING:
                yield f"{what}{OF}{s.id}", s.centre + way * s.radius


def edge_shape(edge: Edge) -> Shape | None:
    """A straight or round edge as a curve of its own name; None for other edges."""
    z = [complex(*p) for p in edge.points]
    if edge.kind == "line":
        return Straight(edge.name, *z)
    if edge.kind == "circle":
        return Round(edge.name, z[0], edge.radius, 0.0, 2 * math.pi)
    if edge.kind == "arc":
        turn = cmath.phase((z[2] - z[0]) / (z[1] - z[0])) % (2 * math.pi)
        return Round(edge.name, z[0], abs(z[1] - z[0]), cmath.phase(z[1] - z[0]), turn)
    return None


def edge_places(edge: Edge) -> Iterator[tuple[str, complex]]:
    """Corner, ends, centre, middle and quadrants of an edge, by name; mm."""
    if edge.kind == "point":
        yield edge.name, complex(*edge.points[0])
    for what, p in zip(_ENDS.get(edge.kind, ()), edge.points, strict=False):
        yield f"{what}{OF}{edge.name}", complex(*p)
    s = edge_shape(edge)
    if s is not None and edge not in AXES:
        yield from places_of(s)


def hold(draft: SketchBuilder, name: str, edges: Iterable[Edge] = ()) -> str:
    """The entity of a draft that a name stands for, made when there is none yet.

    Raises SketchError for a name that nothing has, or of something that cannot be taken.
    """
    what, thing = parted(name)
    thing = _thing(draft, thing, edges)
    if not what:
        return thing
    e = draft.entities[thing]
    ends = _ENDS.get(e.kind, ())
    if what in ends:
        # a line names its ends alone, a round one its centre first
        return e.points[ends.index(what)]
    made = _standing(draft, what, thing)
    if made is not None:
        return made
    place = next((z for n, z in _places(draft, thing) if n == f"{what}{OF}{thing}"), None)
    if place is None:
        raise SketchError(f"there is no {what} of {thing} to hold on to", received=name)
    point = draft.point(place.real, place.imag, construction=True)
    tie(draft, point, what, thing)
    return point


def tie(draft: SketchBuilder, point: str, what: str, thing: str, *, inferred: bool = False) -> None:
    """Constraints that put a point at a place of a thing."""
    if what == "middle":
        draft.add("midpoint", point, thing, inferred=inferred)
        return
    if what not in QUADRANTS:
        raise SketchError(f"nothing is tied to the {what} of {thing}", received=what)
    centre = draft.entities[thing].points[0]
    level = "vertical" if QUADRANTS[what].imag else "horizontal"
    draft.add("on", point, thing, inferred=inferred)
    draft.add(level, centre, point, inferred=inferred)  # type: ignore[arg-type]


def drop_unused(draft: SketchBuilder, after: Set[str]) -> None:
    """Take out edges and axes that came into a draft after these entities and that nothing is tied to any more."""
    used = {n for c in draft.constraints.values() for n in c.of}
    used |= {e.id for e in draft.entities.values() if used & set(e.points)}
    draft.remove(
        *(e.id for e in draft.entities.values() if e.source and e.kind != "point" and e.id not in after | used)
    )


def held_on_to(sketch: Sketch, names: Iterable[str], edges: Iterable[Edge]) -> tuple[Sketch, Mapping[str, str]]:
    """The sketch with everything named in it, and the entity that each name stands for. Raises SketchError."""
    draft = SketchBuilder(sketch)
    known = tuple(edges)
    found = {n: hold(draft, n, known) for n in names}
    return (draft.done() if len(draft.entities) > len(sketch.entities) else sketch), found


def _thing(draft: SketchBuilder, name: str, edges: Iterable[Edge]) -> str:
    if name in draft.entities:
        return name
    if name == "origin" and (fixed := fixed_at_origin(draft)) is not None:
        return fixed
    edge = next((e for e in (*FRAME, *edges) if e.name == name), None)
    if edge is None:
        raise SketchError(f"there is no {name} to hold on to", received=name)
    return standing_for(draft.entities.values(), edge) or lay(draft, edge)


def fixed_at_origin(draft: SketchBuilder) -> str | None:
    """A point of the figure that is held at the origin."""
    fixed = {c.of[0] for c in draft.constraints.values() if c.kind == "fixed" and not c.reference}
    points = (e for e in draft.entities.values() if isinstance(e, Point) and e.id in fixed)
    return next((p.id for p in points if math.hypot(p.x, p.y) < ROUNDING), None)


def _places(draft: SketchBuilder, thing: str) -> Iterator[tuple[str, complex]]:
    return places_of(shape(draft.figure(), thing))


def _standing(draft: SketchBuilder, what: str, thing: str) -> str | None:
    """A point that was made for this place before."""
    said = [c for c in draft.constraints.values() if not c.reference]
    if what == "middle":
        return next((c.of[0] for c in said if c.kind == "midpoint" and c.of[1:] == (thing,)), None)
    centre = draft.entities[thing].points[0]
    level = "vertical" if QUADRANTS.get(what, 0j).imag else "horizontal"
    on = {c.of[0] for c in said if c.kind == "on" and c.of[1] == thing}
    for c in said:
        if c.kind == level and len(c.of) == 2 and centre in c.of:
            point = next((p for p in c.of if p in on), None)
            if point is not None and _on_side(draft, point, centre, what):
                return point
    return None


def _on_side(draft: SketchBuilder, point: str, centre: str, what: str) -> bool:
    figure = draft.figure()
    away = complex(*figure.at(point)) - complex(*figure.at(centre))
    return (away * QUADRANTS[what].conjugate()).real > 0
