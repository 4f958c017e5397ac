"""Parts pulled apart: each member drawn out along an axis that it shares, in its order, until none lies in another.

The busiest axis comes first. On each axis one member stays where it is (the one held in the room, or drawn out before,
or the longest), the others go to either side of it; what sits in a hole of a member goes with that member.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping

import numpy as np

from lathed_solid.fit.document import Member
from lathed_solid.fit.features import Feature
from lathed_solid.fit.placement import Array, Placement
from lathed_solid.fit.solved import Solved

#: between two members: a share of the longest, and at least, mm
GAP, LEAST = 0.08, 4.0
AXIAL = ("share an axis", "screwed", "in its taper")


def drawn_out(solved: Solved) -> dict[str, Array]:
    """How far each member is drawn out, mm in the room: by what was set for it, else by its place on its axis."""
    whole = solved.whole
    out: dict[str, Array] = {}
    spans = {m.name: (m, solved.features.get(m.part, {})) for m in whole.members}
    for d, names in _axes(solved):
        there = [n for n in names if n in whole.by_name]
        waiting = [n for n in there if n not in out and not whole.by_name[n].held]
        if waiting:
            out |= _along(there, waiting, spans, d, out, _faced(solved, d))
    for m in whole.members:
        if m.apart is not None:
            out[m.name] = np.array(m.apart)
    return out


def _along(
    there: list[str], waiting: list[str], members: Mapping[str, tuple[Member, Mapping[str, Feature]]], d: Array,
    before: Mapping[str, Array], faced: Mapping[tuple[str, str], float],
) -> dict[str, Array]:  # fmt: skip
    spans = {n: _span(*members[n], d) for n in there}
    settled = [n for n in there if n not in waiting]
    held = [n for n in settled if members[n][0].held]
    base = (held or settled or [max(there, key=lambda n: spans[n][1] - spans[n][0])])[0]
    start = before.get(base, np.zeros(3))
    gap = GAP * max(high - low for low, high in spans.values()) + LEAST
    out: dict[str, Array] = {base: start}
    middle = sum(spans[base])
    for way in (1.0, -1.0):
        edge = way * spans[base][1 if way > 0 else 0]
        beyond = [n for n in waiting if n != base
                  and faced.get((n, base), sum(spans[n]) - middle + 1e-9) * way > 0]  # fmt: skip
        for n in sorted(beyond, key=lambda n: way * sum(spans[n])):
            near, far = sorted(way * s for s in spans[n])
            move = max(0.0, edge - near) + gap
            out[n] = start + d * (way * move)
            edge = far + move
    return out


def _faced(solved: Solved, d: Array) -> dict[tuple[str, str], float]:
    """Which way along an axis a member lies before a face of another that it touches: a head before its counterbore."""
    out: dict[tuple[str, str], float] = {}
    for pair in solved.assembled.pairs.values():
        r = pair.relation
        if r.kind != "touch" or r.b is None or not pair.a.kind == pair.b.kind == "flat":
            continue
        place = solved.placements.get(r.b.member, Placement())
        way = float((place.rotation @ np.array(pair.b.direction)) @ d)
        if abs(way) > 0.9:
            out[r.a.member, r.b.member] = way
            out[r.b.member, r.a.member] = -way
    return out


def _axes(solved: Solved) -> Iterator[tuple[Array, list[str]]]:
    """Axes that members share, in the room: the direction and the members on each, the busiest first."""
    found: dict[tuple[float, ...], tuple[Array, dict[str, None]]] = {}
    for pair in solved.assembled.pairs.values():
        r = pair.relation
        if r.b is None or r.kind not in AXIAL:
            continue
        place = solved.placements.get(r.b.member, Placement())
        d = place.rotation @ np.array(pair.b.direction)
        d = d if d[int(np.argmax(np.abs(d)))] > 0 else -d
        at = place.rotation @ np.array(pair.b.origin) + np.array(place.at)
        foot = at - d * float(at @ d)
        key = tuple(round(float(x), 2) + 0.0 for x in (*foot, *d))
        found.setdefault(key, (d, {}))[1].update(dict.fromkeys((r.b.member, r.a.member)))
    for d, names in sorted(found.values(), key=lambda v: -len(v[1])):
        yield d, list(names)


def _span(m: Member, features: Mapping[str, Feature], d: Array) -> tuple[float, float]:
    """How far a member reaches along a direction, by what it offers to hold on to."""
    own = m.placement.rotation.T @ d
    at = float(np.array(m.placement.at) @ d)
    ends = []
    for f in features.values():
        middle, along = float(np.array(f.origin) @ own), float(np.array(f.direction) @ own)
        across = f.radius * float(np.sqrt(max(0.0, 1 - along * along)))
        ends += [middle + e * along + s * across for e in (f.low, f.high) for s in (1.0, -1.0)]
    return at + min(ends, default=0.0), at + max(ends, default=0.0)
