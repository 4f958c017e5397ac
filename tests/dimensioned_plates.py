"""Dimensioned plates drawn by another hand than the product's, with habits of their own drawn at random.

A rectangle or an L, its corners sharp, rounded or one bevelled; four like holes about the middle, told by the distances
between them, and some of their own, told from the edges or in a chain; through, blind, counterbored; the thickness in a
view above or at the right, or in a note; millimetres or inches, several scales, the outline in one stroke or a stroke a
side. The truth is what was drawn: its volume and its centre in closed form.
"""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from drawn_turned import ONE, Pen
from reportlab.lib.units import mm

Place = tuple[float, float]
POCKET_R = {"mm": 3.0, "in": 0.125}


@dataclass(frozen=True)
class Hole:
    """In the sheet's unit; ``depth`` None for through; ``wide``: diameter and depth of a counterbore."""

    at: Place
    diameter: float
    depth: float | None = None
    wide: tuple[float, float] | None = None

    def taken(self, thick: float) -> list[tuple[float, float]]:
        """Volumes that it takes, each with its middle's height."""
        r = self.diameter / 2
        if self.depth is None:
            out = [(math.pi * r * r * thick, thick / 2)]
        else:
            tip = r / math.tan(math.radians(59))
            out = [(math.pi * r * r * self.depth, thick - self.depth / 2),
                   (math.pi * r * r * tip / 3, thick - self.depth - tip / 4)]  # fmt: skip
        if self.wide is not None:
            d, deep = self.wide
            out.append((math.pi / 4 * (d * d - self.diameter**2) * deep, thick - deep / 2))
        return out


@dataclass(frozen=True)
class Plate:
    """In the sheet's unit: the outline's corners in order, their rounding or the bevel of the first, the holes."""

    unit: str
    corners: tuple[Place, ...]
    thick: float
    round: float
    bevel: float
    group: tuple[Hole, ...]
    own: tuple[Hole, ...]
    #: its middle, its length over all, its width
    slot: tuple[Place, float, float] | None = None
    #: its low left corner, its size, its depth; corners rounded by ``POCKET_R`` mm or inches
    pocket: tuple[Place, Place, float] | None = None

    @property
    def size(self) -> Place:
        """Width and height."""
        return max(x for x, _ in self.corners), max(y for _, y in self.corners)

    @property
    def moments(self) -> tuple[float, Place, float]:
        """Volume (mm3), and its middle (mm)."""
        sums = [0.0, 0.0, 0.0, 0.0]

        def add(volume: float, x: float, y: float, z: float) -> None:
            for k, v in enumerate((1.0, x, y, z)):
                sums[k] += volume * v

        for (ax, ay), (bx, by) in itertools.pairwise([*self.corners, self.corners[0]]):
            add((ax * by - bx * ay) / 2 * self.thick, (ax + bx) / 3, (ay + by) / 3, self.thick / 2)
        (w, h), r, c = self.size, self.round, self.bevel
        if r:
            away = r - (10 - 3 * math.pi) / (12 - 3 * math.pi) * r  # of a corner's rest, from its centre
            for sx, sy in itertools.product((0, 1), repeat=2):
                x, y = (r - away if not sx else w - r + away), (r - away if not sy else h - r + away)
                add(-r * r * (1 - math.pi / 4) * self.thick, x, y, self.thick / 2)
        if c:
            add(-c * c / 2 * self.thick, c / 3, c / 3, self.thick / 2)
        for hole in (*self.group, *self.own):
            for volume, z in hole.taken(self.thick):
                add(-volume, *hole.at, z)
        if self.slot is not None:
            at, long, wide = self.slot
            add(-((long - wide) * wide + math.pi / 4 * wide**2) * self.thick, *at, self.thick / 2)
        if self.pocket is not None:
            (px, py), (pw, ph), deep = self.pocket
            away = POCKET_R[self.unit]
            add(-(pw * ph - (4 - math.pi) * away**2) * deep, px + pw / 2, py + ph / 2, self.thick - deep / 2)
        one = ONE[self.unit]
        return sums[0] * one**3, (sums[1] / sums[0] * one, sums[2] / sums[0] * one), sums[3] / sums[0] * one


