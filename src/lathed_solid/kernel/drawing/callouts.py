"""Where each callout can be drawn: lengths with both their ends, side by side, and places for leaders.

A callout's number is the distance between two places of the part. Its own fields name some of them; where a field holds
a half or a sum, the partner is found by the size itself: among the ends of all callouts along the same direction, or
as the mirror image about the end that the field counts from. So what is drawn is as long as what is written.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.kernel.case import Case
from lathed_solid.kernel.circles import centre
from lathed_solid.kernel.drawing.corners import corners
from lathed_solid.kernel.drawing.endings import Ending, Endings, endings, spaced
from lathed_solid.kernel.drawing.figures import Arc, Corner, Drawn, End, Length, SideName, Tip
from lathed_solid.kernel.drawing.flat import FLATS, Flat
from lathed_solid.kernel.drawing.tips import ALONG, ENDS, Edges, at_diameter, tips
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.look import Look
from lathed_solid.kernel.measure import cases
from lathed_solid.kernel.surfaces import Surface
from lathed_solid.kernel.topology import Key, box
from lathed_solid.kernel.vectors import Triple, dot
from lathed_solid.ledger import Callout
from lathed_solid.part import Document
from lathed_solid.proof import Plan, VerdictRow, plan
from lathed_solid.proof.derived import expected
from lathed_solid.quantity import QuantityError
from lathed_solid.quantity.tolerances import ANGULAR

#: ends that lie a size apart do so within this, mm
CLOSE = 1e-4
#: decimals to which directions are one
DIGITS = 6
#: ways of measuring whose faces lie behind the entry face that they name first
SECOND = frozenset({"depth", "position", "clock"})
#: kinds of callouts that are lengths between places
LENGTHS = frozenset({"length", "depth"})

_Pool = Mapping[tuple[float, ...], list[Ending]]


def drawn_callouts(document: Document, look: Look, rows: Sequence[VerdictRow]) -> tuple[Drawn, ...]:
    """Each callout in balloon order."""
    known = _Known(look)
    found = [_Found.of(document, look, known, c, p) for c, p in zip(document.callouts, plan(document), strict=True)]
    pool: dict[tuple[float, ...], list[Ending]] = defaultdict(list)
    for it in found:
        for ends in it.lengths:
            key, way = _carrier(ends.along)
            pool[key] += [replace(e, at=way * e.at) for e in ends.ends]
    measured = {r.balloon: r.measured for r in rows}
    low, high = box(look.body.shape)
    whole = [_overall(k, low, high) for k in range(3)]
    out = []
    for it in found:
        size = measured.get(it.callout.balloon)
        size = it.callout.nominal if size is None else size
        lengths: tuple[Length, ...] = ()
        if it.callout.kind in LENGTHS:
            lengths = tuple(_lengths(it.lengths, pool, size, known)) or tuple(_lengths(whole, {}, size, known))
        reason = "" if lengths or it.tips else it.reason or "no face of the solid shows it"
        out.append(Drawn(it.callout.balloon, size, lengths, it.tips, reason, it.circles, it.corners))
    return tuple(out)


class _Found:
    """What a callout's own fields name."""

    def __init__(
        self, callout: Callout, lengths: list[Endings], found: tuple[Tip, ...], reason: str,
        circles: tuple[tuple[SideName, Arc], ...], corners: tuple[Corner, ...],
    ) -> None:  # fmt: skip
        self.callout, self.lengths, self.tips, self.reason = callout, lengths, found, reason
        self.circles, self.corners = circles, corners

    @classmethod
    def of(cls, document: Document, look: Look, known: _Known, callout: Callout, p: Plan) -> _Found:
        lengths: list[Endings] = []
        places: list[Tip] = []
        reason = p.reason
        circles: list[tuple[SideName, Arc]] = []
        angles: list[Corner] = []
        for showing in p.showings:
            try:
                probe, size = showing.probe, abs(expected(document, showing, callout))
                if probe.kind == "spacing":
                    lengths += spaced(look, probe)
                    continue
                for case in cases(look, probe, size):
                    circles += [c for flat in FLATS.values() for c in _circle(case, flat)]
                    angles += [c for flat in FLATS.values() for c in corners(case, flat, callout.nominal)]
                    ends = endings(case)
                    lengths += [] if ends is None else [ends]
                    places += [t for flat in FLATS.values() for t in _tips(known, case, flat)]
            except (MeasureError, QuantityError) as exc:
                reason = exc.message if isinstance(exc, LathedError) else str(exc)
        return cls(callout, lengths, tuple(places), reason, tuple(circles), tuple(angles))


