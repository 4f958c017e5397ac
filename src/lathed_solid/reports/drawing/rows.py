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
from dataclasses import dataclass

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

    def level(self, low: float, high: float) -> float:
        """Where its row lies across, below ``low`` or above ``high``, mm."""
        return low - FIRST - STEP * self.row if self.side < 0 else high + FIRST + STEP * self.row


@dataclass(frozen=True, slots=True)
class _Wanting:
    """A length while rows are tried: its bit in a set of them, what its witness lines cost on either side (low, high);
    where its number may stand, each with all that it takes of its row (number, low, high).
    """

    length: Along
    start: float
    end: float
    narrow: bool
    bit: int
    across: tuple[float, float]
    places: tuple[tuple[float, float, float], ...]


#: a length in a row: itself, the row, where its number begins, what it takes of the row (low, high)
_Set = tuple[_Wanting, int, float, float, float]


def in_rows(lengths: Sequence[Along], low: float, high: float) -> list[Placed]:
    """All of them in rows below ``low`` and above ``high``."""
    ordered = sorted(lengths, key=lambda k: (k.end - k.start, k.start, k.key))
    wanting = {it.key: _wanting(it, 1 << n, low, high) for n, it in enumerate(ordered)}
    trial = _Trial(list(wanting.values()))
    upper = sum(w.bit for w in wanting.values() if w.across[0] > w.across[1] + ACROSS * SAME)
    best = trial.cost(upper)
    for _ in range(ROUNDS):
        before = best
        for it in _worth([wanting[it.key] for it in lengths], upper):
            if trial.least(upper ^ it.bit) >= best - SAME:
                continue
            cost = trial.cost(upper ^ it.bit)
            if cost < best - SAME:
                upper, best = upper ^ it.bit, cost
        if best >= before or len(lengths) > MANY:
            break
    return [p for side in (-1, 1) for p in _numbered(trial.rows(trial.of(upper, side)), side)]


class _Trial:
    """Lengths, the shortest first, tried on either side: sets of them are bits, ``upper`` those on the high side."""

    def __init__(self, lengths: Sequence[_Wanting]) -> None:
        self._lengths, self._all = lengths, sum(it.bit for it in lengths)
        #: what rows and crossings of a set cost, which is the same on either side
        self._known: dict[int, float] = {}

    def of(self, upper: int, side: int) -> int:
        """The set on a side."""
        return upper if side > 0 else self._all ^ upper

    def least(self, upper: int) -> float:
        """No less than this a trial costs: lines across the part, and a row on either side that has any."""
        sides = bool(upper) + (upper != self._all)
        return self._across(upper) + ROW * sides

    def cost(self, upper: int) -> float:
        """Of crossings, lines across the part, and rows."""
        return self._across(upper) + self._arranged(upper) + self._arranged(self._all ^ upper)

    def _across(self, upper: int) -> float:
        return sum(it.across[bool(upper & it.bit)] for it in self._lengths)

    def _arranged(self, some: int) -> float:
        if some not in self._known:
            here = self.rows(some)
            self._known[some] = ROW * len({row for _, row, *_ in here}) + CROSSED * _crossings(here)
        return self._known[some]

    def rows(self, some: int) -> list[_Set]:
        """The shorter nearer to the part; a longer one outside all that end within it."""
        out: list[_Set] = []
        by_row: dict[int, list[_Set]] = {}
        for it in self._lengths:
            if it.bit & some:
                for row in itertools.count(_least(it, out)):
                    here = by_row.setdefault(row, [])
                    place = next((p for p in it.places if not _taken(p, it.narrow, here)), None)
                    if place is not None:
                        found = (it, row, *place)
                        out.append(found)
                        here.append(found)
                        break
        return out


def _wanting(it: Along, bit: int, low: float, high: float) -> _Wanting:
    reach = 2 * ARROW if it.narrow else 0.0
    first, last = it.start - reach, it.end + reach
    numbers = [(it.start + it.end - it.width) / 2]
    if it.beside:  # to the right before the left
        numbers = [it.end + 2 * ARROW + ROOM, it.start - 2 * ARROW - ROOM - it.width]
    places = tuple((at, min(first, at), max(last, at + it.width)) for at in numbers)
    ends = (it.starts, it.ends)
    # how far its witness lines run over the part on their way out
    below, above = sum(max(0.0, e[0] - low) for e in ends), sum(max(0.0, high - e[1]) for e in ends)
    return _Wanting(it, it.start, it.end, it.narrow, bit, (ACROSS * below, ACROSS * above), places)


def _worth(lengths: Sequence[_Wanting], upper: int) -> Sequence[_Wanting]:
    """Lengths that may be better on the other side: all of a few; of many, some that overlap in part."""
    if len(lengths) <= MANY:
        return lengths
    astride = [
        a for a in lengths
        if any(bool(upper & a.bit) == bool(upper & b.bit) and a.start + SAME < b.start < a.end - SAME < b.end - SAME
               for b in lengths)
    ]  # fmt: skip
    return astride[:: max(1, len(astride) // 8)]


def _crossings(placed: Sequence[_Set]) -> int:
    """Witness lines that cross a dimension line of a row nearer to the part, on one side."""
    ends = sorted((e, row) for it, row, *_ in placed for e in (it.start, it.end))
    at = [e for e, _ in ends]
    total = 0
    for it, own, _, low, high in placed:
        for e, row in ends[bisect_right(at, low) : bisect_left(at, high)]:
            total += row > own and abs(e - it.start) > SAME and abs(e - it.end) > SAME
    return total


def _least(outer: _Wanting, placed: Sequence[_Set]) -> int:
    """The row beyond all lengths that have a witness line which would cross this one's line, or both in common."""
    start, end = outer.start, outer.end
    low, high = start + SAME, end - SAME
    least = 0
    for it, row, *_ in placed:
        if row >= least:
            a, b = it.start, it.end
            if low < a < high or low < b < high or (abs(a - start) < SAME and abs(b - end) < SAME):
                least = row + 1
    return least


def _taken(place: tuple[float, float, float], narrow: bool, others: Sequence[_Set]) -> bool:
    """Whether it lies over one of its row."""
    _, low, high = place
    for it, _, _, a, b in others:
        slack = APART if narrow or it.narrow else -SAME
        if low < b + slack and a < high + slack:
            return True
    return False


def _numbered(placed: Sequence[_Set], side: int) -> list[Placed]:
    """Numbers that stand within their lines moved aside, off the witness lines that go by."""
    out = []
    for wanting, row, number, _, _ in placed:
        it = wanting.length
        at = number
        if not it.beside:
            passing = [e for o, beyond, *_ in placed if beyond > row for e in (o.start, o.end)]
            least, most = it.start + ROOM, it.end - ROOM - it.width
            stops = [number, *(x for e in passing for x in (e + ROOM, e - ROOM - it.width) if least <= x <= most)]
            free = [x for x in stops if not any(x - ROOM / 2 < e < x + it.width + ROOM / 2 for e in passing)]
            at = min(free, key=lambda x: abs(x - number), default=number)
        out.append(Placed(it, side, row, at))
    return out
