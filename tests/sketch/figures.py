"""Random constructible sketches: built from known geometry, so the true answer is known, then perturbed.

A chain hangs modules (plate with a hole, tilted plate, slot, bent strip with a tangent arc, mirrored pair, belt on two
wheels) one after another on an anchored base; each module is fully dimensioned. Nets of bars and rows of tangent
circles are the coupled ones.
"""

from __future__ import annotations

import cmath
import itertools
import math

import numpy as np

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.equations import Layout
from lathed_solid.sketch.model import Sketch


class Figure:
    """A draft with the true values of its dimensions."""

    def __init__(self) -> None:
        self.draft = SketchBuilder()
        self.values: dict[str, float] = {}

    def at(self, p: str) -> complex:
        e = self.draft.entities[p]
        return complex(e.x, e.y)

    def point(self, z: complex) -> str:
        return self.draft.point(z.real, z.imag)

    def line(self, a: complex, b: complex) -> str:
        return self.draft.line(self.point(a), self.point(b))

    def ends(self, line: str) -> tuple[str, str]:
        e = self.draft.entities[line]
        return e.start, e.end

    def arc(self, c: complex, r: float, a0: float, a1: float) -> str:
        d = self.draft
        return d.arc(self.point(c), self.point(c + cmath.rect(r, a0)), self.point(c + cmath.rect(r, a1)))

    def tie(self, kind: str, *of: str) -> str:
        return self.draft.add(kind, *of)

    def dim(self, kind: str, *of: str, value: float) -> str:
        k = self.draft.add(kind, *of, value=repr(value))
        self.values[k] = value
        return k

    def length(self, line: str) -> str:
        a, b = self.ends(line)
        return self.dim("distance", a, b, value=abs(self.at(b) - self.at(a)))

    def apart(self, p: str, q: str) -> str:
        return self.dim("distance", p, q, value=abs(self.at(q) - self.at(p)))

    def across(self, axis: str, p: str, q: str) -> str:
        d = self.at(q) - self.at(p)
        return self.dim(f"across_{axis}", p, q, value=abs(d.real if axis == "x" else d.imag))

    def turn(self, l1: str, l2: str) -> str:
        (a, b), (c, d) = self.ends(l1), self.ends(l2)
        return self.dim("angle", l1, l2, value=abs(cmath.phase((self.at(d) - self.at(c)) / (self.at(b) - self.at(a)))))

    def radius(self, name: str, r: float) -> str:
        return self.dim("radius", name, value=r)

    def off(self, line: str, p: str) -> str:
        a, b = self.ends(line)
        u = self.at(b) - self.at(a)
        return self.dim("distance", line, p, value=abs((u.conjugate() * (self.at(p) - self.at(a))).imag / abs(u)))

    def loop(self, *corners: complex) -> list[str]:
        n = len(corners)
        lines = [self.line(corners[i], corners[(i + 1) % n]) for i in range(n)]
        for i in range(n):
            self.tie("coincident", self.ends(lines[i])[1], self.ends(lines[(i + 1) % n])[0])
        return lines


def chain(modules: int, topology: int = 0, sizes: int = 0) -> Figure:
    """An anchored chain of ``modules`` fully dimensioned modules: held, with no contradiction."""
    kinds, rng = np.random.default_rng(topology), np.random.default_rng(sizes + 10007)

    def u(a: float, b: float) -> float:
        return float(rng.uniform(a, b))

    f = Figure()
    base = f.line(0j, complex(u(30, 50), 0))
    f.tie("horizontal", base)
    f.length(base)
    f.tie("fixed", f.ends(base)[0])
    exit_, ref = f.ends(base)[1], base
    for _ in range(modules):
        kind = int(kinds.integers(6))
        toward = base if kinds.random() < 0.5 else ref
        phi = int(kinds.integers(4)) * math.pi / 2 + u(0.05, 0.5)
        o, e = f.at(exit_), cmath.rect(1, phi)
        exit_, ref = _MODULES[kind](f, u, exit_, toward, o, e)
    return f


