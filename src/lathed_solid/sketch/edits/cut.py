"""Trim, extend, corner, break."""

from __future__ import annotations

from lathed_solid.quantity.tolerances import LINEAR, RELATIVE, ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, kept, new_point, place, put, renamed, settle, together
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Shape, shape
from lathed_solid.sketch.meetings import meetings
from lathed_solid.sketch.model import Arc, Circle, Line, Sketch


def _curve(sketch: Sketch, name: str) -> Shape:
    if name not in sketch.by_id:
        raise SketchError(f"there is no {name} in the sketch")
    e = sketch.by_id[name]
    if not isinstance(e, Line | Circle | Arc):
        raise SketchError(f"a {e.kind} cannot be cut", hint="lines, circles and arcs can")
    if e.source:
        raise SketchError(f"{name} is projected from outside geometry", hint="draw over it")
    return shape(sketch, name)


def _cuts(sketch: Sketch, name: str, curve: Shape) -> list[tuple[float, complex, str]]:
    """Where other curves meet this one: (t, place, other), in order."""
    reach = 1e-7 * max(curve.length, LINEAR)
    found = []
    for other in sketch.curves:
        if other.id != name:
            found += [(t, z, other.id) for t, _, z in meetings(curve, shape(sketch, other.id), reach)]
    return sorted(found, key=lambda f: f[0])


def trim(sketch: Sketch, values: Values, name: str, at: complex) -> Sketch:
    """Take away the part of a curve around ``at``, up to the nearest curves that meet it."""
    curve = _curve(sketch, name)
    t = curve.find(at)
    slack = ROUNDING
    cuts = _cuts(sketch, name, curve)
    draft = SketchBuilder(sketch)
    if curve.closed and not isinstance(sketch.by_id[name], Circle):
        raise SketchError("an arc whose ends are one place cannot be trimmed", where=name, hint="draw a circle instead")
    if curve.closed:
        if len({round(c[0], 9) for c in cuts}) < 2:
            draft.remove(name)
            return draft.done()
        last = next((c for c in reversed(cuts) if c[0] <= t), cuts[-1])
        first = next((c for c in cuts if c[0] > t), cuts[0])
        return _opened(draft, values, name, first, last)
    lower = [c for c in cuts if slack < c[0] <= t]
    upper = [c for c in cuts if t < c[0] < 1 - slack]
    before, after = (lower[-1] if lower else None), (upper[0] if upper else None)
    if before is None and after is None:
        draft.remove(name)
        return draft.done()
    touched = [name]
    if before is not None and after is not None:
        second = _second_half(draft, name, after)
        touched.append(second)
    if before is not None:
        _new_end(draft, name, "end", before)
    else:
        assert after is not None
        _new_end(draft, name, "start", after)
    return settle(draft, values, touched)


def _meet(draft: SketchBuilder, point: str, z: complex, other: str) -> None:
    """Tie a new end to the curve it ends on: to its end point where that is the place."""
    e = draft.entities[other]
    for q in e.points[-2:] if isinstance(e, Line | Arc) else ():
        if abs(place(draft, q) - z) < RELATIVE * max(1.0, abs(z)):
            draft.add("coincident", point, q)
            return
    if e.kind in ("line", "circle", "arc", "ellipse"):
        draft.add("on", point, other)


def _new_end(draft: SketchBuilder, name: str, which: str, cut: tuple[float, complex, str]) -> str:
    """Give a curve a new end at a cut; the old end point stays if anything else uses it."""
    e = draft.entities[name]
    old = getattr(e, which)
    point = new_point(draft, cut[1])
    draft.entities[name] = e.model_copy(update={which: point})
    _meet(draft, point, cut[1], cut[2])
    if not any(old in o.points for o in draft.entities.values() if o.kind != "point"):
        draft.remove(old)
    return point


def _second_half(draft: SketchBuilder, name: str, cut: tuple[float, complex, str]) -> str:
    """The far part of a curve as one of its own, keeping the far end's ties."""
    e = draft.entities[name]
    point = new_point(draft, cut[1])
    assert isinstance(e, Line | Arc)
    if isinstance(e, Line):
        second = draft.line(point, e.end, construction=e.construction)
        draft.entities[name] = e.model_copy(update={"end": new_point(draft, cut[1])})
        draft.add("collinear", name, second)
    else:
        second = draft.arc(e.centre, point, e.end, construction=e.construction)
        draft.entities[name] = e.model_copy(update={"end": new_point(draft, cut[1])})
        draft.add("equal", name, second)
    _meet(draft, point, cut[1], cut[2])
    return second


