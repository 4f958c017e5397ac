"""How the dimensions of sketches show on the solid: as sizes and distances of the faces that their curves made.

A dimension runs between two carriers: a line square to it makes a flat face, a circle or arc about its end makes a
round one, a point that a hole stands on makes the hole's wall, a taken edge is a face of the body, and the sketch's own
origin is a place in the part's frame. Between two flats it is a distance, between a flat and an axis a position,
between
two axes their distance, from the origin an ordinate, which has a sign. A dimension that no faces carry (a point in thin
air) has no probe.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any, Literal

from lathed_solid.ledger import Probe
from lathed_solid.part.document import Document
from lathed_solid.part.sketch_carriers import NEAR, ORIGIN, SQUARE, Carrier, On, User, carrier_of, square_to
from lathed_solid.part.steps import FacePlane, SketchStep
from lathed_solid.part.steps.base import FieldOf, StepBase
from lathed_solid.part.steps.catalogue import CATALOGUE
from lathed_solid.quantity.tolerances import LINEAR, ROUNDING
from lathed_solid.sketch import plane
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.model import Arc, Circle, Constraint, Line, Sketch


def sketch_fields(document: Document) -> list[tuple[int, FieldOf]]:
    """(sketch's number, field with probe) for every driving dimension, once for each step that shows it."""
    out: list[tuple[int, FieldOf]] = []
    for base in document.steps:
        if isinstance(base, SketchStep) and not base.suspended:
            out += _of_sketch(_Drawn(base, tuple(s for s in document.steps if _stands_on(s, base))))
    return out


@dataclass(frozen=True, eq=False)
class _Drawn:
    """A sketch and the steps that stand on it; the same ones when they are the same objects."""

    base: SketchStep
    steps: tuple[StepBase, ...]

    @cached_property
    def _ids(self) -> tuple[int, ...]:
        return (id(self.base), *map(id, self.steps))

    def __hash__(self) -> int:
        return hash(self._ids)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Drawn) and self._ids == other._ids


@lru_cache(maxsize=200)
def _of_sketch(drawn: _Drawn) -> tuple[tuple[int, FieldOf], ...]:
    base, out = drawn.base, []
    users = list(_users(drawn.steps, base))
    for c in base.sketch.constraints if users else ():
        if c.kind not in DIMENSIONS or c.reference:
            continue
        kind = KINDS[c.kind].dimension
        for probe in dict.fromkeys(_probes(base, users, c)):
            out.append((base.number, FieldOf(f"{KINDS[c.kind].words} {c.id}", c.value, kind, probe)))  # type: ignore[arg-type]
    return tuple(out)


def _how(step: StepBase) -> Literal["", "straight", "turned", "coiled"]:
    """How a sketch's curves become faces of a step; empty for steps that make none of them."""
    return CATALOGUE[step.kind].of_sketch if step.kind in CATALOGUE else ""


def _stands_on(step: StepBase, base: SketchStep) -> bool:
    made: Any = step
    if step.suspended:
        return False
    if _how(step):
        return bool(made.sketch == base.number)
    return step.kind == "hole" and made.places.kind == "sketch" and made.places.sketch == base.number


def height_probe(document: Document, step: Any) -> Probe:
    """How far an extrusion reaches: its two ends, the face where it starts, and its sides."""
    n = step.number
    base = document.step(step.sketch)
    off = step.start.strip() not in ("0", "")
    face = "" if off else step.from_face
    if not face and not off and isinstance(base, SketchStep) and isinstance(base.plane, FacePlane):
        face = base.plane.face
    return Probe(kind="height", faces=(f"{n}/end", f"{n}/start", face or "-", f"{n}/**"))