def _plate(f, u, exit_, toward, o, e):
    w, h = u(30, 60), u(20, 40)
    sides = f.loop(o, o + w, o + w + 1j * h, o + 1j * h)
    for side, way in zip(sides, ("horizontal", "vertical") * 2, strict=True):
        f.tie(way, side)
    f.length(sides[0])
    f.length(sides[1])
    hole = f.point(o + w * u(0.3, 0.7) + 1j * h * u(0.3, 0.7))
    r = u(3, 6)
    corner = f.ends(sides[0])[0]
    f.across("x", corner, hole)
    f.across("y", corner, hole)
    f.radius(f.draft.circle(hole, r), r)
    f.tie("coincident", exit_, corner)
    return f.ends(sides[2])[0], sides[2]


def _tilted(f, u, exit_, toward, o, e):
    w, h = u(30, 60), u(10, 18)
    sides = f.loop(o, o + w * e, o + w * e + 1j * h * e, o + 1j * h * e)
    f.turn(toward, sides[0])
    f.length(sides[0])
    f.tie("perpendicular", sides[0], sides[1])
    f.length(sides[1])
    f.tie("parallel", sides[0], sides[2])
    f.tie("parallel", sides[1], sides[3])
    hole = f.point(o + e * (w - u(10, 15)) + 1j * e * u(4, 6))
    r = u(2, 4)
    f.off(sides[0], hole)
    f.off(sides[1], hole)
    f.radius(f.draft.circle(hole, r), r)
    f.tie("coincident", exit_, f.ends(sides[0])[0])
    return f.ends(sides[2])[1], sides[0]


def _slot(f, u, exit_, toward, o, e):
    length, r, phi = u(30, 60), u(6, 12), cmath.phase(e)
    n, far = 1j * e, o + length * e
    a = f.arc(o, r, phi + math.pi / 2, phi + 1.5 * math.pi)
    b = f.arc(far, r, phi - math.pi / 2, phi + math.pi / 2)
    l1, l2 = f.line(o - r * n, far - r * n), f.line(far + r * n, o + r * n)
    d = f.draft.entities
    for p, q in (
        (d[a].end, d[l1].start), (d[l1].end, d[b].start), (d[b].end, d[l2].start), (d[l2].end, d[a].start),
    ):  # fmt: skip
        f.tie("coincident", p, q)
    for line in (l1, l2):
        f.tie("tangent", line, a)
        f.tie("tangent", line, b)
    f.tie("equal", a, b)
    f.apart(d[a].centre, d[b].centre)
    f.radius(a, r)
    f.turn(toward, l1)
    f.tie("coincident", exit_, d[a].centre)
    return d[b].centre, l1


def _bent(f, u, exit_, toward, o, e):
    l1, r, turn = u(30, 50), u(5, 10), u(0.7, 1.6)
    n, g = 1j * e, e * cmath.rect(1, turn)
    q = o + l1 * e
    c = q + r * n
    q2 = c - r * 1j * g
    first, arc, second = f.line(o, q), f.arc(c, r, cmath.phase(q - c), cmath.phase(q2 - c)), f.line(q2, q2 + l1 * g)
    d = f.draft.entities
    f.tie("coincident", d[first].end, d[arc].start)
    f.tie("coincident", d[arc].end, d[second].start)
    f.tie("tangent", first, arc)
    f.tie("tangent", second, arc)
    f.turn(toward, first)
    f.turn(first, second)
    f.radius(arc, r)
    f.apart(d[first].start, d[arc].centre)
    f.tie("equal", first, second)
    f.tie("coincident", exit_, d[first].start)
    return d[second].end, second


def _mirrored(f, u, exit_, toward, o, e):
    length = u(40, 60)
    n, t, w, r = 1j * e, u(0.1, 0.3) * length, u(14, 22), u(3, 6)
    line = f.line(o, o + length * e)
    c1, c2 = f.point(o + t * e + w * n), f.point(o + t * e - w * n)
    k1, k2 = f.draft.circle(c1, r), f.draft.circle(c2, r)
    mid = f.point(o + length / 2 * e)
    k3 = f.draft.circle(f.point(o + length / 2 * e), math.hypot(length / 2 - t, w) - r)
    f.turn(toward, line)
    f.length(line)
    f.tie("symmetric", c1, c2, line)
    f.tie("equal", k1, k2)
    f.apart(c1, c2)
    f.radius(k1, r)
    f.tie("midpoint", mid, line)
    f.tie("coincident", mid, f.draft.entities[k3].centre)
    f.apart(f.ends(line)[0], c1)
    f.tie("tangent", k1, k3)
    f.tie("coincident", exit_, f.ends(line)[0])
    return f.ends(line)[1], line


