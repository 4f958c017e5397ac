"""Compound figures, drawn as lines and arcs with the constraints that keep them what they are.

Each function adds to a draft and returns the ids of its curves; ties between their own ends are made, sizes are left
to dimensions.
"""

from __future__ import annotations

import cmath
import itertools
import math

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE, ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError

At = tuple[float, float]


def polyline(draft: SketchBuilder, corners: list[At], *, closed: bool = False) -> list[str]:
    """Lines through corners, each tied to the next."""
    if len(corners) < 2:
        raise SketchError("a chain of lines needs two corners", received=len(corners))
    many = len(corners) if closed else len(corners) - 1
    lines = [draft.segment(corners[i], corners[(i + 1) % len(corners)]) for i in range(many)]
    for a, b in zip(lines, lines[1:] + (lines[:1] if closed else []), strict=False):
        draft.add("coincident", _end(draft, a), _start(draft, b))
    return lines


def rectangle(draft: SketchBuilder, a: At, b: At) -> list[str]:
    """Sides parallel to the axes, from one corner to the opposite one."""
    _apart(a, b, "rectangle")
    sides = polyline(draft, [a, (b[0], a[1]), b, (a[0], b[1])], closed=True)
    for side, way in zip(sides, ("horizontal", "vertical") * 2, strict=True):
        draft.add(way, side)  # type: ignore[arg-type]
    return sides


def centre_rectangle(draft: SketchBuilder, centre: At | str, corner: At) -> list[str]:
    """A rectangle kept about its centre (a place, or a point that is there) by a construction diagonal."""
    middle = draft.point(*centre) if not isinstance(centre, str) else centre
    centre = _at(draft, middle)
    sides = rectangle(draft, (2 * centre[0] - corner[0], 2 * centre[1] - corner[1]), corner)
    diagonal = draft.line(_start(draft, sides[0]), _start(draft, sides[2]), construction=True)
    draft.add("midpoint", middle, diagonal)
    return sides


def based_rectangle(draft: SketchBuilder, middle: At, corner: At) -> list[str]:
    """A rectangle whose first side is kept about its middle; the sides, then the point at the middle."""
    x, y = corner
    sides = rectangle(draft, (2 * middle[0] - x, middle[1]), (x, y))
    point = draft.point(*middle)
    draft.add("midpoint", point, sides[0])
    return [*sides, point]


def tilted_rectangle(draft: SketchBuilder, a: At, b: At, through: At) -> list[str]:
    """A rectangle on the side a-b, as high as ``through`` stands off it."""
    _apart(a, b, "rectangle")
    p, q = complex(*a), complex(*b)
    n = 1j * (q - p) / abs(q - p)
    height = ((complex(*through) - p) * n.conjugate()).real
    if abs(height) < ROUNDING:
        raise SketchError("the rectangle has no height", hint="a third point off the first side")
    corners = [p, q, q + height * n, p + height * n]
    sides = polyline(draft, [(z.real, z.imag) for z in corners], closed=True)
    draft.add("perpendicular", sides[0], sides[1])
    draft.add("parallel", sides[0], sides[2])
    draft.add("parallel", sides[1], sides[3])
    return sides


def polygon(draft: SketchBuilder, centre: At, corner: At, sides: int, *, across_flats: bool = False) -> list[str]:
    """A regular polygon with its corners on a construction circle; ``corner`` is a corner.

    With ``across_flats``, ``corner`` is the middle of a flat, and a second construction circle touches the flats.
    """
    if not 3 <= sides <= 120:
        raise SketchError("a polygon has 3 to 120 sides", received=sides)
    _apart(centre, corner, "polygon")
    c, first = complex(*centre), complex(*corner) - complex(*centre)
    step = cmath.rect(1, 2 * math.pi / sides)
    half = cmath.rect(1 / math.cos(math.pi / sides), -math.pi / sides)
    reach = first * half if across_flats else first
    corners = [c + reach * step**i for i in range(sides)]
    lines = polyline(draft, [(z.real, z.imag) for z in corners], closed=True)
    middle = draft.point(*centre)
    circles = [draft.circle(middle, abs(reach), construction=True)]
    for a, b in itertools.pairwise(lines):
        draft.add("equal", a, b)
    for line in lines:
        draft.add("on", _start(draft, line), circles[0])
    if across_flats:
        circles.append(draft.circle(middle, abs(first), construction=True))
        draft.add("tangent", lines[0], circles[1])
    return [*lines, *circles]