def _users(steps: Iterable[StepBase], base: SketchStep) -> Iterator[User]:
    sketch = base.sketch
    for step in steps:
        made: Any = step
        how = _how(step)
        if how:
            used = {b[:-1] for name in made.regions for b in name.split("@")[0].split()} or None

            def on(entity: str, used: set[str] | None = used) -> bool:
                return (used is None or entity in used) and not sketch.by_id[entity].construction

            yield User(step.number, how, on, {}, cuts=made.mode == "cut")
        else:
            of_curves = {p for c in sketch.curves for p in c.points}
            names = made.places.points or tuple(
                p.id for p in sketch.points if p.id not in of_curves and not p.construction
            )
            walls = {name: f"{step.number}/h{k}.wall" for k, name in enumerate(names)}
            yield User(step.number, "straight", lambda _: False, walls)


def _probes(base: SketchStep, users: list[User], c: Constraint) -> Iterator[Probe]:
    sketch = base.sketch
    for entity in _alike(sketch, c):
        one = c.model_copy(update={"of": (entity,)}) if entity else c
        for user in users:
            probe = _probe(base, user, [u for u in users if u is not user], one)
            if probe is not None:
                yield probe


def _alike(sketch: Sketch, c: Constraint) -> list[str]:
    """The circles that a radius or diameter sizes, the lines that a length does: its own and those kept equal to it;
    [""] for other dimensions.
    """
    lengths = c.kind == "distance" and len(c.of) == 1
    if c.kind not in ("radius", "diameter") and not lengths:
        return [""]
    found, todo = [c.of[0]], [c.of[0]]
    while todo:
        name = todo.pop()
        for k in sketch.constraints:
            if k.kind == "equal" and name in k.of:
                more = [n for n in k.of if n not in found]
                found += more
                todo += more
    return found


def _probe(base: SketchStep, user: User, others: list[User], c: Constraint) -> Probe | None:
    sketch, n = base.sketch, user.number
    if user.how == "coiled":
        return _coiled(base, user, c)
    if c.kind in ("radius", "diameter"):
        if not user.on(c.of[0]):
            return _flats(sketch, c, user)
        arc = c.kind == "diameter" and isinstance(sketch.by_id[c.of[0]], Arc)
        if arc:
            return Probe(kind="arc_diameter", faces=(f"{n}/{c.of[0]}",), share=_share(sketch, c.of[0]))
        return Probe(kind=c.kind, faces=(f"{n}/{c.of[0]}",))
    if c.kind == "angle":
        if user.how == "turned" or not any(map(user.on, c.of)):
            return None
        sides = tuple(_side(sketch, e, (user, *others)) for e in c.of)
        return Probe(kind="angle", faces=sides) if all(sides) else None
    if c.kind in ("offset", "near", "far"):
        return _beside_round(sketch, c, user, others)
    if c.kind == "across_axis":
        return _turned_diameter(sketch, c, n, user.on) if user.how == "turned" else None
    ends = _ends(sketch, c)
    if ends is None:
        return None
    along, first, second = ends
    pair = [carrier_of(base, points, along, user, others) for points in (first, second)]
    if pair[0] is None or pair[1] is None or pair[0] == pair[1]:
        return None
    if not any(name.startswith(f"{n}/") for name, _ in (pair[0], pair[1])):
        return None
    if user.how == "turned" and any(kind == "round" for _, kind in (pair[0], pair[1])):
        return None
    return _between(base, pair[0], pair[1], along, (first, second))


def _side(sketch: Sketch, name: str, users: tuple[User, ...]) -> str:
    """The face that a line made; of a construction line, one that runs along it; empty for none."""
    line = sketch.by_id[name]
    if not isinstance(line, Line):
        return ""
    way = _way(sketch, line)
    along = [
        e
        for e in sketch.entities
        if isinstance(e, Line) and line.construction and plane.parallel(way, _way(sketch, e), SQUARE)
    ]
    return next((f"{u.number}/{e.id}" for u in users for e in (line, *along) if u.on(e.id)), "")


def _way(sketch: Sketch, line: Line) -> complex:
    a, b = (complex(*sketch.at(p)) for p in line.points)
    return b - a


