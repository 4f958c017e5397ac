"""The sides of a body as a drawing shows them, whole or cut; and how the part stands."""

from __future__ import annotations

from collections.abc import Iterable
from functools import cache

from lathed_solid.kernel.drawing.centre_lines import axes, round_faces, thread_lines
from lathed_solid.kernel.drawing.cut_away import cut_away
from lathed_solid.kernel.drawing.figures import Curve, Half, Place, Projected, Stood, ThreadLine, Wanted, points_of
from lathed_solid.kernel.drawing.flat import FLATS, Flat
from lathed_solid.kernel.drawing.hidden_lines import hidden_lines
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.parts import Parts
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.topology import box
from lathed_solid.kernel.vectors import Triple, dot, minus, times
from lathed_solid.quantity.tolerances import ANGULAR

#: a part is turned when its widest round face is so much of its width, and in its middle (mm)
ROUND, MIDDLE = 0.7, 1e-3
#: it is bored when hollow faces about its axis reach along this share of it
BORED = 0.4
#: what is cut of a side that is not
_WHOLE: tuple[tuple[Place, ...], ...] = ()
#: faces about one axis are so near to it, mm
NEAR = 1e-4


def projected(body: Body, parts: Parts, wanted: Iterable[Wanted]) -> tuple[Projected, ...]:
    """The sides that are wanted. Raises MeasureError when one cannot be cut open."""
    turned = round_faces(body)
    whole = cache(lambda: hidden_lines(body.shape))
    out = []
    for want in wanted:
        flat = FLATS[want.side]
        if want.cut is None:
            along, hatched = whole(), _WHOLE
        else:
            rest, hatched = cut_away(body.shape, flat, want.cut, want.half)
            along = hidden_lines(rest)
        seen, hidden = along(flat.eye, flat.right)
        lines, crosses = axes(turned, flat)
        threads = tuple(thread_lines(parts, body, flat))
        if want.half:
            seen, threads = _halved(seen, threads, want.half, _middle(body, flat))
        out.append(Projected(want.side, want.cut, seen, hidden, lines, crosses, threads, hatched, want.half))
    return tuple(out)


def _middle(body: Body, flat: Flat) -> Place:
    low, high = box(body.shape)
    x, y, z = ((a + b) / 2 for a, b in zip(low, high, strict=True))
    return flat.of((x, y, z))


def _halved(
    seen: Iterable[Curve], threads: Iterable[ThreadLine], half: Half, middle: Place
) -> tuple[tuple[Curve, ...], tuple[ThreadLine, ...]]:
    """What a half section shows: its halves meet at the axis and not at a line (ISO 128-3), and a thread within the
    material is seen in the half that is cut.
    """
    k, way = (1, -1.0) if half == "low" else (0, 1.0)

    def beyond(c: Curve) -> list[float]:
        return [way * (p[k] - middle[k]) for p in points_of(c)]

    rest = tuple(c for c in seen if max(map(abs, beyond(c))) > NEAR)
    return rest, tuple(t for t in threads if not t.inside or min(beyond(t.curve)) > -NEAR)


def stood(body: Body) -> Stood:
    """The part's box, and the axis of a turned one."""
    low, high = box(body.shape)
    outer = [s for s in round_faces(body) if not hollow(s)]
    for s in sorted(outer, key=lambda s: -_widest(s)):
        found = [k for k in range(3) if abs(s.direction[k]) > 1 - ANGULAR]
        if not found:
            continue
        k = found[0]
        across = [high[i] - low[i] for i in range(3) if i != k]
        off = [abs(high[i] + low[i] - 2 * s.origin[i]) for i in range(3) if i != k]
        if 2 * _widest(s) > ROUND * max(across) and max(off) < MIDDLE:
            axis: Triple = (float(k == 0), float(k == 1), float(k == 2))
            return Stood(low, high, axis, _bored(body, s, axis) > BORED * (high[k] - low[k]))
    return Stood(low, high)


def _widest(s: Surface) -> float:
    return max((r for _, _, r in s.circles), default=s.radius)


def _bored(body: Body, outer: Surface, axis: Triple) -> float:
    """How far hollow faces about an axis reach along it, mm."""
    reaches = []
    for s in round_faces(body):
        away = minus(s.origin, outer.origin)
        off = minus(away, times(axis, dot(away, axis)))
        if abs(dot(s.direction, axis)) > 1 - ANGULAR and dot(off, off) < NEAR * NEAR and hollow(s):
            reaches.append(s.extent(axis))
    return sum(b - a for a, b in reaches)
