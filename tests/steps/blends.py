"""Two bosses and a thinner arm that runs tangent into both, rounded: with volumes from quadrature of its own.

Each side of the arm is an arc that bulges in (hollow) or out (full), or a straight line, tangent to both bosses. A
round of radius r where the arm's flat meets a boss is, over a circle of radius R + x about that boss, as high as
r - sqrt(r^2 - (r - x)^2), for as far as the circle lies over the arm; a round along the arm's edge is as deep as that
at a distance x within its side, for as far as that line lies outside the bosses. Both are integrated over x. Run by the
tests on some seeds, and on hundreds by ``python -m steps.blends FIRST COUNT`` from ``tests/``.
"""

from __future__ import annotations

import cmath
import math
import random
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

from scipy.integrate import quad

from lathed_solid import scripting as ls
from lathed_solid.part import Document, EdgePick, scope
from lathed_solid.sketch.regions import contains

KINDS = ("hollow", "full", "straight")
WAYS = ("foot", "long", "long, foot", "foot, long")


@dataclass(frozen=True)
class Side:
    """One side of the arm; ``radius`` of its arc, mm. Angles and places as if it were the upper one."""

    kind: str
    radius: float
    big: float
    small: float
    apart: float

    @cached_property
    def centre(self) -> complex:
        """Of its arc: above the line of centres for a hollow one, below it for a full one."""
        s = 1 if self.kind == "hollow" else -1
        a, b = self.radius + s * self.big, self.radius + s * self.small
        x = (a * a - b * b + self.apart**2) / (2 * self.apart)
        return complex(x, s * math.sqrt(a * a - x * x))

    @property
    def normal(self) -> float:
        """The angle of a straight side's normal."""
        return math.acos((self.big - self.small) / self.apart)

    def touch(self, hub: complex, r: float) -> complex:
        """Where it leaves the boss."""
        if self.kind == "straight":
            return hub + cmath.rect(r, self.normal)
        way = self.centre - hub
        return hub + (way if self.kind == "hollow" else -way) / abs(way) * r

    def reach(self, hub: complex, rho: float) -> float:
        """How far up from the line of centres a circle about a boss lies within this side, rad."""
        far = hub.real == 0
        if self.kind == "straight":
            r = self.big if far else self.small
            angle = self.normal - math.acos(min(1.0, r / rho))
            return angle if far else math.pi - (self.normal + math.acos(min(1.0, r / rho)))
        z = self.centre - hub
        if not far:
            z = complex(-z.real, z.imag)
        half = math.acos(max(-1.0, min(1.0, (rho**2 + abs(z) ** 2 - self.radius**2) / (2 * rho * abs(z)))))
        return cmath.phase(z) - half if self.kind == "hollow" else cmath.phase(z) + half

    def length(self, x: float, more: float) -> float:
        """How long the side set in by ``x`` is outside the bosses, these larger by ``more``, mm."""
        a, b = self.big + more, self.small + more
        if self.kind == "straight":
            whole = math.sqrt(self.apart**2 - (self.big - self.small) ** 2)
            return whole - sum(math.sqrt(max(0.0, (r + more) ** 2 - (r - x) ** 2)) for r in (self.big, self.small))
        rho = self.radius + x if self.kind == "hollow" else self.radius - x
        z, da, db = self.centre, abs(self.centre), abs(self.centre - self.apart)
        whole = abs(cmath.phase((self.apart - z) / -z))
        for d, r in ((da, a), (db, b)):
            whole -= math.acos(max(-1.0, min(1.0, (rho**2 + d * d - r * r) / (2 * rho * d))))
        return rho * whole