def _beside_round(sketch: Sketch, c: Constraint, user: User, others: list[User]) -> Probe | None:
    """Between round curves about one centre, or from a line to a side of a round one; told once, by the step that has
    the first of them.
    """
    if user.how == "turned" or len(c.of) != 2 or not user.on(c.of[0]):
        return None
    first, second = (sketch.by_id[n] for n in c.of)
    owner = next((u for u in (user, *others) if u.on(second.id)), None)
    if owner is None or not isinstance(second, Circle | Arc):
        return None
    faces = (f"{user.number}/{first.id}", f"{owner.number}/{second.id}")
    if isinstance(first, Line) and c.kind != "offset":
        return Probe(kind="far_side" if c.kind == "far" else "near_side", faces=faces)
    together = isinstance(first, Circle | Arc) and abs(
        complex(*sketch.at(first.centre)) - complex(*sketch.at(second.centre))
    ) < NEAR  # fmt: skip
    return Probe(kind="coaxial", faces=faces) if together and c.kind == "offset" else None


def _coiled(base: SketchStep, user: User, c: Constraint) -> Probe | None:
    """Of what is led along a helix: the radius of an arc, from the origin to a line square to the dimension, and
    between two such lines: across the groove or the ridge.
    """
    face = f"{user.number}/coil.helix."
    if c.kind == "radius":
        return Probe(kind="coil_radius", faces=(face + c.of[0],)) if user.on(c.of[0]) else None
    ends = _ends(base.sketch, c)
    if ends is None:
        return None
    along, *points = ends
    at = [[complex(*base.sketch.at(p)) for p in side] for side in points]
    for own, other in (at, at[::-1]):
        if len(own) == 1 and abs(own[0]) < NEAR:
            for e in base.sketch.entities:
                if isinstance(e, Line) and user.on(e.id) and square_to(base.sketch, e, other, along):
                    way = (along.real, along.imag)
                    return Probe(kind="coil_ordinate", faces=(face + e.id,), sketch=base.number, along=way)
    lines = [e for e in base.sketch.entities if isinstance(e, Line) and user.on(e.id)]
    pair = [next((e.id for e in lines if square_to(base.sketch, e, side, along)), "") for side in at]
    if not all(pair) or pair[0] == pair[1]:
        return None
    return Probe(kind="coil_groove" if user.cuts else "coil_ridge", faces=(face + pair[0], face + pair[1]))


def _between(
    base: SketchStep, one: Carrier, two: Carrier, along: complex, ends: tuple[list[str], list[str]]
) -> Probe | None:
    sketch = base.sketch
    if ORIGIN in (one, two):
        # as drawn, from the origin towards the other carrier
        far = ends[1] if one == ORIGIN else ends[0]
        z = complex(*sketch.at(far[0]))
        way = along if (along.conjugate() * z).real >= 0 else -along
        name, kind = two if one == ORIGIN else one
        if kind == "corner":
            faces = tuple(name.split(" & "))
            return Probe(kind="corner", faces=faces, sketch=base.number, along=(way.real, way.imag))
        return Probe(kind="ordinate", faces=tuple(name.split(" & ")), sketch=base.number, along=(way.real, way.imag))
    if "middle" in (one[1], two[1]):
        return None
    if one[1] == two[1] == "corner":
        four = (*one[0].split(" & "), *two[0].split(" & "))
        return Probe(kind="corners", faces=four, sketch=base.number, along=(along.real, along.imag))
    if "corner" in (one[1], two[1]):
        (corner, _), (other, kind) = (one, two) if one[1] == "corner" else (two, one)
        if kind != "flat":
            return None
        names = (*corner.split(" & "), other)
        return Probe(kind="corner", faces=names, sketch=base.number, along=(along.real, along.imag))
    (a, a_kind), (b, b_kind) = sorted((one, two), key=lambda p: p[1] != "flat")
    if a_kind == b_kind == "flat":
        return Probe(kind="distance", faces=(a, b))
    if a_kind == "flat":
        return Probe(kind="position", faces=(a, b))
    if _same_line(sketch, *ends, along):
        return Probe(kind="axes", faces=(a, b))
    return Probe(kind="apart", faces=(a, b), sketch=base.number, along=(along.real, along.imag))


