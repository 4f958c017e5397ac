"""Round and bevel a corner of lines and arcs; the sharp corner stays as a construction point, for dimensions to it.

The arc of a round of radius r has its centre where the curves r to the inner side of both meet: a line moved by r, an
arc of radius R -+ r about its own centre. Of two such places the one nearest to the corner is meant from which the
circle touches both curves within their length.
"""

from __future__ import annotations

import cmath
import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from lathed_solid.quantity.tolerances import LINEAR, ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, new_point, place, settle
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Round, Straight, shape
from lathed_solid.sketch.meetings import meetings
from lathed_solid.sketch.model import Arc, Entity, Line, Sketch, Spline
from lathed_solid.sketch.orient import joined, shared_ends
from lathed_solid.sketch.plane import parallel
from lathed_solid.sketch.regions import Region


@dataclass(frozen=True, slots=True)
class _Arm:
    """A line or an arc away from a corner at ``z``: its end there, and its direction ``u``.

    ``hand``: 1 where an arc's centre lies to the left of that, else -1.
    """

    curve: Straight | Round
    end: str
    z: complex
    u: complex
    hand: float

    def beside(self, off: float) -> Straight | Round | None:
        """The curve ``off`` mm to the left; None where an arc has no room for it."""
        s = self.curve
        if isinstance(s, Straight):
            return Straight(s.id, self.z + 1j * self.u * off, self.z + self.u * s.length + 1j * self.u * off)
        radius = s.radius - self.hand * off
        return Round(s.id, s.centre, radius, s.start, s.turn) if radius > ROUNDING else None

    def foot(self, centre: complex) -> complex:
        """Where a circle about ``centre`` touches this curve."""
        return self.curve.foot(centre)

    def way_to(self, place: complex) -> float:
        """How far a place on this curve lies from the corner, mm."""
        s = self.curve
        if isinstance(s, Straight):
            return (self.u.conjugate() * (place - self.z)).real
        turn = self.hand * cmath.phase((place - s.centre) / (self.z - s.centre))
        return turn % (2 * math.pi) * s.radius

    def at(self, way: float) -> complex:
        """The place so far from the corner."""
        s = self.curve
        if isinstance(s, Straight):
            return self.z + self.u * way
        return s.centre + (self.z - s.centre) * cmath.rect(1, self.hand * way / s.radius)


Arms = tuple[_Arm, _Arm]


#: two curves, and the end of the first that is their corner
Corner = tuple[str, str, str]


def corners_of(sketch: Sketch, picked: Iterable[str]) -> list[Corner]:
    """The corners that are meant by a pick: where two picked curves end in one point, and at each picked point."""
    shared = joined(sketch)
    curves = [c.id for c in sketch.curves if isinstance(c, Line | Arc) and not c.construction]
    names = [n for n in picked if n in sketch.by_id]
    found: list[Corner] = []
    for a, b in itertools.combinations([n for n in names if n in curves], 2):
        found += [(a, b, end) for end, _ in shared_ends(sketch, a, b, shared)]
    for n in names:
        if n in shared:
            there = [(c, p) for c in curves for p in sketch.by_id[c].points[-2:] if shared[p] == shared[n]]
            if len(there) == 2:
                found.append((there[0][0], there[1][0], there[0][1]))
    return list(dict.fromkeys(found))


def corners_round(sketch: Sketch, region: Region) -> list[Corner]:
    """The corners of a region's outlines where two lines or arcs end in one point."""
    shared = joined(sketch)
    found = []
    for loop in (region.outer, *region.holes):
        for one, two in zip(loop, (*loop[1:], loop[0]), strict=True):
            pair = (one.curve.id, two.curve.id)
            u, v = one.curve.along(one.t1), two.curve.along(two.t0)
            sharp = not parallel(u, v)
            for end, _ in shared_ends(sketch, *pair, shared) if sharp and pair[0] != pair[1] else ():
                if abs(complex(*sketch.at(end)) - two.start) < LINEAR:
                    found.append((*pair, end))
    return list(dict.fromkeys(found))


