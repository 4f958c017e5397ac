"""Residuals of each kind and their wrenches, many at once.

A residual f depends on how body a stands to body b. With the gradient g of f to a place p of a, and h to a direction d
of a, a small motion of a (shift s, turn w about the room's origin) changes f by F.s + M.w, where F = g and
M = p x g + d x h: f's wrench on a. What moves both bodies alike changes nothing, so b's wrench is the opposite.

Angles are taken as such, never as sines, so that the far side has a slope too (a parallel pair that starts turned
over comes round). Each function gets the world's places and directions as (n, 3) arrays and the fit's size L in mm, by
which angles become lengths. It returns residuals (k, n), forces (k, n, 3) and moments (k, n, 3); ``gear`` also the
moments on b, since a third body carries both.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.fit.placement import Array
from lathed_solid.quantity.tolerances import ROUNDING

TURN = 2 * math.pi


@dataclass(frozen=True, slots=True)
class Stand:
    """World places ``p`` (on a) and ``q`` (on b), directions ``d`` (of a), ``e`` and ``u`` (of b) and ``v`` = e x u."""

    p: Array
    d: Array
    q: Array
    e: Array
    u: Array
    v: Array
    value: Array
    rate: Array
    teeth: Array  # (n, 2)
    size: float
    #: of gears: the axis of a, its zero direction in the base, and those of b
    base: tuple[Array, Array, Array, Array] | None = None


Result = tuple[Array, Array, Array]


def _dot(a: Array, b: Array) -> Array:
    out: Array = np.einsum("ni,ni->n", a, b)
    return out


def _cross(a: Array, b: Array) -> Array:
    """a x b; the library's own is slow for few rows."""
    out = np.empty_like(a)
    out[:, 0] = a[:, 1] * b[:, 2] - a[:, 2] * b[:, 1]
    out[:, 1] = a[:, 2] * b[:, 0] - a[:, 0] * b[:, 2]
    out[:, 2] = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    return out


def _parallel(s: Stand) -> Result:
    """The angle between d and e as a vector square to e: two residuals."""
    y1, y2, c = _dot(s.u, s.d), _dot(s.v, s.d), _dot(s.e, s.d)
    sine = np.hypot(y1, y2)
    angle = np.arctan2(sine, c)
    tiny = sine < 1e-7
    safe = np.where(tiny, 1.0, sine)
    f = np.where(tiny, 1.0, angle / safe)
    k = np.where(tiny, -2 / 3, (c - f) / (safe * safe))
    across = y1[:, None] * s.u + y2[:, None] * s.v
    common = k[:, None] * across - s.e
    slopes = np.stack([f[:, None] * s.u + y1[:, None] * common, f[:, None] * s.v + y2[:, None] * common])
    residual = s.size * f * np.stack([y1, y2])
    moment = s.size * np.stack([_cross(s.d, slopes[0]), _cross(s.d, slopes[1])])
    return residual, np.zeros_like(moment), moment


def _along(s: Stand) -> Result:
    """A place on an axis: two residuals square to it."""
    away = s.p - s.q
    force = np.stack([s.u, s.v])
    return (np.stack([_dot(away, s.u), _dot(away, s.v)]), force,
            np.stack([_cross(s.p, s.u), _cross(s.p, s.v)]))  # fmt: skip


def _plane(s: Stand) -> Result:
    return (_dot(s.p - s.q, s.e) - s.value)[None], s.e[None], _cross(s.p, s.e)[None]


def _point(s: Stand) -> Result:
    away = s.p - s.q
    axes = (s.u, s.v, s.e)
    return (np.stack([_dot(away, x) for x in axes]), np.stack(axes),
            np.stack([_cross(s.p, x) for x in axes]))  # fmt: skip


def _square(s: Stand) -> Result:
    """Ninety degrees less the angle between."""
    c, n = _dot(s.d, s.e), _cross(s.d, s.e)
    sine = np.sqrt(_dot(n, n))
    safe = np.where(sine < ROUNDING, 1.0, sine)
    moment = s.size * n / safe[:, None]
    return (s.size * (math.pi / 2 - np.arctan2(sine, c)))[None], np.zeros_like(moment)[None], moment[None]


