"""Turned parts drawn by another hand than the product's drawing tool, with habits of their own drawn at random.

A shaft of two to six steps, some ends and shoulders bevelled, a blind hole in an end at times, or a bore through it
that may be wider at one end, drawn as cut or as hidden; its diameters on leaders, its lengths in a chain, from the left
end, or mixed with an overall length for reference; millimetres or inches, several scales. The truth is what was drawn:
its volume in closed form.
"""

from __future__ import annotations

import itertools
import math
import random
from dataclasses import dataclass
from pathlib import Path

from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.pdfgen.canvas import Canvas

ONE = {"mm": 1.0, "in": 25.4}


@dataclass(frozen=True)
class Shaft:
    """Sizes in the sheet's unit: (diameter, length) of the steps from the left, (step, end, leg) of its bevels, the
    (diameter, depth) of a hole in the right end; the diameter of a bore, and how wide and deep it is at one end.
    """

    unit: str
    steps: tuple[tuple[float, float], ...]
    bevels: tuple[tuple[int, str, float], ...]
    hole: tuple[float, float] | None
    bore: float | None = None
    wider: tuple[str, float, float] | None = None

    @property
    def volume(self) -> float:
        """mm3. A bevel of leg c at radius r takes pi c^2 (r - c/3); a drilled hole has a point of 118 degrees."""
        out = sum(math.pi * d * d / 4 * long for d, long in self.steps)
        for k, _, c in self.bevels:
            out -= math.pi * c * c * (self.steps[k][0] / 2 - c / 3)
        if self.hole is not None:
            r, deep = self.hole[0] / 2, self.hole[1]
            out -= math.pi * r * r * (deep + r / math.tan(math.radians(59)) / 3)
        if self.bore is not None:
            out -= math.pi / 4 * self.bore**2 * sum(long for _, long in self.steps)
        if self.bore is not None and self.wider is not None:
            out -= math.pi / 4 * (self.wider[1] ** 2 - self.bore**2) * self.wider[2]
        return out * ONE[self.unit] ** 3


def shaft(rnd: random.Random) -> Shaft:
    """A shaft at random."""
    unit = rnd.choice(("mm", "mm", "in"))
    size = (
        (lambda low, high: round(rnd.uniform(low, high)))
        if unit == "mm"
        else (lambda low, high: round(rnd.uniform(low, high) / 25.4 * 16) / 16)
    )
    steps: list[tuple[float, float]] = []
    for _ in range(rnd.randint(2, 6)):
        while True:
            d = size(14, 60)
            if not steps or abs(d - steps[-1][0]) * ONE[unit] > 4:
                break
        steps.append((d, size(12, 45)))
    leg = 1.0 if unit == "mm" else 0.06
    ends = [(0, "left"), (len(steps) - 1, "right")]
    ends += [(k, "right") for k in range(len(steps) - 1) if steps[k][0] > steps[k + 1][0]]
    room = min(abs(a[0] - b[0]) / 2 for a, b in itertools.pairwise(steps))
    legs = [c for c in (leg, 2 * leg) if c < 0.8 * room]
    bevels = [(k, e, rnd.choice(legs)) for k, e in ends if legs and rnd.random() < 0.4]
    wide = steps[-1][0] * ONE[unit] > 20 and steps[-1][1] * ONE[unit] > 20
    hole = ((8.0, 15.0) if unit == "mm" else (0.25, 0.5)) if wide and rnd.random() < 0.4 else None
    least = min(d for d, _ in steps)
    bore, wider = None, None
    if hole is None and least * ONE[unit] > 24 and rnd.random() < 0.6:
        bore = 8.0 if unit == "mm" else 0.375
        if rnd.random() < 0.5:
            end = rnd.choice(("left", "right"))
            room = steps[0 if end == "left" else -1][1]
            wider = (end, 13.0 if unit == "mm" else 0.5625, 7.0 if unit == "mm" else 0.3125)
            wider = wider if wider[2] < room else None
    return Shaft(unit, tuple(steps), tuple(bevels), hole, bore, wider)


