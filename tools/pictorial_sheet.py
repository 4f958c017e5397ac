"""A pictorial sheet on paper: the edges that are seen of a solid and its sizes along the three axes, as PDF and DXF.

Lengths along the longest axis are true to scale: of an isometric view along all three (the solid is drawn sqrt(3/2)
times as large as it is seen), of others as the eye sees them. Habits of hands: lettering in the plane of its dimension,
along its line, or level; above the line or in its gap; arrows, open arrows or ticks.
"""

from __future__ import annotations

import io
import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

import ezdxf
import numpy as np
from drawing_sheet import FONTS
from ezdxf.enums import TextEntityAlignment
from numpy.typing import NDArray
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from lathed_solid.kernel.drawing.figures import Arc
from lathed_solid.kernel.drawing.hidden_lines import hidden_lines

Point = tuple[float, float, float]
Place = NDArray[np.float64]
#: azimuth (0: the front) and height of the eye, degrees
ISOMETRIC = (45.0, math.degrees(math.asin(3**-0.5)))
LETTERS = "pictorial"
Lettering = Literal["plane", "along", "level"]


@dataclass(frozen=True)
class Hand:
    """How somebody draws: ``size`` of lettering, mm; ``gap`` of a witness line, mm."""

    lettering: Lettering = "plane"
    in_gap: bool = False
    arrows: Literal["full", "open", "tick"] = "full"
    size: float = 3.5
    gap: float = 1.0


