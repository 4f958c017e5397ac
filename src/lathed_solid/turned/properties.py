"""Exact figures of the solid of revolution, from its half section alone (Pappus; Green's theorem).

With the contour run clockwise in (z, r) (left face up, outside to the right), over all segments:

    V   = pi      int r^2 dz              S   = 2 pi int r ds
    z_c = pi / V  int z r^2 dz
    I_a = pi / 2  int r^4 dz              (about the axis)        A   = int r dz (the half section)
    I_t = I_a / 2 + pi int z^2 r^2 dz - V z_c^2   (about a diameter through the centre)

The integrals of each line are polynomials, integrated exactly by 5-point Gauss-Legendre; arcs are
trigonometric polynomials, integrated to rounding by 20 points. This is a second way to every figure, which
shares nothing with the geometry kernel.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache

from lathed_solid.turned.contour import Segment
from lathed_solid.turned.half_section import HalfSection


@dataclass(frozen=True, slots=True)
class Revolved:
    """Volume mm3, area mm2, axial centre mm, second moments of volume mm5 (axial, transverse at the centre); the half
    section's own area, mm2.
    """

    volume: float
    area: float
    centre: float
    axial: float
    transverse: float
    half_area: float


def revolved(section: HalfSection) -> Revolved:
    """Figures of the full turn of ``section`` about its axis."""
    terms: dict[str, list[float]] = {k: [] for k in ("v", "zv", "i4", "z2", "h", "a")}
    for segment in section.segments:
        for z, r, dz, ds in _quadrature(segment):
            terms["v"].append(math.pi * r**2 * dz)
            terms["zv"].append(math.pi * z * r**2 * dz)
            terms["h"].append(r * dz)
            terms["i4"].append(math.pi / 2 * r**4 * dz)
            terms["z2"].append(math.pi * z**2 * r**2 * dz)
            if segment.name != "axis":
                terms["a"].append(2 * math.pi * r * ds)
    v, zv, i4, z2, h, a = (math.fsum(t) for t in terms.values())
    centre = zv / v
    return Revolved(v, a, centre, i4, i4 / 2 + z2 - v * centre**2, h)


def _quadrature(s: Segment) -> Iterator[tuple[float, float, float, float]]:
    """(z, r, weighted dz, weighted ds) at the nodes along a segment: 5 for a line, 20 for an arc."""
    (z0, r0), (z1, r1) = s.start, s.end
    if s.centre is None:
        length = math.dist(s.start, s.end)
        for t, w in _nodes(5):
            yield z0 + (z1 - z0) * t, r0 + (r1 - r0) * t, (z1 - z0) * w, length * w
        return
    a0 = math.atan2(r0 - s.centre[1], z0 - s.centre[0])
    a1 = math.atan2(r1 - s.centre[1], z1 - s.centre[0])
    turn = (a1 - a0 + math.pi) % (2 * math.pi) - math.pi
    for t, w in _nodes(20):
        a, radius = a0 + turn * t, s.radius
        z, r = s.centre[0] + radius * math.cos(a), s.centre[1] + radius * math.sin(a)
        yield z, r, -radius * math.sin(a) * turn * w, abs(turn) * radius * w


@cache
def _nodes(count: int) -> tuple[tuple[float, float], ...]:
    """Gauss-Legendre nodes and weights on 0 to 1."""
    import numpy as np  # here, since the window's start does not need it

    x, w = np.polynomial.legendre.leggauss(count)
    return tuple((float(a + 1) / 2, float(b) / 2) for a, b in zip(x, w, strict=True))
