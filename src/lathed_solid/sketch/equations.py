"""From constraints to rows of the equation system.

A row is a kind of residual on some unknowns, with parameters p = coefficient * value + constant, so that a change of
a dimension's value changes parameters only. Rows of kind ``same`` say that two unknowns are one: they are
substituted before anything is solved. Orientation is explicit: it is read from the figure once, when the
constraint is made (``orient.oriented``), and kept in ``Constraint.side``.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sketch.model import Arc, Circle, Constraint, Ellipse, Line, Point, Sketch
from lathed_solid.sketch.orient import joined, pair_of, radius_of, shared_end, touching_end

#: owner of the rows that hold an arc's ends on its circle, and of outside geometry
INTRINSIC = "."


@dataclass(frozen=True, slots=True)
class Equation:
    """``kind`` of residual (or "same", "at") on unknowns; parameter i is ``coefficient[i] * value + constant[i]``."""

    kind: str
    unknowns: tuple[int, ...]
    constant: tuple[float, ...] = ()
    coefficient: tuple[float, ...] = ()
    owner: str = INTRINSIC


class Layout:
    """Which unknown is what: points take two, circles, arcs and ellipses one more each."""

    def __init__(self, sketch: Sketch) -> None:
        self.sketch = sketch
        self.point: dict[str, int] = {}
        self.radius: dict[str, int] = {}
        start: list[float] = []
        for e in sketch.entities:
            if isinstance(e, Point):
                self.point[e.id] = len(start)
                start += [e.x, e.y]
        for e in sketch.entities:
            if isinstance(e, Circle):
                self.radius[e.id] = len(start)
                start.append(e.radius)
            elif isinstance(e, Ellipse):
                self.radius[e.id] = len(start)
                start.append(e.minor)
            elif isinstance(e, Arc):
                self.radius[e.id] = len(start)
                i, j = self.point[e.centre], self.point[e.start]
                start.append(math.hypot(start[j] - start[i], start[j + 1] - start[i + 1]))
        #: an unknown that is always 0: the radius of a point, so that points and circles share one kind of row
        self.zero = len(start)
        self.start = [*start, 0.0]

    @cached_property
    def size(self) -> float:
        """The sketch's extent, mm: the measure that tolerances are fractions of."""
        if not self.point:
            return 1.0
        n = 2 * len(self.point)
        x, y = self.start[0:n:2], self.start[1:n:2]
        return max(max(x) - min(x), max(y) - min(y), 2 * max(self.start[n:]), LINEAR)

    def xy(self, point: str) -> tuple[int, int]:
        """Indices of a point's two unknowns."""
        i = self.point[point]
        return i, i + 1

    def line(self, name: str) -> tuple[int, int, int, int]:
        """Indices of a line's four unknowns: start, end."""
        e = self.sketch.by_id[name]
        assert isinstance(e, Line)
        return (*self.xy(e.start), *self.xy(e.end))

    def centre(self, name: str) -> tuple[int, int]:
        """Indices of a round thing's centre, or of a point."""
        e = self.sketch.by_id[name]
        return self.xy(e.id if isinstance(e, Point) else e.centre)  # type: ignore[union-attr]


def rows(sketch: Sketch, layout: Layout) -> list[Equation]:
    """Every row of the sketch: what entities are by nature, then each driving constraint in order."""
    out: list[Equation] = []
    for e in sketch.entities:
        if isinstance(e, Point) and e.source:
            out += [Equation("at", (i,), (layout.start[i],)) for i in layout.xy(e.id)]
        elif isinstance(e, Circle | Ellipse) and e.source:
            out.append(Equation("at", (layout.radius[e.id],), (layout.start[layout.radius[e.id]],)))
        elif isinstance(e, Arc):
            middle, r = layout.xy(e.centre), layout.radius[e.id]
            out += [_apart(INTRINSIC, layout, middle, layout.xy(p), (r, 1.0)) for p in (e.start, e.end)]
    shared = joined(sketch)
    for c in sketch.constraints:
        if not c.reference:
            out += lower(c, layout, shared)
    return out


def lower(c: Constraint, layout: Layout, shared: Mapping[str, str]) -> list[Equation]:
    """Rows of one constraint. Raises SketchError when it cannot be expressed."""
    return _LOWER[c.kind](c, layout, shared)


# each kind ---------------------------------------------------------------------------------------
def _same(c: Constraint, *pairs: tuple[int, int]) -> list[Equation]:
    return [Equation("same", pair, owner=c.id) for pair in pairs]


Radius = tuple[int, float]  # an unknown and its sign


