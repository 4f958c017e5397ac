"""Where two curves of a sketch meet.

Lines, circles and arcs meet in closed form; ellipses and splines are bracketed on a chord polygon and refined by
Newton's method.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Iterator

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE
from lathed_solid.sketch.geometry import CHORDS, Round, Shape, Straight
from lathed_solid.sketch.plane import crossing


def near_pairs(shapes: list[Shape], reach: float) -> list[tuple[Shape, Shape]]:
    """Pairs of shapes whose boxes come within twice ``reach`` mm of each other, in their order."""
    if not shapes:
        return []
    box = np.array([s.box for s in shapes])
    low, high = box[:, :2] - reach, box[:, 2:] + reach
    over = (low[:, None] <= high[None]).all(axis=2) & (low[None] <= high[:, None]).all(axis=2)
    return [(shapes[i], shapes[j]) for i, j in zip(*np.nonzero(np.triu(over, 1)), strict=True)]


def meetings(a: Shape, b: Shape, reach: float, *, extended: bool = False) -> list[tuple[float, float, complex]]:
    """Where two curves meet: (t on a, t on b, place). ``reach``: how near counts as meeting, mm.

    With ``extended``, lines run on past their ends (t outside [0, 1]) and arcs are whole circles.
    """
    if isinstance(a, Straight) and isinstance(b, Straight):
        found = _two_lines(a, b, reach)
    elif isinstance(a, Straight) and isinstance(b, Round):
        found = _line_round(a, b, reach)
    elif isinstance(a, Round) and isinstance(b, Straight):
        found = _line_round(b, a, reach)
    elif isinstance(a, Round) and isinstance(b, Round):
        found = _two_rounds(a, b, reach)
    else:
        return list(_numeric(a, b, reach))
    out = []
    for place in found:
        t, u = _parameter(a, place), _parameter(b, place)
        if extended or (_within(a, t, reach) and _within(b, u, reach)):
            t, u = (t, u) if extended else (min(1.0, max(0.0, t)), min(1.0, max(0.0, u)))
            out.append((t, u, place))
    return out


def _parameter(s: Shape, z: complex) -> float:
    """t of a place on a curve, beyond [0, 1] for the run-on of a line."""
    if isinstance(s, Straight):
        return s.parameter(z)
    assert isinstance(s, Round)
    t = ((cmath.phase(z - s.centre) - s.start) % (2 * math.pi)) / s.turn
    past = 2 * math.pi / s.turn
    return t - past if t - 1 > past - t else t  # just before the start counts as a little below 0


def _within(s: Shape, t: float, reach: float) -> bool:
    slack = reach / max(abs(s.along(0.0)), NOTHING)
    return s.closed or -slack <= t <= 1 + slack


def _two_lines(a: Straight, b: Straight, reach: float) -> list[complex]:
    u, v = a.b - a.a, b.b - b.a
    cross = (u.conjugate() * v).imag
    if abs(cross) <= NOTHING * max(abs(u) * abs(v), 1e-300):
        return []
    return [crossing(a.a, u, b.a, v)]


def _line_round(a: Straight, b: Round, reach: float) -> list[complex]:
    length = abs(a.b - a.a)
    if length < NOTHING:
        return []
    u = (a.b - a.a) / length
    w = (b.centre - a.a) * u.conjugate()
    off = abs(w.imag)
    if off > b.radius + reach:
        return []
    foot = a.a + u * w.real
    if off >= b.radius - reach * reach / (2 * b.radius) or b.radius - off < RELATIVE * b.radius:
        return [foot]  # touching
    half = math.sqrt(b.radius**2 - off**2)
    return [foot - u * half, foot + u * half]


def _two_rounds(a: Round, b: Round, reach: float) -> list[complex]:
    d = abs(b.centre - a.centre)
    if d < NOTHING:
        return []
    u = (b.centre - a.centre) / d
    if d > a.radius + b.radius + reach or d < abs(a.radius - b.radius) - reach:
        return []
    x = (d * d + a.radius**2 - b.radius**2) / (2 * d)
    square = a.radius**2 - x * x
    touching = min(abs(d - a.radius - b.radius), abs(d - abs(a.radius - b.radius))) < RELATIVE * max(a.radius, b.radius)
    if square <= 0 or touching:
        return [a.centre + u * math.copysign(a.radius, x)]
    h = math.sqrt(square)
    return [a.centre + u * complex(x, h), a.centre + u * complex(x, -h)]


def _numeric(a: Shape, b: Shape, reach: float) -> Iterator[tuple[float, float, complex]]:
    p, q = a.chords, b.chords
    u, v = np.diff(p)[:, None], np.diff(q)[None, :]
    w = q[None, :-1] - p[:-1, None]
    cross = (u.conj() * v).imag
    with np.errstate(divide="ignore", invalid="ignore"):
        s, t = (w.conj() * v).imag / cross, (w.conj() * u).imag / cross
    near = (s > -0.3) & (s < 1.3) & (t > -0.3) & (t < 1.3)
    seen: list[complex] = []
    for i, j in zip(*np.nonzero(near), strict=True):
        x, y = (i + min(1.0, max(0.0, s[i, j]))) / CHORDS, (j + min(1.0, max(0.0, t[i, j]))) / CHORDS
        for _ in range(20):
            off = b.at(y) - a.at(x)
            da, db = a.along(x), b.along(y)
            det = (da.conjugate() * db).imag
            if abs(det) <= 1e-14 * abs(da) * abs(db):
                break
            x = min(1.0, max(0.0, x + (off.conjugate() * db).imag / det))
            y = min(1.0, max(0.0, y + (off.conjugate() * da).imag / det))
        place = a.at(x)
        if abs(b.at(y) - place) <= reach and all(abs(place - o) > 10 * reach for o in seen):
            seen.append(place)
            yield x, y, place
