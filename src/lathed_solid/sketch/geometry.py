"""Curves of a sketch as geometry: position, direction and curvature at a parameter, meetings of two curves.

Positions are complex numbers x + iy in mm; every curve runs over t in [0, 1]. Lines, circles and arcs meet in closed
form; ellipses and splines are bracketed on a chord polygon and refined by Newton's method.
"""

from __future__ import annotations

import cmath
import itertools
import math
from abc import ABC, abstractmethod
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING, RELATIVE, ROUNDING
from lathed_solid.sketch.measure import turn_of
from lathed_solid.sketch.model import Arc, Circle, Ellipse, Line, Sketch, Spline
from lathed_solid.sketch.plane import crossing

CHORDS = 64
REACH = 1e-7  # of the extent of all curves: ends nearer than this are one


@dataclass(frozen=True)
class Shape(ABC):
    """One curve. ``closed`` when t = 0 and t = 1 are one place."""

    id: str
    closed = False

    @abstractmethod
    def at(self, t: float) -> complex:
        """The place at a parameter."""

    @abstractmethod
    def along(self, t: float) -> complex:
        """Derivative by t."""

    def bend(self, t: float) -> float:
        """Signed curvature, left positive."""
        h = 1e-5
        d, dd = self.along(t), (self.along(min(t + h, 1)) - self.along(max(t - h, 0))) / (min(t + h, 1) - max(t - h, 0))
        return (d.conjugate() * dd).imag / max(abs(d) ** 3, 1e-300)

    def find(self, z: complex) -> float:
        """Parameter of the place nearest to ``z``."""
        ts = np.linspace(0, 1, CHORDS + 1)
        t = float(ts[np.abs(self.chords - z).argmin()])
        for _ in range(30):
            d, off = self.along(t), self.at(t) - z
            step = (d.conjugate() * off).real / max(abs(d) ** 2, 1e-300)
            t = min(1.0, max(0.0, t - step))
            if abs(step) < 1e-14:
                break
        return t

    @cached_property
    def chords(self) -> np.ndarray:
        """Positions at CHORDS + 1 even parameters."""
        return np.array([self.at(t) for t in np.linspace(0, 1, CHORDS + 1)])

    @cached_property
    def box(self) -> tuple[float, float, float, float]:
        """x and y from, x and y to, with a margin for curves between chords."""
        x, y = self.chords.real, self.chords.imag
        slack = 0.0 if isinstance(self, Straight) else 0.01 * max(float(np.ptp(x)), float(np.ptp(y)))
        return float(x.min()) - slack, float(y.min()) - slack, float(x.max()) + slack, float(y.max()) + slack

    def area(self, t0: float, t1: float) -> float:
        """Half the integral of x dy - y dx from t0 to t1 (Green), by 24-point Gauss-Legendre."""
        total = 0.0
        for a, b in itertools.pairwise(self.stretches(t0, t1)):
            for node, weight in _GAUSS:
                t = a + (b - a) * node
                total += weight * (b - a) * (self.at(t).conjugate() * self.along(t)).imag / 2
        return total

    def stretches(self, t0: float, t1: float) -> list[float]:
        """t0, t1 and the parameters between them where the curve changes its formula or bends much."""
        return [t0, (3 * t0 + t1) / 4, (t0 + t1) / 2, (t0 + 3 * t1) / 4, t1]

    @cached_property
    def length(self) -> float:
        """mm, by Gauss' rule."""
        return sum(w * abs(self.along(t)) for t, w in _GAUSS)


_GAUSS = [((x + 1) / 2, w / 2) for x, w in zip(*np.polynomial.legendre.leggauss(24), strict=True)]


@dataclass(frozen=True)
class Straight(Shape):
    """From ``a`` to ``b``."""

    a: complex
    b: complex

    def at(self, t: float) -> complex:
        return self.a + (self.b - self.a) * t

    def along(self, t: float) -> complex:
        return self.b - self.a

    def bend(self, t: float) -> float:
        return 0.0

    def find(self, z: complex) -> float:
        d = self.b - self.a
        return min(1.0, max(0.0, (d.conjugate() * (z - self.a)).real / max(abs(d) ** 2, 1e-300)))

    def area(self, t0: float, t1: float) -> float:
        return (self.at(t0).conjugate() * self.at(t1)).imag / 2