def plate(rnd: random.Random) -> Plate:
    """A plate at random."""
    unit = rnd.choice(("mm", "mm", "in"))

    def size(low: float, high: float) -> float:
        v = rnd.uniform(low, high)
        return round(v) if unit == "mm" else round(v / 25.4 * 16) / 16

    w, h, thick = size(70, 140), size(50, 90), size(9, 20)
    shape = rnd.choice(("plain", "round", "bevel", "L"))
    corners = [(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)]
    if shape == "L":
        a, b = size(20, 30), size(15, 22)
        corners = [(0.0, 0.0), (w, 0.0), (w, h - b), (w - a, h - b), (w - a, h), (0.0, h)]
    group: list[Hole] = []
    if shape != "L" and rnd.random() < 0.7:
        dx, dy = size(0.6 * w * ONE[unit], 0.7 * w * ONE[unit]), size(0.55 * h * ONE[unit], 0.65 * h * ONE[unit])
        d = 6.6 if unit == "mm" else 0.25
        wide = ((11.0, 4.0) if unit == "mm" else (0.4375, 0.1875)) if rnd.random() < 0.5 else None
        group = [Hole(((w + sx * dx) / 2, (h + sy * dy) / 2), d, None, wide)
                 for sx, sy in itertools.product((-1, 1), repeat=2)]  # fmt: skip
    own: list[Hole] = []
    spots = [(0.5, 0.5), (0.33, 0.42), (0.62, 0.4)][: rnd.randint(1, 3)]
    for n, (fx, fy) in enumerate(spots):
        at = (
            size(fx * w * ONE[unit] - 2, fx * w * ONE[unit] + 2),
            size(fy * h * ONE[unit] - 2, fy * h * ONE[unit] + 2),
        )
        diameter = (8.0, 5.0, 10.0)[n] if unit == "mm" else (0.3125, 0.1875, 0.375)[n]
        depth = None if rnd.random() < 0.5 else round(0.5 * thick, 3) if unit == "mm" else round(8 * thick) / 16
        own.append(Hole(at, diameter, depth))
    slot = None
    if w * ONE[unit] > 105 and rnd.random() < 0.6:
        at = (size(0.33 * w * ONE[unit], 0.36 * w * ONE[unit]), size(0.74 * h * ONE[unit], 0.78 * h * ONE[unit]))
        slot = (at, 18.0, 6.0) if unit == "mm" else (at, 0.75, 0.25)
    pocket = None
    if slot is None and len(own) < 3 and w * ONE[unit] > 90 and rnd.random() < 0.7:
        at = (size(0.6 * w * ONE[unit], 0.62 * w * ONE[unit]), size(0.42 * h * ONE[unit], 0.45 * h * ONE[unit]))
        pocket = (at, (16.0, 12.0), 4.0) if unit == "mm" else (at, (0.625, 0.5), 0.1875)
    return Plate(
        unit, tuple(corners), thick, (8.0 if unit == "mm" else 0.375) if shape == "round" else 0.0,
        (6.0 if unit == "mm" else 0.25) if shape == "bevel" else 0.0, tuple(group), tuple(own), slot, pocket,
    )  # fmt: skip


