"""The ruled lines of a straight sheet: level and upright strokes with their width, from runs of ink.

A stroke is what is left of the ink after an opening by a level (or upright) line of ``SHORTEST`` (J. Serra, Image
Analysis and Mathematical Morphology, 1982, ch. 2): letters are narrower and fall out, crossing lines too. Of each piece
the rows that most of it fills give its level and width, so that an arrowhead, or a speck beside it, moves neither.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from typing import Any

import cv2
import numpy as np

Array = Any
Segment = tuple[tuple[float, float], tuple[float, float], float, bool]
#: no shorter stroke is looked for, mm; none of a letter
SHORTEST = 2.2
#: a row belongs to a stroke when ink fills this share of what the fullest row has
FULL = 0.4
#: nothing wider is a line, mm
WIDEST = 1.6
#: pieces on one level with gaps up to this, mm, so many of them, are a dashed line; none of them longer
GAP, PIECES, DASH = 4.0, 4, 20.0
#: what lies this near to the picture's edge is the sheet's own edge, share of the picture
EDGE = 0.004
#: no stroke of a letter is longer, mm
LETTER = 6.5
#: more pieces are no drawing
MOST = 20_000


def ink(light: Array) -> Array:
    """255 where there is ink, of a sheet in even light (0 to 255)."""
    level, _ = cv2.threshold(light, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    return cv2.threshold(light, min(max(level, 120.0), 200.0), 255, cv2.THRESH_BINARY_INV)[1]


def ruled(marks: Array, mm: float) -> list[Segment]:
    """Level and upright strokes of the ink ``marks`` (0 or 255), ``mm`` to a pixel: ends, width (mm, y up from the
    bottom of the picture), whether dashed.
    """
    height = marks.shape[0]
    out: list[Segment] = []
    for upright in (False, True):
        across = marks.shape[1] if upright else height
        for level, start, end, wide, dashed in _level(marks.T if upright else marks, mm):
            if not EDGE * across < level < (1 - EDGE) * across:
                continue
            if upright:
                a, b = (level, height - end), (level, height - start)
            else:
                a, b = (start, height - level), (end, height - level)
            out.append(((a[0] * mm, a[1] * mm), (b[0] * mm, b[1] * mm), wide * mm, dashed))
    return out


def _level(marks: Array, mm: float) -> list[tuple[float, float, float, float, bool]]:
    """(row, from, to, width, dashed) of the level strokes, in pixels."""
    least = max(5, round(SHORTEST / mm))
    marks = np.ascontiguousarray(marks)
    # a scan's line is broken by grain, and steps from row to row where it is not quite level
    closed = cv2.morphologyEx(marks, cv2.MORPH_CLOSE, np.ones((1, 3), np.uint8))
    opened = cv2.morphologyEx(closed, cv2.MORPH_OPEN, np.ones((1, least), np.uint8))
    joined = cv2.dilate(opened, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    if count > MOST:
        return []
    found = []
    for number, (left, top, wide, high, _) in enumerate(stats[1:], 1):
        box = np.s_[top : top + high, left : left + wide]
        found += _strokes((labels[box] == number) & (opened[box] > 0), left, top, least, WIDEST / mm)
    return _with_dashes(found, mm)


def _strokes(filled: Array, left: int, top: int, least: int, widest: float) -> list[tuple[float, float, float, float]]:
    """The strokes of one piece of ink: groups of full rows, apart from one another."""
    rows = filled.sum(axis=1)
    full = rows >= max(FULL * rows.max(), least)
    out = []
    k = 0
    while k < len(rows):
        if not full[k]:
            k += 1
            continue
        end = k
        while end < len(rows) and full[end]:
            end += 1
        if end - k <= widest:
            weights = rows[k:end].astype(float)
            columns = np.flatnonzero(filled[k:end].any(axis=0))
            level = top + float((weights * (np.arange(k, end) + 0.5)).sum() / weights.sum())
            width = float(weights.sum() / (columns[-1] - columns[0] + 1))
            out.append((level, float(left + columns[0]), float(left + columns[-1] + 1), width))
        k = end
    return out


def _with_dashes(
    found: list[tuple[float, float, float, float]], mm: float
) -> list[tuple[float, float, float, float, bool]]:
    """Which of the strokes are dashes of a broken line."""
    order = sorted(range(len(found)), key=lambda i: (round(found[i][0] * mm / 0.4), found[i][1]))
    dashed: set[int] = set()
    run: list[int] = []
    for i in order:
        level, start, _, _ = found[i]
        if run:
            before = found[run[-1]]
            if abs(before[0] - level) * mm > 0.4 or not 0 < (start - before[2]) * mm < GAP:
                dashed.update(run if len(run) >= PIECES else ())
                run = []
        run.append(i)
    dashed.update(run if len(run) >= PIECES else ())
    return [(*f, i in dashed and (f[2] - f[1]) * mm < DASH) for i, f in enumerate(found)]


def broken_at_arrows(segments: Sequence[Segment], marks: Array, mm: float) -> list[Segment]:
    """The strokes, those cut in two where an arrowhead, an oblique stroke or a dot stands on a crossing with another:
    a chain of dimensions is one run of ink and several lines.
    """
    out: list[Segment] = []
    for s, cuts in _arrows(segments, marks, mm):
        axis = 0 if s[1][0] - s[0][0] > s[1][1] - s[0][1] else 1
        at = s[0][1 - axis]
        for a, b in itertools.pairwise([s[0][axis], *cuts, s[1][axis]]):
            out.append((*(((a, at), (b, at)) if axis == 0 else ((at, a), (at, b))), s[2], s[3]))
    return out


def arrow_places(segments: Sequence[Segment], marks: Array, mm: float) -> list[tuple[float, float]]:
    """Where dimension lines end on others, (x, y) in pixels from the top left; letters' strokes are no others."""
    rows, out = marks.shape[0], []
    for s, cuts in _arrows(segments, marks, mm, LETTER):
        if s[1][0] - s[0][0] > s[1][1] - s[0][1]:
            out += [(u / mm, rows - s[0][1] / mm) for u in cuts]
        else:
            out += [(s[0][0] / mm, rows - u / mm) for u in cuts]
    return out


