"""A region's outline offset inwards (or outwards) as one closed outline, linked to the curves that bound the region.

The outer loop runs counter-clockwise, so inwards is to the left of each piece. Where two pieces meet in a corner, their
offset curves end in their own meeting nearest to it; where they run smoothly on, the offset curves touch there.
"""

from __future__ import annotations

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE_READ, ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, new_point, settle
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Round, Straight, meetings
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.plane import xy
from lathed_solid.sketch.regions import Loop, Piece, Region, contains


def inset(sketch: Sketch, values: Values, region: Region, distance: float, expression: str) -> Sketch:
    """The outer loop of ``region`` by ``distance`` mm inwards (negative: outwards), each curve held at ``expression``.

    Raises SketchError where a curve cannot be offset, has no room for it, or no longer meets its neighbour.
    """
    if distance == 0:
        raise SketchError("an offset needs a distance", received="0")
    loop = region.outer
    moved = [_beside(p, distance) for p in loop]
    draft = SketchBuilder(sketch)
    text = expression.removeprefix("-")
    if len(loop) == 1:  # a circle
        s = moved[0]
        assert isinstance(s, Round)
        made = draft.circle(new_point(draft, s.centre), s.radius)
        draft.add("offset", loop[0].curve.id, made, value=text)
        return settle(draft, values, [made])
    joints = [_joint(loop[i - 1], moved[i - 1], loop[i], moved[i], loop, distance) for i in range(len(loop))]
    names = []
    for i, (piece, s) in enumerate(zip(loop, moved, strict=True)):
        start, end = joints[i], joints[(i + 1) % len(loop)]
        _check_run(piece, s, start, end)
        names.append(_drawn(draft, piece, s, start, end))
    smooth = [_smooth(loop[i - 1], loop[i]) for i in range(len(loop))]
    for i, name in enumerate(names):
        before = names[i - 1]
        draft.add("coincident", _end(draft, before, loop[i - 1], last=True), _end(draft, name, loop[i], last=False))
        if smooth[i] and not isinstance(moved[i], Straight):
            draft.add("tangent", before, name)
        elif smooth[i] and not isinstance(moved[i - 1], Straight):
            draft.add("tangent", name, before)
    for i, (piece, name) in enumerate(zip(loop, names, strict=True)):
        ends = [k for k in (0, 1) if not smooth[(i + k) % len(loop)]]
        if not isinstance(moved[i], Straight) or len(ends) == 2:
            draft.add("offset", piece.curve.id, name, value=text)
        else:  # where it runs on smoothly, the tangency holds its distance already
            for k in ends:
                draft.add("distance", piece.curve.id, _end(draft, name, piece, last=bool(k)), value=text)
    return settle(draft, values, names)


def _beside(piece: Piece, distance: float) -> Straight | Round:
    s, way = piece.curve, distance if piece.t1 > piece.t0 else -distance
    if isinstance(s, Straight):
        shift = 1j * (s.b - s.a) / max(abs(s.b - s.a), NOTHING) * way
        return Straight(s.id, s.a + shift, s.b + shift)
    if not isinstance(s, Round):
        raise SketchError("lines, circles and arcs can be offset", where=s.id)
    if s.radius - way <= ROUNDING:
        raise SketchError("the offset is larger than a radius", where=s.id, rule=f"the radius is {s.radius:g} mm")
    return Round(s.id, s.centre, s.radius - way, s.start, s.turn)


def _joint(
    one: Piece, first: Straight | Round, two: Piece, second: Straight | Round, loop: Loop, distance: float
) -> complex:
    corner = two.start
    if _smooth(one, two):
        return _foot(second, corner)
    found = [z for _, _, z in meetings(first, second, ROUNDING, extended=True)]
    if not found:
        raise SketchError(
            f"beside {one.curve.id} and {two.curve.id} the offset curves do not meet", hint="a smaller distance"
        )
    # in a cusp both meetings are as near: the one on the side that is offset to is meant
    return min(found, key=lambda z: (contains(loop, z) != (distance > 0), abs(z - corner)))


def _foot(s: Straight | Round, z: complex) -> complex:
    if isinstance(s, Straight):
        u = (s.b - s.a) / abs(s.b - s.a)
        return s.a + u * (u.conjugate() * (z - s.a)).real
    return s.centre + (z - s.centre) / abs(z - s.centre) * s.radius


def _along(piece: Piece, t: float) -> complex:
    return piece.curve.along(t) * (1 if piece.t1 > piece.t0 else -1)


def _smooth(one: Piece, two: Piece) -> bool:
    u, v = _along(one, one.t1), _along(two, two.t0)
    straight = isinstance(one.curve, Straight) and isinstance(two.curve, Straight)
    turn = u.conjugate() * v
    return not straight and turn.real > 0 and abs(turn.imag) < RELATIVE_READ * abs(u) * abs(v)


def _check_run(piece: Piece, s: Straight | Round, start: complex, end: complex) -> None:
    """A piece that would run backwards has been eaten up by its neighbours."""
    way = end - start
    if isinstance(s, Straight) and (way.conjugate() * _along(piece, piece.t0)).real <= 0:
        raise SketchError("the offset leaves nothing of a line", where=piece.curve.id, hint="a smaller distance")


def _drawn(draft: SketchBuilder, piece: Piece, s: Straight | Round, start: complex, end: complex) -> str:
    if isinstance(s, Straight):
        return draft.segment(xy(start), xy(end))
    ends = (start, end) if piece.t1 > piece.t0 else (end, start)
    return draft.arc(*(new_point(draft, z) for z in (s.centre, *ends)))


def _end(draft: SketchBuilder, name: str, piece: Piece, *, last: bool) -> str:
    """The point of a made curve where the loop leaves it, or comes to it."""
    first, second = draft.entities[name].points[-2:]
    backwards = isinstance(piece.curve, Round) and piece.t1 < piece.t0
    return second if last != backwards else first