class Pen:
    def __init__(self, path: Path, rnd: random.Random, unit: str) -> None:
        self.c = Canvas(str(path), pagesize=(420 * mm, 297 * mm), invariant=1)
        self.font, self.size = rnd.choice(("Helvetica", "Times-Roman")), rnd.choice((2.5, 3.0)) / 0.72 * mm
        self.wide, self.thin = rnd.choice(((0.7, 0.25), (0.5, 0.25), (0.6, 0.3)))
        self.unit, self.above = unit, rnd.random() < 0.5

    def line(self, *places: tuple[float, float], wide: bool = False, dashed: bool = False) -> None:
        self.c.setLineWidth((self.wide if wide else self.thin) * mm)
        self.c.setDash([6 * mm, 1.5 * mm, 0.5 * mm, 1.5 * mm] if dashed else [])
        run = self.c.beginPath()
        run.moveTo(places[0][0] * mm, places[0][1] * mm)
        for x, y in places[1:]:
            run.lineTo(x * mm, y * mm)
        self.c.drawPath(run)
        self.c.setDash([])

    def words(self, x: float, y: float, text: str) -> None:
        self.c.setFont(self.font, self.size)
        self.c.drawString(x * mm, y * mm, text)

    def wide_of(self, text: str) -> float:
        return float(stringWidth(text, self.font, self.size)) / mm

    def arrow(self, x: float, y: float, dx: float, dy: float) -> None:
        p = self.c.beginPath()
        p.moveTo(x * mm, y * mm)
        for side in (0.45, -0.45):
            p.lineTo((x + 2.5 * dx - side * dy) * mm, (y + 2.5 * dy + side * dx) * mm)
        p.close()
        self.c.drawPath(p, stroke=0, fill=1)

    def number(self, v: float) -> str:
        if self.unit == "in":
            return f"{v:.4f}".rstrip("0").lstrip("0") or "0"
        return f"{v:g}"

    def level(self, a: float, b: float, y: float, top: float, text: str) -> None:
        """A length beneath the part, with its witness lines."""
        for x in (a, b):
            self.line((x, top - 1), (x, y - 2))
        half = self.wide_of(text) / 2 + 1
        middle = (a + b) / 2
        if self.above or b - a < 2 * half + 8:
            self.line((a, y), (b, y))
            self.words(middle - half + 1, y + 0.8, text)
        else:
            self.line((a, y), (middle - half, y))
            self.line((middle + half, y), (b, y))
            self.words(middle - half + 1, y - self.size / mm * 0.36, text)
        self.arrow(a, y, 1, 0)
        self.arrow(b, y, -1, 0)

    def leader(self, tip: tuple[float, float], x: float, y: float, text: str) -> None:
        """A note to the right of a leader's shelf."""
        self.line((x, y), (x - 4, y), tip)
        self.words(x + 1, y - 1, text)


def sheet(seed: int, path: Path) -> Shaft:
    """A drawing of a random shaft; the truth."""
    rnd = random.Random(seed)
    part = shaft(rnd)
    one = ONE[part.unit]
    total = sum(long for _, long in part.steps) * one
    scale = next(s for s in (2.0, 1.0, 0.5, 0.25) if total * s < 250)
    pen = Pen(path, rnd, part.unit)
    k = scale * one
    x0, axis = 80.0, 170.0
    stops = [0.0, *itertools.accumulate(long for _, long in part.steps)]
    xs = [x0 + s * k for s in stops]
    _outline(pen, part, xs, axis, k)
    low = axis - max(d for d, _ in part.steps) / 2 * k - 4
    _lengths(pen, rnd, stops, xs, low)
    high = axis + max(d for d, _ in part.steps) / 2 * k
    row = itertools.count()
    for n, (d, _) in enumerate(part.steps):
        middle = (xs[n] + xs[n + 1]) / 2
        pen.leader((middle, axis + d / 2 * k), middle + 9, high + 12 + 7 * next(row), f"Ø{pen.number(d)}")
    for n, end, c in part.bevels:
        x, r = (xs[n] if end == "left" else xs[n + 1]), part.steps[n][0] / 2
        inward = 1 if end == "left" else -1
        tip = (x + inward * c * k / 2, axis + (r - c / 2) * k)
        pen.leader(
            tip, tip[0] + (-28 if end == "left" and n == 0 else 12), high + 12 + 7 * next(row), f"{pen.number(c)} x 45°"
        )
    if part.hole is not None:
        d, deep = part.hole
        pen.leader((xs[-1], axis), xs[-1] + 18, axis - 12, f"Ø{pen.number(d)} x {pen.number(deep)} DEEP")
    if part.bore is not None:
        _bore(pen, rnd, part, xs, axis, k, low)
    pen.c.save()
    return part