def sheet(seed: int, path: Path) -> Plate:
    """A drawing of a random plate; the truth."""
    rnd = random.Random(seed)
    part = plate(rnd)
    pen = Pen(path, rnd, part.unit)
    (w, h), one = part.size, ONE[part.unit]
    scale = next(s for s in (2.0, 1.0, 0.5) if max(w, h) * one * s < 141)
    k = scale * one
    x0, y0 = 110.0, 80.0
    _face(pen, part, x0, y0, k, whole=rnd.random() < 0.5)
    thick = pen.number(part.thick)
    where = rnd.choice(("above", "right", "note"))
    if where == "above":
        low = y0 + h * k + 62
        _box(pen, x0, low, w * k, part.thick * k)
        _upright(pen, low, low + part.thick * k, x0 - 9, x0, thick)
    elif where == "right":
        left = x0 + w * k + 70
        _box(pen, left, y0, part.thick * k, h * k)
        pen.level(left, left + part.thick * k, y0 - 9, y0, thick)
    else:
        pen.words(x0, y0 + h * k + 60, f"{thick} THK")
    _slot(pen, part, x0, y0, k)
    _pocket(pen, part, x0, y0, k)
    _sizes(pen, rnd, part, x0, y0, k)
    _notes(pen, part, x0, y0, k)
    pen.c.save()
    return part


def _face(pen: Pen, part: Plate, x0: float, y0: float, k: float, *, whole: bool) -> None:
    corners = [(x0 + x * k, y0 + y * k) for x, y in part.corners]
    r, c = part.round * k, part.bevel * k
    if r:
        (x1, y1) = corners[2]
        pen.c.setLineWidth(pen.wide * mm)
        pen.c.roundRect(x0 * mm, y0 * mm, (x1 - x0) * mm, (y1 - y0) * mm, r * mm)
    else:
        run = [(x0, y0 + c), (x0 + c, y0), *corners[1:], (x0, y0 + c)] if c else [*corners, corners[0]]
        for piece in [run] if whole else list(itertools.pairwise(run)):
            pen.line(*piece, wide=True)
    for hole in (*part.group, *part.own):
        x, y = x0 + hole.at[0] * k, y0 + hole.at[1] * k
        for d in (hole.diameter, *([hole.wide[0]] if hole.wide else [])):
            pen.c.setLineWidth(pen.wide * mm)
            pen.c.circle(x * mm, y * mm, d / 2 * k * mm)
        reach = hole.diameter * k / 2 + 3
        pen.line((x - reach, y), (x + reach, y), dashed=True)
        pen.line((x, y - reach), (x, y + reach), dashed=True)


def _slot(pen: Pen, part: Plate, x0: float, y0: float, k: float) -> None:
    if part.slot is None:
        return
    (x, y), long, wide = part.slot
    pen.c.setLineWidth(pen.wide * mm)
    left, low = x0 + (x - long / 2) * k, y0 + (y - wide / 2) * k
    pen.c.roundRect(left * mm, low * mm, long * k * mm, wide * k * mm, wide / 2 * k * mm)
    pen.line((x0 + x * k, low - 3), (x0 + x * k, low + wide * k + 3), dashed=True)
    pen.line((left - 3, y0 + y * k), (left + long * k + 3, y0 + y * k), dashed=True)


def _pocket(pen: Pen, part: Plate, x0: float, y0: float, k: float) -> None:
    if part.pocket is not None:
        (x, y), (w, h), _ = part.pocket
        pen.c.setLineWidth(pen.wide * mm)
        pen.c.roundRect((x0 + x * k) * mm, (y0 + y * k) * mm, w * k * mm, h * k * mm, POCKET_R[part.unit] * k * mm)


def _box(pen: Pen, x: float, y: float, w: float, h: float) -> None:
    pen.line((x, y), (x + w, y), (x + w, y + h), (x, y + h), (x, y), wide=True)


def _upright(pen: Pen, a: float, b: float, x: float, edge: float, text: str) -> None:
    """A length at the left of the part, its number turned."""
    for y in (a, b):
        pen.line((edge - 1, y), (x - 2, y))
    pen.line((x, a), (x, b))
    pen.arrow(x, a, 0, 1)
    pen.arrow(x, b, 0, -1)
    pen.c.saveState()
    pen.c.translate((x - 0.8) * mm, ((a + b) / 2 - pen.wide_of(text) / 2) * mm)
    pen.c.rotate(90)
    pen.words(0, 0, text)
    pen.c.restoreState()


