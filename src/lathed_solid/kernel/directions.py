"""Where angles about an axis count from: one rule for holes, ready details, datums and measuring.

Zero is the part's Z, brought square to the axis; on an axis within 26 degrees of Z it is X.
"""

from __future__ import annotations

import math

import numpy as np

from lathed_solid.kernel.vectors import Triple
from lathed_solid.quantity.tolerances import ANGULAR, NOTHING

NEARLY_UPRIGHT = 0.9


def upwards(axis: Triple) -> Triple:
    """The unit direction square to ``axis`` (a unit vector) from which angles about it count."""
    d = np.asarray(axis, float)
    up = np.array([0.0, 0.0, 1.0]) if abs(d[2]) < NEARLY_UPRIGHT else np.array([1.0, 0.0, 0.0])
    up = up - d * float(up @ d)
    up /= np.linalg.norm(up)
    return (float(up[0]), float(up[1]), float(up[2]))


def aside(axis: Triple) -> Triple:
    """A quarter turn on from ``upwards``. About X from Z towards Y, whichever way the axis points."""
    if abs(axis[0]) > 1 - ANGULAR:
        return (0.0, 1.0, 0.0)
    x = np.cross(axis, upwards(axis))
    return (float(x[0]), float(x[1]), float(x[2]))


def clock(axis: Triple, way: Triple) -> float:
    """The angle (rad, above 0 up to 2 pi) of a direction square to ``axis``."""
    turn = math.atan2(float(np.dot(way, aside(axis))), float(np.dot(way, upwards(axis))))
    return turn if turn > NOTHING else turn + 2 * math.pi
