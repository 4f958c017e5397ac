"""Corners of a thread's free profile rounded, by chords.

A real thread is laid out from straight pieces. An arc of radius R through the angle phi becomes n chords between its
own ends whose inner corners stand a little off it, at the radius s that gives them the area of the arc's sector:

    (n - 2) s^2 sin d + 2 R s sin d = R^2 phi        d = phi / n

so that what a groove takes away is that of the arc; with d below ``STEP`` the chords are within R d^2 / 6 of it.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence

from lathed_solid.part.steps.base import StepError
from lathed_solid.quantity.tolerances import ROUNDING

#: the angle of one chord, rad
STEP = 0.16
#: corners that turn less than this are none, rad
STRAIGHT = 1e-6

At = tuple[float, float]


def rounded(corners: Sequence[At], radii: Sequence[float]) -> tuple[At, ...]:
    """The outline with arcs of ``radii`` mm (0: sharp) at its inner corners, as chords. Raises StepError where an arc
    does not fit between its neighbours.
    """
    if radii and (radii[0] or radii[-1]):
        raise StepError("the profile's first and last corner cannot be rounded", where="profile",
                        hint="begin it within a straight stretch")  # fmt: skip
    places = [complex(*c) for c in corners]
    backs = [0.0] * len(places)
    for i, r in enumerate(radii):
        if r < 0:
            raise StepError("a corner's radius must not be below zero", where="profile", received=f"R{r:g}")
        if r:
            backs[i] = r * math.tan(_turn(places, i) / 2)
    for i in range(len(places) - 1):
        room = abs(places[i + 1] - places[i])
        if backs[i] + backs[i + 1] > room + ROUNDING:
            raise StepError("the rounds of the profile do not fit beside one another", where="profile",
                            rule=f"{room:.4g} mm between rows {i + 1} and {i + 2}, "
                            f"{backs[i] + backs[i + 1]:.4g} mm are needed")  # fmt: skip
    out: list[At] = []
    for i, z in enumerate(places):
        out += [(p.real, p.imag) for p in (_arc(places, i, radii[i], backs[i]) if radii[i] and backs[i] else [z])]
    return tuple(p for k, p in enumerate(out) if k == 0 or p[0] - out[k - 1][0] > ROUNDING)


def _turn(places: Sequence[complex], i: int) -> float:
    """How far the outline turns at a corner, rad."""
    return abs(cmath.phase((places[i + 1] - places[i]) / (places[i] - places[i - 1])))


def _arc(places: Sequence[complex], i: int, radius: float, back: float) -> list[complex]:
    z = places[i]
    u, v = (places[i - 1] - z) / abs(places[i - 1] - z), (places[i + 1] - z) / abs(places[i + 1] - z)
    phi = _turn(places, i)
    if phi < STRAIGHT:
        return [z]
    middle = z + (u + v) / abs(u + v) * radius / math.cos(phi / 2)
    n = max(3, math.ceil(phi / STEP))
    d = phi / n
    a, b, c = (n - 2) * math.sin(d), 2 * radius * math.sin(d), radius * radius * phi
    s = (math.sqrt(b * b + 4 * a * c) - b) / (2 * a)
    start, end = z + u * back, z + v * back
    way = 1.0 if cmath.phase((end - middle) / (start - middle)) > 0 else -1.0
    first = (start - middle) / radius
    return [start, *(middle + s * first * cmath.exp(1j * way * d * k) for k in range(1, n)), end]
