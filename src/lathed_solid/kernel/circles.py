"""Circles of like holes, place by place: each axis by its own distance from the centre, and the angles between them."""

from __future__ import annotations

import itertools
import math
from typing import Any

import numpy as np

from lathed_solid.kernel.case import PARALLEL
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.part.steps import face_frame
from lathed_solid.proof.findings import Finding


def circle_radius(points: np.ndarray) -> float:
    """Radius of the circle through points (n, 2); two points span its diameter."""
    return float(np.mean(np.linalg.norm(points - centre(points), axis=1)))


def centre(points: np.ndarray) -> Any:
    """Centre (2,) of the circle through points (n, 2), half way between two of them.

    Linear least squares of x^2 + y^2 = 2 a x + 2 b y + c (Kasa, IEEE Trans. Instrum. Meas. 25, 1976).
    """
    if len(points) < 3:
        return points.mean(axis=0)
    middle = points.mean(axis=0)
    p = points - middle
    a = np.column_stack([2 * p, np.ones(len(p))])
    solution, *_ = np.linalg.lstsq(a, (p**2).sum(axis=1), rcond=None)
    return middle + solution[:2]


def places(cylinders: list[Surface], outwards: Any = None) -> Any:
    """Where the axes stand, (n, 2) mm, in the frame of the face they enter: its origin is the foot of the part's
    origin.

    Raises MeasureError when they are not parallel.
    """
    first = np.array(cylinders[0].direction if outwards is None else outwards)
    for c in cylinders:
        if abs(abs(float(first @ np.array(c.direction))) - 1) > PARALLEL:
            raise MeasureError("the axes are not parallel")
    frame = face_frame((0.0, 0.0, 0.0), tuple(first), 0.0, False)
    x, y = np.array(frame.x), np.array(frame.y)
    return np.array([[x @ np.array(c.origin), y @ np.array(c.origin)] for c in cylinders])


def bolt_circle(cylinders: list[Surface], nominal: float, about_origin: bool) -> tuple[float, list[Finding]]:
    """The diameter of the circle of the place farthest off (mm), and how far from equal the spacing is (rad)."""
    found = places(cylinders)
    if len(found) == 1 and not about_origin:
        raise MeasureError("one place has no circle of its own", hint="give the circle its centre")
    middle = np.zeros(2) if about_origin else centre(found)
    away = found - middle
    diameters = 2 * np.linalg.norm(away, axis=1)
    worst = float(diameters[int(np.argmax(np.abs(diameters - nominal)))])
    return worst, [] if len(found) < 2 else [_spacing(away)]


def _spacing(away: Any) -> Finding:
    turns = sorted(math.atan2(float(y), float(x)) for x, y in away)
    steps = [b - a for a, b in itertools.pairwise(turns)] + [turns[0] + 2 * math.pi - turns[-1]]
    even = 2 * math.pi / len(turns)
    off = max((abs(s - even) for s in steps), default=0.0)
    worst = max(steps, key=lambda s: abs(s - even))
    return Finding("equal spacing", off, f"{math.degrees(worst):.4g}° for {math.degrees(even):.4g}°")
