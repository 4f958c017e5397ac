"""A flat sheet's picture taken apart: its ink, its ruled lines and its lettering.

Lines are wiped out before lettering is looked for, and strokes of letters are dropped from the lines; both are found in
one picture, so that a letter's stem is no witness line and a line through a number is none of its figures.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from lathed_solid.sheets.pictures.lettering import Seen, lettering
from lathed_solid.sheets.pictures.ruled import LETTER, Segment, arrow_places, broken_at_arrows, ink, ruled, with_pens

Array = Any
#: the longer side of a sheet whose size nobody tells, mm (ISO 216 A3)
USUAL = 420.0
#: so much beside a wiped line goes with it, mm; paper in even light
WIPED, PAPER = 0.12, 250


@dataclass(frozen=True)
class Flat:
    """(rows, columns) of ``marks`` (255 where there is ink), ``mm`` to a pixel; the lettering ``seen``, its boxes in
    pixels; the lines ``drawn`` that are none of a letter, in mm from the bottom left.
    """

    marks: Array
    mm: float
    seen: Sequence[Seen]
    drawn: Sequence[Segment]

    @property
    def size(self) -> tuple[float, float]:
        """Width and height, mm."""
        rows, columns = self.marks.shape
        return columns * self.mm, rows * self.mm

    @cached_property
    def strokes(self) -> list[tuple[list[tuple[float, float]], float, bool]]:
        """The lines, broken where arrows meet, each with its pen: ends and width in mm, whether dashed."""
        pieces = with_pens(broken_at_arrows(self.drawn, self.marks, self.mm))
        return [([a, b], wide, dashed) for a, b, wide, dashed in pieces]

    def enlarged(self, share: float) -> Flat:
        """The same picture on a sheet ``share`` times as large."""
        return replace(self, mm=self.mm * share, drawn=[_enlarged(s, share) for s in self.drawn])


def taken_apart(light: Array, mm: float) -> Flat:
    """What is on a flat picture in even light (0 to 255), ``mm`` to a pixel."""
    marks = ink(light)
    lines = ruled(marks, mm)
    seen = lettering(_without_strokes(light, lines, mm), arrow_places(lines, marks, mm))
    return Flat(marks, mm, seen, _without_letters(lines, seen, mm, light.shape[0]))


def _enlarged(s: Segment, share: float) -> Segment:
    (x0, y0), (x1, y1), wide, dashed = s
    return (x0 * share, y0 * share), (x1 * share, y1 * share), wide * share, dashed


def _without_strokes(light: Array, strokes: Sequence[Segment], mm: float) -> Array:
    """The sheet with its ruled lines wiped out, so that no two numbers hang together by their line."""
    out, rows = light.copy(), light.shape[0]
    for (x0, y0), (x1, y1), wide, dashed in strokes:
        if dashed or x1 - x0 + y1 - y0 >= LETTER:
            half = (wide / 2 + WIPED) / mm
            left, right, top, low = x0 / mm, x1 / mm, rows - y1 / mm, rows - y0 / mm
            across, up = (0.0, half) if x1 - x0 > y1 - y0 else (half, 0.0)
            out[max(0, round(top - up)) : round(low + up), max(0, round(left - across)) : round(right + across)] = PAPER
    return out


def _without_letters(segments: Sequence[Segment], seen: Sequence[Seen], mm: float, rows: int) -> list[Segment]:
    """The strokes that are none of a letter."""
    boxes = np.array([s.box for s in seen], float).reshape(-1, 4) * mm
    low, high = rows * mm - boxes[:, 3], rows * mm - boxes[:, 1]
    out = []
    for segment in segments:
        (x0, y0), (x1, y1) = segment[0], segment[1]
        inside = (boxes[:, 0] <= x0) & (x1 <= boxes[:, 2]) & (low <= y0) & (y1 <= high)
        if not inside.any():
            out.append(segment)
    return out
