"""Dimension lines followed: which drawn length each number on a page stands for, and the scale that they agree on.

A dimension is a number *and* a drawn length. Its line runs level or upright beside or through the number, from stop to
stop: places where it ends or where another line crosses it, whatever the arrows look like. Every number has candidates,
pairs of stops on the rows beside it, each with a cost (how far the row is, whether the number stands between the stops,
whether both are ends of the line that a witness line crosses). All numbers vote, value against drawn length, for one
scale of the sheet, and for a second one where a view has its own; then the pairs that fit are given out at the least
cost, no pair twice (an assignment; Crouse, IEEE Trans. Aerosp. Electron. Syst. 52, 2016). A number that no pair fits,
beside a line that is clearly its own, is contradicted by the drawing.

``u`` runs along a row, ``v`` across it; all lengths in mm on the page, values in mm of the part.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.sheets.strokes import WIDE

Array = Any
Stroke = tuple[Sequence[tuple[float, float]], float, bool]
#: a stroke is level or upright within this
STRAIGHT = 0.08
#: pieces of a row that far apart are one; a line crosses a row that it ends short of by REACH
GAP, REACH = 0.3, 0.4
#: a witness line is no shorter
WITNESS = 2.0
#: a dimension is drawn no shorter
LEAST = 1.0
#: how far a row may lie from its number, heights of the number; how far a number may stand beyond its line's end
NEAR, BEYOND = 1.3, 14.0
#: a line that has its arrows outside leaves out the middle of no more than this
OUTSIDE = 20.0
#: stops so much farther from a number than its line's gap are the gap's too
IN_GAP = 0.5
#: most stops of a row, most pairs of a number
MOST_STOPS, MOST_PAIRS = 40, 60
#: bins of the vote, and the usual scales that it is drawn to
BIN = 0.006
SCALES = tuple(s * 10.0**n for n in (-2, -1, 0, 1) for s in (1.0, 2.0, 2.5, 5.0))
#: so many numbers, and this share of those that stand at lines, have to agree on a scale
LEAST_AGREEING, AGREEING = 2, 1 / 3
#: a second scale needs as many numbers
SECOND = 3
#: a pair up to this cost is clearly the number's own, when the next one costs so much more
CLEAR, APART = 0.8, 0.25
#: a pair that costs more is nobody's, though its length fits
FARTHEST = 2.1
#: what it costs that a number gets no pair, and one that does not fit
NONE, NEVER = 20.0, 1e3
#: more segments than this are not followed
MOST_SEGMENTS = 120_000


@dataclass(frozen=True)
class Slack:
    """How exactly strokes are known, mm on the page: a length fits a scale within ``close`` and a ``share`` of it,
    beside the rounding of its number; stops within ``same`` are one, and pieces within ``together`` are on one row. A
    number in the gap of its line leaves no more than ``beside`` at its sides. Lettering is no lower than ``letter``.
    """

    close: float = 0.12
    share: float = 0.0005
    same: float = 0.3
    together: float = 0.15
    beside: float = 2.0
    letter: float = 0.1


EXACT = Slack()


@dataclass(frozen=True)
class Number:
    """A size on the page: its box (left, low, right, high), its angle in degrees, its value and half its last place;
    ``told``: the scale of the detail that it may stand in.
    """

    box: tuple[float, float, float, float]
    angle: int
    value: float
    rounding: float = 0.0
    told: float | None = None


@dataclass(frozen=True)
class Followed:
    """What a number's line says: along ``x`` or ``y`` from ``start`` to ``end`` on the page; the part's size as drawn.

    ``fits``: the number is what is drawn; ``cost``: how far it is from being clearly the number's own, 0 to 2.1;
    ``scale``: to which it is drawn.
    """

    along: str
    start: float
    end: float
    drawn: float
    fits: bool
    cost: float = 0.0
    scale: float = 1.0


@dataclass(frozen=True)
class Pair:
    """A drawn length on a row, and how far it is from being clearly a number's own."""

    axis: int
    row: float
    start: float
    end: float
    cost: float

    @property
    def length(self) -> float:
        """mm on the page."""
        return self.end - self.start

    @property
    def line(self) -> tuple[int, float, float, float]:
        """Which drawn length it is."""
        return self.axis, self.row, self.start, self.end


Candidates = list[list[Pair]]