def _belt(f, u, exit_, toward, o, e):
    d, ra, rb, lean = u(35, 55), u(8, 12), u(4, 7), u(0.05, 0.4)
    far = o + cmath.rect(d, lean)
    n = cmath.rect(1, lean + math.asin((ra - rb) / d) - math.pi / 2)
    a0, b0 = o + ra * n, far + rb * n
    along = (b0 - a0) / abs(b0 - a0)
    ca, cb = f.point(o), f.point(far)
    ka, kb = f.draft.circle(ca, ra), f.draft.circle(cb, rb)
    line = f.line(a0 - along * u(5, 10), b0 + along * u(5, 10))
    f.radius(ka, ra)
    f.radius(kb, rb)
    f.apart(ca, cb)
    f.across("y", ca, cb)
    f.tie("tangent", line, ka)
    f.tie("tangent", line, kb)
    f.across("x", ca, f.ends(line)[0])
    f.length(line)
    f.tie("coincident", exit_, ca)
    return cb, line


_MODULES = (_plate, _tilted, _slot, _bent, _mirrored, _belt)


def chain_of(constraints: int, topology: int = 1) -> Figure:
    """A chain with at least that many constraints."""
    n = max(1, constraints // 14)
    while True:
        f = chain(n, topology)
        if len(f.draft.constraints) >= constraints:
            return f
        n += max(1, n // 50)


def grid(across: int, up: int) -> Figure:
    """A coupled sketch: a net of dimensioned bars, one diagonal a cell, one corner anchored."""
    rng = np.random.default_rng(across * 100 + up)
    f = Figure()
    nodes = {}
    for i in range(across + 1):
        for j in range(up + 1):
            nodes[i, j] = f.point(complex(20 * i + rng.uniform(-3, 3), 20 * j + rng.uniform(-3, 3)))
    f.tie("fixed", nodes[0, 0])
    for (i, j), p in nodes.items():
        if (i + 1, j) in nodes:
            f.apart(p, nodes[i + 1, j])
        if (i, j + 1) in nodes and i == 0:
            f.apart(p, nodes[i, j + 1])
        if (i + 1, j + 1) in nodes:
            f.apart(p, nodes[i + 1, j + 1])
    f.across("y", nodes[0, 0], nodes[1, 0])
    return f


def tangent_row(count: int) -> Figure:
    """A coupled sketch: circles in a row, each tangent to the next and to one long line, radii dimensioned."""
    rng = np.random.default_rng(count)
    f = Figure()
    radii = rng.uniform(5, 12, count)
    x, centres = 0.0, []
    for i, r in enumerate(radii):
        if i:
            x += 2 * math.sqrt(radii[i - 1] * r)  # both stand on the line and touch
        centres.append(complex(x, r))
    line = f.line(-20 + 0j, complex(x + 20, 0))
    f.tie("fixed", f.ends(line)[0])
    f.tie("horizontal", line)
    f.length(line)
    circles = []
    for c, r in zip(centres, radii, strict=True):
        k = f.draft.circle(f.point(c), float(r))
        circles.append(k)
        f.radius(k, float(r))
        f.tie("tangent", line, k)
    for a, b in itertools.pairwise(circles):
        f.tie("tangent", a, b)
    f.across("x", f.ends(line)[0], f.draft.entities[circles[0]].centre)
    return f


def perturbed(sketch: Sketch, sigma: float, seed: int) -> np.ndarray:
    """A start (N,) off the truth: noise of ``sigma`` x 35 mm on positions, coincident points together."""
    from lathed_solid.sketch.system import System

    rng = np.random.default_rng(seed)
    layout = Layout(sketch)
    loose = System(sketch, level=1, layout=layout)
    y = loose.reduce(np.array(layout.start))
    x = loose.expand(y + rng.normal(size=loose.n) * sigma * 35)
    for i in layout.radius.values():
        x[i] = layout.start[i] * math.exp(rng.normal() * sigma * 1.5)
    return x