def _bore(pen: Pen, rnd: random.Random, part: Shaft, xs: list[float], axis: float, k: float, low: float) -> None:
    """Hidden or cut, its diameters on leaders at the right, the depth of its wide end below all lengths."""
    assert part.bore is not None
    hidden = rnd.random() < 0.5
    left, right = xs[0], xs[-1]
    if part.wider is not None:
        end, wide, deep = part.wider
        at = xs[0] + deep * k if end == "left" else xs[-1] - deep * k
        for side in (1, -1):
            a, b = (xs[0], at) if end == "left" else (at, xs[-1])
            pen.line((a, axis + side * wide / 2 * k), (b, axis + side * wide / 2 * k), wide=not hidden, dashed=hidden)
        pen.line((at, axis - wide / 2 * k), (at, axis + wide / 2 * k), wide=not hidden, dashed=hidden)
        left, right = (at, right) if end == "left" else (left, at)
        pen.leader(
            (at + (-1 if end == "left" else 1), axis - wide / 2 * k), xs[-1] + 20, axis - 22, f"Ø{pen.number(wide)}"
        )
        pen.level(min(at, a), max(at, b), low - 62, low, pen.number(deep))
    for side in (1, -1):
        pen.line((left, axis + side * part.bore / 2 * k), (right, axis + side * part.bore / 2 * k),
                 wide=not hidden, dashed=hidden)  # fmt: skip
    pen.leader(((left + right) / 2, axis - part.bore / 2 * k), xs[-1] + 20, axis - 14, f"Ø{pen.number(part.bore)}")


def _outline(pen: Pen, part: Shaft, xs: list[float], axis: float, k: float) -> None:
    bevel = {(n, e): c for n, e, c in part.bevels}
    for side in (1, -1):
        for n, (d, _) in enumerate(part.steps):
            r = d / 2
            left, right = bevel.get((n, "left"), 0.0), bevel.get((n, "right"), 0.0)
            a, b = xs[n] + left * k, xs[n + 1] - right * k
            pen.line((a, axis + side * r * k), (b, axis + side * r * k), wide=True)
            if left:
                pen.line((xs[n], axis + side * (r - left) * k), (a, axis + side * r * k), wide=True)
            if right:
                pen.line((b, axis + side * r * k), (xs[n + 1], axis + side * (r - right) * k), wide=True)
    for n, x in enumerate(xs):
        reach = max(
            (part.steps[m][0] / 2 - bevel.get((m, e), 0.0)
             for m, e in ((n - 1, "right"), (n, "left")) if 0 <= m < len(part.steps)),
        )  # fmt: skip
        pen.line((x, axis - reach * k), (x, axis + reach * k), wide=True)
    pen.line((xs[0] - 6, axis), (xs[-1] + 6, axis), dashed=True)


def _lengths(pen: Pen, rnd: random.Random, stops: list[float], xs: list[float], low: float) -> None:
    """In a chain, from the left end, or mixed; an overall length for reference where the chain says it."""
    way = rnd.choice(("chain", "left", "mixed"))
    y = low - 8
    if way == "chain":
        for n in range(len(xs) - 1):
            pen.level(xs[n], xs[n + 1], y, low, pen.number(stops[n + 1] - stops[n]))
        if len(xs) > 2:
            pen.level(xs[0], xs[-1], y - 9, low, f"({pen.number(stops[-1])})")
    elif way == "left":
        for n in range(1, len(xs)):
            pen.level(xs[0], xs[n], y - 8 * (n - 1), low, pen.number(stops[n]))
    else:  # all but one of the chain, and the whole
        gone = rnd.randrange(len(xs) - 1)
        for n in range(len(xs) - 1):
            if n != gone:
                pen.level(xs[n], xs[n + 1], y, low, pen.number(stops[n + 1] - stops[n]))
        pen.level(xs[0], xs[-1], y - 9, low, pen.number(stops[-1]))
