"""Fillet and chamfer a corner of two lines; the sharp corner stays as a construction point, for dimensions to it."""

from __future__ import annotations

import math

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values, new_point, place, settle
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.model import Entity, Line, Sketch, Spline
from lathed_solid.sketch.orient import shared_end


def fillet(sketch: Sketch, values: Values, a: str, b: str, radius: float, expression: str) -> Sketch:
    """Round the corner of two lines with an arc of ``radius`` mm, dimensioned by ``expression``."""
    if not radius > 0:
        raise SketchError("the radius must be above zero", received=f"{radius:g}")
    draft, z, (p, q), (u, v), lengths = _sharp(sketch, a, b)
    half = math.acos(max(-1.0, min(1.0, (u.conjugate() * v).real))) / 2
    back = radius / math.tan(half)
    _room(back, lengths, (a, b), f"R{radius:g}")
    centre = z + (u + v) / abs(u + v) * (radius / math.sin(half))
    first, second = z + u * back, z + v * back
    ccw = ((first - centre).conjugate() * (second - centre)).imag > 0
    start, end = (first, second) if ccw else (second, first)
    arc = draft.arc(new_point(draft, centre), new_point(draft, start), new_point(draft, end))
    e = draft.entities[arc]
    ends = (e.points[1], e.points[2]) if ccw else (e.points[2], e.points[1])
    _replace(draft, (a, b), (p, q), z, (first, second))
    for line, point, arc_end in ((a, p, ends[0]), (b, q, ends[1])):
        draft.add("coincident", point, arc_end)
        draft.add("tangent", line, arc)
    draft.add("radius", arc, value=expression)
    return settle(draft, values, [a, b])


def chamfer(
    sketch: Sketch, values: Values, a: str, b: str, legs: tuple[float, float], expressions: tuple[str, str]
) -> Sketch:
    """Cut the corner of two lines off by ``legs`` mm along each, dimensioned by ``expressions``."""
    if not min(legs) > 0:
        raise SketchError("the chamfer must be above zero", received=f"{min(legs):g}")
    draft, z, (p, q), (u, v), lengths = _sharp(sketch, a, b)
    for leg, length, name in zip(legs, lengths, (a, b), strict=True):
        _room(leg, (length,), (name,), f"a chamfer of {leg:g}")
    first, second = z + u * legs[0], z + v * legs[1]
    sharp = _replace(draft, (a, b), (p, q), z, (first, second))
    cut = draft.line(new_point(draft, first), new_point(draft, second))
    e = draft.entities[cut]
    draft.add("coincident", p, e.points[0])
    draft.add("coincident", q, e.points[1])
    draft.add("distance", sharp, p, value=expressions[0])
    draft.add("distance", sharp, q, value=expressions[1])
    return settle(draft, values, [a, b])


def _sharp(
    sketch: Sketch, a: str, b: str
) -> tuple[SketchBuilder, complex, tuple[str, str], tuple[complex, complex], tuple[float, float]]:
    """Draft, corner, the two ends there, directions away from it, lengths."""
    draft = SketchBuilder(sketch)
    lines = [draft.entities.get(n) for n in (a, b)]
    if a == b or not all(isinstance(e, Line) for e in lines):
        raise SketchError("a corner for this edit is where two lines end", received=f"{a}, {b}")
    ends = shared_end(sketch, a, b)
    if ends is None:
        raise SketchError(f"{a} and {b} do not end in one point", hint="make a corner of them first")
    z = place(draft, ends[0])
    away = []
    for e, p in zip(lines, ends, strict=True):
        assert isinstance(e, Line)
        away.append(place(draft, e.start if e.end == p else e.end) - z)
    lengths = (abs(away[0]), abs(away[1]))
    if min(lengths) < ROUNDING:
        raise SketchError("a line of this corner has no length", received=f"{a}, {b}")
    u, v = away[0] / lengths[0], away[1] / lengths[1]
    if abs((u.conjugate() * v).imag) < ROUNDING:
        raise SketchError("the two lines run straight on: there is no corner", received=f"{a}, {b}")
    return draft, z, ends, (u, v), lengths


def _room(need: float, lengths: tuple[float, ...], names: tuple[str, ...], what: str) -> None:
    for length, name in zip(lengths, names, strict=True):
        if need >= length:
            raise SketchError(
                f"{what} does not fit", where=name, rule=f"it takes {need:.4g} mm of a line of {length:.4g} mm",
                hint="a smaller size",
            )  # fmt: skip


def _with_points(e: Entity, old: set[str], new: str) -> Entity:
    """An entity that stood on the old corner stands on the sharp one from now on."""
    update = {k: new for k in ("start", "end", "centre", "major", "at") if getattr(e, k, None) in old}
    if isinstance(e, Spline):
        return e.model_copy(update={"through": tuple(new if p in old else p for p in e.through)})
    return e.model_copy(update=update)


def _symmetry_of_ends(draft: SketchBuilder, lines: tuple[str, str]) -> None:
    """Lines that are mirror images keep this of their (sharp) ends, for one of them gets shorter now."""
    for i, c in list(draft.constraints.items()):
        if c.kind != "symmetric" or draft.entities[c.of[0]].kind != "line" or not set(c.of[:2]) & set(lines):
            continue
        first, second = (draft.entities[n].points for n in c.of[:2])
        del draft.constraints[i]
        for p, q in zip(first, second if c.side >= 0 else second[::-1], strict=True):
            draft.add("symmetric", p, q, c.of[2])


def _replace(
    draft: SketchBuilder, lines: tuple[str, str], ends: tuple[str, str], z: complex, new: tuple[complex, complex]
) -> str:
    """Shorten the lines to ``new`` ends; constraints on the old corner go over to a point kept where it was."""
    sharp = new_point(draft, z, construction=True)
    old = set(ends)
    apart = [c for c in draft.constraints.values() if c.kind == "coincident" and set(c.of) == old]
    for c in apart:
        del draft.constraints[c.id]
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
            del draft.constraints[i]  # the lengths differ from now on
            continue
        if old & set(c.of):
            of = tuple(sharp if n in old else n for n in c.of)
            if len(set(of)) == len(of):
                draft.constraints[i] = c.model_copy(update={"of": of})
            else:
                del draft.constraints[i]
    for name, other in list(draft.entities.items()):
        if other.kind != "point" and name not in lines and old & set(other.points):
            draft.entities[name] = _with_points(other, old, sharp)
    for line, end, z_new in zip(lines, ends, new, strict=True):
        e = draft.entities[end]
        draft.entities[end] = e.model_copy(update={"x": z_new.real, "y": z_new.imag})
        draft.add("on", sharp, line)
    return sharp
