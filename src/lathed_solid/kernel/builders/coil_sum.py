"""What a coil takes out of a turned body, worked out without the kernel's booleans.

At the angle t of the screw motion and the radius r a groove reaches from a(r) + c t to b(r) + c t along the axis, where
c is the pitch by a radian and [a, b] the region's stretch at r. A body turned about the same axis has material there on
stretches [p, q] that do not depend on t. So

    V = int r dr int_0^T |[a + c t, b + c t] n [p, q]| dt

The inner integrand is piecewise linear in t and summed exactly; along r it is smooth between the radii of the region's
and the body's corners, and is integrated there by Gauss's rule in r = m - h cos(pi s), which takes the roots out of
arcs' ends. The body's stretches are where a ray along the axis runs through material.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np
from OCP.gp import gp_Pnt

from lathed_solid.kernel.builders.planar import Placed
from lathed_solid.kernel.directions import upwards
from lathed_solid.kernel.look import turned_about
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.rays import Rays, room_of
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import faces
from lathed_solid.kernel.vectors import Triple, cross, dot, minus, times
from lathed_solid.part.steps.regions import PieceFigure, RegionFigure

#: places along r between two corners
NODES, WEIGHTS = np.polynomial.legendre.leggauss(24)
#: corners nearer than this along r are one, mm
ONE = 1e-7

Stretch = tuple[float, float]


def removed(
    body: Body, region: RegionFigure, placed: Placed, axis: tuple[Triple, Triple], pitch: float, turns: float
) -> float | None:
    """Volume that the coiled region takes out of the body, mm3; None where this way of working it out does not hold.

    That is a body that is not turned about the axis where the coil passes, a groove wider than its pitch, a region of
    free curves. ``axis``: origin and unit direction.
    """
    middle_of = placed.exact((region.moment_x / region.area, region.moment_y / region.area))
    outline = [_piece(p, placed, axis, middle_of) for p in region.outer]
    if region.holes or any(p is None for p in outline):
        return None
    pieces = [p for p in outline if p is not None]
    levels = [x for p in pieces for x, _ in p.ends]
    if max(levels) - min(levels) > pitch:
        return None
    low, high = min(r for p in pieces for r in p.reach), max(r for p in pieces for r in p.reach)
    found = _corners(body, axis, (min(levels), max(levels) + pitch * turns), high)
    if found is None:
        return None
    cuts = sorted({low, high, *(r for p in pieces for r in p.reach), *(r for r in found if low < r < high)})
    cuts = [c for k, c in enumerate(cuts) if k == 0 or c - cuts[k - 1] > ONE]
    rays, (origin, d) = Rays(body.shape), axis
    up = upwards(d)
    side = cross(d, up)
    off: Triple = tuple(math.cos(0.7) * u + math.sin(0.7) * s for u, s in zip(up, side, strict=True))  # type: ignore[assignment]
    begin = float((_box(rays.room) @ np.array(d)).min()) - dot(origin, d) - 1.0
    total = 0.0
    for one, two in itertools.pairwise(cuts):
        middle, half = (one + two) / 2, (two - one) / 2
        for s, w in zip((NODES + 1) / 2, WEIGHTS / 2, strict=True):
            r = middle - half * math.cos(math.pi * s)
            weight = w * half * math.pi * math.sin(math.pi * s) * r
            at: Triple = tuple(o + begin * k + r * u for o, k, u in zip(origin, d, off, strict=True))  # type: ignore[assignment]
            hits = [begin + t for t in rays.hits(at, d, 1e6)]
            crossed = sorted(x for p in pieces for x in p.at(r))
            if len(hits) % 2 or len(crossed) % 2:
                return None
            for a, b in zip(crossed[::2], crossed[1::2], strict=True):
                for p, q in zip(hits[::2], hits[1::2], strict=True):
                    total += weight * _overlap((a, b), (p, q), pitch / (2 * math.pi), 2 * math.pi * turns)
    return total


def _overlap(groove: Stretch, material: Stretch, rise: float, whole: float) -> float:
    """int_0^whole |[a + rise t, b + rise t] n [p, q]| dt, by its corners."""
    (a, b), (p, q) = groove, material
    corners = {0.0, whole, *((y - x) / rise for x in (a, b) for y in (p, q))}
    times = sorted(t for t in corners if 0.0 <= t <= whole)
    lengths = [max(0.0, min(b + rise * t, q) - max(a + rise * t, p)) for t in times]
    return sum((t - s) * (x + y) / 2 for (s, x), (t, y) in itertools.pairwise(zip(times, lengths, strict=True)))


class _Line:
    """A piece of the outline in (along the axis, off it)."""

    def __init__(self, start: Stretch, end: Stretch) -> None:
        self.ends = (start, end)
        self.reach = (start[1], end[1])

    def at(self, r: float) -> list[float]:
        (x, p), (y, q) = self.ends
        return [x + (y - x) * (r - p) / (q - p)] if min(p, q) < r < max(p, q) else []


class _Arc:
    """The same, round: from start through middle to end about a centre."""

    def __init__(self, start: Stretch, middle: Stretch, end: Stretch, centre: Stretch) -> None:
        p, m, q, self.centre = (complex(*z) for z in (start, middle, end, centre))
        self.radius = abs(p - self.centre)
        self.first, self.turn = p - self.centre, self._turn(p - self.centre, m - self.centre, q - self.centre)
        places = [start, end]
        for way in (1j, -1j, 1, -1):
            if self._on(way * self.radius):
                z = self.centre + way * self.radius
                places.append((z.real, z.imag))
        self.ends = tuple(places)
        self.reach = tuple(r for _, r in places)

    @staticmethod
    def _turn(p: complex, m: complex, q: complex) -> float:
        """Signed angle from p to q by way of m, rad."""
        ccw = (np.angle(q / p)) % (2 * math.pi)
        return float(ccw if np.angle(m / p) % (2 * math.pi) < ccw else ccw - 2 * math.pi)

    def _on(self, z: complex) -> bool:
        turn = float(np.angle(z / self.first)) % (2 * math.pi)
        return turn < self.turn if self.turn > 0 else turn - 2 * math.pi > self.turn

    def at(self, r: float) -> list[float]:
        up = r - self.centre.imag
        if abs(up) >= self.radius:
            return []
        across = math.sqrt(self.radius**2 - up * up)
        return [self.centre.real + x for x in (across, -across) if self._on(complex(x, up))]


def _piece(piece: PieceFigure, placed: Placed, axis: tuple[Triple, Triple], beside: gp_Pnt) -> _Line | _Arc | None:
    """A piece in (along the axis, off it towards ``beside``); None for one that is no line or arc."""

    def away(p: gp_Pnt) -> Triple:
        return minus((p.X(), p.Y(), p.Z()), axis[0])

    side = minus(away(beside), times(axis[1], dot(away(beside), axis[1])))

    def across(p: tuple[float, float]) -> Stretch:
        from_axis = away(placed.exact(p))
        return dot(from_axis, axis[1]), dot(from_axis, side) / math.sqrt(dot(side, side))

    start, middle, end = (across(p) for p in (piece.start, piece.middle, piece.end))
    if piece.kind == "line":
        return _Line(start, end)
    if piece.kind != "arc" or piece.start == piece.end:
        return None
    x, y, _radius = piece.figures
    return _Arc(start, middle, end, across((x, y)))


def _corners(body: Body, axis: tuple[Triple, Triple], along: Stretch, reach: float) -> list[float] | None:
    """Radii of the body's corners where the coil passes; None where it is not turned about the axis there."""
    origin, d = axis
    base, out = dot(origin, d), []
    for face in faces(body.shape):
        corners = _box(room_of(face))
        levels = corners @ np.array(d) - base
        if levels.max() < along[0] or levels.min() > along[1] or _beyond(corners, axis, reach):
            continue
        s = read_surface(face)
        if not turned_about(s, *axis):
            return None
        out += [r for _, _, r in s.circles]
    return out


def _box(room: Sequence[float]) -> np.ndarray:
    """The eight corners of a box, (8, 3)."""
    return np.array(list(itertools.product(*zip(room[:3], room[3:], strict=True))))


def _beyond(corners: np.ndarray, axis: tuple[Triple, Triple], reach: float) -> bool:
    """Whether a box lies farther off the axis than the coil reaches."""
    origin, d = axis
    away = corners - np.array(origin)
    off = away - np.outer(away @ np.array(d), d)
    low, high = off.min(axis=0), off.max(axis=0)
    nearest = np.clip(0.0, low, high)
    return bool(np.linalg.norm(nearest) > reach)
