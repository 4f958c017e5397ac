"""Curves of a sketch as geometry: position, direction and curvature at a parameter, the place nearest to another.

Positions are complex numbers x + iy in mm; every curve runs over t in [0, 1].
"""

from __future__ import annotations

import cmath
import itertools
import math
from abc import ABC, abstractmethod
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from lathed_solid.quantity.tolerances import NOTHING, ROUNDING
from lathed_solid.sketch.measure import turn_of
from lathed_solid.sketch.model import Arc, Circle, Ellipse, Line, Sketch, Spline

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

    def near(self, z: complex, reach: float) -> complex | None:
        """The place nearest to ``z`` when it lies within ``reach`` mm."""
        x0, y0, x1, y1 = self.box
        if not (x0 - reach <= z.real <= x1 + reach and y0 - reach <= z.imag <= y1 + reach):
            return None
        found = self.at(self.find(z))
        return found if abs(found - z) <= reach else None

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

    def parameter(self, z: complex) -> float:
        """Of the foot of ``z`` on the whole line, beyond [0, 1] where it runs on."""
        d = self.b - self.a
        return (d.conjugate() * (z - self.a)).real / max(abs(d) ** 2, 1e-300)

    def find(self, z: complex) -> float:
        return min(1.0, max(0.0, self.parameter(z)))

    def foot(self, z: complex) -> complex:
        """The place of the whole line nearest to ``z``."""
        return self.at(self.parameter(z))

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

    def foot(self, z: complex) -> complex:
        """The place of the whole circle nearest to ``z``, which is not its centre."""
        return self.centre + (z - self.centre) / max(abs(z - self.centre), NOTHING) * self.radius

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
        from scipy.interpolate import CubicSpline  # here: few sketches have one, and it is slow to import

        z = np.array(self.through)
        t = np.concatenate([[0.0], np.cumsum(np.maximum(np.abs(np.diff(z)), ROUNDING))])
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