def _sizes(pen: Pen, rnd: random.Random, part: Plate, x0: float, y0: float, k: float) -> None:
    chain = rnd.random() < 0.4
    for axis in (0, 1):
        stops = sorted(
            {c[axis] for c in part.corners if 0 < c[axis] < part.size[axis]} | {o.at[axis] for o in part.own}
        )
        whole = part.size[axis]
        if part.slot is not None:
            stops = sorted({*stops, part.slot[0][axis]})
        if part.pocket is not None:
            stops = sorted({*stops, part.pocket[0][axis]})
        spans = list(itertools.pairwise([0.0, *stops])) if chain else [(0.0, s) for s in stops]
        spans.append((0.0, whole))
        if part.group:
            apart = sorted({g.at[axis] for g in part.group})
            spans.insert(0, (apart[0], apart[1]))
        row = 9.0
        for a, b in spans:
            text = pen.number(round(b - a, 4))
            if axis == 0:
                pen.level(x0 + a * k, x0 + b * k, y0 - row, y0, text)
            else:
                _upright(pen, y0 + a * k, y0 + b * k, x0 - row, x0, text)
            row += 8


def _notes(pen: Pen, part: Plate, x0: float, y0: float, k: float) -> None:
    """On leaders at the right and above."""
    right, high = x0 + part.size[0] * k, y0 + part.size[1] * k
    told: list[tuple[Place, str]] = []
    for hole in part.own:
        told.append((_rim(hole, hole.diameter, x0, y0, k), _said(pen, hole)))
    if part.group:
        top = max(part.group, key=lambda g: g.at[0] + g.at[1])
        told.append((_rim(top, (top.wide or (top.diameter, 0))[0], x0, y0, k), "4X " + _said(pen, top)))
    if part.slot is not None:
        (x, y), long, wide = part.slot
        tip = (x0 + x * k + 1, y0 + (y + wide / 2) * k)
        told.append((tip, f"SLOT {pen.number(wide)} x {pen.number(long)} THRU"))
    if part.pocket is not None:
        (x, y), (w, h), deep = part.pocket
        sizes = " x ".join(map(pen.number, (w, h, deep)))
        text = f"POCKET {sizes} DEEP, R{pen.number(POCKET_R[part.unit])} CORNERS"
        told.append(((x0 + (x + w / 2) * k, y0 + (y + h / 2) * k), text))
    if part.round:
        r = part.round * k
        told.append(((right - r * (1 - math.sqrt(0.5)), high - r * (1 - math.sqrt(0.5))), f"R{pen.number(part.round)}"))
    if part.bevel:
        told.append(((x0 + part.bevel * k / 2, y0 + part.bevel * k / 2), f"{pen.number(part.bevel)} x 45°"))
    for n, (tip, text) in enumerate(sorted(told, key=lambda t: t[0][0], reverse=True)):
        pen.leader(tip, right + 12 + 4 * n, high + 8 + 9 * n, text)


def _rim(hole: Hole, diameter: float, x0: float, y0: float, k: float) -> Place:
    a = math.radians(50)
    return x0 + hole.at[0] * k + diameter / 2 * k * math.cos(a), y0 + hole.at[1] * k + diameter / 2 * k * math.sin(a)


def _said(pen: Pen, hole: Hole) -> str:
    deep = "THRU" if hole.depth is None else f"x {pen.number(hole.depth)} DEEP"
    text = f"Ø{pen.number(hole.diameter)} {deep}"
    if hole.wide is not None:
        text += f", C'BORE Ø{pen.number(hole.wide[0])} x {pen.number(hole.wide[1])} DEEP"
    return text


__all__: Sequence[str] = ("Hole", "Plate", "plate", "sheet")
