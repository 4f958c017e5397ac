"""Fits across parts, by both ledgers: shaft and bore, screw in its hole, key in its way.

Where a relation joins a round face to a bore, or a flat of a tongue to a flat of a slot, each part's callout of that
size gives its limits. Least clearance is the hole's least less the shaft's greatest, most clearance the other way
round. A size without a callout counts as modelled, and is told so. What moves in the other must clear: less is *out*.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from lathed_solid.fit.document import Fit, Ref, Relation
from lathed_solid.fit.features import Feature
from lathed_solid.fit.row_spans import span_of
from lathed_solid.fit.solved import Solved
from lathed_solid.proof import Report
from lathed_solid.proof.verdicts import SLACK, Verdict, VerdictRow

#: of the greatest motion: so much less is none
STILL = 1e-6
#: sizes that differ by more of the hole are no fit
ALIKE = 0.25


@dataclass(frozen=True, slots=True)
class Side:
    """One side of a fit: its member, the size's limits (mm), the note and balloon; no balloon: as modelled."""

    member: str
    feature: str
    low: float
    high: float
    note: str = ""
    balloon: int = 0


@dataclass(frozen=True, slots=True)
class LedgerFit:
    """``least`` and ``most`` clearance, mm. ``moves``: the two move against each other there."""

    relation: int
    what: str
    hole: Side
    shaft: Side
    moves: bool

    @property
    def least(self) -> float:
        """Least clearance, mm; negative: interference."""
        return self.hole.low - self.shaft.high

    @property
    def most(self) -> float:
        """Most clearance, mm."""
        return self.hole.high - self.shaft.low

    @property
    def kind(self) -> str:
        """Clearance, transition or interference (ISO 286-1, clause 3.3)."""
        if self.least >= -SLACK:
            return "clearance"
        return "transition" if self.most > SLACK else "interference"

    @property
    def verdict(self) -> Verdict:
        """*Out* where it moves and does not clear; *no limit* where neither size has one; else *in*."""
        if self.moves and self.least < -SLACK:
            return "out" if self.most < SLACK else "near"
        if not (self.hole.balloon or self.shaft.balloon):
            return "no limit"
        return "in"

    @property
    def reason(self) -> str:
        """Why it is not in, in words; empty where it is."""
        if self.verdict in ("out", "near"):
            return "it moves there, and may have no play"
        return "neither size has limits" if self.verdict == "no limit" else ""


def ledger_fits(solved: Solved, reports: Mapping[str, Report]) -> tuple[LedgerFit, ...]:
    """All fits of a solved assembly, by relation; ``reports``: the proof of each part by its name."""
    whole = solved.whole
    pairs = moving_pairs(solved)
    found: dict[tuple[str, str, str, str], LedgerFit] = {}
    for r in whole.relations:
        if r.suspended or r.b is None:
            continue
        for made in _fits_of(whole, solved, reports, r, frozenset(r.members) in pairs):
            key = (made.hole.member, made.hole.feature, made.shaft.member, made.shaft.feature)
            found.setdefault(key, made)
    return tuple(found.values())


def pressed(fits: Iterable[LedgerFit]) -> dict[frozenset[str], LedgerFit]:
    """Pairs of members whose overlap their notes explain: a fit without play where nothing moves."""
    return {frozenset((f.hole.member, f.shaft.member)): f for f in fits if f.least < 0 and not f.moves}


def moving_pairs(solved: Solved) -> set[frozenset[str]]:
    """Pairs of members that move against each other by some freedom."""
    body_of = {name: at[0] for name, at in solved.assembled.body_of.items()}
    out: set[frozenset[str]] = set()
    for r in solved.whole.relations:
        if r.b is None:
            continue
        a, b = body_of.get(r.a.member), body_of.get(r.b.member)
        if a is None or b is None or a == b:
            continue
        if any(_apart(f.motion, a, b, solved) for f in solved.freedoms):
            out.add(frozenset(r.members))
    return out


def _apart(motion: np.ndarray, a: int, b: int, solved: Solved) -> bool:
    """Whether two bodies do not move as one: their twists about the room's origin differ."""
    poses, middle = solved.solution.poses, solved.assembled.system.middle
    twists = []
    for body in (a, b):
        shift, turn = motion[body, :3], motion[body, 3:]
        at = poses.at[body] + poses.turn[body] @ middle[body]
        twists.append(np.concatenate([shift - np.cross(turn, at), turn * solved.assembled.system.size]))
    return float(np.abs(twists[0] - twists[1]).max()) > STILL * max(float(np.abs(motion[:, :3]).max()), 1.0)


def _fits_of(fit: Fit, solved: Solved, reports: Mapping[str, Report], r: Relation, moves: bool) -> Iterator[LedgerFit]:
    assert r.b is not None
    found = [solved.features.get(fit.by_name[x.member].part, {}).get(x.feature) for x in (r.a, r.b)]
    a, b = found
    if a is None or b is None:
        return
    near = abs(a.radius - b.radius) < ALIKE * max(a.radius, b.radius)
    if a.kind == b.kind == "round" and a.hollow != b.hollow and near and r.kind in ("share an axis", "on"):
        hole, shaft = ((r.a, a), (r.b, b)) if a.hollow else ((r.b, b), (r.a, a))
        yield LedgerFit(r.number, "round", _round(fit, reports, *hole), _round(fit, reports, *shaft), moves)
    if a.kind == b.kind == "flat" and r.kind in ("touch", "level", "gap"):
        sides = [s for x in (r.a, r.b) for s in _widths(fit, solved, reports, x)]
        slots = [s for inside, s in sides if inside]
        tongues = [s for inside, s in sides if not inside]
        for slot in slots:
            for tongue in tongues:
                if tongue.member != slot.member and abs(slot.low - tongue.low) < 0.2 * tongue.high:
                    yield LedgerFit(r.number, "width", slot, tongue, moves)


def _round(fit: Fit, reports: Mapping[str, Report], ref: Ref, it: Feature) -> Side:
    report = reports.get(fit.by_name[ref.member].part)
    row = next((x for x in report.rows if _diameter_of(x, ref.feature, it)), None) if report is not None else None
    if row is None or row.low is None or row.high is None:
        return Side(ref.member, ref.feature, 2 * it.radius, 2 * it.radius)
    return Side(ref.member, ref.feature, row.low, row.high, row.note, row.balloon)


def _diameter_of(row: VerdictRow, feature: str, it: Feature) -> bool:
    return row.kind == "diameter" and feature in row.faces and abs(row.nominal - 2 * it.radius) < 0.05 * row.nominal


def _widths(fit: Fit, solved: Solved, reports: Mapping[str, Report], ref: Ref) -> Iterator[tuple[bool, Side]]:
    """Widths of a part to a flat face: whether of a slot, and its limits."""
    part = fit.by_name[ref.member].part
    features, report = solved.features.get(part, {}), reports.get(part)
    for row in report.rows if report is not None else ():
        span = span_of(row, features)
        if span is None or ref.feature not in span:
            continue
        one, two = (features[f] for f in span)
        n = np.array(one.direction)
        if float(n @ np.array(two.direction)) > -1 + 1e-6 or row.low is None or row.high is None:
            continue
        inside = float((np.array(two.origin) - np.array(one.origin)) @ n) > 0
        yield inside, Side(ref.member, ref.feature, row.low, row.high, row.note, row.balloon)
