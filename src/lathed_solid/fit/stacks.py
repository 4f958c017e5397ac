"""Tolerance stacks across parts: from a face of one member to a face of another, along a chain of contacts.

Places are flat faces that lie square to one direction. Within a part two of them are joined by a callout that was
measured between them, or, without limits, as modelled; between parts by faces that touch, lie level or keep a gap. The
path with the fewest sizes without limits, then the fewest sizes, is summed: worst case, and the root of the sum of
squares for sizes that vary independently.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace

import numpy as np

from lathed_solid.fit.document import Ref
from lathed_solid.fit.errors import FitError
from lathed_solid.fit.features import Feature, feature
from lathed_solid.fit.row_spans import span_of
from lathed_solid.fit.sizes import size_of
from lathed_solid.fit.solved import Solved
from lathed_solid.proof import Report

#: a direction that is square to a face to within this, rad
SQUARE = 1e-6
#: a size without limits counts as so many with; a contact as hardly any
UNLIMITED, CONTACT = 100.0, 1e-3

Place = tuple[str, str]


@dataclass(frozen=True, slots=True)
class Bar:
    """One size of a stack, signed along the way, mm; no balloon: a contact (nothing), a gap, or as modelled."""

    member: str
    note: str
    nominal: float
    low: float
    high: float
    balloon: int = 0
    limited: bool = True

    @property
    def turned(self) -> Bar:
        """The same the other way along."""
        return replace(self, nominal=-self.nominal, low=-self.high, high=-self.low)


@dataclass(frozen=True, slots=True)
class FitStack:
    """``low`` and ``high``: worst case; ``root``: half the width by squares about ``middle``, mm."""

    start: Ref
    end: Ref
    bars: tuple[Bar, ...]

    @property
    def nominal(self) -> float:
        """mm."""
        return math.fsum(b.nominal for b in self.bars)

    @property
    def low(self) -> float:
        """Least, all sizes at their limits, mm."""
        return math.fsum(b.low for b in self.bars)

    @property
    def high(self) -> float:
        """Greatest, mm."""
        return math.fsum(b.high for b in self.bars)

    @property
    def middle(self) -> float:
        """Between the two, mm."""
        return (self.low + self.high) / 2

    @property
    def root(self) -> float:
        """Root of the sum of squares of the half widths, mm."""
        return math.sqrt(math.fsum(((b.high - b.low) / 2) ** 2 for b in self.bars))

    @property
    def open(self) -> tuple[Bar, ...]:
        """Sizes that have no limits."""
        return tuple(b for b in self.bars if not b.limited)


def stack(solved: Solved, reports: Mapping[str, Report], start: Ref, end: Ref) -> FitStack:
    """The stack from one flat face to another, positive along the first one's normal. Raises FitError where they are
    not parallel flats, or no chain of contacts joins them.
    """
    whole = solved.whole
    first, last = (_flat(solved, ref) for ref in (start, end))
    way = _normal(solved, start, first)
    if abs(abs(float(way @ _normal(solved, end, last))) - 1) > SQUARE:
        raise FitError("a stack runs between parallel flats", where=f"{start.words} to {end.words}")
    ends = ((start.member, start.feature), (end.member, end.feature))
    web = _Web(ends)
    for a, b, bar in _contacts(solved, way):
        web.add(a, b, bar, CONTACT)
    for m in whole.members:
        for a, b, bar in _sizes(solved, reports, m.name, way):
            web.add(a, b, bar, 1.0)
    _join_as_modelled(solved, web, way)
    bars = web.path(*ends)
    if bars is None:
        raise FitError(
            "no chain of contacts joins these", where=f"{start.words} to {end.words}",
            hint="say which faces touch, lie level or keep a gap along the way",
        )  # fmt: skip
    return FitStack(start, end, tuple(b for b in bars if b.note or b.nominal))


class _Web:
    """Places joined by sizes, each with what it costs to go by it."""

    def __init__(self, places: Iterable[Place]) -> None:
        self.places: dict[Place, int] = {}
        self._sizes: dict[tuple[int, int], tuple[float, Bar]] = {}
        for place in places:
            self._at(place)

    def _at(self, place: Place) -> int:
        return self.places.setdefault(place, len(self.places))

    def add(self, a: Place, b: Place, bar: Bar, cost: float) -> None:
        """Join two places, unless something cheaper does."""
        i, j = self._at(a), self._at(b)
        known = self._sizes.get((i, j))
        if i != j and (known is None or known[0] > cost):
            self._sizes[i, j], self._sizes[j, i] = (cost, bar), (cost, bar.turned)

    def path(self, a: Place, b: Place) -> list[Bar] | None:
        """The sizes on the cheapest way (Dijkstra); None where there is none."""
        from scipy.sparse import csr_array
        from scipy.sparse.csgraph import dijkstra

        n = len(self.places)
        if not self._sizes:
            return [] if a == b else None
        rows, columns = np.array(list(self._sizes)).T
        costs = np.array([cost for cost, _ in self._sizes.values()])
        graph = csr_array((costs, (rows, columns)), shape=(n, n))
        _, before = dijkstra(graph, indices=self.places[a], return_predecessors=True)
        out: list[Bar] = []
        at = self.places[b]
        while at != self.places[a]:
            if before[at] < 0:
                return None
            out.append(self._sizes[int(before[at]), at][1])
            at = int(before[at])
        return out[::-1]


def _flat(solved: Solved, ref: Ref) -> Feature:
    member = solved.whole.by_name.get(ref.member)
    if member is None:
        raise FitError(f"there is no member {ref.member}")
    it = feature(solved.features.get(member.part, {}), ref.feature, ref.member)
    if it.kind != "flat":
        raise FitError("a stack runs between flats", where=ref.words, received=it.words)
    return it


def _normal(solved: Solved, ref: Ref, it: Feature) -> np.ndarray:
    return np.asarray(solved.whole.by_name[ref.member].placement.rotation @ np.array(it.direction))


def _contacts(solved: Solved, way: np.ndarray) -> Iterator[tuple[Place, Place, Bar]]:
    """Faces of two members that a relation keeps together, or a gap apart."""
    for number, pair in solved.assembled.pairs.items():
        r = pair.relation
        if r.b is None or not pair.a.kind == pair.b.kind == "flat" or r.kind not in ("touch", "level", "gap"):
            continue
        if abs(abs(float(way @ _normal(solved, r.b, pair.b))) - 1) > SQUARE:
            continue
        # from b to a is the gap along b's normal
        sign = math.copysign(1.0, float(way @ _normal(solved, r.b, pair.b)))
        gap = sign * (size_of(solved.fit, r) or 0.0)
        note = f"relation {number}, gap {r.size}" if gap else ""
        yield (r.b.member, r.b.feature), (r.a.member, r.a.feature), Bar(r.a.member, note, gap, gap, gap)


def _sizes(solved: Solved, reports: Mapping[str, Report], member: str, way: np.ndarray
           ) -> Iterator[tuple[Place, Place, Bar]]:  # fmt: skip
    """Callouts of a member that run between two of its flats along the way."""
    m = solved.whole.by_name[member]
    features, report = solved.features.get(m.part, {}), reports.get(m.part)
    for row in report.rows if report is not None else ():
        span = span_of(row, features)
        if span is None:
            continue
        one, two = (features[f] for f in span)
        along = m.placement.rotation.T @ way
        if abs(abs(float(along @ np.array(one.direction))) - 1) > SQUARE:
            continue
        sign = math.copysign(1.0, float((np.array(two.origin) - np.array(one.origin)) @ along))
        limited = row.low is not None and row.high is not None
        ends = sorted(sign * (v if v is not None else row.nominal) for v in (row.low, row.high))
        yield ((member, span[0]), (member, span[1]),
               Bar(member, row.note, sign * row.nominal, ends[0], ends[1], row.balloon, limited))  # fmt: skip


def _join_as_modelled(solved: Solved, web: _Web, way: np.ndarray) -> None:
    """Faces of one member that the chain needs and no callout joins: as they are modelled."""
    by_member: dict[str, list[Place]] = {}
    for place in list(web.places):
        by_member.setdefault(place[0], []).append(place)
    for member, places in by_member.items():
        m = solved.whole.by_name[member]
        along = m.placement.rotation.T @ way
        features = solved.features.get(m.part, {})
        level = {p: float(np.array(feature(features, p[1], member).origin) @ along) for p in places}
        for i, a in enumerate(places):
            for b in places[i + 1 :]:
                far = level[b] - level[a]
                web.add(a, b, Bar(member, f"{member} as modelled", far, far, far, limited=False), UNLIMITED)