def follow(
    strokes: Sequence[Stroke], numbers: Sequence[Number], slack: Slack = EXACT
) -> tuple[list[Followed | None], float | None]:
    """What each number's line says, None where none was found; and the scale of the sheet, page per part."""
    return settled(numbers, candidates(strokes, numbers, slack), slack)


def candidates(strokes: Sequence[Stroke], numbers: Sequence[Number], slack: Slack = EXACT) -> Candidates:
    """For each number the drawn lengths that it may stand for, the likeliest first."""
    segments = _segments(strokes)
    if len(segments) > MOST_SEGMENTS or not numbers:
        return [[] for _ in numbers]
    rows = [_Rows(segments, axis, slack) for axis in (0, 1)]
    return [_pairs(n, rows) for n in numbers]


def settled(
    numbers: Sequence[Number], pairs: Candidates, slack: Slack, names: Sequence[str] = "xy", *, several: bool = True
) -> tuple[list[Followed | None], float | None]:
    """Which of its candidates each number stands for, and the scale; ``names``: of the level and the upright rows of
    each plane; ``several``: whether a second scale may be drawn to.
    """
    scale = _vote(numbers, pairs)
    found: list[Followed | None] = [None] * len(numbers)
    if scale is None:
        return found, None
    taken: set[Pair] = set()
    told = sorted({n.told for n in numbers if n.told is not None and abs(math.log(n.told / scale)) > 2 * BIN})
    giving = _Giving(numbers, pairs, slack, names)
    for own in told:
        giving.give([i for i, n in enumerate(numbers) if n.told == own], own, found, taken)
    giving.give([i for i, f in enumerate(found) if f is None], scale, found, taken)
    if sum(p.cost <= CLEAR for p in taken) < max(LEAST_AGREEING, AGREEING * sum(bool(p) for p in pairs)):
        return [None] * len(numbers), None  # numbers among lines that are no dimensions
    scales = [scale, *told]
    left = [i for i, f in enumerate(found) if f is None]
    second = _vote([numbers[i] for i in left], [pairs[i] for i in left]) if several else None
    if second is not None and abs(math.log(second / scale)) > 2 * BIN:
        trial, kept = list(found), set(taken)
        giving.give(left, second, trial, kept)
        if sum(trial[i] is not None for i in left) >= SECOND:
            found, taken, scales = trial, kept, [*scales, second]
    spoken = {(p.axis, p.start, p.end) for p in taken}
    for i, number in enumerate(numbers):
        if found[i] is None:
            free = [p for p in pairs[i] if (p.axis, p.start, p.end) not in spoken]
            clear = free and free[0].cost <= CLEAR and (len(free) == 1 or free[1].cost >= free[0].cost + APART)
            if clear and number.value > 0 and not any(_fits(free[0], number, s, slack) for s in scales):
                found[i] = _said(free[0], names, scale, fits=False)
    return found, scale


def _said(p: Pair, names: Sequence[str], scale: float, *, fits: bool) -> Followed:
    return Followed(names[p.axis], p.start, p.end, p.length / scale, fits, p.cost, scale)


def _segments(strokes: Sequence[Stroke]) -> Array:
    """Level and upright pieces, (n, 6): axis, v, from, to, width, 1 where dashed."""
    out = []
    for points, width, dashed in strokes:
        for (x0, y0), (x1, y1) in itertools.pairwise(points):
            if abs(y1 - y0) < STRAIGHT < abs(x1 - x0):
                out.append((0, (y0 + y1) / 2, min(x0, x1), max(x0, x1), width, dashed))
            elif abs(x1 - x0) < STRAIGHT < abs(y1 - y0):
                out.append((1, (x0 + x1) / 2, min(y0, y1), max(y0, y1), width, dashed))
    return np.array(out, float).reshape(-1, 6)