def slot(draft: SketchBuilder, a: At, b: At, radius: float) -> list[str]:
    """A straight slot between two centres: line, arc, line, arc, and a construction centreline."""
    _apart(a, b, "slot")
    if radius <= 0:
        raise SketchError("the slot has no width", received=radius)
    p, q = complex(*a), complex(*b)
    n = 1j * (q - p) / abs(q - p) * radius
    first, second = draft.point(*a), draft.point(*b)

    def at(z: complex) -> str:
        return draft.point(z.real, z.imag)

    lower, upper = draft.line(at(p - n), at(q - n)), draft.line(at(q + n), at(p + n))
    right, left = draft.arc(second, at(q - n), at(q + n)), draft.arc(first, at(p + n), at(p - n))
    loop = [lower, right, upper, left]
    for one, two in zip(loop, loop[1:] + loop[:1], strict=True):
        draft.add("coincident", _end(draft, one), _start(draft, two))
    for line in (lower, upper):
        draft.add("tangent", line, right)
        draft.add("tangent", line, left)
    draft.add("equal", right, left)
    return [*loop, draft.line(first, second, construction=True)]


def arc_slot(draft: SketchBuilder, centre: At, start: At, turn: float, radius: float) -> list[str]:
    """A slot along an arc about ``centre``, from ``start`` through ``turn`` rad, counter-clockwise."""
    _apart(centre, start, "slot")
    c, s = complex(*centre), complex(*start) - complex(*centre)
    reach = abs(s)
    if not 0 < radius < reach or not 0 < turn < 2 * math.pi:
        raise SketchError("the slot must be narrower than its arc and less than a full turn", received=radius)
    e, u, v = s * cmath.rect(1, turn), s / reach, s / reach * cmath.rect(1, turn)

    def at(z: complex) -> str:
        return draft.point((c + z).real, (c + z).imag)

    middle, p, q = draft.point(*centre), at(s), at(e)
    outer = draft.arc(middle, at((reach + radius) * u), at((reach + radius) * v))
    inner = draft.arc(middle, at((reach - radius) * u), at((reach - radius) * v))
    far = draft.arc(q, at((reach + radius) * v), at((reach - radius) * v))
    near = draft.arc(p, at((reach - radius) * u), at((reach + radius) * u))
    for one, two in (
        (_end(draft, outer), _start(draft, far)), (_end(draft, far), _end(draft, inner)),
        (_start(draft, inner), _start(draft, near)), (_end(draft, near), _start(draft, outer)),
    ):  # fmt: skip
        draft.add("coincident", one, two)
    draft.add("tangent", outer, far)
    draft.add("tangent", outer, near)
    draft.add("tangent", inner, far)
    draft.add("tangent", inner, near)
    return [outer, far, inner, near]


def three_point_arc(draft: SketchBuilder, a: At, through: At, b: At) -> str:
    """The arc from a to b through a third position. Raises SketchError when they are in one line."""
    p, m, q = complex(*a), complex(*through), complex(*b)
    doubled = ((q - p).conjugate() * (m - p)).imag * 2
    if abs(doubled) < RELATIVE * max(abs(q - p) ** 2, NOTHING):
        raise SketchError("three points in one line make no arc", hint="move the middle point off the line")
    w = m - p
    centre = p + 1j * ((q - p) * abs(w) ** 2 - w * abs(q - p) ** 2) / doubled
    ends = (a, b) if doubled < 0 else (b, a)
    return draft.arc(draft.point(centre.real, centre.imag), draft.point(*ends[0]), draft.point(*ends[1]))


def tangent_arc(draft: SketchBuilder, line_end: str, line: str, to: At) -> str:
    """An arc that leaves the end of a line (or arc) smoothly and ends at ``to``."""
    e = draft.entities[line]
    p = complex(draft.entities[line_end].x, draft.entities[line_end].y)  # type: ignore[union-attr]
    other = e.points[0] if e.points[0] != line_end else e.points[1]
    if e.kind == "arc":
        c = complex(*_at(draft, e.points[0]))
        way = (p - c) * (1j if line_end == e.points[2] else -1j)
    else:
        way = p - complex(*_at(draft, other))
    way /= abs(way)
    chord = complex(*to) - p
    height = (way.conjugate() * chord).imag
    if abs(height) < RELATIVE * max(abs(chord), ROUNDING):
        raise SketchError("the end lies straight ahead: no arc", hint="a line, or an end off the direction")
    centre = p + 1j * way * (abs(chord) ** 2 / (2 * height))
    first, last = draft.point(p.real, p.imag), draft.point(*to)
    middle = draft.point(centre.real, centre.imag)
    arc = draft.arc(middle, first, last) if height > 0 else draft.arc(middle, last, first)
    draft.add("coincident", line_end, first)
    draft.add("tangent", line, arc)
    return arc


def _at(draft: SketchBuilder, p: str) -> At:
    e = draft.entities[p]
    return e.x, e.y  # type: ignore[union-attr]


def _start(draft: SketchBuilder, curve: str) -> str:
    return draft.entities[curve].start  # type: ignore[union-attr]


def _end(draft: SketchBuilder, curve: str) -> str:
    return draft.entities[curve].end  # type: ignore[union-attr]


def _apart(a: At, b: At, what: str) -> None:
    if math.dist(a, b) < ROUNDING:
        raise SketchError(f"the {what} has no size", hint="two different positions")