def _circle(case: Case, flat: Flat) -> Iterator[tuple[SideName, Arc]]:
    """The circle that holes stand on, where they are seen end on."""
    holes = case.surfaces(0)
    if case.probe.kind != "bolt_circle" or any(abs(abs(dot(s.direction, flat.eye)) - 1) > ANGULAR for s in holes):
        return
    places = np.array([flat.of(s.origin) for s in holes])
    middle = np.zeros(2) if case.probe.about == "origin" else centre(places)
    radius = float(np.linalg.norm(places - middle, axis=1).mean())
    if radius > CLOSE:
        yield flat.side, Arc((float(middle[0]), float(middle[1])), radius)


def _tips(known: _Known, case: Case, flat: Flat) -> Iterator[Tip]:
    main = 1 if case.probe.kind in SECOND and len(case.groups) > 1 and case.groups[1] else 0
    for s in case.surfaces(main):
        if case.probe.kind == "diameter_at":
            yield from at_diameter(known.tips(s, flat, ENDS), s, flat, case.expected)
        else:
            yield from known.tips(s, flat, ALONG)


def _overall(k: int, low: Triple, high: Triple) -> Endings:
    """Over the whole part along an axis."""
    along: Triple = (float(k == 0), float(k == 1), float(k == 2))
    middle = tuple((a + b) / 2 for a, b in zip(low, high, strict=True))

    def reach(across: Triple) -> tuple[float, float]:
        at = dot((middle[0], middle[1], middle[2]), across)
        return at, at

    return Endings(along, (Ending(low[k], reach), Ending(high[k], reach)))


def _carrier(along: Triple) -> tuple[tuple[float, ...], float]:
    """A direction without its sense, and the sense."""
    way = 1.0 if next(c for c in along if abs(c) > 10**-DIGITS) > 0 else -1.0
    return tuple(round(way * c, DIGITS) + 0.0 for c in along), way


class _Known:
    """What was looked at once: several callouts are of the same faces."""

    def __init__(self, look: Look) -> None:
        self._look, self._edges = look, Edges(look)
        self._tips: dict[tuple[tuple[Key, ...], SideName, tuple[float, ...]], list[Tip]] = {}

    def tips(self, s: Surface, flat: Flat, along: tuple[float, ...]) -> list[Tip]:
        """Where a leader may end on a face."""
        key = (tuple(map(Key, s.faces)), flat.side, along)
        if key not in self._tips:
            self._tips[key] = list(tips(self._look, self._edges, s, flat, along))
        return self._tips[key]

    def levels(self, end: Ending, flat: Flat) -> tuple[float, float] | None:
        """Of an end that is a flat which a side shows edge on, behind material; else None."""
        s = end.flat
        if s is None or abs(dot(s.direction, flat.eye)) > ANGULAR:
            return None
        return None if self._edges.seen(s, flat) else s.extent(flat.eye)


def _lengths(own: Sequence[Endings], pool: _Pool, size: float, known: _Known) -> Iterator[Length]:
    for ends in own:
        pair = _pair(ends, pool, abs(size))
        if pair is None:
            continue
        start, end = sorted(pair, key=lambda e: e.at)
        for flat in FLATS.values():
            for upright, axis, across in ((False, flat.right, flat.up), (True, flat.up, flat.right)):
                sense = dot(ends.along, axis)
                if abs(sense) > 1 - CLOSE**2:
                    both = [End(sense * e.at, *e.reach(across), known.levels(e, flat)) for e in (start, end)]
                    both.sort(key=lambda e: e.at)
                    yield Length(flat.side, upright, both[0], both[1])
        return


def _pair(ends: Endings, pool: _Pool, size: float) -> tuple[Ending, Ending] | None:
    """Two ends that lie a size apart: both its own; its own and another's; its own and its mirror image."""
    for a in ends.ends:
        for b in ends.ends:
            if abs(b.at - a.at - size) < CLOSE:
                return a, b
    key, way = _carrier(ends.along)
    others = [replace(e, at=way * e.at) for e in pool.get(key, [])]
    # the last one is what the field is about, the first what it counts from
    for a in reversed(ends.ends):
        for b in others:
            if abs(abs(b.at - a.at) - size) < CLOSE:
                return a, b
    for a in ends.ends:
        for b in ends.ends:
            if abs(2 * (b.at - a.at) - size) < CLOSE:
                return replace(b, at=2 * a.at - b.at), b
    return None
