"""Coarse threads cut as coils over a step and a cone, against the integral of the screw motion.

The groove is a trapezoid with rounded root corners, open outwards; at radius r it is 2 h(r) wide. As it turns, it takes
away at each angle t and radius r the length of [z(t) - h, z(t) + h] that lies in the shank there, so

    V = int dt int r dr |[z(t) - h(r), z(t) + h(r)] n [low(r), high]|        z(t) = z0 + pitch t / 2 pi

``python coils.py [N] [SEED]`` tries random ones; each must be within 1e-5 of V, or be refused in words.
"""

from __future__ import annotations

import itertools
import math
import random
import sys
import time
from dataclasses import dataclass

import numpy as np

from lathed_solid import scripting as ls
from lathed_solid.part import Document


@dataclass(frozen=True)
class Coil:
    """mm. The shank: ``thick`` radius from where a cone of 60 degrees included rises from the radius ``thin``, which
    begins at x = 0 and is ``end`` long.
    """

    thick: float
    thin: float
    end: float
    pitch: float
    turns: float
    root: float
    wide: float
    corner: float
    left: bool

    LENGTH = 90.0

    @property
    def mouth(self) -> float:
        """Radius at which the drawn trapezoid ends, clear of the shank."""
        return self.thick + 0.4

    @property
    def slope(self) -> float:
        return 0.4

    def half(self, r: np.ndarray) -> np.ndarray:
        """Half width of the groove at radius r."""
        base = self.wide / 2
        straight = base + self.slope * (r - self.root)
        # the corner: a circle tangent to the root line and to the flank, below its upper tangent point
        a = math.atan(self.slope)
        t = self.corner * math.tan((math.pi / 2 - a) / 2)
        centre = base - t
        high = self.root + self.corner * (1 - math.sin(a))
        inside = np.clip(self.corner**2 - (r - self.root - self.corner) ** 2, 0, None)
        rounded = centre + np.sqrt(inside)
        return np.where(r < self.root, 0.0, np.where(r < high, rounded, straight))

    def removed(self) -> float:
        """V by the trapezoidal rule along t and Gauss along pieces of r, mm3."""
        cuts = sorted({self.root, self.root + self.corner, self.thin, self.thick,
                       self.root + self.corner * (1 - math.sin(math.atan(self.slope)))})  # fmt: skip
        cuts = [c for c in cuts if self.root <= c <= self.thick]
        nodes, weights = np.polynomial.legendre.leggauss(40)
        r = np.concatenate([(b - a) / 2 * nodes + (a + b) / 2 for a, b in itertools.pairwise(cuts)])
        w = np.concatenate([(b - a) / 2 * weights for a, b in itertools.pairwise(cuts)])
        low = np.where(r <= self.thin, 0.0, self.end + (r - self.thin) * math.tan(math.radians(60)))
        n = int(self.turns * 4000)
        t = np.linspace(0, 2 * math.pi * self.turns, n + 1)
        z = self.z0 + self.pitch * t / (2 * math.pi)
        h = self.half(r)
        total = 0.0
        for part in np.array_split(np.arange(n + 1), max(1, n // 2000)):
            bottom = np.maximum(z[part, None] - h, low)
            top = np.minimum(z[part, None] + h, self.LENGTH)
            inner = (np.clip(top - bottom, 0, None) * r * w).sum(axis=1)
            edge = np.ones(len(part))
            edge[part == 0] = edge[part == n] = 0.5
            total += float((inner * edge).sum())
        return total * (t[1] - t[0])

    @property
    def z0(self) -> float:
        return 0.6 * self.wide


def shank(c: Coil) -> Document:
    part = ls.new_part("adjusting screw")
    cone = ls.Taper(kind="diameter", value=f"{2 * c.thick:.9g}", rises=True)
    rise = (c.thick - c.thin) * math.tan(math.radians(60))
    rows = [ls.Station(key="A", diameter=f"{2 * c.thin:.9g}", length=f"{c.end:.9g}"),
            ls.Station(key="B", diameter=f"{2 * c.thin:.9g}", length=f"{rise:.12g}", taper=cone),
            ls.Station(key="C", diameter=f"{2 * c.thick:.9g}", length=f"{c.LENGTH - c.end - rise:.12g}")]  # fmt: skip
    return ls.turned(part, rows)


def cut(c: Coil) -> Document:
    """The shank with its coil cut away."""
    part = shank(c)
    d = ls.Draft()
    at_root, at_mouth = c.wide / 2, c.wide / 2 + c.slope * (c.mouth - c.root)
    corners = [
        (c.z0 - at_root, c.root),
        (c.z0 + at_root, c.root),
        (c.z0 + at_mouth, c.mouth),
        (c.z0 - at_mouth, c.mouth),
    ]
    root, right, _top, left = ls.shapes.polyline(d, corners, closed=True)
    for p in d.done().points:
        d.add("fixed", p.id)
    figure = d.done()
    from lathed_solid.sketch.edits.corners import fillet

    for line in (right, left):
        figure = fillet(figure, {}, *((root, right) if line == right else (left, root)), c.corner, f"{c.corner:.9g}")
    part = ls.sketch(part, figure, "XY")
    turning = {"pitch": f"{c.pitch:.9g}", "turns": f"{c.turns:.9g}", "left": c.left}
    return ls.step(part, "helix", sketch=part.steps[-1].number, axis="X", mode="cut", **turning)


def coil(seed: int) -> Coil:
    """A random one: the root at, above or below the thin radius."""
    r = random.Random(seed)
    pitch = r.uniform(1.5, 6)
    turns = r.choice([3, 5, 7.5, 9, 11, 11.25, 14]) if r.random() < 0.5 else r.uniform(3, 14)
    thick = r.uniform(3, 9)
    thin = thick - r.uniform(0.8, 1.4)
    root = thin + r.choice([0.0, 0.0, -0.1, 0.1, -0.3, 0.3])
    wide = r.uniform(0.25, 0.4) * pitch - 0.8 * 0.4
    return Coil(thick, thin, r.uniform(2, 6), pitch, turns, root, max(wide, 0.2), min(0.3, 0.25 * max(wide, 0.2)),
                r.random() < 0.5)  # fmt: skip


def tried(c: Coil) -> tuple[str, float]:
    """("built", how far off), or (the words of the refusal, 0)."""
    whole, threaded = ls.build(shank(c)), ls.build(cut(c))
    if not threaded.ok:
        return threaded.messages[0], 0.0
    return "built", (whole.volume - threaded.volume) / c.removed() - 1


def main() -> int:
    many, first = (int(a) for a in (*sys.argv[1:], *("20", "1")[len(sys.argv) - 1 :]))
    wrong = refused = 0
    for seed in range(first, first + many):
        start = time.perf_counter()
        words, off = tried(coil(seed))
        refused += words != "built"
        wrong += words == "built" and abs(off) > 1e-5
        print(
            f"{seed} {words} {off:.1e} {time.perf_counter() - start:.1f} s  {coil(seed) if words != 'built' else ''}",
            flush=True,
        )
    print(f"{many} coils: {wrong} wrong, {refused} refused")
    return 1 if wrong else 0


if __name__ == "__main__":
    raise SystemExit(main())
