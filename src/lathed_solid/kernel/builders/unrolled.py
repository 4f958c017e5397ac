"""A threaded stretch laid out on the unrolled cylinder, as polygons.

On the unrolled cylinder (theta, z) a thread is r(theta, z) = f(z - lead theta / 2 pi), piecewise linear where its
profile is; a coaxial cone, a + b z, is linear too, so lead-in chamfers (r <= a + b z) and run-outs (r >= a + b z) cut
the pieces along straight lines. The turn is split into two panels, and the strips of the profile are clipped against
the ends and the cones. Strips that neither reaches are alike from pitch to pitch: they are laid out once and counted.

Volume of the stretch: the integral of r^2 / 2 over theta and z (``thread_volume``), an independent figure.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

EPS = 1e-9
PANELS = 2
TURN = 2 * math.pi

Place = tuple[float, float]  # theta, z
Polygon = list[Place]


@dataclass(frozen=True)
class Cone:
    """``keep`` "within": r <= a + b z; "beyond": r >= a + b z. ``name`` of the face it makes."""

    keep: str
    a: float
    b: float
    name: str


@dataclass(frozen=True)
class Profile:
    """One pitch: (z, r) corners from z = 0 to the pitch, and a name for each piece between them."""

    corners: tuple[tuple[float, float], ...]
    names: tuple[str, ...]

    @property
    def pitch(self) -> float:
        """How long one turn of the profile is, mm."""
        return self.corners[-1][0]


@dataclass
class Cell:
    """A polygon of one surface: r = al + be z + ga theta."""

    panel: int
    key: tuple[Any, ...]
    polygon: Polygon
    plane: tuple[float, float, float]
    strip: tuple[float, float, float, float]
    name: str


def _split(polygon: Polygon, g: Callable[[float, float], float]) -> tuple[Polygon, Polygon]:
    """A convex polygon where g <= 0, and where g >= 0; empty for none."""
    low: Polygon = []
    high: Polygon = []
    d = [0.0 if abs(v) < EPS else v for v in (g(*p) for p in polygon)]
    for i, p in enumerate(polygon):
        a, b, q = d[i], d[(i + 1) % len(polygon)], polygon[(i + 1) % len(polygon)]
        if a <= 0:
            low.append(p)
        if a >= 0:
            high.append(p)
        if a * b < 0:
            t = a / (a - b)
            m = (p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t)
            low.append(m)
            high.append(m)
    return (low if min(d) < 0 else []), (high if max(d) > 0 else [])


@dataclass(frozen=True)
class Layout:
    """Cells that ends or cones have cut, and cells that stand for as many alike, one pitch after the other."""

    cut: list[Cell]
    alike: list[tuple[Cell, int]]


def lay_out(profile: Profile, ends: tuple[float, float], cones: tuple[Cone, ...], hand: int, starts: int) -> Layout:
    """All polygons of a threaded stretch between ``ends``."""
    pitch, width = profile.pitch, TURN / PANELS
    lead = hand * starts * pitch / TURN
    out = Layout([], [])
    for panel in range(PANELS):
        la, lb = sorted((lead * panel * width, lead * (panel + 1) * width))
        first, last = _untouched(profile, ends, cones, la, lb)
        for n in range(math.floor((ends[0] - lb) / pitch) - 1, math.ceil((ends[1] - la) / pitch) + 1):
            strips = [] if first <= n <= last else _strips(profile, panel, n, lead)
            for cell in strips:
                polygon = _split(cell.polygon, lambda _t, z: ends[0] - z)[0]
                polygon = _split(polygon, lambda _t, z: z - ends[1])[0] if polygon else polygon
                if polygon:
                    cell.polygon = polygon
                    parts = [cell]
                    for cone in cones:
                        parts = [piece for part in parts for piece in _against(part, cone)]
                    out.cut.extend(parts)
        if first <= last:
            out.alike.extend((cell, last - first + 1) for cell in _strips(profile, panel, first, lead))
    return out


def _untouched(
    profile: Profile, ends: tuple[float, float], cones: tuple[Cone, ...], low: float, high: float
) -> tuple[int, int]:
    """First and last pitch whose strips neither end nor cone cuts; (0, -1) for none.

    ``low`` and ``high``: how far a panel's strips reach before and after their pitch.
    """
    radii = [r for _z, r in profile.corners]
    level = [a == b for a, b in itertools.pairwise(radii)]
    if any(a and b for a, b in itertools.pairwise([*level, level[0]])):
        return 0, -1  # pieces of one cylinder side by side are one face
    z0, z1 = ends[0] + EPS, ends[1] - EPS
    for cone in cones:
        # where the whole profile stands clear of the cone
        sign, side = (1.0, max(radii)) if cone.keep == "within" else (-1.0, min(radii))
        if cone.b == 0:
            if sign * (side - cone.a) > EPS:
                return 0, -1
        elif sign * cone.b > 0:
            z0 = max(z0, (side - cone.a) / cone.b + EPS)
        else:
            z1 = min(z1, (side - cone.a) / cone.b - EPS)
    first, last = math.ceil((z0 - low) / profile.pitch), math.floor((z1 - high) / profile.pitch) - 1
    return (first, last) if first <= last else (0, -1)


def _strips(profile: Profile, panel: int, n: int, lead: float) -> list[Cell]:
    """The uncut strips of one pitch in one panel."""
    ta, tb = panel * TURN / PANELS, (panel + 1) * TURN / PANELS
    out = []
    pairs = zip(profile.corners, profile.corners[1:], profile.names, strict=False)
    for j, ((a, ra), (b, rb), name) in enumerate(pairs):
        low, high = a + n * profile.pitch, b + n * profile.pitch
        strip: Polygon = [
            (ta, low + lead * ta), (tb, low + lead * tb), (tb, high + lead * tb), (ta, high + lead * ta),
        ]  # fmt: skip
        slope = (rb - ra) / (b - a)
        key: tuple[Any, ...] = ("cone", ra, 0.0) if slope == 0 else ("flank", n, j)
        out.append(Cell(panel, key, strip, (ra - slope * low, slope, -slope * lead), (low, high, ra, rb), name))
    return out


def _against(cell: Cell, cone: Cone) -> list[Cell]:
    """A cell cut by a cone: its own part, and the part where the cone takes over."""
    al, be, ga = cell.plane
    sign = 1 if cone.keep == "within" else -1
    keep, gone = _split(cell.polygon, lambda t, z: sign * (al + be * z + ga * t - cone.a - cone.b * z))
    if not keep and not gone:
        return [cell]
    out = []
    if keep:
        out.append(Cell(cell.panel, cell.key, keep, cell.plane, cell.strip, cell.name))
    if gone:
        plane = (cone.a, cone.b, 0.0)
        out.append(Cell(cell.panel, ("cone", cone.a, cone.b), gone, plane, cell.strip, cone.name))
    return out


def thread_volume(layout: Layout) -> float:
    """Integral of r^2 / 2 over the unrolled stretch, mm3: exact for polygons with linear r (degree-2 quadrature)."""
    return sum(map(_volume, layout.cut)) + sum(count * _volume(cell) for cell, count in layout.alike)


def _volume(cell: Cell) -> float:
    al, be, ga = cell.plane
    p, total = cell.polygon, 0.0
    for i in range(1, len(p) - 1):
        tri = (p[0], p[i], p[i + 1])
        area = abs((tri[1][0] - tri[0][0]) * (tri[2][1] - tri[0][1])
                   - (tri[2][0] - tri[0][0]) * (tri[1][1] - tri[0][1])) / 2  # fmt: skip
        r = [al + be * z + ga * t for t, z in tri]
        middles = [(r[0] + r[1]) / 2, (r[1] + r[2]) / 2, (r[2] + r[0]) / 2]
        total += area * sum(m * m for m in middles) / 6
    return total
