"""Outlines of flat faces compared: where two sets of faces in one plane do not cover the same.

Two regions of a plane differ in a region whose boundary is made of what only one of their outlines has. A point lies in
it when a ray in the plane from there crosses that boundary an odd number of times; edges that both outlines have cancel
out of the count, so they are left out from the start. Arcs are counted as chords, and whatever lies nearer to a chord
than arcs may be counts as within.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from OCP.BRepAdaptor import BRepAdaptor_Curve
from OCP.GeomAbs import GeomAbs_CurveType

from lathed_solid.kernel.segments import off_segments
from lathed_solid.kernel.surfaces import read_surface
from lathed_solid.kernel.topology import Key, edges
from lathed_solid.kernel.vectors import dot

#: decimals to which planes are the same
DIGITS = 7
#: nearer to an outline than this is on it, mm
MARGIN = 1e-3
#: chords of a curved edge
CHORDS = 8
#: a line along a plane, by the sine of its angle to it
LEVEL = 1e-9

Plane = tuple[float, ...]


def flat_of(face: Any) -> Plane | None:
    """Outward normal and level of a flat face, rounded; None for others."""
    s = read_surface(face)
    if s.kind != "plane":
        return None
    return tuple(round(v, DIGITS) + 0.0 for v in (*s.direction, dot(s.direction, s.origin)))


@dataclass(frozen=True)
class Difference:
    """What only one of two sets of faces in a plane covers, by the chords of its boundary, (n, 2, 3) mm."""

    normal: np.ndarray
    level: float
    chords: np.ndarray
    near: float

    @cached_property
    def room(self) -> tuple[float, ...]:
        """Least x, y, z of it, then greatest, mm."""
        low, high = self.chords.min(axis=(0, 1)) - self.near, self.chords.max(axis=(0, 1)) + self.near
        return (*map(float, low), *map(float, high))

    def met(self, rays: np.ndarray) -> np.ndarray:
        """Which stretches of lines pass it; ``rays`` (n, 8): origin, way, from, to."""
        origin, way = rays[:, :3], rays[:, 3:6]
        height, rise = self.level - origin @ self.normal, way @ self.normal
        along = np.abs(rise) < LEVEL * np.linalg.norm(way, axis=1)
        with np.errstate(divide="ignore", invalid="ignore"):
            t = height / rise
        through = ~along & (t >= rays[:, 6] - self.near) & (t <= rays[:, 7] + self.near)
        out = along & (np.abs(height) < self.near)
        at = np.flatnonzero(through)
        if len(at):
            out[at] = self._covers(origin[at] + t[at, None] * way[at])
        return out

    def _covers(self, points: np.ndarray) -> np.ndarray:
        u = np.cross(self.normal, np.eye(3)[int(np.abs(self.normal).argmin())])
        u /= np.linalg.norm(u)
        v = np.cross(self.normal, u)
        axes = np.array([u, v]).T
        p = (points @ axes)[:, None, :]
        a, b = (self.chords[:, k] @ axes for k in (0, 1))
        above = (a[None, :, 1] > p[:, :, 1]) != (b[None, :, 1] > p[:, :, 1])
        with np.errstate(divide="ignore", invalid="ignore"):
            x = a[:, 0] + (p[:, :, 1] - a[:, 1]) * (b[:, 0] - a[:, 0]) / (b[:, 1] - a[:, 1])
        odd = (above & (x > p[:, :, 0])).sum(axis=1) % 2 == 1
        return np.asarray(odd | (off_segments(p, a, b - a).min(axis=1) < self.near))


def difference(plane: Plane, old: Sequence[Any], new: Sequence[Any]) -> Difference | None:
    """Where the old and the new faces in one plane do not cover the same; None when they do."""
    once: dict[Key, Any] = {}
    for edge in (e for face in (*old, *new) for e in edges(face)):
        if once.pop(Key(edge), None) is None:
            once[Key(edge)] = edge
    chords: list[np.ndarray] = []
    near = MARGIN
    for edge in once.values():
        curve = BRepAdaptor_Curve(edge)
        first, last = curve.FirstParameter(), curve.LastParameter()
        many = 1 if curve.GetType() == GeomAbs_CurveType.GeomAbs_Line else CHORDS
        at = [curve.Value(first + (last - first) * k / many) for k in range(many + 1)]
        points = np.array([(p.X(), p.Y(), p.Z()) for p in at])
        if many > 1:  # an arc stands off its chord by about an eighth of chord^2 / radius, less than this
            near = max(near, float(np.linalg.norm(np.diff(points, axis=0), axis=1).max()) * math.pi / (2 * many))
        chords.append(np.stack([points[:-1], points[1:]], axis=1))
    if not chords:
        return None
    normal = np.array(plane[:3])
    found = np.concatenate(chords)
    return Difference(normal, float(found[0, 0] @ normal), found, near)