def _apart(
    owner: str, at: Layout, a: tuple[int, int], b: tuple[int, int], *radii: Radius, coefficient: float = 0.0
) -> Equation:
    """Two centres apart by value * coefficient + signed radii."""
    (r, s), (r2, s2) = (*radii, (at.zero, 0.0), (at.zero, 0.0))[:2]
    return Equation("apart", (*a, *b, r, r2), (0.0, s, s2), (coefficient, 0.0, 0.0), owner)


def _off(
    owner: str, at: Layout, line: str, p: tuple[int, int], radius: Radius | None = None, coefficient: float = 0.0
) -> Equation:
    """A centre off a line by value * coefficient + signed radius."""
    r, s = radius or (at.zero, 0.0)
    return Equation("offset", (*at.line(line), *p, r), (0.0, s), (coefficient, 0.0), owner)


def _coincident(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    a, b = at.centre(c.of[0]), at.centre(c.of[1])
    return _same(c, (a[0], b[0]), (a[1], b[1]))


def _level(axis: int):
    def lower_level(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
        a, b = pair_of(c, at.sketch)
        return _same(c, (at.point[a] + axis, at.point[b] + axis))

    return lower_level


def _on(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    point, curve = at.xy(c.of[0]), at.sketch.by_id[c.of[1]]
    if isinstance(curve, Line):
        return [_off(c.id, at, curve.id, point)]
    if isinstance(curve, Ellipse):
        return [
            Equation("on_ellipse", (*at.xy(curve.centre), *at.xy(curve.major), at.radius[curve.id], *point), owner=c.id)
        ]
    return [_apart(c.id, at, at.centre(curve.id), point, (at.radius[curve.id], 1.0))]


def _midpoint(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    of = at.sketch.by_id[c.of[1]]
    if isinstance(of, Arc):  # on its circle, and as far from one end as from the other
        p, start, end = at.xy(c.of[0]), at.xy(of.start), at.xy(of.end)
        return [*_on(c, at, shared), Equation("equal", (*p, *start, *p, *end), owner=c.id)]
    ends = at.line(c.of[1]) if len(c.of) == 2 else (*at.xy(c.of[1]), *at.xy(c.of[2]))
    return [Equation("middle", (*ends, *at.xy(c.of[0])), owner=c.id)]


def _turn(c: Constraint, at: Layout, constant: float, coefficient: float = 0.0) -> Equation:
    return Equation("angle", (*at.line(c.of[0]), *at.line(c.of[1])), (constant,), (coefficient,), c.id)


def _parallel(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    return [_turn(c, at, 0.0 if c.side >= 0 else math.pi)]


def _perpendicular(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    return [_turn(c, at, math.pi / 2 if c.side >= 0 else -math.pi / 2)]


def _angle(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    return [_turn(c, at, math.pi if c.supplement else 0.0, c.sign * (1.0 if c.side >= 0 else -1.0))]


def _collinear(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    out = _parallel(c, at, shared)
    if shared_end(at.sketch, c.of[0], c.of[1], shared) is None:
        out.append(_off(c.id, at, c.of[0], at.line(c.of[1])[:2]))
    return out


def _tangent(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    a, b = c.of
    end = shared_end(at.sketch, a, b, shared)
    on = touching_end(at.sketch, a, b) if end is None else None
    # where an end touches, the angle there is regular; a distance would only just be met
    ends = (on, on) if on is not None else end
    side = 1.0 if c.side >= 0 else -1.0
    second = at.sketch.by_id[b]
    if at.sketch.by_id[a].kind == "line":
        if isinstance(second, Ellipse):
            unknowns = (*at.line(a), *at.xy(second.centre), *at.xy(second.major), at.radius[b])
            return [Equation("tangent_ellipse", unknowns, (side,), (0.0,), c.id)]
        if ends is not None:
            square = (*at.line(a), *at.centre(b), *at.xy(ends[1]))
            turn = side if end is not None else -side
            return [Equation("angle", square, (turn * math.pi / 2,), (0.0,), c.id)]
        return [_off(c.id, at, a, at.centre(b), (at.radius[b], side))]
    if ends is not None:
        in_line = (*at.centre(a), *at.xy(ends[0]), *at.centre(b), *at.xy(ends[1]))
        return [Equation("angle", in_line, (0.0 if side > 0 else math.pi,), (0.0,), c.id)]
    larger = 1.0 if radius_of(at.sketch, a) >= radius_of(at.sketch, b) else -1.0
    first, other = (1.0, 1.0) if side < 0 else (larger, -larger)
    return [_apart(c.id, at, at.centre(a), at.centre(b), (at.radius[a], first), (at.radius[b], other))]


def _equal(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    a, b = c.of
    if at.sketch.by_id[a].kind == "line":
        return [Equation("equal", (*at.line(a), *at.line(b)), owner=c.id)]
    return _same(c, (at.radius[a], at.radius[b]))


def _symmetric(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    first, second, axis = at.sketch.by_id[c.of[0]], at.sketch.by_id[c.of[1]], at.line(c.of[2])

    def mirror(p: str, q: str) -> Equation:
        return Equation("symmetric", (*at.xy(p), *at.xy(q), *axis), owner=c.id)

    if isinstance(first, Point):
        return [mirror(first.id, second.id)]
    if isinstance(first, Line) and isinstance(second, Line):
        images = (second.start, second.end) if c.side >= 0 else (second.end, second.start)
        return [mirror(first.start, images[0]), mirror(first.end, images[1])]
    if isinstance(first, Arc) and isinstance(second, Arc):  # a mirrored arc runs the other way
        return [mirror(first.centre, second.centre), mirror(first.start, second.end), mirror(first.end, second.start)]
    centres = mirror(first.centre, second.centre)  # type: ignore[union-attr]
    return [centres, *_same(c, (at.radius[first.id], at.radius[second.id]))]


def _fixed(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    return [Equation("at", (i,), (at.start[i],), owner=c.id) for i in at.xy(c.of[0])]


def _offset(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    a, b = c.of
    way = c.sign * (1.0 if c.side >= 0 else -1.0)
    if at.sketch.by_id[a].kind != "line":
        return [*_coincident(c, at, shared), Equation("shift", (at.radius[a], at.radius[b]), (0.0,), (way,), c.id)]
    other = at.line(b)
    return [_off(c.id, at, a, p, coefficient=way) for p in (other[:2], other[2:])]


def _distance(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    sketch = at.sketch
    if len(c.of) == 2 and sketch.by_id[c.of[0]].kind == "line":
        return [_from_line(c, at, 1.0)]
    a, b = pair_of(c, sketch)
    return [_apart(c.id, at, at.xy(a), at.xy(b), coefficient=1.0)]


def _from_line(c: Constraint, at: Layout, factor: float) -> Equation:
    other = at.sketch.by_id[c.of[1]]
    point = at.xy(other.start if isinstance(other, Line) else other.id)
    way = factor * c.sign * (1.0 if c.side >= 0 else -1.0)
    return _off(c.id, at, c.of[0], point, coefficient=way)


def _across(axis: int):
    def lower_across(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
        a, b = pair_of(c, at.sketch)
        way = c.sign * (1.0 if c.side >= 0 else -1.0)
        return [Equation("shift", (at.point[a] + axis, at.point[b] + axis), (0.0,), (way,), c.id)]

    return lower_across


def _near_far(far: bool):
    """Clear distance to the nearer side (d = gap + radii), or overall to the far side (d = gap - radii)."""
    toward = -1.0 if far else 1.0

    def lower_gap(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
        a, b = c.of
        if isinstance(at.sketch.by_id[a], Line):
            way = 1.0 if c.side >= 0 else -1.0
            return [_off(c.id, at, a, at.centre(b), (at.radius[b], way * toward), coefficient=way)]
        radii = [(at.radius[e], toward) for e in (a, b) if e in at.radius]
        return [_apart(c.id, at, at.centre(a), at.centre(b), *radii, coefficient=1.0)]

    return lower_gap


def _sized(factor: float):
    def lower_size(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
        return [Equation("value", (at.radius[c.of[0]],), (0.0,), (factor,), c.id)]

    return lower_size


def _arc_length(c: Constraint, at: Layout, shared: Mapping[str, str]) -> list[Equation]:
    e = at.sketch.by_id[c.of[0]]
    assert isinstance(e, Arc)
    unknowns = (*at.xy(e.centre), *at.xy(e.start), *at.xy(e.end), at.radius[e.id])
    return [Equation("arc_length", unknowns, (0.0,), (1.0,), c.id)]


_LOWER = {
    "coincident": _coincident, "concentric": _coincident, "on": _on, "midpoint": _midpoint, "horizontal": _level(1),
    "vertical": _level(0), "parallel": _parallel, "perpendicular": _perpendicular, "collinear": _collinear,
    "tangent": _tangent, "equal": _equal, "symmetric": _symmetric, "fixed": _fixed, "offset": _offset,
    "distance": _distance, "across_x": _across(0), "across_y": _across(1), "near": _near_far(False),
    "far": _near_far(True), "radius": _sized(1.0), "diameter": _sized(0.5), "angle": _angle,
    "across_axis": lambda c, at, shared: [_from_line(c, at, 0.5)], "arc_length": _arc_length,
}  # fmt: skip
