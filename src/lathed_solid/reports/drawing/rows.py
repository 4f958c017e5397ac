"""Dimension lines in rows beside a view, so that none crosses another's where that can be avoided.

Along u, across v. A dimension [a, b] in a row nearer to the part is crossed by a witness line of one in a row farther
out when an end of that one lies strictly within (a, b). Among nested and separate ones there is no crossing when the
shorter lies nearer; two that overlap in part are put on either side of the view. Sides are found by local search from
the side that each lies nearer to, over crossings, lines drawn across the part, and rows.
"""

from __future__ import annotations

import itertools
from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace

from lathed_solid.reports.drawing.model import ARROW, CAPITALS

#: from the part to the first row, from row to row, mm
FIRST, STEP = 9.0, 7.0
#: room at either end of a number within its line, between numbers of a row
ROOM, APART = 0.8, 1.5
#: how far a number stands off its line
LIFT = 0.35 * CAPITALS
#: what a crossing costs, a mm across the part, a row; most rounds of the search
CROSSED, ACROSS, ROW, ROUNDS = 25.0, 0.12, 1.5, 4
#: ends nearer than this are one, mm
SAME = 0.02
#: of more lengths not every one is tried on the other side
MANY = 40


@dataclass(frozen=True, slots=True)
class Along:
    """A length to be placed: from ``start`` to ``end`` along, on paper; ``starts``, ``ends``: how far its two places
    reach across (low, high); ``width`` of its number.
    """

    key: int
    start: float
    end: float
    starts: tuple[float, float]
    ends: tuple[float, float]
    width: float

    @property
    def narrow(self) -> bool:
        """Its arrows stand outside."""
        return self.end - self.start < self.width + 2 * ARROW + 2 * ROOM

    @property
    def beside(self) -> bool:
        """Its number has no room between its ends."""
        return self.end - self.start < self.width + 2 * ROOM


@dataclass(frozen=True, slots=True)
class Placed:
    """A length on a ``side`` (-1 low, 1 high) in a row (0 the nearest); its number begins at ``number`` along."""

    length: Along
    side: int
    row: int
    number: float

    @property
    def room(self) -> tuple[float, float]:
        """All that it takes of its row."""
        it = self.length
        low, high = it.start, it.end
        if it.narrow:
            low, high = low - 2 * ARROW, high + 2 * ARROW
        return min(low, self.number), max(high, self.number + it.width)

    def level(self, low: float, high: float) -> float:
        """Where its row lies across, below ``low`` or above ``high``, mm."""
        return low - FIRST - STEP * self.row if self.side < 0 else high + FIRST + STEP * self.row


def in_rows(lengths: Sequence[Along], low: float, high: float) -> list[Placed]:
    """All of them in rows below ``low`` and above ``high``."""
    sides = {it.key: -1 if _across(it, -1, low, high) <= _across(it, 1, low, high) + SAME else 1 for it in lengths}
    best = _cost(lengths, sides, low, high)
    for _ in range(ROUNDS):
        before = best
        for it in _worth(lengths, sides):
            turned = sides | {it.key: -sides[it.key]}
            cost = _cost(lengths, turned, low, high)
            if cost < best - SAME:
                sides, best = turned, cost
        if best >= before or len(lengths) > MANY:
            break
    return [p for side in (-1, 1) for p in _numbered(_rows([it for it in lengths if sides[it.key] == side], side))]


def _worth(lengths: Sequence[Along], sides: dict[int, int]) -> Sequence[Along]:
    """Lengths that may be better on the other side: all of a few; of many, some that overlap in part."""
    if len(lengths) <= MANY:
        return lengths
    astride = [
        a for a in lengths
        if any(sides[a.key] == sides[b.key] and a.start + SAME < b.start < a.end - SAME < b.end - SAME for b in lengths)
    ]  # fmt: skip
    return astride[:: max(1, len(astride) // 8)]


def _across(it: Along, side: int, low: float, high: float) -> float:
    """How far its witness lines run over the part on their way out."""
    ends = (it.starts, it.ends)
    return sum(max(0.0, e[0] - low) if side < 0 else max(0.0, high - e[1]) for e in ends)


def _cost(lengths: Sequence[Along], sides: dict[int, int], low: float, high: float) -> float:
    total = sum(ACROSS * _across(it, sides[it.key], low, high) for it in lengths)
    for side in (-1, 1):
        here = _rows([it for it in lengths if sides[it.key] == side], side)
        total += ROW * len({p.row for p in here}) + CROSSED * crossings(here)
    return total


def crossings(placed: Sequence[Placed]) -> int:
    """Witness lines that cross a dimension line of a row nearer to the part, on one side."""
    ends = sorted((e, p.row, p.side) for p in placed for e in (p.length.start, p.length.end))
    total = 0
    for p in placed:
        low, high = p.room
        start, end = p.length.start, p.length.end
        for e, row, side in ends[bisect_right(ends, low, key=_at) : bisect_left(ends, high, key=_at)]:
            total += row > p.row and side == p.side and abs(e - start) > SAME and abs(e - end) > SAME
    return total


def _rows(lengths: Sequence[Along], side: int) -> list[Placed]:
    """The shorter nearer to the part; a longer one outside all that end within it."""
    out: list[Placed] = []
    by_row: dict[int, list[Placed]] = {}
    for it in sorted(lengths, key=lambda k: (k.end - k.start, k.start, k.key)):
        least = max((p.row + 1 for p in out if _within(p.length, it)), default=0)
        for row in itertools.count(least):
            found = next((p for p in _numbers(it, side, row) if not _taken(p, by_row.get(row, ()))), None)
            if found is not None:
                out.append(found)
                by_row.setdefault(row, []).append(found)
                break
    return out


def _at(end: tuple[float, int, int]) -> float:
    return end[0]


def _within(inner: Along, outer: Along) -> bool:
    """Whether a length has a witness line that would cross the outer one's line, or both in common with it."""
    low, high = outer.start + SAME, outer.end - SAME
    if low < inner.start < high or low < inner.end < high:
        return True
    return abs(inner.start - outer.start) < SAME and abs(inner.end - outer.end) < SAME


def _numbers(it: Along, side: int, row: int) -> list[Placed]:
    """Where its number may stand: in its middle, or beside it, to the right before the left."""
    if not it.beside:
        return [Placed(it, side, row, (it.start + it.end - it.width) / 2)]
    right, left = it.end + 2 * ARROW + ROOM, it.start - 2 * ARROW - ROOM - it.width
    return [Placed(it, side, row, right), Placed(it, side, row, left)]


def _taken(p: Placed, others: Sequence[Placed]) -> bool:
    """Whether it lies over one of its row."""
    low, high = p.room
    for o in others:
        a, b = o.room
        slack = APART if p.length.narrow or o.length.narrow else -SAME
        if low < b + slack and a < high + slack:
            return True
    return False


def _numbered(placed: Sequence[Placed]) -> list[Placed]:
    """Numbers that stand within their lines moved aside, off the witness lines that go by."""
    out = []
    for p in placed:
        it = p.length
        if it.beside:
            out.append(p)
            continue
        passing = [e for o in placed if o.row > p.row for e in (o.length.start, o.length.end)]
        least, most = it.start + ROOM, it.end - ROOM - it.width
        stops = [p.number, *(x for e in passing for x in (e + ROOM, e - ROOM - it.width) if least <= x <= most)]
        free = [x for x in stops if not any(x - ROOM / 2 < e < x + it.width + ROOM / 2 for e in passing)]
        middle = p.number
        out.append(replace(p, number=min(free, key=lambda x: abs(x - middle), default=middle)))
    return out
