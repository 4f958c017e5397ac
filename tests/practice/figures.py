"""What the practice parts' sketches and their oracles share; nothing here is the product's."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np

from lathed_solid import scripting as ls
from lathed_solid.ledger import InchBlock
from lathed_solid.part import Document

IN = 25.4
At = tuple[float, float]


def noted(name: str, notes: Sequence[str], *, unit: str = "mm", material: str) -> Document:
    """A part with nothing but its notes."""
    part = ls.new_part(name, unit=unit, material=material)
    if unit == "in":
        part = part.model_copy(update={"general": InchBlock()})
    for text in notes:
        part = ls.note(part, text)
    return part


def origin(d: ls.Draft) -> str:
    """A point fixed at the sketch's origin."""
    point = d.point(0, 0)
    d.add("fixed", point)
    return point


def tie(d: ls.Draft, *curves: str) -> None:
    """The end of each curve tied to the start of the next."""
    for a, b in itertools.pairwise(curves):
        d.add("coincident", d.entities[a].end, d.entities[b].start)  # type: ignore[union-attr]


def chain(d: ls.Draft, *curves: str) -> None:
    """The same, round to the first."""
    tie(d, *curves, curves[0])


def towards(p: At, q: At, r: float) -> At:
    """The place r from p on the way to q."""
    z = complex(*p) + r * (complex(*q) - complex(*p)) / math.dist(p, q)
    return z.real, z.imag


def meeting(p: At, r: float, q: At, s: float, near: At) -> At:
    """Where the circles of radius r about p and s about q cross, the place nearer to ``near``."""
    a, z = complex(*p), complex(*q) - complex(*p)
    d = abs(z)
    along = (r * r - s * s + d * d) / (2 * d)
    across = math.sqrt(r * r - along * along)
    both = [a + z / d * complex(along, way * across) for way in (1, -1)]
    best = min(both, key=lambda w: abs(w - complex(*near)))
    return best.real, best.imag


def arc(centre: At, start: At, end: At, many: int = 20_000) -> list[At]:
    """Places along the shorter arc from start to end."""
    c = complex(*centre)
    first, turn = complex(*start) - c, np.angle((complex(*end) - c) / (complex(*start) - c))
    z = c + first * np.exp(1j * turn * np.linspace(0, 1, many))
    return list(zip(z.real.tolist(), z.imag.tolist(), strict=True))


def turn(centre: At, start: At, end: At) -> float:
    """Counter-clockwise from start to end about a centre, rad."""
    c = complex(*centre)
    return float(np.angle((complex(*end) - c) / (complex(*start) - c))) % (2 * math.pi)


def area(loop: Sequence[At]) -> float:
    """Within a polygon; of finely sampled arcs to about 1e-9."""
    x, y = np.array(loop).T
    return abs(float(np.dot(x, np.roll(y, -1)) - np.dot(y, np.roll(x, -1)))) / 2
