"""Where the like features of one step stand: on a circle, radial, in a grid, at listed or sketched places, on round
edges, at distances from two walls.

On a flat face, places are in the frame of that face: its origin is the foot of the part's origin, its x the part's X
laid
into the face (Y, where the face stands square to X), seen from outside.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.names import EdgeName, FaceName, renamed, steps_in
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepError
from lathed_solid.part.steps.regions import XY
from lathed_solid.part.steps.resolved import ResolvedPlane
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity.tolerances import LINEAR, RELATIVE
from lathed_solid.record import Record
from lathed_solid.sketch.model import Id

Count = Annotated[int, Field(ge=1, le=500)]


class OnCircle(Record):
    """On a circle, or at its centre when ``bolt_circle`` is None.

    On a face square to the part's X the circle is about the part's axis unless a centre is given, and angles count from
    the part's Z, clockwise seen from outside; on other faces from the face's x, counter-clockwise.
    """

    kind: Literal["circle"] = "circle"
    bolt_circle: Cell | None = None
    count: Count = 1
    start_angle: Cell = "0"
    x: Cell = "0"
    y: Cell = "0"


class Radial(Record):
    """On a cylinder: at a distance from a datum face, at an angle about the axis, equally spaced."""

    kind: Literal["radial"] = "radial"
    at: Cell
    datum: FaceName = "10/face.left"
    angle: Cell = "0"
    count: Count = 1


class Grid(Record):
    """Rows and columns from a first place."""

    kind: Literal["grid"] = "grid"
    x: Cell = "0"
    y: Cell = "0"
    dx: Cell = "20"
    nx: Count = 2
    dy: Cell = "20"
    ny: Count = 1


class Table(Record):
    """Places by their coordinates."""

    kind: Literal["table"] = "table"
    rows: tuple[tuple[Cell, Cell], ...] = Field(default=(("0", "0"),), min_length=1, max_length=500)


class SketchPoints(Record):
    """Points of a sketch that lies on the face: those named, or all that stand alone."""

    kind: Literal["sketch"] = "sketch"
    sketch: int = Field(ge=1, le=99_990)
    points: tuple[Id, ...] = Field(default=(), max_length=500)


class OnEdges(Record):
    """At the centres of round edges."""

    kind: Literal["edges"] = "edges"
    edges: tuple[EdgeName, ...] = Field(min_length=1, max_length=200)


class FromWalls(Record):
    """At distances from two walls of the flat face, and in rows and columns on from there.

    ``x`` and ``y`` go from the ``first`` and the ``second`` wall to where more of the face lies, square to each.
    """

    kind: Literal["walls"] = "walls"
    first: FaceName
    second: FaceName
    x: Cell = "10"
    y: Cell = "10"
    dx: Cell = "20"
    nx: Count = 1
    dy: Cell = "20"
    ny: Count = 1


Places = Annotated[OnCircle | Radial | Grid | Table | SketchPoints | OnEdges | FromWalls, Field(discriminator="kind")]


@dataclass(frozen=True, slots=True)
class ResolvedPlaces:
    """``kind`` and its figures in mm and rad; ``xy`` for places in a plane.

    circle: ``xy`` the centre, ``reach`` its radius; radial: ``reach`` from ``datum``; sketch: ``xy`` in ``plane``;
    walls: ``xy`` from the two ``walls``.
    """

    kind: str
    reach: float = 0.0
    angle: float = 0.0
    count: int = 1
    xy: tuple[XY, ...] = ()
    datum: str = ""
    plane: ResolvedPlane | None = None
    edges: tuple[str, ...] = ()
    walls: tuple[str, str] = ("", "")


def resolve_places(places: Any, evaluate: Resolver, widest: float) -> ResolvedPlaces:
    """Figures of places; ``widest``: the largest radius that must keep clear of its neighbours, mm. Raises
    StepError.
    """
    read = Reader(evaluate)
    if isinstance(places, Radial):
        angle = read.any("angle", places.angle, "angle")
        return ResolvedPlaces("radial", read.any("place", places.at), angle, places.count, datum=places.datum)
    if isinstance(places, OnCircle):
        reach = 0.0 if places.bolt_circle is None else read.size("bolt circle", places.bolt_circle) / 2
        if reach == 0 and places.count > 1:
            raise StepError("several holes on the axis fall on one another", hint="give a bolt circle")
        pitch = 2 * reach * math.sin(math.pi / places.count)
        if places.count > 1 and pitch <= 2 * widest:
            raise StepError(
                "the holes run into each other on their bolt circle", rule=f"their spacing is {pitch:.4g} mm"
            )
        centre = (read.any("centre x", places.x), read.any("centre y", places.y))
        start = read.any("start angle", places.start_angle, "angle")
        return ResolvedPlaces("circle", reach, start, places.count, (centre,))
    if isinstance(places, Grid | FromWalls):
        x, y, dx, dy = (read.any(n, getattr(places, n)) for n in ("x", "y", "dx", "dy"))
        xy = _apart([(x + i * dx, y + j * dy) for j in range(places.ny) for i in range(places.nx)], widest)
        if isinstance(places, Grid):
            return ResolvedPlaces("plane", xy=xy)
        return ResolvedPlaces("walls", xy=xy, walls=(places.first, places.second))
    if isinstance(places, Table):
        rows = [(read.any(f"place {k} x", x), read.any(f"place {k} y", y)) for k, (x, y) in enumerate(places.rows, 1)]
        return ResolvedPlaces("plane", xy=_apart(rows, widest))
    if isinstance(places, OnEdges):
        return ResolvedPlaces("edges", edges=places.edges)
    return _sketched(places, evaluate, widest)


def _sketched(places: SketchPoints, evaluate: Resolver, widest: float) -> ResolvedPlaces:
    found = evaluate.sketch(places.sketch)
    sketch = found.sketch
    known = {p.id for p in sketch.points}
    of_curves = {p for c in sketch.curves for p in c.points}
    names = places.points or tuple(p.id for p in sketch.points if p.id not in of_curves and not p.construction)
    missing = [n for n in names if n not in known]
    if missing or not names:
        what = f"the point {missing[0]} is not in sketch {places.sketch}" if missing else (
            f"sketch {places.sketch} has no point that stands alone")  # fmt: skip
        raise StepError(what, where="places", hint="draw points (P) where the holes shall be")
    return ResolvedPlaces("sketch", xy=_apart([sketch.at(n) for n in names], widest), plane=found.plane)


def _apart(places: list[XY], widest: float) -> tuple[XY, ...]:
    """The places, when no two of them run into each other."""
    ordered = sorted(places)
    for i, p in enumerate(ordered):
        for q in ordered[i + 1 :]:
            if q[0] - p[0] > 2 * widest:
                break
            if math.dist(p, q) <= max(2 * widest * (1 - RELATIVE), LINEAR):
                raise StepError(
                    f"two holes run into each other at {p[0]:.4g}, {p[1]:.4g} and {q[0]:.4g}, {q[1]:.4g}",
                    where="places",
                )
    return tuple(places)


def how_many(places: Any) -> int | None:
    """The number of places; None where only the sketch knows."""
    if isinstance(places, OnCircle | Radial):
        return places.count
    if isinstance(places, Grid | FromWalls):
        return places.nx * places.ny
    if isinstance(places, Table):
        return len(places.rows)
    if isinstance(places, OnEdges):
        return len(places.edges)
    return len(places.points) or None


def place_fields(places: Any, wall: str, face: str) -> list[FieldOf]:
    """Expressions of the places; ``wall`` is the pattern of the faces that show them, ``face`` the one they enter."""
    out: list[FieldOf] = []
    if isinstance(places, Radial):
        shown = Probe(kind="position", faces=(places.datum, wall))
        turned = Probe(kind="clock", faces=(places.datum, wall.replace("*", "0")))
        out = [FieldOf("place", places.at, "length", shown), FieldOf("angle", places.angle, "angle", turned)]
    elif isinstance(places, OnCircle):
        if places.bolt_circle is not None:
            about: Literal["", "origin"] = "origin" if _zero(places.x) and _zero(places.y) else ""
            circle = Probe(kind="bolt_circle", faces=(wall,), about=about)
            out.append(FieldOf("bolt circle", places.bolt_circle, "length", circle))
        out.append(FieldOf("start angle", places.start_angle, "angle", None))
        alone = places.bolt_circle is None
        out += [
            FieldOf(f"centre {n}", getattr(places, n), "length", _at(n, wall, face) if alone else None) for n in "xy"
        ]
    elif isinstance(places, Grid | FromWalls):
        first = wall.replace("*", "0")
        for n, many, other in (("dx", places.nx, 1), ("dy", places.ny, places.nx)):
            apart = Probe(kind="axes", faces=(first, wall.replace("*", str(other)))) if many > 1 else None
            out.append(FieldOf(n, getattr(places, n), "length", apart))
        if isinstance(places, FromWalls):
            walls = (("x", places.first), ("y", places.second))
            out += [FieldOf(n, getattr(places, n), "length", Probe(kind="position", faces=(f, first)))
                    for n, f in walls]  # fmt: skip
        else:
            out += [FieldOf(n, getattr(places, n), "length", _at(n, first, face)) for n in "xy"]
    elif isinstance(places, Table):
        out = [FieldOf(f"place {k} {n}", c, "length", _at(n, wall.replace("*", str(k - 1)), face))
               for k, row in enumerate(places.rows, 1) for n, c in zip("xy", row, strict=True)]  # fmt: skip
    return out


def _at(axis: str, wall: str, face: str) -> Probe:
    """Where a hole stands along x or y of the face that it enters."""
    return Probe(kind="place_x" if axis == "x" else "place_y", faces=(wall.replace("*", "0"), face))


def _zero(text: str) -> bool:
    return text.strip() in ("", "0")


def places_stand_on(places: Any) -> frozenset[int]:
    """Numbers of the steps that the places name."""
    if isinstance(places, Radial):
        return steps_in(places.datum)
    if isinstance(places, FromWalls):
        return steps_in(places.first) | steps_in(places.second)
    if isinstance(places, SketchPoints):
        return frozenset({places.sketch})
    return frozenset().union(*(steps_in(e) for e in places.edges)) if isinstance(places, OnEdges) else frozenset()


def places_renumbered(places: Any, renumber: Any) -> Any:
    """The places after steps got other numbers."""
    if isinstance(places, Radial):
        return places.model_copy(update={"datum": renamed(places.datum, renumber)})
    if isinstance(places, FromWalls):
        walls = {n: renamed(getattr(places, n), renumber) for n in ("first", "second")}
        return places.model_copy(update=walls)
    if isinstance(places, SketchPoints):
        return places.model_copy(update={"sketch": renumber.get(places.sketch, places.sketch)})
    if isinstance(places, OnEdges):
        return places.model_copy(update={"edges": tuple(renamed(e, renumber) for e in places.edges)})
    return places
