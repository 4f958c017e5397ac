"""Three numbers as a vector: enough for reading faces, without an array for each."""

from __future__ import annotations

import math
from typing import Any

Triple = tuple[float, float, float]
#: how a part is looked at: towards the eye, to the right of the paper
Ways = tuple[tuple[Triple, Triple], ...]


def dot(a: Triple, b: Triple) -> float:
    """a . b"""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def plus(a: Triple, b: Triple) -> Triple:
    """a + b"""
    return (a[0] + b[0], a[1] + b[1], a[2] + b[2])


def minus(a: Triple, b: Triple) -> Triple:
    """a - b"""
    return (a[0] - b[0], a[1] - b[1], a[2] - b[2])


def times(a: Triple, k: float) -> Triple:
    """k a"""
    return (a[0] * k, a[1] * k, a[2] * k)


def cross(a: Triple, b: Triple) -> Triple:
    """a x b"""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def unit(a: Triple) -> Triple:
    """a / |a|"""
    return times(a, 1 / math.hypot(*a))


def xyz(p: Any) -> Triple:
    """A point or a direction of the kernel."""
    return (p.X(), p.Y(), p.Z())
