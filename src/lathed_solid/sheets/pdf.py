"""A page of a PDF: its picture, its characters and its straight rules. Only the worker imports this.

Coordinates of text and strokes are before the page's own turn (``/Rotate``); they are turned here, so that all of a
page is as it is seen.
"""

from __future__ import annotations

import ctypes
import math
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pypdfium2 as pdfium  # type: ignore[import-untyped]
import pypdfium2.raw as raw  # type: ignore[import-untyped]

from lathed_solid.sheets.texts import Char, Rule

MOST_PIXELS = 24_000_000
MOST_CHARS = 60_000
MOST_SEGMENTS = 20_000
STRAIGHT = 0.3
#: in ems: characters of a run stand on one line, and each reaches so far at least, at most, mostly
SAME_LINE, LEAST_ADVANCE, MOST_ADVANCE, USUAL_ADVANCE = 0.05, 0.1, 1.2, 0.55


class Page:
    """One page, as seen: ``width`` and ``height`` in points."""

    def __init__(self, path: Path, number: int) -> None:
        self.document = pdfium.PdfDocument(str(path))
        self.count = len(self.document)
        self.page = self.document[number - 1]
        self.width, self.height = self.page.get_size()
        self._turn = self.page.get_rotation() % 360

    def picture(self, dpi: float) -> Any:
        """A PIL image on white, at most MOST_PIXELS."""
        scale = dpi / 72
        most = math.sqrt(MOST_PIXELS / max(self.width * self.height, 1.0))
        return self.page.render(scale=min(scale, most)).to_pil().convert("RGB")

    def _seen(self, x: float, y: float) -> tuple[float, float]:
        """A point before the page's turn, as it is seen."""
        if self._turn == 90:
            return y, self.height - x
        if self._turn == 180:
            return self.width - x, self.height - y
        if self._turn == 270:
            return self.width - y, x
        return x, y

    def chars(self) -> list[Char]:
        """Characters in reading order with their boxes, at most MOST_CHARS."""
        text = self.page.get_textpage()
        x, y = ctypes.c_double(), ctypes.c_double()
        box, matrix = raw.FS_RECTF(), raw.FS_MATRIX()
        out = []
        for i in range(min(raw.FPDFText_CountChars(text), MOST_CHARS)):
            code = raw.FPDFText_GetUnicode(text, i)
            if raw.FPDFText_IsGenerated(text, i) == 1 or code in (0, 10, 13, 0xFFFE) or chr(code).isspace():
                continue  # spaces are made anew from the gaps
            raw.FPDFText_GetCharOrigin(text, i, x, y)
            raw.FPDFText_GetMatrix(text, i, matrix)
            raw.FPDFText_GetLooseCharBox(text, i, box)
            angle = round(math.degrees(math.atan2(matrix.b, matrix.a))) % 360
            size = raw.FPDFText_GetFontSize(text, i) * math.hypot(matrix.a, matrix.b)
            if size <= 0:
                continue
            at = x.value, y.value
            advance = _advance(box, angle, *at) if angle % 90 == 0 else self._to_next(text, i, angle, size, at)
            out.append(Char(chr(code), *self._seen(*at), (angle - self._turn) % 360, size, advance))
        return out

    @staticmethod
    def _to_next(text: Any, i: int, angle: int, size: float, at: tuple[float, float]) -> float:
        """How far a slanted character reaches: to where the next of its run begins, for its level box is no measure of
        it; at the end of a run as far as characters mostly do.
        """
        x, y = ctypes.c_double(), ctypes.c_double()
        raw.FPDFText_GetCharOrigin(text, i + 1, x, y)
        turn = math.radians(angle)
        dx, dy = x.value - at[0], y.value - at[1]
        along, across = dx * math.cos(turn) + dy * math.sin(turn), dy * math.cos(turn) - dx * math.sin(turn)
        ours = raw.FPDFText_IsGenerated(text, i + 1) == 0 and abs(across) < SAME_LINE * size
        return along if ours and LEAST_ADVANCE * size < along < MOST_ADVANCE * size else USUAL_ADVANCE * size

    def _segments(self, item: Any) -> Iterator[tuple[int, tuple[float, float], bool]]:
        """A path's segments, at most MOST_SEGMENTS: kind, the point it leads to as seen, whether it closes the path."""
        x, y = ctypes.c_float(), ctypes.c_float()
        matrix = item.get_matrix()
        for i in range(min(raw.FPDFPath_CountSegments(item), MOST_SEGMENTS)):
            segment = raw.FPDFPath_GetPathSegment(item, i)
            raw.FPDFPathSegment_GetPoint(segment, x, y)
            here = self._seen(*matrix.on_point(x.value, y.value))
            yield raw.FPDFPathSegment_GetType(segment), here, bool(raw.FPDFPathSegment_GetClose(segment))

    def rules(self) -> list[Rule]:
        """Level and upright strokes over 2 points long."""
        out: list[Rule] = []
        for item in self.page.get_objects(filter=[raw.FPDF_PAGEOBJ_PATH], max_depth=3):
            last = start = None
            for kind, here, closes in self._segments(item):
                if kind == raw.FPDF_SEGMENT_MOVETO:
                    start = here
                elif kind == raw.FPDF_SEGMENT_LINETO and last is not None:
                    out += _rule(last, here)
                last = here
                if closes and start is not None:
                    out += _rule(here, start)
                    last = start
        return out

    def strokes(self) -> list[tuple[list[tuple[float, float]], float, bool]]:
        """Everything that is stroked: points as seen, width in points, whether dashed. Curves become chords."""
        wide = ctypes.c_float()
        out: list[tuple[list[tuple[float, float]], float, bool]] = []
        fill, stroked = ctypes.c_int(), ctypes.c_int()
        for item in self.page.get_objects(filter=[raw.FPDF_PAGEOBJ_PATH], max_depth=3):
            raw.FPDFPath_GetDrawMode(item, fill, stroked)
            if not stroked.value:
                continue
            matrix = item.get_matrix()
            raw.FPDFPageObj_GetStrokeWidth(item, wide)
            look = (
                wide.value * math.sqrt(abs(matrix.a * matrix.d - matrix.b * matrix.c)),
                (raw.FPDFPageObj_GetDashCount(item) > 0),
            )
            run: list[tuple[float, float]] = []
            bends: list[tuple[float, float]] = []
            for kind, here, closes in self._segments(item):
                if kind == raw.FPDF_SEGMENT_MOVETO:
                    if len(run) > 1:
                        out.append((run, *look))
                    run, bends = [here], []
                elif kind == raw.FPDF_SEGMENT_BEZIERTO:
                    bends.append(here)
                    if len(bends) == 3:
                        run += _bent(run[-1], *bends)
                        bends = []
                else:
                    run.append(here)
                if closes and run:
                    run.append(run[0])
            if len(run) > 1:
                out.append((run, *look))
        return out


