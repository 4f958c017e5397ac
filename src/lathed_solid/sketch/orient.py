"""Orientation: which of its discrete solutions a constraint means, read from the figure as it is drawn.

Sides are read once, when a constraint is made, and kept; which ends are one point is read from the coincidences.
"""

from __future__ import annotations

from collections.abc import Mapping

from lathed_solid.sketch.model import Arc, Circle, Constraint, Entity, Line, Point, Sketch
from lathed_solid.sketch.plane import mirrored


def joined(sketch: Sketch) -> dict[str, str]:
    """Each point's representative under the coincidences."""
    leader: dict[str, str] = {}

    def find(p: str) -> str:
        while leader.get(p, p) != p:
            p = leader[p]
        return p

    for c in sketch.constraints:
        if c.kind == "coincident" and not c.reference:
            leader[find(c.of[0])] = find(c.of[1])
    return {p.id: find(p.id) for p in sketch.points}


def shared_end(sketch: Sketch, a: str, b: str, shared: Mapping[str, str] | None = None) -> tuple[str, str] | None:
    """The end of ``a`` and the end of ``b`` that are one point, if there is such a pair; the first of two."""
    return next(iter(shared_ends(sketch, a, b, shared)), None)


def shared_ends(sketch: Sketch, a: str, b: str, shared: Mapping[str, str] | None = None) -> list[tuple[str, str]]:
    """Every end of ``a`` and end of ``b`` that are one point: two pairs where the curves close up."""
    together = shared if shared is not None else joined(sketch)
    first, second = sketch.by_id[a], sketch.by_id[b]
    return [(p, q) for p in _ends(first) for q in _ends(second) if together[p] == together[q]]


def touching_end(sketch: Sketch, a: str, b: str) -> str | None:
    """The end of one of two curves that is said to lie on the other, if there is one."""
    return sketch.ends_on.get((a, b)) or sketch.ends_on.get((b, a))


def _ends(e: object) -> tuple[str, ...]:
    return (e.start, e.end) if isinstance(e, Line | Arc) else ()


def line_first(a: Entity, b: Entity) -> tuple[str, str]:
    """Two curves as a tangency names them: a line before a round one."""
    return (b.id, a.id) if isinstance(b, Line) else (a.id, b.id)


def oriented(sketch: Sketch, c: Constraint) -> Constraint:
    """``c`` with its side read from the figure, where the kind has sides and none is set."""
    if c.side:
        return c
    measure = _SIDED.get(c.kind)
    side = measure(sketch, c) if measure else 0
    return c.model_copy(update={"side": side}) if side else c


# the figure as it is drawn ------------------------------------------------------------------
def _at(sketch: Sketch, p: str) -> complex:
    return complex(*sketch.at(p))


def _direction(sketch: Sketch, line: str) -> complex:
    e = sketch.by_id[line]
    assert isinstance(e, Line)
    return _at(sketch, e.end) - _at(sketch, e.start)


def _height(sketch: Sketch, line: str, at: complex) -> float:
    """Signed distance (times the line's length) of a position from a line."""
    e = sketch.by_id[line]
    assert isinstance(e, Line)
    return ((_direction(sketch, line)).conjugate() * (at - _at(sketch, e.start))).imag


def radius_of(sketch: Sketch, name: str) -> float:
    """Of a circle or an arc, mm; half the short axis of an ellipse."""
    e = sketch.by_id[name]
    if isinstance(e, Arc):
        return abs(_at(sketch, e.start) - _at(sketch, e.centre))
    return e.radius if isinstance(e, Circle) else e.minor  # type: ignore[union-attr]


def middle(sketch: Sketch, name: str) -> complex:
    """A position that stands for an entity: a point itself, a line's start, a round one's centre."""
    e = sketch.by_id[name]
    if isinstance(e, Point):
        return complex(e.x, e.y)
    return _at(sketch, e.start if isinstance(e, Line) else e.centre)  # type: ignore[union-attr]


def _sign(x: float) -> int:
    return 1 if x >= 0 else -1


def pair_of(c: Constraint, sketch: Sketch) -> tuple[str, str]:
    """The two points of a constraint on two points or on one line."""
    if len(c.of) == 2:
        return c.of[0], c.of[1]
    e = sketch.by_id[c.of[0]]
    assert isinstance(e, Line)
    return e.start, e.end


def _side_angle(sketch: Sketch, c: Constraint) -> int:
    turn = _direction(sketch, c.of[0]).conjugate() * _direction(sketch, c.of[1])
    if c.supplement:
        turn = -turn
    return _sign(turn.real if c.kind in ("parallel", "collinear") else turn.imag)


def _side_line(sketch: Sketch, c: Constraint) -> int:
    if c.kind == "offset" and sketch.by_id[c.of[0]].kind != "line":
        return _sign(radius_of(sketch, c.of[1]) - radius_of(sketch, c.of[0]))
    if sketch.by_id[c.of[0]].kind != "line" or len(c.of) == 1:
        return 0
    return _sign(_height(sketch, c.of[0], middle(sketch, c.of[1])))


def _side_across(sketch: Sketch, c: Constraint) -> int:
    a, b = pair_of(c, sketch)
    d = _at(sketch, b) - _at(sketch, a)
    return _sign(d.real if c.kind == "across_x" else d.imag)


def _side_symmetric(sketch: Sketch, c: Constraint) -> int:
    """For two lines: whether the start of one is the image of the other's start (+1) or of its end (-1)."""
    if sketch.by_id[c.of[0]].kind != "line":
        return 0
    (a, _), (s, e) = (sketch.by_id[n].points for n in c.of[:2])
    foot, axis = middle(sketch, c.of[2]), _direction(sketch, c.of[2])
    image = mirrored(_at(sketch, a), foot, foot + axis) if axis else _at(sketch, a)
    return 1 if abs(_at(sketch, s) - image) <= abs(_at(sketch, e) - image) else -1


def _side_tangent(sketch: Sketch, c: Constraint) -> int:
    a, b = c.of
    end = shared_end(sketch, a, b)
    if sketch.by_id[a].kind == "line":
        if end is None:
            return _sign(_height(sketch, a, middle(sketch, b)))
        radial = _at(sketch, end[1]) - middle(sketch, b)
        return _sign((_direction(sketch, a).conjugate() * radial).imag)
    if end is not None:
        first, second = _at(sketch, end[0]) - middle(sketch, a), _at(sketch, end[1]) - middle(sketch, b)
        return _sign((first.conjugate() * second).real)
    apart = abs(middle(sketch, a) - middle(sketch, b))
    r, s = radius_of(sketch, a), radius_of(sketch, b)
    return -1 if abs(apart - r - s) <= abs(apart - abs(r - s)) else 1  # -1 outside, +1 one in the other


_SIDED = {
    "parallel": _side_angle, "perpendicular": _side_angle, "angle": _side_angle, "distance": _side_line,
    "offset": _side_line, "near": _side_line, "far": _side_line, "across_axis": _side_line,
    "symmetric": _side_symmetric, "across_x": _side_across, "across_y": _side_across, "tangent": _side_tangent,
    "collinear": _side_angle,
}  # fmt: skip