def fillet(
    sketch: Sketch, values: Values, a: str, b: str, radius: float, expression: str, *,
    at: str = "", like: str | None = None,
) -> Sketch:  # fmt: skip
    """Round the corner of two lines or arcs with an arc of ``radius`` mm; of two corners that at the end ``at``.

    Dimensioned by ``expression``, or equal to the arc ``like``. Raises SketchError where there is no such corner, or no
    room for the arc.
    """
    if not radius > 0:
        raise SketchError("the radius must be above zero", received=f"{radius:g}")
    draft, arms = _sharp(sketch, a, b, at)
    centre, (first, second) = _rolled(arms, radius)
    ccw = ((first - centre).conjugate() * (second - centre)).imag > 0
    start, end = (first, second) if ccw else (second, first)
    arc = draft.arc(new_point(draft, centre), new_point(draft, start), new_point(draft, end))
    e = draft.entities[arc]
    ends = (e.points[1], e.points[2]) if ccw else (e.points[2], e.points[1])
    _replace(draft, (a, b), arms, (first, second))
    for arm, arc_end in zip(arms, ends, strict=True):
        draft.add("coincident", arm.end, arc_end)
        draft.add("tangent", arm.curve.id, arc)
    if like is None:
        draft.add("radius", arc, value=expression)
    else:
        draft.add("equal", like, arc)
    return settle(draft, values, [a, b])


def fillets(sketch: Sketch, values: Values, corners: Sequence[Corner], radius: float, expression: str) -> Sketch:
    """Round several corners alike: the first is dimensioned, the others are equal to it. Raises as ``fillet``."""
    like = None
    for a, b, end in corners:
        sketch = fillet(sketch, values, a, b, radius, expression, at=end, like=like)
        like = like or next(c.id for c in reversed(sketch.curves) if isinstance(c, Arc))
    return sketch


def chamfer(
    sketch: Sketch, values: Values, a: str, b: str, legs: tuple[float, float], expressions: tuple[str, str],
    at: str = "",
) -> Sketch:  # fmt: skip
    """Cut the corner of two lines or arcs (of two corners that at the end ``at``) off by ``legs`` mm along each.

    Dimensioned by ``expressions``. On a line the leg is measured from the sharp corner along it; on an arc, straight to
    where the bevel ends.
    """
    if not min(legs) > 0:
        raise SketchError("the chamfer must be above zero", received=f"{min(legs):g}")
    draft, arms = _sharp(sketch, a, b, at)
    places = []
    for leg, arm in zip(legs, arms, strict=True):
        s = arm.curve
        chord = leg if isinstance(s, Straight) else 2 * s.radius * math.asin(min(1.0, leg / (2 * s.radius)))
        _room(chord, arm, f"a chamfer of {leg:g}")
        places.append(arm.at(chord))
    sharp = _replace(draft, (a, b), arms, (places[0], places[1]))
    cut = draft.line(new_point(draft, places[0]), new_point(draft, places[1]))
    e = draft.entities[cut]
    for arm, end, expression in zip(arms, e.points, expressions, strict=True):
        draft.add("coincident", arm.end, end)
        draft.add("distance", sharp, arm.end, value=expression)
    return settle(draft, values, [a, b])


def _sharp(sketch: Sketch, a: str, b: str, at: str) -> tuple[SketchBuilder, Arms]:
    """Draft, and the two curves away from their corner."""
    draft = SketchBuilder(sketch)
    if a == b or not all(isinstance(draft.entities.get(n), Line | Arc) for n in (a, b)):
        raise SketchError("a corner for this edit is where two lines or arcs end", received=f"{a}, {b}")
    both = shared_ends(sketch, a, b)
    ends = next((pair for pair in both if pair[0] == at), next(iter(both), None))
    if ends is None:
        raise SketchError(f"{a} and {b} do not end in one point", hint="make a corner of them first")
    z = place(draft, ends[0])
    one, two = (_arm(sketch, n, end, z) for n, end in zip((a, b), ends, strict=True))
    if abs((one.u.conjugate() * two.u).imag) < ROUNDING:
        raise SketchError("the two run smoothly on: there is no corner", received=f"{a}, {b}")
    return draft, (one, two)


def _arm(sketch: Sketch, name: str, end: str, z: complex) -> _Arm:
    s = shape(sketch, name)
    assert isinstance(s, Straight | Round)
    if s.length < ROUNDING:
        raise SketchError("a line of this corner has no length", received=name)
    at_start = sketch.by_id[name].points[-2] == end
    way = s.along(0) if at_start else -s.along(1)
    u = way / abs(way)
    hand = 1.0 if isinstance(s, Round) and (u.conjugate() * (s.centre - z)).imag > 0 else -1.0
    return _Arm(s, end, z, u, hand)