CHORDS = 16


def _bent(a: Any, b: Any, c: Any, d: Any) -> list[tuple[float, float]]:
    """A cubic curve as chords, without its first point."""
    out = []
    for k in range(1, CHORDS + 1):
        t = k / CHORDS
        u = 1 - t
        p, q, r, s = u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t
        out.append((p * a[0] + q * b[0] + r * c[0] + s * d[0], p * a[1] + q * b[1] + r * c[1] + s * d[1]))
    return out


def _advance(box: Any, angle: int, x: float, y: float) -> float:
    """How far a level or upright character reaches along its own line."""
    ca, sa = math.cos(math.radians(angle)), math.sin(math.radians(angle))
    return max(px * ca + py * sa for px in (box.left, box.right) for py in (box.bottom, box.top)) - (x * ca + y * sa)


def _rule(a: tuple[float, float], b: tuple[float, float]) -> list[Rule]:
    (x0, y0), (x1, y1) = a, b
    if abs(x0 - x1) < STRAIGHT and abs(y0 - y1) > 2:
        return [(x0, min(y0, y1), x0, max(y0, y1))]
    if abs(y0 - y1) < STRAIGHT and abs(x0 - x1) > 2:
        return [(min(x0, x1), y0, max(x0, x1), y0)]
    return []
