"""Dimensioned sheets by another hand than the product's drawing tool, with habits of their own drawn at random.

Two views of a stepped block with holes, at one scale, dimensioned in chains, from one side, or both; filled or open
arrowheads, strokes or none; numbers above their line, in a gap of it, or upright in the gap of an upright line; other
fonts and widths; narrow dimensions with their arrows outside; centre lines, leaders, a frame and a title block between.
The truth is what was drawn. A slip changes one number and leaves its line.
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


@dataclass(frozen=True)
class Drawn:
    """A dimension as drawn: where its number stands (middle, mm on the page), from where to where, what it says."""

    words: str
    at: tuple[float, float]
    along: str
    start: float
    end: float
    value: float
    slipped: bool = False


@dataclass
class Habit:
    """How this hand draws."""

    rnd: random.Random
    font: str
    size: float
    thin: float
    wide: float
    arrows: str
    in_line: bool
    upright_numbers: bool
    gap: float
    past: float
    row: float


SCALES = (2.0, 1.0, 0.5, 0.4, 0.2)


def habit(rnd: random.Random) -> Habit:
    """Habits at random."""
    in_line = rnd.random() < 0.5
    wide = rnd.choice((0.35, 0.5, 0.7))
    return Habit(
        rnd, rnd.choice(("Helvetica", "Courier", "Times-Roman")), rnd.choice((2.5, 3.0, 3.5)) / 0.72,
        rnd.choice((wide, wide / 2, 0.18)), wide, rnd.choice(("filled", "open", "stroke", "none", "dot")),
        in_line, in_line and rnd.random() < 0.5, rnd.choice((0.0, 0.6, 1.0)), rnd.choice((1.0, 2.0)),
        rnd.choice((8.0, 10.0)),
    )  # fmt: skip


class Pen:
    """Draws in mm on the page, and remembers every dimension."""

    def __init__(self, path: Path, hand: Habit) -> None:
        self.canvas, self.hand = Canvas(str(path), pagesize=(420 * mm, 297 * mm), invariant=1), hand
        self.drawn: list[Drawn] = []
        self.boxes: list[tuple[float, float, float, float]] = []

    def lines(self, *run: tuple[float, float], width: float, dash: tuple[float, ...] = ()) -> None:
        c = self.canvas
        c.setLineWidth(width * mm)
        c.setDash([v * mm for v in dash] if dash else [])
        p = c.beginPath()
        p.moveTo(run[0][0] * mm, run[0][1] * mm)
        for x, y in run[1:]:
            p.lineTo(x * mm, y * mm)
        c.drawPath(p)
        c.setDash([])

    def circle(self, x: float, y: float, r: float) -> None:
        self.canvas.setLineWidth(self.hand.wide * mm)
        self.canvas.circle(x * mm, y * mm, r * mm)
        for dx, dy in ((r + 3, 0), (0, r + 3)):
            self.lines((x - dx, y - dy), (x + dx, y + dy), width=self.hand.thin, dash=(4, 1, 1, 1))

    def words(self, x: float, y: float, text: str, turned: bool = False) -> None:
        """With their middle at a place."""
        c, h = self.canvas, self.hand
        c.saveState()
        c.translate(x * mm, y * mm)
        if turned:
            c.rotate(90)
        c.setFont(h.font, h.size * mm)
        c.drawCentredString(0, -0.36 * h.size * mm, text)
        c.restoreState()

    def dimension(self, along: str, a: float, b: float, at: float, foot: float, text: str, value: float,
                  slipped: bool = False) -> None:  # fmt: skip
        """From a to b; its line at ``at`` across, its witness lines from ``foot``."""
        h = self.hand
        level = along == "x"
        if not self._room(level, a, b, at, text):
            return

        def p(u: float, v: float) -> tuple[float, float]:
            return (u, v) if level else (v, u)

        way = math.copysign(1.0, at - foot)
        for u in (a, b):
            self.lines(p(u, foot + h.gap * way), p(u, at + h.past * way), width=h.thin)
        upright = not level and h.upright_numbers
        reach = stringWidth(text, h.font, h.size)
        across = (h.size if upright else reach) / 2 + 1.0
        narrow = b - a < 2 * across + 5
        middle = b + 4.5 + across if narrow else (a + b) / 2
        if narrow and not level and upright:
            middle = b + 4.5 + across
        lifted = 0.0 if h.in_line else 0.36 * h.size + 0.9
        # numbers are read from below and from the right: above a level line, left of an upright one
        x, y = p(middle, at + (lifted if level else -lifted))
        if narrow:
            outside = [(a - 5, a), (b, b + 4)] if not h.in_line else [(a - 5, a), (b, b + 3.5)]
            if h.rnd.random() < 0.5:
                outside = [(outside[0][0], outside[1][1])]
            for low, high in outside:
                self.lines(p(low, at), p(high, at), width=h.thin)
        elif h.in_line:
            self.lines(p(a, at), p(middle - across, at), width=h.thin)
            self.lines(p(middle + across, at), p(b, at), width=h.thin)
        else:
            self.lines(p(a, at), p(b, at), width=h.thin)
        for u, s in ((a, 1.0), (b, -1.0)):
            self._arrow(p, u, at, -s if narrow else s)
        self.words(x, y, text, turned=not level and not upright)
        self.drawn.append(Drawn(text, (x, y), along, a, b, value, slipped))

    def _room(self, level: bool, a: float, b: float, at: float, text: str) -> bool:
        """Whether the number and the arrows do not fall onto others of the row; a draughtsman would leave it out."""
        h = self.hand
        reach = stringWidth(text, h.font, h.size) + 2
        across = (h.size + 2 if not level and h.upright_numbers else reach) / 2
        narrow = b - a < 2 * across + 5
        low, high = (a - 5, b + 5 + 2 * across) if narrow else (a + 0.1, b - 0.1)
        wide = reach if not level and h.upright_numbers else h.size
        box = (low, at - wide, high, at + wide) if level else (at - wide, low, at + wide, high)
        if any(box[0] < o[2] and o[0] < box[2] and box[1] < o[3] and o[1] < box[3] for o in self.boxes):
            return False
        self.boxes.append(box)
        return True

    def _arrow(self, p, u: float, at: float, s: float) -> None:  # type: ignore[no-untyped-def]
        h = self.hand
        if h.arrows == "stroke":
            self.lines(p(u - 1.2, at - 1.2), p(u + 1.2, at + 1.2), width=h.thin * 1.4)
        elif h.arrows == "dot":
            x, y = p(u, at)
            self.canvas.circle(x * mm, y * mm, 0.6 * mm, fill=1)
        elif h.arrows == "open":
            self.lines(p(u + 2.5 * s, at + 0.6), p(u, at), p(u + 2.5 * s, at - 0.6), width=h.thin)
        elif h.arrows == "filled":
            path = self.canvas.beginPath()
            points = [p(u, at), p(u + 3 * s, at + 0.5), p(u + 3 * s, at - 0.5)]
            path.moveTo(points[0][0] * mm, points[0][1] * mm)
            for x, y in points[1:]:
                path.lineTo(x * mm, y * mm)
            path.close()
            self.canvas.drawPath(path, fill=1)


def slip(words: str, rnd: random.Random) -> str:
    """Another number: a digit changed, the point lost, or two digits changed about."""
    digits = [i for i, c in enumerate(words) if c.isdigit()]
    for _ in range(50):
        way = rnd.choice(("digit", "point", "about"))
        if way == "point" and "." in words:
            return words.replace(".", "").lstrip("0")
        if way == "about" and len(digits) > 1:
            i, j = rnd.sample(digits, 2)
            out = list(words)
            out[i], out[j] = out[j], out[i]
            if out != list(words) and out[0] != "0":
                return "".join(out)
        if way == "digit":
            i = digits[0]
            return words[:i] + rnd.choice([d for d in "123456789" if d != words[i]]) + words[i + 1 :]
    return words + "5"


def sheet(seed: int, path: Path, slips: int = 0) -> tuple[list[Drawn], float]:
    """Draw a sheet of this seed; its dimensions, and its scale (page per part)."""
    rnd = random.Random(seed)
    pen = Pen(path, habit(rnd))
    h = pen.hand
    scale = rnd.choice(SCALES)
    wide_mm, tall_mm, deep_mm = rnd.uniform(110, 170), rnd.uniform(50, 80), rnd.uniform(25, 45)  # on the page
    decimals = 1 if scale > 0.3 else 0
    length, height, depth = (round(v / scale, decimals) for v in (wide_mm, tall_mm, deep_mm))
    left, low, high = rnd.uniform(70, 110), rnd.uniform(75, 90), rnd.uniform(205, 215)
    cuts = sorted({round(f * length, decimals) for f in [rnd.uniform(0.1, 0.9) for _ in range(rnd.randint(2, 4))]})
    # an outline narrower than a few mm on the page would not be dimensioned so
    stops = [0.0]
    for c in [*cuts, length]:
        if (c - stops[-1]) * scale > 4.0 and (length - c) * scale > 4.0:
            stops.append(c)
    stops.append(length)
    levels = [0.0, *sorted({round(rnd.uniform(0.2, 0.45) * height, decimals),
                            round(rnd.uniform(0.55, 0.8) * height, decimals)}), height]  # fmt: skip
    todo: list[tuple[str, float, float, float, float, float]] = []

    def px(v: float) -> float:
        return left + v * scale

    # front view: the outline with steps, holes with centre lines
    pen.lines((px(0), low), (px(length), low), (px(length), low + height * scale), (px(0), low + height * scale),
              (px(0), low), width=h.wide)  # fmt: skip
    for c in stops[1:-1]:
        pen.lines((px(c), low), (px(c), low + rnd.choice((1.0, 0.6)) * height * scale), width=h.wide)
    for _ in range(rnd.randint(1, 3)):
        x, y, r = rnd.uniform(0.15, 0.85) * wide_mm, rnd.uniform(0.3, 0.7) * tall_mm, rnd.uniform(2, 6)
        pen.circle(left + x, low + y, r)
        if rnd.random() < 0.6:
            pen.lines((left + x + 0.7 * r, low + y + 0.7 * r), (left + x + 14, low + y + 20),
                      (left + x + 20, low + y + 20), width=h.thin)  # fmt: skip
            pen.words(left + x + 28, low + y + 20, f"\u00d8{2 * r / scale:.1f}")
    chain = rnd.choice(("chain", "from one side", "both"))
    first, row = low - 9.0, h.row
    if chain in ("chain", "both"):
        todo += [("x", a, b, first, low, 0.0) for a, b in itertools.pairwise(stops)]
        first -= row
    if chain in ("from one side", "both"):
        for b in stops[2 if chain == "both" else 1 : -1]:
            todo.append(("x", 0.0, b, first, low, 0.0))
            first -= row
    if len(stops) > 2:
        todo.append(("x", 0.0, length, first, low, 0.0))
    side, at = (-1, left - 10.0) if rnd.random() < 0.5 else (1, px(length) + 10.0)
    foot = px(0) if side < 0 else px(length)
    todo += [("y", a, b, at, foot, low) for a, b in itertools.pairwise(levels)]
    todo.append(("y", 0.0, height, at + side * (row + 4), foot, low))
    for v in levels[1:-1]:
        pen.lines((px(0), low + v * scale), (px(length), low + v * scale), width=h.wide)
    # top view in projection
    pen.lines((px(0), high), (px(length), high), (px(length), high + depth * scale), (px(0), high + depth * scale),
              (px(0), high), width=h.wide)  # fmt: skip
    pen.lines((px(-4 / scale), high + depth * scale / 2), (px(length + 4 / scale), high + depth * scale / 2),
              width=h.thin, dash=(6, 1, 1, 1))  # fmt: skip
    todo.append(("y", 0.0, depth, px(length) + 11.0, px(length), high))
    bad = set(rnd.sample(range(len(todo)), min(slips, len(todo))))
    for n, (along, a, b, where, base, origin) in enumerate(todo):
        value = round(b - a, decimals)
        words = f"{value:.{decimals}f}".removesuffix(".0")
        if n in bad:
            words = slip(words, rnd)
        o = left if along == "x" else origin
        pen.dimension(along, o + a * scale, o + b * scale, where, base, words, float(words), n in bad)
    pen.lines((10, 10), (410, 10), (410, 287), (10, 287), (10, 10), width=h.wide)
    for k in range(5):
        pen.lines((260, 10 + 8 * k), (410, 10 + 8 * k), width=h.thin)
    for rule in (260.0, 320.0, 410.0):
        pen.lines((rule, 10), (rule, 42), width=h.thin)
    for k, line in enumerate(("Sluice winch", "1:1", "S235JR", "ISO 2768-m")):
        pen.words(365, 14 + 8 * k, line)
    pen.canvas.save()
    return pen.drawn, scale