def _rolled(arms: Arms, radius: float) -> tuple[complex, tuple[complex, complex]]:
    """Centre of the circle that touches both within the corner, nearest to it, and where it touches."""
    one, two = arms
    side = math.copysign(radius, (one.u.conjugate() * two.u).imag)
    first, second = one.beside(side), two.beside(-side)
    found = [] if first is None or second is None else [
        z for _, _, z in meetings(first, second, ROUNDING, extended=True)
    ]  # fmt: skip
    found.sort(key=lambda c: abs(c - one.z))
    if not found:
        raise SketchError(f"R{radius:g} does not fit", where=one.curve.id, rule="no such arc touches both curves",
                          hint="a smaller size")  # fmt: skip
    fitting = [c for c in found if all(0 < arm.way_to(arm.foot(c)) < arm.curve.length for arm in arms)]
    for arm in arms if not fitting else ():
        _room(arm.way_to(arm.foot(found[0])), arm, f"R{radius:g}")
    if not fitting:
        raise SketchError(f"R{radius:g} does not fit", where=one.curve.id, hint="a smaller size")
    centre = fitting[0]
    return centre, (one.foot(centre), two.foot(centre))


def _room(need: float, arm: _Arm, what: str) -> None:
    s = arm.curve
    if need >= s.length:
        kind = "line" if isinstance(s, Straight) else "arc"
        raise SketchError(
            f"{what} does not fit", where=s.id, rule=f"it takes {need:.4g} mm of a {kind} of {s.length:.4g} mm",
            hint="a smaller size",
        )  # fmt: skip


def _with_points(e: Entity, old: set[str], new: str) -> Entity:
    """An entity that stood on the old corner stands on the sharp one from now on."""
    update = {k: new for k in ("start", "end", "centre", "major", "at") if getattr(e, k, None) in old}
    if isinstance(e, Spline):
        return e.model_copy(update={"through": tuple(new if p in old else p for p in e.through)})
    return e.model_copy(update=update)


def _symmetry_of_ends(draft: SketchBuilder, lines: tuple[str, ...]) -> None:
    """Lines that are mirror images keep this of their (sharp) ends, for one of them gets shorter now."""
    for i, c in list(draft.constraints.items()):
        if c.kind != "symmetric" or draft.entities[c.of[0]].kind != "line" or not set(c.of[:2]) & set(lines):
            continue
        first, second = (draft.entities[n].points for n in c.of[:2])
        del draft.constraints[i]
        for p, q in zip(first, second if c.side >= 0 else second[::-1], strict=True):
            draft.add("symmetric", p, q, c.of[2])


def _replace(draft: SketchBuilder, curves: tuple[str, str], arms: Arms, new: tuple[complex, complex]) -> str:
    """Shorten the curves to ``new`` ends; constraints on the old corner go over to a point kept where it was."""
    ends = (arms[0].end, arms[1].end)
    sharp = new_point(draft, arms[0].z, construction=True)
    old = set(ends)
    apart = [c for c in draft.constraints.values() if c.kind == "coincident" and set(c.of) == old]
    for c in apart:
        del draft.constraints[c.id]
    lines = tuple(n for n in curves if isinstance(draft.entities[n], Line))
    _symmetry_of_ends(draft, lines)
    for i, c in list(draft.constraints.items()):
        if c.kind in ("distance", "across_x", "across_y") and len(c.of) == 1 and c.of[0] in lines:
            c = c.model_copy(update={"of": draft.entities[c.of[0]].points})
            draft.constraints[i] = c
        elif c.kind == "midpoint" and len(c.of) == 2 and c.of[1] in lines:
            # the middle of what the line was up to the sharp corner
            c = c.model_copy(update={"of": (c.of[0], *draft.entities[c.of[1]].points)})
            draft.constraints[i] = c
        elif c.kind == "equal" and set(c.of) & set(lines):
            # the lines up to their sharp corners stay equal
            c = c.model_copy(update={"of": tuple(_whole(draft, n) if n in lines else n for n in c.of)})
            draft.constraints[i] = c
        if old & set(c.of):
            of = tuple(sharp if n in old else n for n in c.of)
            if len(set(of)) == len(of):
                draft.constraints[i] = c.model_copy(update={"of": of})
            else:
                del draft.constraints[i]
    for name, other in list(draft.entities.items()):
        if other.kind != "point" and name not in curves and old & set(other.points):
            draft.entities[name] = _with_points(other, old, sharp)
    for arm, z_new in zip(arms, new, strict=True):
        e = draft.entities[arm.end]
        draft.entities[arm.end] = e.model_copy(update={"x": z_new.real, "y": z_new.imag})
        draft.add("on", sharp, arm.curve.id)
    return sharp


def _whole(draft: SketchBuilder, line: str) -> str:
    """A construction line over the whole of a line that is about to be shortened."""
    start, end = draft.entities[line].points
    same = (e.id for e in draft.entities.values() if e.id != line and e.kind == "line" and e.points == (start, end))
    return next(same, None) or draft.line(start, end, construction=True)