def _arrows(
    segments: Sequence[Segment], marks: Array, mm: float, least: float = 0.0
) -> list[tuple[Segment, list[float]]]:
    """Every stroke with the places along it where an arrow stands on a crossing with one of at least this length."""
    dark = cv2.integral((marks > 0).astype(np.uint8))
    rows = marks.shape[0]
    level = [s for s in segments if s[1][0] - s[0][0] > s[1][1] - s[0][1]]
    upright = [s for s in segments if s[1][0] - s[0][0] <= s[1][1] - s[0][1]]
    out: list[tuple[Segment, list[float]]] = []
    for own, across, axis in ((level, upright, 0), (upright, level, 1)):
        places = np.array([(s[0][axis], s[0][1 - axis], s[1][1 - axis], s[2]) for s in across
                           if s[1][1 - axis] - s[0][1 - axis] >= least], float).reshape(-1, 4)  # fmt: skip
        for s in own:
            at, start, end = s[0][1 - axis], s[0][axis], s[1][axis]
            near = places[(places[:, 0] > start + OVERRUN) & (places[:, 0] < end - OVERRUN)]
            near = near[(near[:, 1] - ARROW / 4 <= at) & (at <= near[:, 2] + ARROW / 4)]
            cuts = [float(u) for u, _, _, wide in near if _has_arrow(dark, rows, mm, axis, float(u), at, s[2], wide)]
            out.append((s, sorted(cuts)))
    return out


#: an arrowhead is no longer than this, mm; so much of the ink beside a line makes one, mm2; a line ends no nearer
ARROW, INKED, OVERRUN = 2.2, 0.1, 0.6


def _has_arrow(dark: Array, rows: int, mm: float, axis: int, u: float, v: float, width: float, across: float) -> bool:
    """Whether ink stands beside the line at ``v`` near its crossing at ``u``, that is neither it nor the crossing."""
    beside, off, far, high = across / 2 + 0.17, width / 2 + 0.1, ARROW, 0.9
    total = 0.0
    for along in ((u - far, u - beside), (u + beside, u + far)):
        for up in ((v - high, v - off), (v + off, v + high)):
            (x0, x1), (y0, y1) = (along, up) if axis == 0 else (up, along)
            total += _dark(dark, x0 / mm, x1 / mm, rows - y1 / mm, rows - y0 / mm)
    return total * mm * mm >= INKED


def _dark(dark: Array, x0: float, x1: float, y0: float, y1: float) -> float:
    high, wide = dark.shape
    a, b = (min(max(round(v), 0), wide - 1) for v in (x0, x1))
    c, d = (min(max(round(v), 0), high - 1) for v in (y0, y1))
    return float(dark[d, b]) - float(dark[c, b]) - float(dark[d, a]) + float(dark[c, a])


#: two pens differ by this (ISO 128-2: by two), and each drew this share of the sheet
PENS, SHARE = 1.5, 0.08


def pens(wide: Array, long: Array) -> tuple[float, float, float]:
    """The widths of the two pens that drew lines of these widths and lengths, and the width from which on the second
    did, where two can be told apart (N. Otsu, 1979); else of the one pen, twice, and infinity.
    """
    mean = float(np.average(wide, weights=long))
    best, found = 0.0, (mean, mean, math.inf)
    for k in np.unique(wide)[1:]:
        thick = wide >= k
        share = float(long[thick].sum() / long.sum())
        if SHARE < share < 1 - SHARE:
            one, two = (float(np.average(wide[c], weights=long[c])) for c in (~thick, thick))
            apart = share * (1 - share) * (two - one) ** 2
            if apart > best and two >= PENS * one:
                best, found = apart, (one, two, float(k))
    return found


def with_pens(segments: list[Segment]) -> list[Segment]:
    """The strokes with the width of the pen that drew them."""
    if not segments:
        return segments
    thin, thick, cut = pens(
        np.array([s[2] for s in segments]), np.array([s[1][0] - s[0][0] + s[1][1] - s[0][1] for s in segments])
    )
    return [(a, b, thick if w >= cut else thin, dashed) for a, b, w, dashed in segments]