def _between(s: Stand) -> Result:
    """The angle between two directions, either way round."""
    c, n = _dot(s.d, s.e), _cross(s.e, s.d)
    sine = np.sqrt(_dot(n, n))
    safe = np.where(sine < ROUNDING, 1.0, sine)
    moment = s.size * n / safe[:, None]
    return (s.size * (np.arctan2(sine, c) - s.value))[None], np.zeros_like(moment)[None], moment[None]


def _angle_about(d: Array, u: Array, v: Array) -> tuple[Array, Array]:
    """The angle of d about u x v, from u, and its slope to d."""
    x, y = _dot(d, u), _dot(d, v)
    square = np.maximum(x * x + y * y, ROUNDING)
    return np.arctan2(y, x), (x[:, None] * v - y[:, None] * u) / square[:, None]


def wrapped(value: Array, period: Any = TURN) -> Array:
    """Brought to within half a period of zero."""
    out: Array = value - period * np.round(value / period)
    return out


def _turned(s: Stand) -> Result:
    """The angle of d about e, counted from u."""
    angle, slope = _angle_about(s.d, s.u, s.v)
    moment = s.size * _cross(s.d, slope)
    return s.size * wrapped(angle - s.value)[None], np.zeros_like(moment)[None], moment[None]


def _axis(s: Stand) -> Result:
    """How far a place is from an axis."""
    away = s.p - s.q
    off = away - _dot(away, s.e)[:, None] * s.e
    far = np.sqrt(_dot(off, off))
    way = np.where((far < ROUNDING)[:, None], s.u, off / np.where(far < ROUNDING, 1.0, far)[:, None])
    return (far - s.value)[None], way[None], _cross(s.p, way)[None]


def _reach(s: Stand) -> Result:
    """How far a place is from another."""
    away = s.p - s.q
    far = np.sqrt(_dot(away, away))
    way = np.where((far < ROUNDING)[:, None], s.u, away / np.where(far < ROUNDING, 1.0, far)[:, None])
    return (far - s.value)[None], way[None], _cross(s.p, way)[None]


def _screw(s: Stand) -> Result:
    """Advance less the turn's share of the lead, to the nearest pitch."""
    angle, slope = _angle_about(s.d, s.u, s.v)
    advance = _dot(s.p - s.q, s.e)
    pitch = np.abs(s.rate) / s.teeth[:, 0]
    residual = wrapped(advance - s.rate * angle / TURN - s.value, pitch)
    moment = _cross(s.p, s.e) - (s.rate / TURN)[:, None] * _cross(s.d, slope)
    return residual[None], s.e[None], moment[None]


KINDS: dict[str, Callable[[Stand], Result]] = {
    "parallel": _parallel, "along": _along, "plane": _plane, "point": _point, "square": _square, "between": _between,
    "turned": _turned, "axis": _axis, "reach": _reach, "screw": _screw,
}  # fmt: skip
#: residuals of each kind
ROWS = {kind: {"parallel": 2, "along": 2, "point": 3}.get(kind, 1) for kind in (*KINDS, "gear")}


def gear(s: Stand) -> tuple[Array, Array, Array]:
    """z_a theta_a + z_b theta_b about their axes in the base, to the nearest tooth: residuals (1, n), and the moments
    on a and on b (1, n, 3). Their mean radius in teeth makes a length of it.
    """
    assert s.base is not None
    ua, va, ub, vb = s.base
    turn_a, slope_a = _angle_about(s.d, ua, va)
    turn_b, slope_b = _angle_about(s.u, ub, vb)
    scale = s.size / s.teeth.max(axis=1)
    total = wrapped(s.teeth[:, 0] * turn_a + s.teeth[:, 1] * turn_b - s.value)
    moment_a = (scale * s.teeth[:, 0])[:, None] * _cross(s.d, slope_a)
    moment_b = (scale * s.teeth[:, 1])[:, None] * _cross(s.u, slope_b)
    return (scale * total)[None], moment_a[None], moment_b[None]