def _opened(
    draft: SketchBuilder, values: Values, name: str, first: tuple[float, complex, str], last: tuple[float, complex, str]
) -> Sketch:
    """A circle becomes the arc from ``first`` to ``last``."""
    e = draft.entities[name]
    assert isinstance(e, Circle)
    start, end = new_point(draft, first[1]), new_point(draft, last[1])
    arc = draft.arc(e.centre, start, end, construction=e.construction)
    renamed(draft, name, arc)
    del draft.entities[name]
    _meet(draft, start, first[1], first[2])
    _meet(draft, end, last[1], last[2])
    return settle(draft, values, [arc])


def extend(sketch: Sketch, values: Values, name: str, near: complex, to: str) -> Sketch:
    """Lengthen the end of a line or arc nearest to ``near`` until it meets the curve ``to``."""
    curve, target = _curve(sketch, name), shape(sketch, to)
    if curve.closed:
        raise SketchError("a circle has no end to extend", where=name)
    draft = SketchBuilder(sketch)
    e = draft.entities[name]
    at_end = abs(curve.at(1) - near) <= abs(curve.at(0) - near)
    found = []
    for t, u, z in meetings(curve, target, 1e-7 * max(curve.length, LINEAR), extended=True):
        on_target = target.closed or -ROUNDING <= u <= 1 + ROUNDING
        if on_target and (t > 1 + ROUNDING if at_end else t < -ROUNDING):
            found.append((abs(t - (1 if at_end else 0)), z))
    if not found:
        raise SketchError(f"{name} does not meet {to} beyond this end", hint="another curve, or corner")
    z = min(found, key=lambda f: f[0])[1]
    which = "end" if at_end else "start"
    point = getattr(e, which)
    if len(together(draft, point)) > 1:
        point = _new_end(draft, name, which, (0.0, z, to))
    else:
        put(draft, point, z)
        _meet(draft, point, z, to)
    return kept(draft, values, [name, point])


def corner(sketch: Sketch, values: Values, a: str, b: str, near: complex | None = None) -> Sketch:
    """Cut or lengthen two curves so that they end in one point, the meeting nearest to ``near`` (or to their ends)."""
    first, second = _curve(sketch, a), _curve(sketch, b)
    if a == b or first.closed or second.closed:
        raise SketchError("a corner needs two different curves with ends", received=f"{a}, {b}")
    found = [z for _, _, z in meetings(first, second, ROUNDING, extended=True)]
    if not found:
        raise SketchError(f"{a} and {b} do not meet", hint="parallel lines and separate circles make no corner")
    focus = near if near is not None else (first.at(0.5) + second.at(0.5)) / 2
    z = min(found, key=lambda p: abs(p - focus))
    draft = SketchBuilder(sketch)
    points = []
    for name, curve in ((a, first), (b, second)):
        which = "end" if abs(curve.at(1) - z) <= abs(curve.at(0) - z) else "start"
        e = draft.entities[name]
        point = getattr(e, which)
        if len(together(draft, point)) > 1 and abs(place(draft, point) - z) > ROUNDING:
            fresh = new_point(draft, z)
            draft.entities[name] = e.model_copy(update={which: fresh})
            point = fresh
        else:
            put(draft, point, z)
        points.append(point)
    if points[1] not in together(draft, points[0]):
        draft.add("coincident", points[0], points[1])
    return kept(draft, values, [a, b, *points])


def break_at(sketch: Sketch, values: Values, name: str, at: complex) -> Sketch:
    """Cut a line or arc in two at the place nearest to ``at``; the halves stay in line (or on one circle)."""
    curve = _curve(sketch, name)
    if curve.closed:
        raise SketchError("a circle is broken by trimming it", where=name)
    t = curve.find(at)
    if not LINEAR < t < 1 - LINEAR:
        raise SketchError("the break lies on an end", where=name, hint="a place within the curve")
    draft = SketchBuilder(sketch)
    e = draft.entities[name]
    z = curve.at(t)
    first, second = new_point(draft, z), new_point(draft, z)
    assert isinstance(e, Line | Arc)
    if isinstance(e, Line):
        other = draft.line(second, e.end, construction=e.construction)
    else:
        other = draft.arc(e.centre, second, e.end, construction=e.construction)
    draft.entities[name] = e.model_copy(update={"end": first})
    draft.add("coincident", first, second)
    if isinstance(e, Line):
        draft.add("collinear", name, other)
    return settle(draft, values, [name, other])
