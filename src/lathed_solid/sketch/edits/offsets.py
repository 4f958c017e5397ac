"""Curves beside others, linked to them: a chain of curves to one side, and a region's outline inwards or outwards.

The outer loop of a region runs counter-clockwise, so inwards is to the left of each piece. Where two pieces meet in a
corner, their offset curves end in their own meeting nearest to it; where they run smoothly on, the offset curves touch
there, and the tangency holds the distance of a line already.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, new_point, settle
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Round, Shape, Straight, shape
from lathed_solid.sketch.meetings import meetings
from lathed_solid.sketch.model import Circle, Ellipse, Line, Sketch
from lathed_solid.sketch.orient import joined, line_first, shared_end, shared_ends
from lathed_solid.sketch.plane import parallel, xy
from lathed_solid.sketch.regions import Loop, Piece, Region, contains


def offset(sketch: Sketch, values: Values, names: Iterable[str], distance: float, expression: str) -> Sketch:
    """A linked offset of a chain of lines and arcs (or circles), to the left of the first for positive ``distance``."""
    draft = SketchBuilder(sketch)
    names = list(names)
    if not names or distance == 0:
        raise SketchError("an offset needs curves and a distance", received=f"{distance:g}")
    shared = joined(sketch)
    shapes, forward = {n: shape(sketch, n) for n in names}, _directions(sketch, shared, names)
    shifted = {n: _beside(s, distance if forward[n] else -distance) for n, s in shapes.items()}
    ends = {n: [shifted[n].at(0), shifted[n].at(1)] for n in names}
    joints: list[tuple[str, int, str, int]] = []
    for i, a in enumerate(names):
        for b in names[i + 1 :]:
            for joint in shared_ends(sketch, a, b, shared):
                ka, kb = (int(p == draft.entities[n].points[-1]) for n, p in zip((a, b), joint, strict=True))
                found = [z for _, _, z in meetings(shifted[a], shifted[b], ROUNDING, extended=True)] or [ends[a][ka]]
                z = min(found, key=lambda z, a=a, ka=ka: abs(z - ends[a][ka]))  # type: ignore[misc]
                ends[a][ka] = ends[b][kb] = z
                joints.append((a, ka, b, kb))
    made: dict[str, str] = {}
    for n in names:
        e, s = draft.entities[n], shifted[n]
        if isinstance(e, Line):
            made[n] = draft.segment(xy(ends[n][0]), xy(ends[n][1]), construction=e.construction)
        elif isinstance(s, Round) and isinstance(e, Circle):
            made[n] = draft.circle(draft.point(*xy(s.centre)), s.radius, construction=e.construction)
        else:
            assert isinstance(s, Round) and not isinstance(e, Ellipse)
            points = [draft.point(*xy(z)) for z in (s.centre, *ends[n])]
            made[n] = draft.arc(*points, construction=e.construction)
    smooth: set[tuple[str, int]] = set()
    for a, ka, b, kb in joints:
        p, q = draft.entities[made[a]].points[-2:][ka], draft.entities[made[b]].points[-2:][kb]
        draft.add("coincident", p, q)
        if _run_on(shapes[a], ka, shapes[b], kb):
            draft.add("tangent", *line_first(draft.entities[made[b]], draft.entities[made[a]]))
            smooth |= {(a, ka), (b, kb)}
    for n in names:
        sharp = [p for k, p in enumerate(draft.entities[made[n]].points[-2:]) if (n, k) not in smooth]
        _hold(draft, n, made[n], sharp, expression)
    return settle(draft, values, made.values())


def _directions(sketch: Sketch, shared: Mapping[str, str], names: list[str]) -> dict[str, bool]:
    """Whether each curve runs with the chain, which runs as its first curve does."""
    out = {names[0]: True}
    todo = [names[0]]
    while todo:
        a = todo.pop()
        for b in names:
            if b in out:
                continue
            joint = shared_end(sketch, a, b, shared)
            if joint is not None:
                leaves = joint[0] == sketch.by_id[a].points[-1]
                enters = joint[1] == sketch.by_id[b].points[-2]
                out[b] = out[a] if leaves == enters else not out[a]
                todo.append(b)
    for n in names:
        out.setdefault(n, True)
    return out


def inset(sketch: Sketch, values: Values, region: Region, distance: float, expression: str) -> Sketch:
    """The outer loop of ``region`` by ``distance`` mm inwards (negative: outwards), each curve held at ``expression``.

    Raises SketchError where a curve cannot be offset, has no room for it, or no longer meets its neighbour.
    """
    if distance == 0:
        raise SketchError("an offset needs a distance", received="0")
    loop = region.outer
    moved = [_beside(p.curve, distance if _forward(p) else -distance) for p in loop]
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
        if smooth[i]:
            draft.add("tangent", *line_first(draft.entities[before], draft.entities[name]))
    for i, (piece, name) in enumerate(zip(loop, names, strict=True)):
        sharp = [_end(draft, name, piece, last=bool(k)) for k in (0, 1) if not smooth[(i + k) % len(loop)]]
        _hold(draft, piece.curve.id, name, sharp, text)
    return settle(draft, values, names)


def _joint(
    one: Piece, first: Straight | Round, two: Piece, second: Straight | Round, loop: Loop, distance: float
) -> complex:
    corner = two.start
    if _smooth(one, two):
        return second.foot(corner)
    found = [z for _, _, z in meetings(first, second, ROUNDING, extended=True)]
    if not found:
        raise SketchError(
            f"beside {one.curve.id} and {two.curve.id} the offset curves do not meet", hint="a smaller distance"
        )
    # in a cusp both meetings are as near: the one on the side that is offset to is meant
    return min(found, key=lambda z: (contains(loop, z) != (distance > 0), abs(z - corner)))


def _forward(piece: Piece) -> bool:
    """Whether the loop runs along this piece as the curve itself does."""
    return piece.t1 > piece.t0


def _along(piece: Piece, t: float) -> complex:
    return piece.curve.along(t) * (1 if _forward(piece) else -1)


def _smooth(one: Piece, two: Piece) -> bool:
    """Whether one runs on into the other; in a cusp it turns back."""
    ahead = (_along(one, one.t1).conjugate() * _along(two, two.t0)).real > 0
    return ahead and _run_on(one.curve, one.t1, two.curve, two.t0)


def _check_run(piece: Piece, s: Straight | Round, start: complex, end: complex) -> None:
    """A piece that would run backwards has been eaten up by its neighbours."""
    way = end - start
    if isinstance(s, Straight) and (way.conjugate() * _along(piece, piece.t0)).real <= 0:
        raise SketchError("the offset leaves nothing of a line", where=piece.curve.id, hint="a smaller distance")


def _drawn(draft: SketchBuilder, piece: Piece, s: Straight | Round, start: complex, end: complex) -> str:
    if isinstance(s, Straight):
        return draft.segment(xy(start), xy(end))
    ends = (start, end) if _forward(piece) else (end, start)
    return draft.arc(*(new_point(draft, z) for z in (s.centre, *ends)))


def _end(draft: SketchBuilder, name: str, piece: Piece, *, last: bool) -> str:
    """The point of a made curve where the loop leaves it, or comes to it."""
    first, second = draft.entities[name].points[-2:]
    backwards = isinstance(piece.curve, Round) and not _forward(piece)
    return second if last != backwards else first


def _beside(s: Shape, distance: float) -> Straight | Round:
    """The curve ``distance`` mm to the left of another as that runs. Raises SketchError where there is none."""
    if isinstance(s, Straight):
        if s.length < ROUNDING:
            raise SketchError("a line of no length has no side", where=s.id, hint="leave it out")
        shift = 1j * (s.b - s.a) / s.length * distance
        return Straight(s.id, s.a + shift, s.b + shift)
    if not isinstance(s, Round):
        raise SketchError("lines, circles and arcs can be offset", where=s.id)
    radius = s.radius - distance  # left of a counter-clockwise arc is its inside
    if radius <= ROUNDING:
        raise SketchError("the offset is larger than a radius", where=s.id, rule=f"the radius is {s.radius:g} mm")
    return Round(s.id, s.centre, radius, s.start, s.turn)


def _run_on(a: Shape, t: float, b: Shape, u: float) -> bool:
    """Whether two curves are tangent at these parameters, one of them round."""
    straight = isinstance(a, Straight) and isinstance(b, Straight)
    return not straight and parallel(a.along(t), b.along(u))


def _hold(draft: SketchBuilder, source: str, made: str, sharp: Sequence[str], text: str) -> None:
    """A made curve at its distance; ``sharp``: its ends that do not run smoothly on, where nothing else holds it."""
    if not isinstance(draft.entities[made], Line) or len(sharp) == 2:
        draft.add("offset", source, made, value=text)
    else:
        for end in sharp:
            draft.add("distance", source, end, value=text)
