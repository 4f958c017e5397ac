"""Angles as a side shows them: the apex, both legs, and from where to where the faces lie along each.

Two flats seen edge on are lines that meet at the apex; a cone seen square to its axis has its outline to either hand,
which meets at its tip. Half its angle opens at its wide rim, from a line along the axis: there a turned part leaves
room; or within a bore at its tip, from the axis. A leg that no face lies on is drawn from the apex.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

from lathed_solid.kernel.case import Case
from lathed_solid.kernel.drawing.figures import Corner, Place
from lathed_solid.kernel.drawing.flat import Flat
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.surfaces import Surface, hollow
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.quantity.tolerances import ANGULAR

#: an angle is the one that is meant within this, rad
SAME = 1e-4

#: a leg: which way it goes from the apex, rad, and from where to where its face lies along it, mm
Leg = tuple[float, tuple[float, float]]


def corners(case: Case, flat: Flat, size: float) -> Iterator[Corner]:
    """Where a side shows an angle of the callout's own ``size``, rad, of which the field may be a half; nothing for
    probes of other kinds.
    """
    kind = case.probe.kind
    try:
        if kind in ("included", "cone_angle"):
            for s in case.surfaces(0):
                if s.kind == "cone" and abs(dot(s.direction, flat.eye)) < ANGULAR:
                    yield from _of_cone(s, flat, size)
        elif kind == "angle":
            first, *others = (s for k in range(len(case.groups)) for s in case.surfaces(k))
            for other in others:
                yield from _between(first, other, flat, size)
    except (MeasureError, ValueError):
        return


def _of_cone(s: Surface, flat: Flat, size: float) -> Iterator[Corner]:
    half = abs(s.half_angle)
    whole = abs(2 * half - size) < SAME
    if not whole and abs(half - size) > SAME:
        return
    tip = dot(s.origin, s.direction) - s.radius / math.tan(s.half_angle)
    back = tip - dot(s.origin, s.direction)
    apex = flat.of((s.origin[0] + back * s.direction[0], s.origin[1] + back * s.direction[1],
                    s.origin[2] + back * s.direction[2]))  # fmt: skip
    u, v = flat.of(s.direction)
    wide = 1.0 if s.half_angle > 0 else -1.0
    axis = math.atan2(wide * v, wide * u)
    near, far = sorted(abs(level - tip) for level in s.extent(s.direction))
    slant = (near / math.cos(half), far / math.cos(half))
    if whole:
        yield Corner(flat.side, apex, axis - half, axis + half, (slant, slant))
        return
    for hand in (-1.0, 1.0):
        if hollow(s):
            yield _turned(flat, apex, axis, hand * half, (near, far), slant)
            continue
        rim = apex[0] + slant[1] * math.cos(axis + hand * half), apex[1] + slant[1] * math.sin(axis + hand * half)
        yield _turned(flat, rim, axis + math.pi, hand * half, (0.0, 0.0), (0.0, slant[1] - slant[0]))


def _turned(
    flat: Flat, apex: Place, base: float, by: float, on: tuple[float, float], turned: tuple[float, float]
) -> Corner:
    """From a leg at ``base`` to one that is turned ``by`` an angle of either sign, rad."""
    if by > 0:
        return Corner(flat.side, apex, base, base + by, (on, turned))
    return Corner(flat.side, apex, base + by, base, (turned, on))


def _between(a: Surface, b: Surface, flat: Flat, size: float) -> Iterator[Corner]:
    """Two flats seen edge on; nothing where one is not, or where they do not meet."""
    for s in (a, b):
        if s.kind != "plane" or abs(dot(s.direction, flat.eye)) > ANGULAR:
            return
    apex = _meeting(a, b, flat)
    if apex is None:
        return
    for one, other in ((x, y) for x in _legs(a, apex, flat) for y in _legs(b, apex, flat)):
        turn = (other[0] - one[0]) % (2 * math.pi)
        start, end = (one, other) if turn <= math.pi else (other, one)
        if abs(min(turn, 2 * math.pi - turn) - size) < SAME:
            yield Corner(flat.side, apex, start[0], start[0] + size, (start[1], end[1]))
            return


def _meeting(a: Surface, b: Surface, flat: Flat) -> Place | None:
    (ax, ay), (bx, by) = flat.of(a.direction), flat.of(b.direction)
    det = ax * by - ay * bx
    if abs(det) < ANGULAR:
        return None
    p, q = (float(u * x + v * y) for (u, v), (x, y) in (((ax, ay), flat.of(a.origin)), ((bx, by), flat.of(b.origin))))
    return (p * by - q * ay) / det, (ax * q - bx * p) / det


def _legs(s: Surface, apex: Place, flat: Flat) -> Sequence[Leg]:
    """Both ways along a flat from the apex, the one on which its face lies first."""
    u, v = flat.of(s.direction)
    along: Triple = tuple(-v * r + u * t for r, t in zip(flat.right, flat.up, strict=True))  # type: ignore[assignment]
    at = -v * apex[0] + u * apex[1]
    low, high = (e - at for e in s.extent(along))
    forward = math.atan2(u, -v)
    legs = ((forward, (max(low, 0.0), max(high, 0.0))), (forward + math.pi, (max(-high, 0.0), max(-low, 0.0))))
    return legs if low + high > 0 else legs[::-1]
