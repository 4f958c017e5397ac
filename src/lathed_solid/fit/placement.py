"""Where a member stands: a turn and a shift, x_room = R x_member + t.

A turn is kept as a unit quaternion (w, x, y, z), with w not negative, so that one placement has one record. Rodrigues'
formula gives the turn of a rotation vector: exp(w) = E + sin a K + (1 - cos a) K^2, K the cross product by w / a.
"""

from __future__ import annotations

import math
from typing import Annotated, Any, Self

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from lathed_solid.fit.errors import FitError
from lathed_solid.quantity.tolerances import NOTHING, ROUNDING
from lathed_solid.record import Record

Array = NDArray[np.float64]
#: a place further away is absurd, mm
FAR = 1e6
Coordinate = Annotated[float, Field(ge=-FAR, le=FAR, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]


class Placement(Record):
    """``at``: where the member's origin stands, mm; ``turn``: how it is turned, a quaternion (w, x, y, z)."""

    at: tuple[Coordinate, Coordinate, Coordinate] = (0.0, 0.0, 0.0)
    turn: tuple[Share, Share, Share, Share] = (1.0, 0.0, 0.0, 0.0)

    @model_validator(mode="after")
    def _unit(self) -> Self:
        length = math.sqrt(sum(q * q for q in self.turn))
        if abs(length - 1) > 1e-6:
            raise ValueError("the turn is no unit quaternion")
        return self

    @property
    def rotation(self) -> Array:
        """The turn as a matrix (3, 3)."""
        return rotation_of(self.turn)

    @property
    def matrix(self) -> Array:
        """(4, 4), for columns."""
        out = np.eye(4)
        out[:3, :3], out[:3, 3] = self.rotation, self.at
        return out


def rotation_of(q: tuple[float, float, float, float]) -> Array:
    """The matrix (3, 3) of a quaternion (w, x, y, z), which is made a unit first."""
    w, x, y, z = np.asarray(q, float) / math.sqrt(sum(c * c for c in q))
    return np.array([
        [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
        [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
        [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
    ])  # fmt: skip


def quaternion_of(rotation: Array) -> tuple[float, float, float, float]:
    """The quaternion (w, x, y, z) of a matrix, w not negative (Shepperd 1978: the greatest component first)."""
    m = rotation
    trace = float(np.trace(m))
    parts = [trace, float(m[0, 0]), float(m[1, 1]), float(m[2, 2])]
    k = int(np.argmax(parts))
    if k == 0:
        w = math.sqrt(max(1 + trace, 0.0)) / 2
        q = [w, (m[2, 1] - m[1, 2]) / (4 * w), (m[0, 2] - m[2, 0]) / (4 * w), (m[1, 0] - m[0, 1]) / (4 * w)]
    else:
        i, j, n = ((0, 1, 2), (1, 2, 0), (2, 0, 1))[k - 1]
        c = math.sqrt(max(1 + m[i, i] - m[j, j] - m[n, n], 0.0)) / 2
        q = [(m[n, j] - m[j, n]) / (4 * c), 0.0, 0.0, 0.0]
        q[1 + i], q[1 + j], q[1 + n] = c, (m[j, i] + m[i, j]) / (4 * c), (m[n, i] + m[i, n]) / (4 * c)
    length = math.sqrt(sum(float(c) ** 2 for c in q)) * (-1 if q[0] < 0 else 1)
    w, x, y, z = (float(c) / length for c in q)
    return w, x, y, z


def placed(rotation: Array, at: Array) -> Placement:
    """A placement of a matrix (3, 3) and a place (3,), mm. Raises FitError for what is no turn, or absurdly far."""
    rotation, at = np.asarray(rotation, float), np.asarray(at, float)
    if not (np.isfinite(rotation).all() and np.isfinite(at).all()):
        raise FitError("a placement is no number", rule="every place and turn is finite")
    if np.abs(at).max(initial=0.0) > FAR:
        raise FitError("a member would stand absurdly far away", rule=f"at most {FAR:g} mm", received=at.tolist())
    if np.abs(rotation @ rotation.T - np.eye(3)).max() > 1e-6 or np.linalg.det(rotation) < 0:
        raise FitError("this is no turn", rule="three unit directions, square to each other, right-handed")
    x, y, z = (float(c) for c in at)
    return Placement(at=(x, y, z), turn=quaternion_of(rotation))


def as_placement(where: Any) -> Placement:
    """A placement as it may be given: one, a place (3,), or a matrix (4, 4). Raises FitError for anything else."""
    if isinstance(where, Placement):
        return where
    try:
        given = np.asarray(where, float)
    except (TypeError, ValueError):
        given = np.zeros(0)
    if given.shape == (3,):
        return placed(np.eye(3), given)
    if given.shape == (4, 4):
        return placed(given[:3, :3], given[:3, 3])
    raise FitError("this is no placement", received=where, hint="a place (x, y, z), or a matrix of 4 by 4")


def turns(vectors: Array) -> Array:
    """Matrices (n, 3, 3) that turn by the rotation vectors (n, 3), rad."""
    angle = np.sqrt(np.einsum("ni,ni->n", vectors, vectors))
    small = angle < 1e-4
    safe = np.where(small, 1.0, angle)
    square = angle * angle
    a = np.where(small, 1 - square / 6, np.sin(safe) / safe)
    b = np.where(small, 0.5 - square / 24, (1 - np.cos(safe)) / (safe * safe))
    k = np.zeros((len(vectors), 3, 3))
    k[:, 0, 1], k[:, 0, 2], k[:, 1, 2] = -vectors[:, 2], vectors[:, 1], -vectors[:, 0]
    k[:, 1, 0], k[:, 2, 0], k[:, 2, 1] = vectors[:, 2], -vectors[:, 1], vectors[:, 0]
    out: Array = np.eye(3) + a[:, None, None] * k + b[:, None, None] * (k @ k)
    return out


def turn_about(axis: Any, angle: float) -> Array:
    """The matrix (3, 3) of a turn by ``angle`` rad about a direction. Raises FitError for a direction of no length."""
    d = np.asarray(axis, float)
    length = float(np.linalg.norm(d))
    if length < NOTHING:
        raise FitError("an axis without a direction", received=axis)
    return turns((d / length * angle)[None])[0]


def rotation_vector(rotation: Array) -> Array:
    """The rotation vector (3,) of a matrix: along the axis, as long as the angle (0 to pi), rad."""
    w, x, y, z = quaternion_of(rotation)
    v = np.array([x, y, z])
    s = float(np.linalg.norm(v))
    return 2 * v if s < ROUNDING else v / s * (2 * math.atan2(s, w))


def square_to(direction: Array) -> tuple[Array, Array]:
    """Two unit vectors (3,) square to a unit direction and to each other, right-handed with it."""
    start = np.zeros(3)
    start[int(np.argmin(np.abs(direction)))] = 1.0
    x = start - direction * float(start @ direction)
    x /= np.linalg.norm(x)
    return x, np.cross(direction, x)