def _ends(sketch: Sketch, c: Constraint) -> tuple[complex, list[str], list[str]] | None:
    """Direction of measuring and the points at both ends."""
    if c.kind in ("across_x", "across_y", "distance", "offset"):
        points = c.of
        kinds = [sketch.by_id[n].kind for n in c.of]
        if kinds == ["line"]:
            points = sketch.by_id[c.of[0]].points
        elif kinds[0] == "line":
            line = sketch.by_id[c.of[0]]
            a, b = (complex(*sketch.at(p)) for p in line.points)
            if abs(b - a) < ROUNDING:
                return None
            other = sketch.by_id[c.of[1]]
            far = list(other.points) if kinds[1] == "line" else [other.id]
            return 1j * (b - a) / abs(b - a), list(line.points), far
        if len(points) != 2 or any(sketch.by_id[n].kind != "point" for n in points):
            return None
        p, q = (complex(*sketch.at(n)) for n in points)
        if c.kind == "across_x":
            return 1 + 0j, [points[0]], [points[1]]
        if c.kind == "across_y":
            return 1j, [points[0]], [points[1]]
        return ((q - p) / abs(q - p), [points[0]], [points[1]]) if abs(q - p) > ROUNDING else None
    return None


def _share(sketch: Sketch, name: str) -> float:
    """How much of a full round an arc is, as drawn."""
    centre, start, end = (complex(*sketch.at(p)) for p in sketch.by_id[name].points)
    if abs(start - centre) < NEAR:
        return 1.0
    return min(1.0, max(1e-3, cmath.phase((end - centre) / (start - centre)) % (2 * math.pi) / (2 * math.pi)))


def _flats(sketch: Sketch, c: Constraint, user: User) -> Probe | None:
    """A construction circle that lines touch is a size across flats: between two of them that face each other."""
    circle = sketch.by_id[c.of[0]]
    if c.kind != "diameter" or not isinstance(circle, Circle):
        return None
    middle = complex(*sketch.at(circle.centre))
    feet: list[tuple[str, complex]] = []
    for e in sketch.entities:
        if isinstance(e, Line) and user.on(e.id):
            a, b = (complex(*sketch.at(p)) - middle for p in e.points)
            if abs(b - a) > NEAR:
                foot = a - (b - a) * ((b - a).conjugate() * a).real / abs(b - a) ** 2
                if abs(abs(foot) - circle.radius) < NEAR:
                    feet.append((f"{user.number}/{e.id}", foot))
    pair = next(((p, q) for p, z in feet for q, w in feet if p < q and abs(z + w) < NEAR), None)
    return Probe(kind="distance", faces=pair) if pair else None


def _same_line(sketch: Sketch, first: list[str], second: list[str], along: complex) -> bool:
    """Whether the dimension runs straight from centre to centre, as the distance of axes does."""
    d = complex(*sketch.at(second[0])) - complex(*sketch.at(first[0]))
    return abs((d.conjugate() * along).imag) < SQUARE * max(abs(d), 1.0)


def _turned_diameter(sketch: Sketch, c: Constraint, step: int, on: On) -> Probe | None:
    """A diameter across the centreline shows on the cylinder that a line beside the axis makes."""
    axis = sketch.by_id[c.of[0]]
    a, b = (complex(*sketch.at(p)) for p in axis.points)
    other = sketch.by_id[c.of[1]]
    ends = [complex(*sketch.at(p)) for p in other.points]
    for e in sketch.entities:
        if isinstance(e, Line) and on(e.id):
            p, q = (complex(*sketch.at(n)) for n in e.points)
            level = abs(((b - a).conjugate() * (q - p)).imag) < SQUARE * abs(b - a) * max(abs(q - p), ROUNDING)
            if level and not math.isclose(abs(q - p), 0) and any(min(abs(z - p), abs(z - q)) < LINEAR for z in ends):
                return Probe(kind="diameter", faces=(f"{step}/{e.id}",))
    return None