class _Rows:
    """The rows of one direction: pieces of thin lines on one level, with the stops where they end or are crossed."""

    def __init__(self, segments: Array, axis: int, slack: Slack) -> None:
        own = segments[(segments[:, 0] == axis) & (segments[:, 5] == 0)]
        across = segments[(segments[:, 0] != axis) & (segments[:, 3] - segments[:, 2] >= WITNESS)]
        long = segments[segments[:, 3] - segments[:, 2] > 4]
        # outlines are wide: dimension lines are not, where widths tell them apart
        if len(long) and long[:, 4].max() > 0 and long[:, 4].min() < WIDE * long[:, 4].max():
            own = own[own[:, 4] < WIDE * long[:, 4].max()]
        self.axis, self._same, self.beside = axis, slack.same, slack.beside
        self.pieces: list[tuple[float, list[tuple[float, float]]]] = []
        self._ends: list[Array] = []
        own = own[np.argsort(own[:, 1], kind="stable")]
        groups = np.split(own, np.flatnonzero(np.diff(own[:, 1]) > slack.together) + 1) if len(own) else []
        for group in groups:
            self.pieces.append((float(group[:, 1].mean()), _merged(group[:, 2:4])))
            self._ends.append(group[:, 2:4].ravel())  # before merging: a chain is drawn line by line
        self.levels = np.array([v for v, _ in self.pieces])
        self._across = across[np.argsort(across[:, 1], kind="stable")]
        self._stops: dict[int, list[tuple[float, bool, bool]]] = {}

    def stops(self, row: int) -> list[tuple[float, bool, bool]]:
        """(u, whether it is crossed there, whether a piece ends there) of a row, from low to high."""
        if row not in self._stops:
            v, a = self.pieces[row][0], self._across
            over = a[(a[:, 2] - REACH <= v) & (v <= a[:, 3] + REACH)][:, 1]
            found = [(float(u), True, False) for u in over]
            found += [(float(u), False, True) for u in self._ends[row]]
            self._stops[row] = _one(sorted(found), self._same)
        return self._stops[row]


def _merged(spans: Array) -> list[tuple[float, float]]:
    out: list[tuple[float, float]] = []
    for low, high in sorted((float(a), float(b)) for a, b in spans):
        if out and low - out[-1][1] <= GAP:
            out[-1] = (out[-1][0], max(out[-1][1], high))
        else:
            out.append((low, high))
    return out


def _one(found: list[tuple[float, bool, bool]], same: float) -> list[tuple[float, bool, bool]]:
    """Stops at one place as one; it stands where the crossing line does."""
    out: list[tuple[float, bool, bool]] = []
    for u, crossed, end in found:
        if out and u - out[-1][0] <= same:
            before = out[-1]
            out[-1] = (u if crossed and not before[1] else before[0], before[1] or crossed, before[2] or end)
        else:
            out.append((u, crossed, end))
    return out


def _pairs(number: Number, rows: Sequence[_Rows]) -> list[Pair]:
    left, low, right, high = number.box
    turned = number.angle % 180 != 0
    if number.angle % 90:
        return []
    tall = (right - left) if turned else (high - low)
    out: list[Pair] = []
    for r in rows:
        if turned and r.axis == 0:
            continue
        us, vs = ((left, right), (low, high)) if r.axis == 0 else ((low, high), (left, right))
        beside = r.axis == 1 and not turned  # a level number at an upright line stands in its gap
        reach = 0.4 * tall if beside else NEAR * tall
        for row in np.flatnonzero((r.levels > vs[0] - reach) & (r.levels < vs[1] + reach)):
            v, pieces = r.pieces[row]
            off = max(vs[0] - v, v - vs[1], 0.0) / tall
            out += _on_row(r, int(row), pieces, us, off)
    return sorted(out, key=lambda p: p.cost)[:MOST_PAIRS]


def _on_row(
    r: _Rows, row: int, pieces: Sequence[tuple[float, float]], us: tuple[float, float], off: float
) -> list[Pair]:
    middle = sum(us) / 2
    near = [p for p in pieces if p[0] - BEYOND < us[1] and us[0] < p[1] + BEYOND]
    if not near:
        return []
    gap = r.beside + IN_GAP
    # the ends at both sides of a number in the gap of its line are no stops
    stops = [s for s in r.stops(row) if s[1] or not us[0] - gap < s[0] < us[1] + gap]
    if len(stops) > MOST_STOPS:
        stops = sorted(sorted(stops, key=lambda s: abs(s[0] - middle))[:MOST_STOPS])
    filled = _merged(np.array([*near, (us[0] - r.beside, us[1] + r.beside)]))
    out = []
    for i, (a, a_crossed, a_end) in enumerate(stops):
        for k, (b, b_crossed, b_end) in enumerate(stops[i + 1 :]):
            if b - a < LEAST:
                continue
            whole = any(p[0] - GAP <= a and b <= p[1] + GAP for p in filled)
            outside = b - a < OUTSIDE and a_crossed and b_crossed and a_end and b_end
            if not (whole or outside):
                continue
            cost = off * 0.4 + sum(0.0 if c and e else 0.5 for c, e in ((a_crossed, a_end), (b_crossed, b_end)))
            if a <= middle <= b:
                cost += 0.1 * abs(middle - (a + b) / 2) / (b - a)
            else:
                away = max(a - us[1], us[0] - b, 0.0)
                if away > BEYOND:
                    continue
                cost += 0.5 + 0.1 * away
            # a stop between that is both end and crossing makes two dimensions of one
            cost += 0.4 * sum(c and e for _, c, e in stops[i + 1 : i + 1 + k])
            out.append(Pair(r.axis, r.pieces[row][0], a, b, cost))
    return out


