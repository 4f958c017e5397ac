"""Exact figures of the solid of revolution, from its half section alone (Pappus; Green's theorem).

With the contour run clockwise in (z, r) (left face up, outside to the right), over all segments:

    V   = pi      int r^2 dz              S   = 2 pi int r ds
    z_c = pi / V  int z r^2 dz
    I_a = pi / 2  int r^4 dz              (about the axis)
    I_t = I_a / 2 + pi int z^2 r^2 dz - V z_c^2   (about a diameter through the centre)

The integrals of each line are polynomials, integrated exactly by 5-point Gauss-Legendre; arcs are
trigonometric polynomials, integrated to rounding by 20 points. This is a second way to every figure, which
shares nothing with the geometry kernel.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from lathed_solid.turned.contour import Segment
from lathed_solid.turned.half_section import HalfSection


@dataclass(frozen=True, slots=True)
class Revolved:
    """Volume mm3, area mm2, axial centre mm, second moments of volume mm5 (axial, transverse at the centre)."""

    volume: float
    area: float
    centre: float
    axial: float
    transverse: float


def revolved(section: HalfSection) -> Revolved:
    """Figures of the full turn of ``section`` about its axis."""
    v = a = zv = i4 = z2 = 0.0
    for segment in section.segments:
        z, r, dz, ds = _quadrature(segment)
        v += math.pi * float(np.sum(r**2 * dz))
        zv += math.pi * float(np.sum(z * r**2 * dz))
        i4 += math.pi / 2 * float(np.sum(r**4 * dz))
        z2 += math.pi * float(np.sum(z**2 * r**2 * dz))
        if segment.name != "axis":
            a += 2 * math.pi * float(np.sum(r * ds))
    centre = zv / v
    return Revolved(v, a, centre, i4, i4 / 2 + z2 - v * centre**2)


def _quadrature(s: Segment) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    """Nodes z, r and weights dz, ds along a segment; each of shape (5,) or (20,)."""
    x, w = np.polynomial.legendre.leggauss(5 if s.centre is None else 20)
    t, w = (x + 1) / 2, w / 2
    (z0, r0), (z1, r1) = s.start, s.end
    if s.centre is None:
        length = math.dist(s.start, s.end)
        return z0 + (z1 - z0) * t, r0 + (r1 - r0) * t, (z1 - z0) * w, length * w
    a0 = math.atan2(r0 - s.centre[1], z0 - s.centre[0])
    a1 = math.atan2(r1 - s.centre[1], z1 - s.centre[0])
    turn = (a1 - a0 + math.pi) % (2 * math.pi) - math.pi
    a, radius = a0 + turn * t, s.radius
    z, r = s.centre[0] + radius * np.cos(a), s.centre[1] + radius * np.sin(a)
    return z, r, -radius * np.sin(a) * turn * w, abs(turn) * radius * w