@dataclass
class PictorialSheet:
    """Draws a body (mm) at a scale; ``unit``: mm of the part to one of its numbers."""

    shape: Any
    title: tuple[str, ...]
    scale: float = 1.0
    unit: float = 1.0
    hand: Hand = Hand()
    size: tuple[float, float] = (420.0, 297.0)
    at: tuple[float, float] = (210.0, 150.0)
    eye: tuple[float, float] = ISOMETRIC
    #: (text, axis 0 to 2) of each length, in the order drawn
    lengths: list[tuple[str, int]] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    _out: list[Any] = field(default_factory=list)

    def place(self, p: Sequence[float]) -> Place:
        """A place of space on the paper, mm."""
        flat = self._directions() @ np.array(p, float) * self.unit * self.scale
        return np.array(self.at) + flat / np.linalg.norm(self._directions(), axis=0).max()

    def _directions(self) -> Place:
        """(2, 3): the axes as an eye square to the paper sees them."""
        towards, right = self._eye()
        return np.array([right, np.cross(towards, right)])

    def _eye(self) -> tuple[Place, Place]:
        """Towards the eye, and to its right."""
        turn, high = (math.radians(v) for v in self.eye)
        right = np.array([math.cos(turn), math.sin(turn), 0.0])
        return np.array([math.sin(turn) * math.cos(high), -math.cos(turn) * math.cos(high), math.sin(high)]), right

    def length(self, p: Point, axis: int, far: float, off: Point, text: str) -> None:
        """A length from ``p`` along an axis; ``off``: where its line lies, from ``p``."""
        q = tuple(v + (far if n == axis else 0.0) for n, v in enumerate(p))
        a, b = self.place(p), self.place(q)
        out = self.place(off) - self.place((0, 0, 0))
        way = out / np.linalg.norm(out)
        for end in (a, b):
            self._line(end + way * self.hand.gap, end + out + 1.6 * way)
        one, two = a + out, b + out
        along = (two - one) / np.linalg.norm(two - one)
        if along[0] < -1e-9 or (abs(along[0]) < 1e-9 and along[1] < 0):
            one, two, along = two, one, -along
        middle, size = (one + two) / 2, self.hand.size
        wide = pdfmetrics.stringWidth(text, self._font(), size * mm) / mm
        across = self._across(along, way)
        if self.hand.lettering == "level":
            if self.hand.in_gap:
                half = self._half(along, wide / 2 + 1.0, size / 2 + 0.6)
                self._dimension(one, middle - along * half, middle + along * half, two)
                self._words(text, middle, np.array([1.0, 0.0]), np.array([0.0, 1.0]), size)
            else:
                side = np.array([-along[1], along[0]])
                side = side if side[1] >= 0 else -side
                self._dimension(one, None, None, two)
                away = self._half(side, wide / 2, size / 2) + 1.0
                self._words(text, middle + side * away, np.array([1.0, 0.0]), np.array([0.0, 1.0]), size)
        elif self.hand.in_gap:
            half = wide / 2 + 1.0
            self._dimension(one, middle - along * half, middle + along * half, two)
            self._words(text, middle, along, across, size)
        else:
            self._dimension(one, None, None, two)
            self._words(text, middle + across * (size / 2 + 0.8), along, across, size)
        self.lengths.append((text, axis))

    def note(self, tip: Point, to: tuple[float, float], *lines: str) -> None:
        """A leader to a place, its note level at ``to`` from there, mm of paper."""
        a = self.place(tip)
        b = a + np.array(to)
        way = (a - b) / np.linalg.norm(a - b)
        self._line(b, a)
        self._arrow(a, way)
        right = to[0] >= 0
        shelf = b + np.array([4.0 if right else -4.0, 0.0])
        self._line(b, shelf)
        size = self.hand.size
        for n, text in enumerate(lines):
            wide = pdfmetrics.stringWidth(text, self._font(), size * mm) / mm
            x = shelf[0] + (1.0 + wide / 2) * (1 if right else -1)
            y = shelf[1] - n * 1.35 * size
            self._words(text, np.array([x, y]), np.array([1.0, 0.0]), np.array([0.0, 1.0]), size)
        self.notes.append("\n".join(lines))

    def _across(self, along: Place, way: Place) -> Place:
        """Where the lettering's own upright points: along the witness lines, or square to its line."""
        square = np.array([-along[1], along[0]])
        if self.hand.lettering == "along":
            return square
        return way if float(way @ square) > 0 else -way

    @staticmethod
    def _half(way: Place, wide: float, tall: float) -> float:
        """How far a level box of these half sides reaches from its middle along a way."""
        return float(min(wide / max(abs(way[0]), 1e-9), tall / max(abs(way[1]), 1e-9)))

    def _dimension(self, one: Place, before: Place | None, behind: Place | None, two: Place) -> None:
        along = (two - one) / np.linalg.norm(two - one)
        if before is None or behind is None:
            self._line(one, two)
        else:
            self._line(one, before)
            self._line(behind, two)
        self._arrow(one, -along)
        self._arrow(two, along)

    def _arrow(self, at: Place, way: Place) -> None:
        side = np.array([-way[1], way[0]])
        if self.hand.arrows == "tick":
            turned = (way + side) / math.sqrt(2)
            self._line(at - 1.3 * turned, at + 1.3 * turned, 0.35)
        else:
            self._out.append(("arrow", at, at - 3 * way + 0.5 * side, at - 3 * way - 0.5 * side))

    def _line(self, a: Place, b: Place, width: float = 0.25) -> None:
        self._out.append(("line", [a, b], width))

    def _words(self, text: str, middle: Place, along: Place, across: Place, size: float) -> None:
        self._out.append(("words", text, middle, along, across, size))

    @staticmethod
    def _font() -> str:
        if LETTERS not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(LETTERS, str(next(FONTS.glob("osifont*.ttf")))))
        return LETTERS

    def pdf(self) -> bytes:
        """One page."""
        data = io.BytesIO()
        page = Canvas(data, pagesize=(self.size[0] * mm, self.size[1] * mm), invariant=1)
        page.setTitle(self.title[0])
        page.setLineCap(1)
        self._edges(page)
        for kind, *told in self._out:
            if kind == "line":
                self._stroke(page, *told)
            elif kind == "arrow":
                self._head(page, *told)
            else:
                self._letters(page, *told)
        self._frame(page)
        page.save()
        return data.getvalue()

    def dxf(self) -> bytes:
        """The same in model space, mm of paper; lettering turned, not slanted."""
        drawing = ezdxf.new("R2010", units=4)
        space = drawing.modelspace()
        for points in self._outlines():
            space.add_lwpolyline([tuple(p) for p in points], dxfattribs={"lineweight": 50})
        for kind, *told in self._out:
            if kind == "words":
                text, middle, along, _, size = told
                turn = math.degrees(math.atan2(along[1], along[0]))
                words = space.add_text(text, height=size * 0.72, rotation=turn)
                words.set_placement(tuple(middle), align=TextEntityAlignment.MIDDLE_CENTER)
            else:
                points = told[0] if kind == "line" else told
                space.add_lwpolyline([tuple(p) for p in points], close=kind == "arrow", dxfattribs={"lineweight": 25})
        data = io.StringIO()
        drawing.write(data)
        return data.getvalue().encode()

    def _outlines(self) -> list[list[Place]]:
        """What is seen of the solid, on the paper."""
        towards, right = self._eye()
        seen, _ = hidden_lines(self.shape)(tuple(towards), tuple(right))
        k = self.scale / np.linalg.norm(self._directions(), axis=0).max()
        runs = [c.run(0.02).points if isinstance(c, Arc) else c.points for c in seen]
        return [[np.array(self.at) + k * np.array(p) for p in points] for points in runs]

    def _edges(self, page: Canvas) -> None:
        for points in self._outlines():
            self._stroke(page, points, 0.5)

    @staticmethod
    def _stroke(page: Canvas, points: Sequence[Place], width: float) -> None:
        page.setLineWidth(width * mm)
        path = page.beginPath()
        path.moveTo(*(points[0] * mm))
        for p in points[1:]:
            path.lineTo(*(p * mm))
        page.drawPath(path)

    def _head(self, page: Canvas, at: Place, one: Place, two: Place) -> None:
        page.setLineWidth(0.18 * mm)
        path = page.beginPath()
        for n, p in enumerate((one, at, two)):
            (path.lineTo if n else path.moveTo)(*(p * mm))
        if self.hand.arrows == "full":
            path.close()
        page.drawPath(path, stroke=1, fill=int(self.hand.arrows == "full"))

    def _letters(self, page: Canvas, text: str, middle: Place, along: Place, across: Place, size: float) -> None:
        page.saveState()
        page.transform(*along, *across, *(middle * mm))
        page.setFont(self._font(), size * mm)
        page.drawCentredString(0, -0.36 * size * mm, text)
        page.restoreState()

    def _frame(self, page: Canvas) -> None:
        wide, tall = self.size
        page.setLineWidth(0.7 * mm)
        page.rect(10 * mm, 10 * mm, (wide - 20) * mm, (tall - 20) * mm)
        left, high = wide - 10 - 90, 10 + 8 * len(self.title)
        page.setLineWidth(0.35 * mm)
        page.line(left * mm, 10 * mm, left * mm, high * mm)
        page.setFont(self._font(), 3.5 * mm)
        for n, words in enumerate(self.title):
            y = high - 8 * (n + 1)
            page.line(left * mm, (y + 8) * mm, (wide - 10) * mm, (y + 8) * mm)
            page.drawString((left + 3) * mm, (y + 2.6) * mm, words)