def _vote(numbers: Sequence[Number], pairs: Sequence[Sequence[Pair]]) -> float | None:
    """The scale that most numbers agree on; None where none does."""
    ratios, weights = [], []
    for number, own in zip(numbers, pairs, strict=True):
        if number.value <= 0 or not own:
            continue
        least = own[0].cost
        share = np.array([math.exp(2 * (least - p.cost)) for p in own])
        ratios += [math.log(p.length / number.value) for p in own]
        weights += list(share / share.sum())
    if not ratios:
        return None
    r, w = np.array(ratios), np.array(weights)
    order = np.argsort(r)
    r, w = r[order], w[order]
    total = np.concatenate([[0.0], np.cumsum(w)])
    within = total[np.searchsorted(r, r + BIN, side="right")] - total[np.arange(len(r))]
    usual = np.array([math.log(s) for s in SCALES])
    bonus = np.array([1.5 if np.abs(usual - (x + BIN / 2)).min() < BIN else 1.0 for x in r])
    best = int(np.argmax(within * bonus))
    inside = (r >= r[best]) & (r <= r[best] + BIN)
    said = float(np.average(r[inside], weights=w[inside]))
    nearest = float(usual[np.abs(usual - said).argmin()])
    return math.exp(nearest if abs(nearest - said) < BIN else said)


@dataclass(frozen=True)
class _Giving:
    """What is given out: the candidates of the numbers."""

    numbers: Sequence[Number]
    pairs: Candidates
    slack: Slack
    names: Sequence[str]

    def give(self, which: Sequence[int], scale: float, found: list[Followed | None], taken: set[Pair]) -> None:
        """Give each of the numbers a pair that fits the scale, no pair twice, at the least cost in all."""
        used = {t.line for t in taken}
        fitting = {i: [p for p in self.pairs[i]
                       if p.line not in used and _fits(p, self.numbers[i], scale, self.slack)]
                   for i in which}  # fmt: skip
        wanting = {i: own for i, own in fitting.items() if own}
        chosen = {i: own[0] for i, own in wanting.items()}
        if len({p.line for p in chosen.values()}) < len(chosen):
            chosen = _assigned(wanting)
        for i, p in chosen.items():
            found[i] = _said(p, self.names, scale, fits=True)
            taken.add(p)


def _assigned(wanting: dict[int, list[Pair]]) -> dict[int, Pair]:
    """Where several numbers want one pair: each its own, or none, at the least cost in all."""
    from scipy.optimize import linear_sum_assignment  # half a second to load, and seldom needed

    lines = list(dict.fromkeys(p.line for own in wanting.values() for p in own))
    costs = np.full((len(wanting), len(lines) + len(wanting)), NEVER)
    for n, own in enumerate(wanting.values()):
        costs[n, len(lines) + n] = NONE
        for p in own:
            costs[n, lines.index(p.line)] = p.cost
    which = list(wanting)
    out: dict[int, Pair] = {}
    for n, c in zip(*linear_sum_assignment(costs), strict=True):
        if c < len(lines) and costs[n, c] < NONE:
            out[which[n]] = next(p for p in wanting[which[n]] if p.line == lines[c])
    return out


def _fits(p: Pair, number: Number, scale: float, slack: Slack) -> bool:
    off = abs(p.length - number.value * scale)
    return p.cost <= FARTHEST and off <= slack.close + slack.share * number.value * scale + number.rounding * scale