@dataclass(frozen=True)
class Link:
    """Bosses about the origin and (apart, 0); heights are halves, from the middle plane. All mm."""

    apart: float
    big: float
    small: float
    thick: float
    thin: float
    r: float
    upper: Side
    lower: Side

    def part(self) -> Document:
        d = ls.Draft()
        hubs = (0j, complex(self.apart))
        circles = [d.circle(d.point(h.real, h.imag), r) for h, r in zip(hubs, (self.big, self.small), strict=True)]
        made = []
        for side, way in ((self.upper, 1), (self.lower, -1)):
            ends = [side.touch(h, r) for h, r in zip(hubs, (self.big, self.small), strict=True)]
            p, q = (d.point(z.real, way * z.imag) for z in ends)
            if side.kind == "straight":
                made.append(d.line(p, q))
                continue
            c = side.centre
            turn = cmath.phase((ends[1] - c) / (ends[0] - c)) * way
            made.append(d.arc(d.point(c.real, way * c.imag), *((p, q) if turn > 0 else (q, p))))
        part = ls.sketch(ls.new_part("link"), d)
        arm = next(r.name for r in scope(part).sketch(10).regions if not any(contains(r.outer, h) for h in hubs))
        part = ls.extrude(part, 10, str(2 * self.thick), side="both", regions=tuple(f"{c}+" for c in circles))
        return ls.extrude(part, 10, str(2 * self.thin), side="both", regions=(arm,))

    def rounded(self, part: Document, way: str) -> Document:
        """The part with its rounds, in one step each."""
        edges = ls.build(part).edges
        foot = tuple(e for e in edges if e.startswith("20/c") and e.split("|")[1] in ("30/end", "30/start"))
        long = tuple(e for e in edges if e.startswith("30/") and "20/" not in e)
        for word in way.split(", "):
            part = ls.step(part, "fillet", radius=repr(self.r), pick=EdgePick(edges=foot if word == "foot" else long))
        return part

    def _over(self, f: Callable[[float], float]) -> float:
        """The integral of a round's height times f(x) over x from 0 to r."""
        r = self.r

        def piece(t: float) -> float:
            x = r * t * t
            return (r - math.sqrt(max(0.0, r * r - (r - x) ** 2))) * f(x) * 2 * t * r

        return float(quad(piece, 0, 1, epsabs=1e-12, epsrel=1e-12, limit=400)[0])

    def foot(self, hub: complex) -> float:
        """One round at the foot of a boss, mm3."""
        radius = self.big if hub.real == 0 else self.small

        def run(x: float) -> float:
            rho = radius + x
            return rho * max(0.0, sum(s.reach(hub, rho) for s in (self.upper, self.lower)))

        return self._over(run)

    def long(self, side: Side, more: float = 0.0) -> float:
        """One round along a side of the arm, mm3, the bosses larger by ``more``."""
        return self._over(lambda x: max(0.0, side.length(x, more)))

    def change(self, way: str) -> float | None:
        """What the rounds add to the volume, mm3; None where that is not known."""
        hubs = (0j, complex(self.apart))
        long = 2 * (self.long(self.upper) + self.long(self.lower))
        if way == "foot":
            return 2 * sum(self.foot(h) for h in hubs)
        if way == "long":
            return -long
        if way == "long, foot":
            # the foot's rounds stand on the arm as it was, and fill what they cover of the rounds along it
            rest = sum(self.long(s, self.r) for s in (self.upper, self.lower))
            return 2 * (sum(self.foot(h) for h in hubs) - rest)
        return None


def link(seed: int) -> Link:
    """A random one."""
    rnd = random.Random(seed)
    small = rnd.uniform(8, 20)
    big = small * rnd.uniform(1, 1.8)
    apart = (big + small) * rnd.uniform(1.6, 3)
    r = rnd.uniform(0.8, 3)
    thin = r * rnd.uniform(1.5, 4)
    thick = thin + r * rnd.choice((1.0, rnd.uniform(1.05, 4)))
    sides = []
    for _ in range(2):
        kind = rnd.choice(KINDS)
        least = 0.6 * apart if kind == "hollow" else (apart + big + small) / 2 * 1.1
        sides.append(Side(kind, least * rnd.uniform(1, 4), big, small, apart))
    return Link(apart, big, small, thick, thin, r, *sides)


def tried(seed: int) -> tuple[str, str, float]:
    """The way, "built" or the words of the refusal, and how far off the change of volume is (relative)."""
    one = link(seed)
    way = WAYS[seed % len(WAYS)]
    plain = one.part()
    before, after = ls.build(plain), ls.build(one.rounded(plain, way))
    if not after.ok:
        return way, "; ".join(after.messages), 0.0
    wanted = one.change(way)
    if wanted is None:
        return way, "built", 0.0 if ls.prove(after.document).complete else 1.0
    return way, "built", (after.volume - before.volume) / wanted - 1


def main() -> int:
    first, count = int(sys.argv[1]), int(sys.argv[2])
    refused = wrong = 0
    for seed in range(first, first + count):
        start = time.perf_counter()
        way, words, off = tried(seed)
        refused += words != "built"
        wrong += abs(off) > 1e-6
        if words != "built" or abs(off) > 1e-6:
            print(seed, way, words, f"{off:.1e} {time.perf_counter() - start:.1f} s", link(seed), flush=True)
    print(f"{count} blends from seed {first}: {refused} refused, {wrong} off by more than 1e-6")
    return 1 if wrong else 0


if __name__ == "__main__":
    raise SystemExit(main())
