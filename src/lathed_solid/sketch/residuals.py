"""Residuals and their analytic derivatives, vectorised over all rows of one kind.

Each kind is a function ``f(V, P, W, R, J)``: V (k, m) unknowns, P (q, m) parameters, W (m,) weights; it fills
R (rows, m) and J (rows, k, m). All residuals are lengths in mm: an angle is wrapped to (-pi, pi] and multiplied
by the weight of its row, the shorter of the two segments at the start. Distances are taken as they are, not
squared, and signed where there is a side, so that each residual has one branch.

Signed distance of p from the line a -> b, left positive: h = u x (p - a) / |u| with u = b - a.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]
TINY = 1e-12


@dataclass(frozen=True, slots=True)
class Kind:
    """``unknowns`` and ``rows`` of one instance; ``fill`` computes residuals and derivatives."""

    unknowns: int
    rows: int
    fill: Callable[[Array, Array, Array, Array, Array], None]


def _value(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    r[0] = v[0] - p[0]
    j[0, 0] = 1.0


def _shift(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    r[0] = v[1] - v[0] - p[0]
    j[0, 0] = -1.0
    j[0, 1] = 1.0


def _unit(dx: Array, dy: Array) -> tuple[Array, Array, Array]:
    d = np.maximum(np.hypot(dx, dy), TINY)
    return d, dx / d, dy / d


def _apart(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """|c2 - c1| = d + s1 r1 + s2 r2; unknowns c1, c2, r1, r2; parameters d, s1, s2. A point is a circle of radius 0."""
    d, ux, uy = _unit(v[2] - v[0], v[3] - v[1])
    r[0] = d - p[1] * v[4] - p[2] * v[5] - p[0]
    j[0, 0], j[0, 1], j[0, 2], j[0, 3] = -ux, -uy, ux, uy
    j[0, 4], j[0, 5] = -p[1], -p[2]


def _height(
    ax: Array, ay: Array, bx: Array, by: Array, px: Array, py: Array, j: Array
) -> tuple[Array, Array, Array, Array]:
    """h and (L, ux, uy); derivatives by a, b, p into ``j`` (6, m)."""
    length, ux, uy = _unit(bx - ax, by - ay)
    wx, wy = px - ax, py - ay
    h = ux * wy - uy * wx
    hbx, hby = (wy - h * ux) / length, (-wx - h * uy) / length
    j[0], j[1] = uy - hbx, -ux - hby
    j[2], j[3] = hbx, hby
    j[4], j[5] = -uy, ux
    return h, length, ux, uy


def _offset(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """Point or centre to line: h = d + s r; unknowns a, b, c, r; parameters d, s."""
    r[0] = _height(v[0], v[1], v[2], v[3], v[4], v[5], j[0])[0] - p[1] * v[6] - p[0]
    j[0, 6] = -p[1]


def _angle(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """From a -> b to c -> d, counter-clockwise; unknowns a, b, c, d."""
    ux, uy, vx, vy = v[2] - v[0], v[3] - v[1], v[6] - v[4], v[7] - v[5]
    u2 = np.maximum(ux * ux + uy * uy, TINY**2)
    v2 = np.maximum(vx * vx + vy * vy, TINY**2)
    turn = np.arctan2(ux * vy - uy * vx, ux * vx + uy * vy) - p[0]
    turn -= 2 * np.pi * np.round(turn / (2 * np.pi))
    r[0] = w * turn
    u2, v2 = w / u2, w / v2
    a, b, c, d = uy * u2, ux * u2, vy * v2, vx * v2
    j[0, 0], j[0, 1], j[0, 2], j[0, 3] = -a, b, a, -b
    j[0, 4], j[0, 5], j[0, 6], j[0, 7] = c, -d, -c, d


def _equal(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    d, ux, uy = _unit(v[2] - v[0], v[3] - v[1])
    e, wx, wy = _unit(v[6] - v[4], v[7] - v[5])
    r[0] = d - e
    j[0, 0], j[0, 1], j[0, 2], j[0, 3] = -ux, -uy, ux, uy
    j[0, 4], j[0, 5], j[0, 6], j[0, 7] = wx, wy, -wx, -wy


def _middle(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """Unknowns a, b, m."""
    r[0] = (v[0] + v[2]) / 2 - v[4]
    r[1] = (v[1] + v[3]) / 2 - v[5]
    j[...] = 0.0
    j[0, 0] = j[0, 2] = j[1, 1] = j[1, 3] = 0.5
    j[0, 4] = j[1, 5] = -1.0


def _symmetric(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """Points p, q about the line a -> b: their middle is on it, their join square to it."""
    px, py, qx, qy, ax, ay, bx, by = v
    part = np.empty((6, v.shape[1]))
    h, length, ux, uy = _height(ax, ay, bx, by, (px + qx) / 2, (py + qy) / 2, part)
    ex, ey = qx - px, qy - py
    t = ex * ux + ey * uy
    tx, ty = (ex - t * ux) / length, (ey - t * uy) / length
    r[0], r[1] = h, t
    j[0, 0] = j[0, 2] = part[4] / 2
    j[0, 1] = j[0, 3] = part[5] / 2
    j[0, 4:8] = part[0:4]
    j[1, 0], j[1, 1], j[1, 2], j[1, 3] = -ux, -uy, ux, uy
    j[1, 4], j[1, 5], j[1, 6], j[1, 7] = -tx, -ty, tx, ty


def _arc_length(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """radius times the counter-clockwise turn from start to end; unknowns c, s, e, r."""
    sx, sy, ex, ey = v[2] - v[0], v[3] - v[1], v[4] - v[0], v[5] - v[1]
    turn = np.mod(np.arctan2(sx * ey - sy * ex, sx * ex + sy * ey), 2 * np.pi)
    s2 = v[6] / np.maximum(sx * sx + sy * sy, TINY**2)
    e2 = v[6] / np.maximum(ex * ex + ey * ey, TINY**2)
    r[0] = v[6] * turn - p[0]
    j[0, 2], j[0, 3] = sy * s2, -sx * s2
    j[0, 4], j[0, 5] = -ey * e2, ex * e2
    j[0, 0], j[0, 1] = -j[0, 2] - j[0, 4], -j[0, 3] - j[0, 5]
    j[0, 6] = turn


def _ellipse_frame(cx: Array, cy: Array, mx: Array, my: Array) -> tuple[Array, Array, Array]:
    ax, ay = mx - cx, my - cy
    a = np.maximum(np.sqrt(ax * ax + ay * ay), TINY)
    return a, ax / a, ay / a


def _on_ellipse(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """(x/a)^2 + (y/b)^2 = 1, times the smaller axis / 2; unknowns c, m, b, q."""

    def f(cx, cy, mx, my, b, qx, qy):
        a, ex, ey = _ellipse_frame(cx, cy, mx, my)
        x, y = (qx - cx) * ex + (qy - cy) * ey, (qy - cy) * ex - (qx - cx) * ey
        return b / 2 * ((x / a) ** 2 + (y / b) ** 2 - 1)

    _exact_derivative(f, v, r, j)


def _tangent_ellipse(v: Array, p: Array, w: Array, r: Array, j: Array) -> None:
    """h of the centre = s sqrt(a^2 (n e)^2 + b^2 (n f)^2); unknowns a, b (line), c, m, b."""
    s = p[0]

    def f(ax, ay, bx, by, cx, cy, mx, my, b):
        a, ex, ey = _ellipse_frame(cx, cy, mx, my)
        ux, uy = bx - ax, by - ay
        length = np.sqrt(ux * ux + uy * uy)
        ux, uy = ux / length, uy / length
        h = ux * (cy - ay) - uy * (cx - ax)
        along, across = -uy * ex + ux * ey, ux * ex + uy * ey
        return h - s * np.sqrt((a * along) ** 2 + (b * across) ** 2)

    _exact_derivative(f, v, r, j)


def _exact_derivative(f: Callable[..., Array], v: Array, r: Array, j: Array) -> None:
    """Derivatives of a rare kind by a complex step, exact to rounding (Squire and Trapp 1998)."""
    r[0] = f(*v)
    for k in range(v.shape[0]):
        z = v.astype(complex)
        z[k] += 1e-30j
        j[0, k] = np.imag(f(*z)) / 1e-30


KINDS: dict[str, Kind] = {
    "value": Kind(1, 1, _value),
    "shift": Kind(2, 1, _shift),
    "apart": Kind(6, 1, _apart),
    "offset": Kind(7, 1, _offset),
    "angle": Kind(8, 1, _angle),
    "equal": Kind(8, 1, _equal),
    "middle": Kind(6, 2, _middle),
    "symmetric": Kind(8, 2, _symmetric),
    "arc_length": Kind(7, 1, _arc_length),
    "on_ellipse": Kind(7, 1, _on_ellipse),
    "tangent_ellipse": Kind(9, 1, _tangent_ellipse),
}
