"""The linework of a picture: its lines traced, without lettering.

Lettering is what stands in the boxes where it was read, and every other piece of ink that is small, and neither a
closed loop that stands by itself nor a dash of a broken line. Dashes in a row are one line.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

import cv2
import numpy as np

from lathed_solid.sheets.pictures.ruled import ink
from lathed_solid.sheets.pictures.thinned import Chain, thinned
from lathed_solid.sheets.pictures.traced import Line, ended, lines_of
from lathed_solid.sheets.rims import Piece

Array = Any
Box = tuple[float, float, float, float]
#: letters reach beyond the box of their word by so much, pixels
AIR = 3.0
#: letters are no broader than this, those of one closed line no larger, and stand no farther apart; a higher box is
#: that of two rows; in heights of the box of their word
BROAD, ROUND, SPACE, TWO_ROWS = 1.3, 0.9, 0.4, 1.5
#: lettering is no larger both ways, mm
LETTER = 7.0
#: letters of a word stand no farther apart, mm, and are so much alike in height
WORD, ALIKE = 1.8, 0.5
#: dashes of a line stand no farther apart, mm, and lie in one line within so much
CLOSE, GAP, IN_LINE = 0.4, 4.0, 0.3
#: a dash is at least so long, mm, and no longer; so many make a broken line
DASH, LONGEST, DASHES = 1.0, 30.0, 3


def lines_in(light: Array, mm: float, words: Sequence[Box] = ()) -> list[Line]:
    """The lines of a straight sheet in even light (rows, columns; 0 to 255), ``mm`` to a pixel. ``words``: boxes of
    lettering that was read, pixels.
    """
    marks = ink(light)
    if not marks.any() or marks.all():
        return []
    _, labels, stats, _ = cv2.connectedComponentsWithStats(marks, connectivity=8)
    chains = _without_words(thinned(marks, light), words, LETTER / mm)
    pieces: dict[int, list[Line]] = defaultdict(list)
    for line in lines_of(chains, light.shape[0], mm):
        column, row = chains[line.chain].places[0].astype(int)
        pieces[int(labels[row, column])].append(line)
    large: list[Line] = []
    small: list[_Ink] = []
    for number, lines in pieces.items():
        left, top, wide, high = (float(v) * mm for v in stats[number, :4])
        if max(wide, high) <= LETTER:
            small.append(_Ink((left, top, left + wide, top + high), lines))
        else:
            large += lines
    broken, dashes = _broken([*large, *(k.lines[0] for k in small if len(k.lines) == 1)])
    return ended([*(k for k in large if k not in dashes), *_loops(small), *broken])


def _without_words(chains: Sequence[Chain], words: Sequence[Box], letter: float) -> list[Chain]:
    """The chains that are none of a word's: they lie in its box, or go on in its row, where a line through a word kept
    the rest of it from being read. ``letter``: the size of the largest letter, pixels.
    """
    spans = np.array([(*c.places.min(axis=0), *c.places.max(axis=0)) for c in chains]).reshape(-1, 4)
    size = (spans[:, 2:] - spans[:, :2]).max(axis=1)
    closed = np.array([c.closed for c in chains], bool)
    gone = np.zeros(len(chains), bool)
    usual = float(np.median([min(w[2] - w[0], w[3] - w[1]) for w in words])) if words else 0.0
    for word in words:
        along = 0 if word[2] - word[0] >= word[3] - word[1] else 1
        box = np.array(word) + np.array((-AIR, -AIR, AIR, AIR))
        high = min(word[3 - along] - word[1 - along], usual)
        # two rows that were read as one have no row of their own
        space = SPACE * high if word[3 - along] - word[1 - along] < TWO_ROWS * usual else 0.0
        in_row = (spans[:, 1 - along] >= box[1 - along]) & (spans[:, 3 - along] <= box[3 - along])
        in_row &= size < np.minimum(np.where(closed, ROUND, BROAD) * high, letter)
        while True:
            own = in_row & ~gone & (spans[:, along + 2] > box[along]) & (spans[:, along] < box[along + 2])
            if not own.any():
                break
            gone |= own
            box[along] = min(box[along], spans[own, along].min() - space)
            box[along + 2] = max(box[along + 2], spans[own, along + 2].max() + space)
    return [c for c, g in zip(chains, gone, strict=True) if not g]


@dataclass(frozen=True)
class _Ink:
    """A small piece of ink: its box in mm (left, top, right, bottom), and its lines."""

    box: tuple[float, float, float, float]
    lines: list[Line]

    @property
    def loop(self) -> bool:
        """One closed line."""
        return len(self.lines) == 1 and self.lines[0].closed

    @property
    def ring(self) -> bool:
        """One circle."""
        return self.loop and len(self.lines[0].bits) == 1

    def in_word(self, other: _Ink) -> bool:
        """Whether two pieces could stand beside or over one another in a word."""
        sizes = [(i.box[2] - i.box[0], i.box[3] - i.box[1]) for i in (self, other)]
        for along in (0, 1):
            across = 1 - along
            gap = max(self.box[along], other.box[along]) - min(self.box[along + 2], other.box[along + 2])
            level = min(self.box[across + 2], other.box[across + 2]) - max(self.box[across], other.box[across])
            high = max(s[across] for s in sizes)
            if 0 < gap < WORD and level > ALIKE * high:
                return True
        return False


def _loops(small: Sequence[_Ink]) -> list[Line]:
    """Closed lines that stand by themselves: holes and slots, not the letters of a word."""
    out = []
    for piece in small:
        if piece.loop and not any(k is not piece and not (piece.ring and k.ring) and piece.in_word(k) for k in small):
            out += piece.lines
    return out


def _broken(lines: Sequence[Line]) -> tuple[list[Line], set[Line]]:
    """Dashes in one level or upright line, each such line as one; and the dashes."""
    out: list[Line] = []
    used: set[Line] = set()
    for along in (0, 1):
        rows = []
        for line in lines:
            if len(line.bits) > 1 or line.bits[0].centre is not None:
                continue
            a, b = sorted((line.bits[0].a, line.bits[0].b), key=lambda p: p[along])
            if DASH <= b[along] - a[along] < LONGEST and abs(a[1 - along] - b[1 - along]) < IN_LINE:
                rows.append(_Dash((a[1 - along] + b[1 - along]) / 2, a[along], b[along], line))
        for run in _runs(rows):
            if len(run) >= DASHES:
                out.append(_dashed(run, along))
                used.update(d.line for d in run)
    return out, used


class _Dash(NamedTuple):
    """At a level, from where to where; the line it is."""

    level: float
    start: float
    end: float
    line: Line


def _runs(rows: Sequence[_Dash]) -> list[list[_Dash]]:
    """Put together where each begins a little after the one before, on its level."""
    runs: list[list[_Dash]] = []
    for row in sorted(rows, key=lambda r: r.start):
        home = next((r for r in runs if abs(r[-1].level - row.level) < IN_LINE and CLOSE < row.start - r[-1].end < GAP),
                    None)  # fmt: skip
        if home is None:
            runs.append([row])
        else:
            home.append(row)
    return runs


def _dashed(run: Sequence[_Dash], along: int) -> Line:
    level = float(np.mean([d.level for d in run]))
    a, b = (run[0].start, level), (run[-1].end, level)
    if along:
        a, b = a[::-1], b[::-1]
    return Line((Piece(a, b),), float(np.median([d.line.wide for d in run])), dashed=True)
