"""Dimension chains: what a set of dimensions fixes, says twice, contradicts, or leaves open; along one direction.

Every place has a coordinate x, measured from the middle of the direction; every dimension is a linear equation

    between two places  x_b - x_a = v      about the middle, once  x_a = v      a diameter  2 x_a = v
    symmetric places    x_a + x_b = 0

A place that no equation ties to another could be anywhere: in the null space N of the equations, two places are fixed
to one another when their rows of N are equal. A dimension whose row is a combination of others is said twice: the
combination with the least sum of weights is the sum that a person would write, ``96 = 18 + 63 + 15``, and where the
values miss it, the dimensions contradict each other. The same combination for x_b - x_a is the missing link between
a and b. Reference dimensions never drive: they are only compared.

The least combination is a linear program, min sum w |y| with A' y = t: its vertices have as few terms as there are
(basis pursuit; Chen, Donoho and Saunders, SIAM J. Sci. Comput. 20, 1998). On a plain chain it is the shortest path and
found as that; where nothing is said twice there is but one, and the equations give it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from heapq import heappop, heappush

import numpy as np

from lathed_solid.ledger.spans import MIDDLE
from lathed_solid.quantity.tolerances import LINEAR

#: sums that miss by more contradict, mm or rad
SLACK = 1e-6
RANK = 1e-9
#: symmetry is not a dimension of its own: it costs nothing in a sum
FREE = 1e-3


@dataclass(frozen=True, slots=True)
class Link:
    """One equation: ``terms`` (place, factor) sum to ``value``, mm or rad, within ``slack`` (a reference is rounded).

    ``balloon`` 0: by symmetry.
    """

    balloon: int
    terms: tuple[tuple[str, int], ...]
    value: float
    reference: bool = False
    slack: float = SLACK


Term = tuple[int, float]


@dataclass(frozen=True, slots=True)
class Loop:
    """A dimension said by others: ``balloon`` = sum of factor times ``terms``; ``off``: its value less that sum."""

    balloon: int
    terms: tuple[Term, ...]
    off: float
    reference: bool
    slack: float = SLACK

    @property
    def contradicts(self) -> bool:
        """Whether what it is off is more than rounding allows."""
        return abs(self.off) > self.slack

    @property
    def balloons(self) -> tuple[int, ...]:
        """All callouts that close it."""
        return (self.balloon, *(b for b, _ in self.terms))

    @property
    def signed(self) -> tuple[Term, ...]:
        """All dimensions of the loop with factors that sum to nothing."""
        return ((self.balloon, 1.0), *((b, -f) for b, f in self.terms))


class Chain:
    """The dimensions along one direction. ``turning``: angles about a point, which close after a whole turn."""

    def __init__(self, along: str, links: Sequence[Link], *, turning: bool = False) -> None:
        self.along, self.turning = along, turning
        self.links = tuple(links)
        self.driving = tuple(k for k in links if not k.reference)
        named = dict.fromkeys(p for k in links for p, _ in k.terms)
        self.places = tuple(p for p in named if p != MIDDLE)
        #: whether anything is told from the middle; else the places only stand to one another
        self.middle = any(sum(f for _, f in k.terms) != 0 or MIDDLE in dict(k.terms) for k in links)
        self._at = {p: i for i, p in enumerate(self.places)}

    def _row(self, terms: Sequence[tuple[str, int]]) -> np.ndarray:
        row = np.zeros(len(self.places))
        for place, factor in terms:
            if place != MIDDLE:
                row[self._at[place]] += factor
        return row

    @cached_property
    def _matrix(self) -> np.ndarray:
        """Rows of the driving equations, (n, places)."""
        return np.array([self._row(k.terms) for k in self.driving]).reshape(len(self.driving), len(self.places))

    @cached_property
    def loops(self) -> tuple[Loop, ...]:
        """Every dimension that those before it (driving ones first) say already."""
        found: list[Loop] = []
        basis: list[np.ndarray] = []
        taken: list[Link] = []
        for link in sorted(self.links, key=lambda k: (k.reference, k.balloon != 0)):
            row = self._row(link.terms)
            rest = row - sum((b * float(b @ row) for b in basis), np.zeros_like(row))
            rest -= sum((b * float(b @ rest) for b in basis), np.zeros_like(row))  # twice is enough (Kahan, Parlett)
            size = float(np.linalg.norm(rest))
            if size > RANK * max(1.0, float(np.linalg.norm(row))):
                if not link.reference:
                    basis.append(rest / size)
                    taken.append(link)
                continue
            terms = self._combination(row, taken)
            if terms is not None and link.balloon:
                off = link.value - sum(f * k.value for k, f in terms)
                if self.turning:
                    off = math.remainder(off, 2 * math.pi)
                told = tuple((k.balloon, f) for k, f in terms if k.balloon)
                found.append(Loop(link.balloon, told, off, link.reference, link.slack))
        return tuple(found)

    @cached_property
    def groups(self) -> tuple[tuple[str, ...], ...]:
        """Places that are fixed to one another, the largest group first (that of the middle, where it is used)."""
        if not self.places:
            return ()
        free = _null_space(self._matrix) if len(self.driving) else np.eye(len(self.places))
        rows: list[np.ndarray] = [np.zeros(free.shape[1])] if self.middle else []
        members: list[list[str]] = [[MIDDLE]] if self.middle else []
        for place, row in zip(self.places, free, strict=True):
            for known, group in zip(rows, members, strict=True):
                if np.allclose(known, row, atol=1e-7):
                    group.append(place)
                    break
            else:
                rows.append(row)
                members.append([place])
        out = [tuple(g) for g in members]
        first = out[:1] if self.middle else []
        return (*first, *sorted(out[len(first) :], key=lambda g: -len(g)))

    @property
    def loose(self) -> tuple[tuple[str, ...], ...]:
        """Groups that nothing ties to the first."""
        return self.groups[1:] if self.middle or len(self.places) > 1 else ()

    def path(self, start: str, end: str) -> tuple[Term, ...] | None:
        """x_end - x_start as (balloon, factor); () when symmetry alone says it; None when nothing does.

        Raises KeyError for a place that no dimension names.
        """
        row = self._row(((start, -1), (end, 1)))
        steps = [_step(k) for k in self.driving]
        if all(steps):
            terms = _walk(start, end, [s for s in steps if s])
        else:
            terms = self._combination(row, self.driving)
        return None if terms is None else tuple((k.balloon, f) for k, f in terms if k.balloon)

    def _combination(self, target: np.ndarray, links: Sequence[Link]) -> list[tuple[Link, float]] | None:
        """The links, with factors, that sum to ``target`` with the least weight; None when they cannot."""
        if not np.any(target):
            return []
        if not links:
            return None
        a = np.array([self._row(k.terms) for k in links]).T
        y, _, rank, _ = np.linalg.lstsq(a, target, rcond=RANK)
        if np.linalg.norm(a @ y - target) > RANK * max(1.0, float(np.linalg.norm(target))):
            return None
        if rank == len(links):  # nothing is said twice: there is one way
            return _told(links, y)
        from scipy.optimize import linprog  # the window starts without it

        weight = np.array([1.0 if k.balloon else FREE for k in links])
        solved = linprog(np.concatenate([weight, weight]), A_eq=np.hstack([a, -a]), b_eq=target, method="highs")
        if solved.status != 0:
            return None
        return _told(links, solved.x[: len(links)] - solved.x[len(links) :])


#: from a place to another along a link that says how far
_Step = tuple[str, str, Link]


def _step(link: Link) -> _Step | None:
    """A link between two places, or from the middle to one; None for a diameter and for symmetry."""
    ends = {p: f for p, f in link.terms if p != MIDDLE}
    if len(ends) == 1:
        ((place, factor),) = ends.items()
        return {1: (MIDDLE, place, link), -1: (place, MIDDLE, link)}.get(factor)
    if sorted(ends.values()) != [-1, 1]:
        return None
    low, high = sorted(ends, key=lambda p: ends[p])
    return low, high, link


def _walk(start: str, end: str, steps: Sequence[_Step]) -> list[tuple[Link, float]] | None:
    """The lightest way from a place to another (Dijkstra, Numer. Math. 1, 1959); None where none leads there."""
    beside: dict[str, list[tuple[str, Link, float]]] = {}
    for low, high, link in steps:
        beside.setdefault(low, []).append((high, link, 1.0))
        beside.setdefault(high, []).append((low, link, -1.0))
    open_: list[tuple[float, int, str, list[tuple[Link, float]]]] = [(0.0, 0, start, [])]
    done: set[str] = set()
    count = 0
    while open_:
        weight, _, place, way = heappop(open_)
        if place == end:
            return way
        if place in done:
            continue
        done.add(place)
        for there, link, factor in beside.get(place, ()):
            if there not in done:
                count += 1
                step = 1.0 if link.balloon else FREE
                heappush(open_, (weight + step, count, there, [*way, (link, factor)]))
    return None


def _told(links: Sequence[Link], factors: np.ndarray) -> list[tuple[Link, float]]:
    """The links that have a part in a sum."""
    return [(k, _neat(float(f))) for k, f in zip(links, factors, strict=True) if abs(f) > 1e-7]


def _neat(factor: float) -> float:
    """A factor of a sum is a whole, a half or a quarter."""
    near = round(factor * 4) / 4
    return near if abs(near - factor) < LINEAR else factor


def _null_space(a: np.ndarray) -> np.ndarray:
    """Columns that span what ``a`` (n, m) leaves free, (m, k)."""
    _, s, vt = np.linalg.svd(a, full_matrices=True)
    rank = int((s > RANK * max(a.shape) * max(1.0, float(s[0]) if len(s) else 0.0)).sum())
    return np.asarray(vt[rank:].T)


@dataclass(frozen=True, slots=True)
class Bar:
    """One dimension in a stack: its factor, what it adds (``nominal``), and from ``low`` to ``high`` at its limits."""

    balloon: int
    factor: float
    nominal: float
    low: float
    high: float


@dataclass(frozen=True)
class Stack:
    """A sum of dimensions with its tolerance, mm or rad.

    ``low``, ``high``: worst case, all at their limits. ``middle`` and ``root``: half the root of the sum of the squared
    tolerance widths about the middle of the limits, for sizes that vary independently. ``open``: without a limit.
    """

    bars: tuple[Bar, ...]
    nominal: float
    low: float
    high: float
    middle: float
    root: float
    open: tuple[int, ...]


def stack(terms: Sequence[Term], values: Mapping[int, tuple[float, float | None, float | None]]) -> Stack:
    """The stack of a path; ``values``: balloon -> nominal, lower and upper limit (None: no limit, counted as exact)."""
    bars, unlimited = [], []
    for balloon, factor in terms:
        nominal, low, high = values[balloon]
        if low is None or high is None:
            unlimited.append(balloon)
        ends = sorted(factor * (nominal if v is None else v) for v in (low, high))
        bars.append(Bar(balloon, factor, factor * nominal, ends[0], ends[1]))
    low_sum, high_sum = math.fsum(b.low for b in bars), math.fsum(b.high for b in bars)
    root = math.sqrt(math.fsum(((b.high - b.low) / 2) ** 2 for b in bars))
    return Stack(tuple(bars), math.fsum(b.nominal for b in bars), low_sum, high_sum, (low_sum + high_sum) / 2, root,
                 tuple(unlimited))  # fmt: skip


def other_way_round(loop: Loop, values: Mapping[int, float]) -> int | None:
    """The balloon whose span turned round would make a contradicting loop add up; None when none would."""
    if not loop.contradicts:
        return None
    turned = (b for b, factor in loop.signed if abs(loop.off - 2 * factor * values[b]) <= loop.slack)
    return next(turned, None)
