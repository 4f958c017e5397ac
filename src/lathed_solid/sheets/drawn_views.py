"""The views of a drawing: which strokes are outlines, and which of them hang together.

Outlines are the wide lines of a drawing (ISO 128: twice as wide as those of dimensions). What is as wide and is no
view is left out: the border, which runs about the sheet, and ruled tables; where the widths tell, a table of wide lines
is one that stands in a corner of the border or the sheet, else it is a part with steps. A view is a group of outlines
that touch, with all that lies within its box.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from scipy.sparse import coo_matrix
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from lathed_solid.sheets.strokes import WIDE, Linework, Stroke
from lathed_solid.sheets.title_block import tables

Array = Any
#: all strokes alike: widths that differ by less tell nothing
ALIKE = 1.15
#: a border reaches over this share of the sheet both ways
BORDER = 0.8
#: and its sides, where each is a stroke of its own, lie within this share of the sheet's edge, and are so thin
MARGIN, THIN = 0.08, 0.002
#: so much of a border may be neither level nor upright
ASKEW = 0.005
#: ends no farther apart than this touch, mm
TOUCH = 0.6
#: a group with less linework than this is no view, mm
LEAST = 8.0
#: places along a stroke, mm
STEP = 0.4


@dataclass(frozen=True)
class DrawnView:
    """One view: its outlines, and its box (left, low, right, high) in mm on the page."""

    strokes: tuple[Stroke, ...]
    box: tuple[float, float, float, float]

    @cached_property
    def places(self) -> Array:
        """Places along all strokes, (n, 2), about STEP apart."""
        return places(s.points for s in self.strokes)

    @property
    def length(self) -> float:
        """mm of linework."""
        return sum(s.length for s in self.strokes)


def places(runs: Any, step: float = STEP) -> Array:
    """Places along polylines, no farther apart than ``step``."""
    runs = [np.asarray(run, float) for run in runs]
    pairs = [np.hstack([run[:-1], run[1:]]) for run in runs if len(run) > 1]
    if not pairs:
        return np.zeros((0, 2))
    lines = np.vstack(pairs)
    start, way = lines[:, :2], lines[:, 2:] - lines[:, :2]
    count = np.maximum(1, np.ceil(np.linalg.norm(way, axis=1) / step).astype(int))
    line = np.repeat(np.arange(len(lines)), count)
    within = np.arange(len(line)) - np.repeat(np.cumsum(count) - count, count)
    return start[line] + ((within + 0.5) / count[line])[:, None] * way[line]


def outlines(sheet: Linework) -> tuple[Stroke, ...]:
    """The strokes that outline the part. All of them where the widths tell nothing."""
    solid = [s for s in sheet.strokes if not s.dashed and s.length > 0 and not _border(s, sheet)]
    most = max((s.width for s in solid), default=0.0)
    told = told_by_width(sheet)
    ruled = [s for s in sheet.strokes if not told or s.width < WIDE * most]
    grids = tables(_rules(ruled), sheet.width, sheet.height)
    if told:
        borders = [s for s in sheet.strokes if _border(s, sheet)]
        wide = tables(_rules([*solid, *borders]), sheet.width, sheet.height)
        page, beside = (0.0, 0.0, sheet.width, sheet.height), (MARGIN * sheet.width, MARGIN * sheet.height)
        grids += [g for g in wide if any(_in_corner(g, b.box) for b in borders) or _in_corner(g, page, beside)]
    solid = [s for s in solid if not any(_within(s.box, g) for g in grids)]
    widths = [s.width for s in solid if s.width > 0]
    if not widths or max(widths) < ALIKE * min(widths):
        return tuple(solid)
    return tuple(s for s in solid if s.width >= WIDE * max(widths))


def told_by_width(sheet: Linework) -> bool:
    """Whether the widths of the lines tell outlines from dimensions."""
    widths = [s.width for s in sheet.strokes if s.width > 0 and not _border(s, sheet)]
    return bool(widths) and max(widths) >= ALIKE * min(widths)


def drawn_views(sheet: Linework) -> list[DrawnView]:
    """The views of a sheet, the one with most linework first."""
    strokes = outlines(sheet)
    if not strokes:
        return []
    owner = np.concatenate([np.full(len(places([s.points])), n) for n, s in enumerate(strokes)])
    pairs = cKDTree(places(s.points for s in strokes)).query_pairs(TOUCH, output_type="ndarray")
    one, two = owner[pairs[:, 0]], owner[pairs[:, 1]]
    n = len(strokes)
    count, group = connected_components(coo_matrix((np.ones(len(one)), (one, two)), shape=(n, n)), directed=False)
    groups = [[strokes[k] for k in np.flatnonzero(group == g)] for g in range(count)]
    merged = _merged([(g, _box(g)) for g in groups])
    views = [DrawnView(tuple(g), box) for g, box in merged]
    return sorted((v for v in views if v.length >= LEAST), key=lambda v: -v.length)


def _merged(groups: list[tuple[list[Stroke], tuple[float, float, float, float]]]) -> list[Any]:
    """Groups that lie within the box of another are part of it."""
    groups = sorted(groups, key=lambda g: -(g[1][2] - g[1][0]) * (g[1][3] - g[1][1]))
    out: list[Any] = []
    for strokes, box in groups:
        home = next((k for k, (_, b) in enumerate(out) if _within(box, b)), None)
        if home is None:
            out.append((strokes, box))
        else:
            out[home] = ([*out[home][0], *strokes], out[home][1])
    return out


def _box(strokes: Sequence[Stroke]) -> tuple[float, float, float, float]:
    boxes = np.array([s.box for s in strokes])
    low, high = boxes.min(axis=0), boxes.max(axis=0)
    return float(low[0]), float(low[1]), float(high[2]), float(high[3])


def _within(box: tuple[float, ...], other: tuple[float, ...]) -> bool:
    e = TOUCH
    return box[0] >= other[0] - e and box[1] >= other[1] - e and box[2] <= other[2] + e and box[3] <= other[3] + e


def _in_corner(box: tuple[float, ...], of: tuple[float, ...], slack: tuple[float, float] = (TOUCH, TOUCH)) -> bool:
    """Whether two neighbouring sides of a box lie on those of another, within ``slack`` across and up."""
    upright, level = (any(abs(box[k] - of[k]) < slack[j] for k in (j, j + 2)) for j in (0, 1))
    return level and upright


def _border(s: Stroke, sheet: Linework) -> bool:
    """Whether a stroke runs about the sheet, or along one of its edges."""
    left, low, right, high = s.box
    way = np.abs(np.diff(s.points, axis=0))
    askew = np.linalg.norm(way[way.min(axis=1) >= 0.1], axis=1).sum()
    if len(way) > 16 or askew > ASKEW * s.length:  # a corner of a traced one may be blunt
        return False
    across, up = (right - left) / sheet.width, (high - low) / sheet.height
    beside = (
        min(low, sheet.height - high) < MARGIN * sheet.height,
        min(left, sheet.width - right) < MARGIN * sheet.width,
    )
    return (across > BORDER and (up > BORDER or (up < THIN and beside[0]))) or (
        up > BORDER and across < THIN and beside[1]
    )


def _rules(strokes: Sequence[Stroke]) -> list[tuple[float, float, float, float]]:
    """Level and upright pieces."""
    out = []
    for s in strokes:
        for (x0, y0), (x1, y1) in itertools.pairwise(s.points):
            if abs(x0 - x1) < 0.1 or abs(y0 - y1) < 0.1:
                out.append((min(x0, x1), min(y0, y1), max(x0, x1), max(y0, y1)))
    return out
