"""A chain of places taken apart into straight lines and circles.

Greedily: from a place on, as far as a straight line, or a circle (least squares; I. Kasa, IEEE Transactions on
Instrumentation and Measurement 25, 1976), stays near the ink. Each break between two is then moved to where both fit
best; what is left over at a corner is dropped, two that are one are made one, and what is nearly level or upright is
made so.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sheets.rims import turn

Array = Any
#: and off an arc, mm: a bevel is none
ROUND = 0.085
#: what leans by less from level or upright is so: as an angle, rad, or mm from end to end
LEANS, ACROSS = 0.003, 0.14
#: an arc goes round by at least this, rad, and is no larger, mm
SWEEP, LARGEST = 0.35, 400.0
#: what is shorter between two lines that meet is none, mm
STUB = 0.55
#: two in a row are one when it is off by no more than this, in what it may be off; a line no longer than this goes on
#: in an arc, mm
ONE, STRETCH = 1.25, 4.0


@dataclass(frozen=True)
class Fit:
    """A line through ``place`` along ``way``, or a circle; how far the farthest place is off."""

    place: Array
    way: Array
    radius: float
    off: float

    @property
    def round(self) -> bool:
        """A circle about ``place``."""
        return self.radius > 0

    def nearest(self, p: Array) -> Array:
        """The place on it that is nearest to ``p``."""
        d = p - self.place
        if self.round:
            return self.place + d * (self.radius / max(float(np.linalg.norm(d)), ROUNDING))
        return self.place + self.way * float(d @ self.way)

    def away(self, own: Array) -> Array:
        """(n,) how far places (n, 2) are from it."""
        d = own - self.place
        if self.round:
            return np.abs(np.linalg.norm(d, axis=1) - self.radius)
        return np.abs(d @ np.array([-self.way[1], self.way[0]]))


def _through(own: Array, place: Array, way: Array, radius: float) -> Fit:
    """With how far the farthest of the places that it was laid through is off."""
    fit = Fit(place, way, radius, 0.0)
    return replace(fit, off=float(fit.away(own).max()))


def _line(own: Array) -> Fit:
    middle = own.mean(axis=0)
    _, _, axes = np.linalg.svd(own - middle, full_matrices=False)
    return _through(own, middle, axes[0] if axes[0] @ (own[-1] - own[0]) >= 0 else -axes[0], 0.0)


def fitted_circle(own: Array) -> Fit | None:
    """The circle of least squares; None for what goes round by too little, or too far off."""
    middle = own.mean(axis=0)
    u = own - middle
    rows = np.column_stack([2 * u, np.ones(len(u))])
    (a, b, c), _, rank, _ = np.linalg.lstsq(rows, (u * u).sum(axis=1), rcond=None)
    r2 = c + a * a + b * b
    if rank < 3 or r2 <= 0 or r2 > LARGEST * LARGEST:
        return None
    return _through(own, middle + np.array((a, b)), np.zeros(2), math.sqrt(r2))


def fitted(own: Array, off: float, *, closed: bool) -> tuple[list[Fit], list[int], Array]:
    """A chain of places (n, 2) in mm as lines and circles within ``off``; the places at which each begins and the last
    ends; and the places, which of a ``closed`` chain begin where it turns most, so that no line is cut in two.
    """
    if closed:
        own = np.roll(own, -_corner(own), axis=0)
        own = np.vstack([own, own[:1]])
    cuts, fits = [0], []
    while cuts[-1] < len(own) - 1:
        end, fit = _farthest(own, cuts[-1], off)
        cuts.append(end)
        fits.append(fit)
    fits, cuts = _settled(own, *_without_stubs(own, *_settled(own, fits, cuts), off, closed=closed))
    return [_level(f, own[a], own[b]) for f, (a, b) in zip(fits, itertools.pairwise(cuts), strict=True)], cuts, own


def _corner(own: Array) -> int:
    """The place of a closed run at which it turns most, looked at over a twentieth of it."""
    k = max(2, len(own) // 40)
    there, back = np.roll(own, -k, axis=0) - own, own - np.roll(own, k, axis=0)
    cos = (there * back).sum(axis=1) / np.maximum(
        np.linalg.norm(there, axis=1) * np.linalg.norm(back, axis=1), ROUNDING
    )
    return int(cos.argmin())


def _farthest(own: Array, start: int, off: float) -> tuple[int, Fit]:
    """How far from ``start`` on a line, or a circle where that goes much farther, stays within ``off``."""
    end, line = _reach(own, start, off, _line)
    far, circle = _reach(own, start, min(off, ROUND), fitted_circle)
    if circle is not None and far > start + 1.4 * (end - start) + 2:
        sweep = turn_about(circle, own[start], own[(start + far) // 2], own[far])
        if abs(sweep) > SWEEP:
            return far, circle
    assert line is not None
    return end, line


def _reach(own: Array, start: int, off: float, fit: Any) -> tuple[int, Fit | None]:
    """The last place up to which ``fit`` holds, by doubling and halving; and the fit."""
    last = len(own) - 1
    low, best = min(start + 1, last), _line(own[start : start + 2]) if fit is _line else None
    step = 4
    high = None
    while low < last:
        end = min(low + step, last) if high is None else (low + high) // 2
        if end == low:
            break
        found = fit(own[start : end + 1]) if fit is _line or end - start > 4 else None
        # what is straight as yet may still go round
        if (found is not None and found.off <= off) or (
            fit is fitted_circle and _line(own[start : end + 1]).off <= off
        ):
            low, best, step = end, found, step * 2
        else:
            high = end
        if high is not None and high - low <= 1:
            break
    return low, best


def turn_about(circle: Fit, a: Array, b: Array, c: Array) -> float:
    """How far the circle goes round from ``a`` over ``b`` to ``c``, rad, against the clock positive."""
    return turn(circle.place, a, b) + turn(circle.place, b, c)


def _settled(own: Array, fits: list[Fit], cuts: list[int]) -> tuple[list[Fit], list[int]]:
    """Each break moved to where both sides fit best, and the sides fitted anew without the places next to it."""
    cuts = list(cuts)
    for k in range(1, len(fits)):
        a, b = cuts[k - 1], cuts[k + 1]
        one, two = (f.away(own[a : b + 1]) for f in fits[k - 1 : k + 1])
        before, after = np.cumsum(one * one), np.cumsum((two * two)[::-1])[::-1]
        cuts[k] = a + 1 + int((before[1:-1] + after[2:]).argmin()) if b - a > 2 else cuts[k]
    again = []
    for f, (a, b) in zip(fits, itertools.pairwise(cuts), strict=True):
        trim = min(3, max(0, (b - a - 6) // 2))
        part = own[a + trim : b + 1 - trim]
        found = (fitted_circle(part) if f.round else _line(part)) if len(part) > (4 if f.round else 1) else None
        again.append(f if found is None else found)
    return again, cuts


def _without_stubs(
    own: Array, fits: list[Fit], cuts: list[int], off: float, *, closed: bool
) -> tuple[list[Fit], list[int]]:
    """Without what is left over at a corner between two lines, and with lines that are one made one."""
    k = 0
    while k < len(fits):
        ends = not closed and k in (0, len(fits) - 1)
        stub = len(fits) > 2 and not ends and np.linalg.norm(own[cuts[k + 1]] - own[cuts[k]]) < STUB
        if stub and not (fits[k - 1].round or fits[(k + 1) % len(fits)].round):
            middle = (cuts[k] + cuts[k + 1]) // 2
            del fits[k]
            if k == 0:
                del cuts[1]
            elif k == len(fits):
                del cuts[k]
            else:
                cuts[k : k + 2] = [middle]
            k = max(k - 1, 0)
            continue
        if k + 1 < len(fits) and (one := _as_one(own, fits[k : k + 2], cuts[k : k + 3], off)) is not None:
            fits[k : k + 2] = [one]
            del cuts[k + 1]
            k = max(k - 1, 0)
            continue
        k += 1
    return fits, cuts


def _as_one(own: Array, two: Sequence[Fit], cuts: Sequence[int], off: float) -> Fit | None:
    """Two lines that are one, or an arc with what goes on on its circle; None for others."""
    part = own[cuts[0] : cuts[2] + 1]
    if not any(f.round for f in two):
        one = _line(part)
        return one if one.off <= ONE * off else None
    lines = [np.linalg.norm(own[b] - own[a]) for f, (a, b) in zip(two, itertools.pairwise(cuts), strict=True)
             if not f.round]  # fmt: skip
    if any(long > STRETCH for long in lines):
        return None
    circle = fitted_circle(part)
    return circle if circle is not None and circle.off <= ONE * min(off, ROUND) else None


def _level(f: Fit, a: Array, b: Array) -> Fit:
    """What is nearly level or upright made so."""
    if f.round:
        return f
    long = float(np.linalg.norm(b - a))
    for axis in (0, 1):
        lean = abs(float(f.way[1 - axis]))
        if lean < LEANS or lean * long < ACROSS * min(1.0, long / 4):
            way = np.zeros(2)
            way[axis] = math.copysign(1.0, f.way[axis])
            return replace(f, way=way)
    return f
