"""Plates with holes, a slot and a step at random: the part, and a drawing of it by another hand than the product's.

The drawing is made from the same numbers, with wide outlines, thin dimension lines, a frame and a title block, at a
scale of its own, its views where they please. A lie changes one thing of the part and leaves the drawing.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, replace
from pathlib import Path

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from lathed_solid import scripting as ls
from lathed_solid.part import Document

LIES = ("hole moved", "hole missing", "hole larger", "slot longer", "step on the other side", "hole mirrored")


@dataclass(frozen=True)
class Plate:
    """mm, from the lower left corner; ``slot``: (x, y, length, width); ``step``: its side, reach and depth."""

    length: float
    width: float
    thickness: float
    holes: tuple[tuple[float, float, float], ...]
    slot: tuple[float, float, float, float]
    step: tuple[str, float, float]


def drawn(seed: int) -> Plate:
    """A plate of this seed."""
    rnd = random.Random(seed)
    length, width, thickness = rnd.randint(80, 140), rnd.randint(50, 80), rnd.randint(12, 24)
    holes = []
    for x, y in ((0.16, 0.2), (0.2, 0.8), (0.84, 0.24), (0.5, 0.16)):
        holes.append((round(x * length + rnd.uniform(-2, 2), 1), round(y * width + rnd.uniform(-2, 2), 1),
                      float(rnd.choice((5, 6, 8, 9)))))  # fmt: skip
    slot = (round(0.38 * length, 1), round(0.55 * width, 1), float(rnd.randint(18, 26)), float(rnd.choice((6, 8))))
    step = (rnd.choice(("left", "right")), float(rnd.randint(6, 9)), float(rnd.randint(4, 8)))
    return Plate(length, width, thickness, tuple(holes), slot, step)


def lied(plate: Plate, lie: str, rnd: random.Random) -> Plate:
    """The same with one thing wrong."""
    holes = list(plate.holes)
    n = rnd.randrange(len(holes))
    x, y, d = holes[n]
    if lie == "hole moved":
        holes[n] = (x + rnd.choice((-3, 3)), y, d)
    elif lie == "hole missing":
        del holes[n]
    elif lie == "hole larger":
        holes[n] = (x, y, d + 2)
    elif lie == "hole mirrored":
        holes[n] = (plate.length - x + (4 if abs(plate.length - 2 * x) < 3 else 0), y, d)
    elif lie == "slot longer":
        sx, sy, long, wide = plate.slot
        return replace(plate, slot=(sx, sy, long + 4, wide))
    else:
        side, reach, deep = plate.step
        return replace(plate, step=("right" if side == "left" else "left", reach, deep))
    return replace(plate, holes=tuple(holes))


def part(plate: Plate) -> Document:
    """The model: a profile along the length, holes and the slot as one cut."""
    t, (side, reach, deep) = plate.thickness, plate.step
    body = ls.Draft()
    length = plate.length
    if side == "left":
        run = [(0, 0), (length, 0), (length, t), (reach, t), (reach, t - deep), (0, t - deep)]
    else:
        run = [(0, 0), (length, 0), (length, t - deep), (length - reach, t - deep), (length - reach, t), (0, t)]
    points = [body.point(*p) for p in run]
    for a, b in zip(points, points[1:] + points[:1], strict=True):
        body.line(a, b)
    document = ls.extrude(ls.sketch(ls.new_part("Plate"), body, "XZ"), 10, f"{plate.width}")
    cut = ls.Draft()
    for x, y, d in plate.holes:
        cut.circle(cut.point(x, y - plate.width), d / 2)  # the profile grows towards the front
    sx, sy, long, wide = plate.slot
    sy -= plate.width
    ls.shapes.slot(cut, (sx, sy), (sx + long - wide, sy), wide / 2)
    document = ls.sketch(document, cut)
    return ls.extrude(document, 30, None, mode="cut", side="both")


def sheet(plate: Plate, path: Path, seed: int) -> None:
    """A3 or A4, 1:1 or 1:2, the front view above or beneath the top view."""
    rnd = random.Random(seed + 77)
    scale = rnd.choice((1.0, 0.5))
    wide, thin = rnd.choice(((0.7, 0.25), (0.5, 0.25), (0.6, 0.3)))
    c = Canvas(str(path), pagesize=(420 * mm, 297 * mm), invariant=1)

    def lines(*run: tuple[float, float], width: float = wide) -> None:
        c.setLineWidth(width * mm)
        p = c.beginPath()
        p.moveTo(run[0][0] * mm, run[0][1] * mm)
        for x, y in run[1:]:
            p.lineTo(x * mm, y * mm)
        c.drawPath(p)

    lines((10, 10), (410, 10), (410, 287), (10, 287), (10, 10))
    for k in range(5):
        lines((280, 10 + 9 * k), (410, 10 + 9 * k), width=thin)
    for rule in (280.0, 330.0, 410.0):
        lines((rule, 10), (rule, 46), width=thin)
    low, high = (60.0, 190.0) if rnd.random() < 0.5 else (180.0, 70.0)
    left = rnd.uniform(60, 120)

    def top(x: float, y: float) -> tuple[float, float]:
        return left + scale * x, low + scale * y

    def front(x: float, z: float) -> tuple[float, float]:
        return left + scale * x, high + scale * z

    w, h, t = plate.length, plate.width, plate.thickness
    lines(top(0, 0), top(w, 0), top(w, h), top(0, h), top(0, 0))
    side, reach, deep = plate.step
    edge = reach if side == "left" else w - reach
    lines(top(edge, 0), top(edge, h))
    c.setLineWidth(wide * mm)
    for x, y, d in plate.holes:
        px, py = top(x, y)
        c.circle(px * mm, py * mm, scale * d / 2 * mm)
        lines((px - d, py), (px + d, py), width=thin)
        lines((px, py - d), (px, py + d), width=thin)
        c.setLineWidth(wide * mm)
    sx, sy, long, broad = plate.slot
    r, end = broad / 2, sx + long - broad
    rim = [(sx - r * math.cos(a), sy + r * math.sin(a)) for a in (math.pi * (k / 32 - 0.5) for k in range(33))]
    other = [(end + r * math.cos(a), sy + r * math.sin(a)) for a in (math.pi * (0.5 - k / 32) for k in range(33))]
    lines(*(top(*q) for q in (*rim, *other, rim[0])))
    if side == "left":
        run = [(0, 0), (w, 0), (w, t), (reach, t), (reach, t - deep), (0, t - deep), (0, 0)]
    else:
        run = [(0, 0), (w, 0), (w, t - deep), (w - reach, t - deep), (w - reach, t), (0, t), (0, 0)]
    lines(*(front(*q) for q in run))
    for x, y, _ in plate.holes:  # leaders and dimensions
        px, py = top(x, y)
        lines((px, py), (px + 18, py + 14), (px + 26, py + 14), width=thin)
        c.drawString((px + 27) * mm, (py + 13) * mm, "4X 6 THRU")
    x0, y0 = top(0, 0)
    x1, _ = top(w, 0)
    lines((x0, y0 - 1), (x0, y0 - 14), width=thin)
    lines((x1, y0 - 1), (x1, y0 - 14), width=thin)
    lines((x0, y0 - 12), (x1, y0 - 12), width=thin)
    c.save()