@dataclass(frozen=True)
class Round(Shape):
    """A circle, or an arc counter-clockwise from angle ``start`` through ``turn``."""

    centre: complex
    radius: float
    start: float
    turn: float

    @property
    def closed(self) -> bool:  # type: ignore[override]
        return self.turn >= 2 * math.pi - NOTHING

    def at(self, t: float) -> complex:
        return self.centre + cmath.rect(self.radius, self.start + self.turn * t)

    def along(self, t: float) -> complex:
        return 1j * self.turn * cmath.rect(self.radius, self.start + self.turn * t)

    def bend(self, t: float) -> float:
        return 1 / self.radius

    def find(self, z: complex) -> float:
        t = ((cmath.phase(z - self.centre) - self.start) % (2 * math.pi)) / self.turn
        if t <= 1:
            return t
        return 0.0 if abs(z - self.at(0)) < abs(z - self.at(1)) else 1.0

    def area(self, t0: float, t1: float) -> float:
        p, q, r = self.at(t0), self.at(t1), self.radius
        return (r * r * self.turn * (t1 - t0) + (self.centre.conjugate() * (q - p)).imag) / 2


@dataclass(frozen=True)
class Oval(Shape):
    """An ellipse: ``major`` from the centre to an end of its long axis, ``minor`` half the short one."""

    centre: complex
    major: complex
    minor: float
    closed = True

    @property
    def _way(self) -> complex:
        """Unit direction of the long axis; x for one of no length."""
        return self.major / abs(self.major) if self.major else 1 + 0j

    def at(self, t: float) -> complex:
        a, e = abs(self.major), self._way
        return self.centre + e * complex(a * math.cos(2 * math.pi * t), self.minor * math.sin(2 * math.pi * t))

    def along(self, t: float) -> complex:
        a, e, w = abs(self.major), self._way, 2 * math.pi
        return e * w * complex(-a * math.sin(w * t), self.minor * math.cos(w * t))


@dataclass(frozen=True)
class Smooth(Shape):
    """A natural cubic spline through places, by chord lengths."""

    through: tuple[complex, ...]

    @cached_property
    def curve(self) -> Any:
        """t -> (x, y)."""
        z = np.array(self.through)
        t = np.concatenate([[0.0], np.cumsum(np.maximum(np.abs(np.diff(z)), ROUNDING))])
        from scipy.interpolate import CubicSpline  # here: few sketches have one, and it is slow to import

        return CubicSpline(t / t[-1], np.column_stack([z.real, z.imag]), bc_type="natural")

    @cached_property
    def chords(self) -> np.ndarray:
        """Places along the curve, enough to box it and to find the nearest one, (CHORDS + 1,)."""
        xy = self.curve(np.linspace(0, 1, CHORDS + 1))
        return xy[:, 0] + 1j * xy[:, 1]

    def stretches(self, t0: float, t1: float) -> list[float]:
        low, high = min(t0, t1), max(t0, t1)
        knots = [float(k) for k in self.curve.x if low < k < high]
        return [t0, *(knots if t1 > t0 else knots[::-1]), t1]

    def at(self, t: float) -> complex:
        return complex(*self.curve(t))

    def along(self, t: float) -> complex:
        return complex(*self.curve(t, 1))


def shape(sketch: Sketch, name: str) -> Shape:
    """The geometry of a curve of the sketch. Raises KeyError, or TypeError when it is not a curve."""
    e = sketch.by_id[name]

    def z(p: str) -> complex:
        return complex(*sketch.at(p))

    if isinstance(e, Line):
        return Straight(e.id, z(e.start), z(e.end))
    if isinstance(e, Circle):
        return Round(e.id, z(e.centre), e.radius, 0.0, 2 * math.pi)
    if isinstance(e, Arc):
        first = z(e.start) - z(e.centre)
        return Round(e.id, z(e.centre), abs(first), cmath.phase(first), turn_of(sketch, e))
    if isinstance(e, Ellipse):
        return Oval(e.id, z(e.centre), z(e.major) - z(e.centre), e.minor)
    if isinstance(e, Spline):
        return Smooth(e.id, tuple(z(p) for p in e.through))
    raise TypeError(f"{name} is a {e.kind}, not a curve")


def drawn(sketch: Sketch) -> list[Shape]:
    """Shapes of the curves that are not construction."""
    return [shape(sketch, c.id) for c in sketch.curves if not c.construction]


def size_of(shapes: list[Shape]) -> float:
    """Extent of some shapes, mm; at least 1e-9."""
    if not shapes:
        return ROUNDING
    box = np.array([s.box for s in shapes])
    return float(max(np.ptp(box[:, [0, 2]]), np.ptp(box[:, [1, 3]]), ROUNDING))


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
        d = s.b - s.a
        return (d.conjugate() * (z - s.a)).real / max(abs(d) ** 2, 1e-300)
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
