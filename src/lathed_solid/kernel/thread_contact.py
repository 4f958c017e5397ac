"""Two real threads screwed into each other: whether their flanks go into one another, by rays from their axis.

Where both threads reach, rays square to the axis meet the screw's surface at r_s(theta, z), the nut's at r_n(theta, z).
They go into each other by d = r_s - r_n, and the common volume is the integral of (r_s^2 - r_n^2) / 2 over theta and z
where d > 0. Flanks of one profile coincide, and a boolean of coincident helices cannot be trusted; rays can. What else
of the two meets is counted by points drawn at random, with a seed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.fit.features import Feature
from lathed_solid.kernel.rays import Rays
from lathed_solid.kernel.vectors import Triple

#: rays around and along; points at random
AROUND, ALONG, POINTS = 7, 90, 1500
#: flanks that go into each other by less are in contact, as a share of the pitch
FLANKS = 0.004


@dataclass(frozen=True)
class Threaded:
    """A solid with a real thread: rays in its own frame, its placement (4, 4), the feature of the thread."""

    rays: Rays
    matrix: Any
    thread: Feature


@dataclass(frozen=True)
class InEachOther:
    """``depth``: how far flanks go into one another, mm (negative: the least play); ``volume``: of what both have in
    common at the thread; ``beside``: of what they have in common elsewhere, by points (mm3).
    """

    depth: float
    volume: float
    beside: float
    middle: Triple


def in_each_other(a: Threaded, b: Threaded) -> InEachOther | None:
    """How two screwed solids stand; None where their threads do not reach each other, or are both outside."""
    if a.thread.hollow == b.thread.hollow or a.thread.helix is None:
        return None
    screw, nut = (b, a) if a.thread.hollow else (a, b)
    origin, d, x = (_in_room(screw.matrix, v, k == 0) for k, v in enumerate(
        (screw.thread.origin, screw.thread.direction, screw.thread.x)))  # fmt: skip
    y = np.cross(d, x)
    low, high = _overlap(screw, nut, origin, d)
    pitch = abs(a.thread.helix.pitch)
    if high - low < pitch / 2:
        return None
    outer = screw.thread.radius + pitch
    depths, volume, deepest = [], 0.0, origin + d * (low + high) / 2
    cell = (high - low) / ALONG * 2 * math.pi / AROUND
    for i in range(AROUND):
        turn = 0.7 + 2 * math.pi * i / AROUND
        way = x * math.cos(turn) + y * math.sin(turn)
        for k in range(ALONG):
            start = origin + d * (low + (high - low) * (k + 0.5) / ALONG)
            out, into = _met(screw, start, way, outer, -1), _met(nut, start, way, outer, 0)
            if out is None or into is None:
                continue
            depths.append(out - into)
            if out > into + FLANKS * pitch:
                volume += (out * out - into * into) / 2 * cell
                if out - into >= max(depths):
                    deepest = start + way * out
    if not depths:
        return None
    beside, middle = _beside(screw, nut, origin, d, (low, high), outer)
    at = middle if beside > volume else deepest
    return InEachOther(max(depths), volume, beside, (float(at[0]), float(at[1]), float(at[2])))


def _in_room(matrix: Any, v: Any, place: bool) -> Any:
    return matrix[:3, :3] @ np.array(v, float) + (matrix[:3, 3] if place else 0.0)


def _overlap(screw: Threaded, nut: Threaded, origin: Any, d: Any) -> tuple[float, float]:
    """How far along the screw's axis both threads reach, mm from its origin."""
    there = _in_room(nut.matrix, nut.thread.origin, True)
    along = float(d @ _in_room(nut.matrix, nut.thread.direction, False))
    ends = sorted(float((there - origin) @ d) + along * e for e in (nut.thread.low, nut.thread.high))
    return max(ends[0], screw.thread.low), min(ends[1], screw.thread.high)


def _met(it: Threaded, start: Any, way: Any, reach: float, which: int) -> float | None:
    """Where a ray of the room meets a solid: the first (0) or the last (-1) time within ``reach``."""
    back = it.matrix[:3, :3].T
    p, w = back @ (start - it.matrix[:3, 3]), back @ way
    hits = it.rays.hits(tuple(p), tuple(w), reach)
    return hits[which] if hits else None


def _beside(screw: Threaded, nut: Threaded, origin: Any, d: Any, along: tuple[float, float], outer: float
            ) -> tuple[float, Any]:  # fmt: skip
    """The volume that both have in common away from the thread, by points in the room that both boxes share."""
    rooms = [_room(it) for it in (screw, nut)]
    low, high = np.maximum(rooms[0][0], rooms[1][0]), np.minimum(rooms[0][1], rooms[1][1])
    if (high <= low).any():
        return 0.0, origin
    draw = np.random.default_rng(20_261).uniform(low, high, (POINTS, 3))
    away = draw - origin
    height = away @ d
    far = np.linalg.norm(away - height[:, None] * d, axis=1)
    slack = abs(screw.thread.helix.pitch) if screw.thread.helix is not None else 0.0
    thread = (height > along[0] - slack) & (height < along[1] + slack) & (far < outer)
    inside = [p for p in draw[~thread] if _inside(nut, p) and _inside(screw, p)]
    share = len(inside) / POINTS
    return share * float(np.prod(high - low)), np.mean(inside, axis=0) if inside else origin


def _room(it: Threaded) -> Any:
    low, high = np.array(it.rays.room[:3]), np.array(it.rays.room[3:])
    corners = np.array([[(low, high)[(k >> i) & 1][i] for i in range(3)] for k in range(8)])
    moved = corners @ it.matrix[:3, :3].T + it.matrix[:3, 3]
    return np.array([moved.min(axis=0), moved.max(axis=0)])


def _inside(it: Threaded, point: Any) -> bool:
    p = it.matrix[:3, :3].T @ (point - it.matrix[:3, 3])
    return it.rays.inside(tuple(p)) is True
