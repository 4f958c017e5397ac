"""The rows of the Fit desk's tables and card."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from lathed_solid.fit.document import Copies, Relation
from lathed_solid.fit.judged import Overlap
from lathed_solid.fit.ledger_fits import LedgerFit, pressed
from lathed_solid.fit.sizes import SIZES
from lathed_solid.fit.solved import Solved
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import fixed
from lathed_solid.workbench.fit.session import FitSession

#: of a member with all six freedoms
UNJOINED = "not joined yet"


@dataclass(frozen=True)
class MemberRow:
    """A member on the card. ``state``: fast, held, loose, fighting, failed, copy, waiting for its part to be built."""

    name: str
    detail: str
    state: str
    message: str = ""
    hidden: bool = False


def member_rows(session: FitSession) -> list[MemberRow]:
    """One row a member, copies after the first of them."""
    fit, solved, failed = session.fit, session.solved, session.failed_parts()
    whole = session.whole
    moving = _moving(solved)
    fighting = _fighting(solved)
    rows = []
    for m in whole.members:
        part = fit.by_part[m.part]
        copy = m.name not in fit.by_name
        state = ("failed" if m.part in failed else "copy" if copy else "fast" if m.held
                 else "waiting" if solved is None else "fighting" if m.name in fighting
                 else "loose" if m.name in moving else "held")  # fmt: skip
        detail = part.standard or f"{part.name} · {part.document.material}"
        ways = moving.get(m.name, ())
        message = failed.get(m.part, "") or (UNJOINED if len(ways) == 6 else "; ".join(ways))
        rows.append(MemberRow(m.name, detail, state, message, m.hidden))
    return rows


def nothing_moves(session: FitSession) -> str:
    """Why no freedom is told, where none is."""
    if not session.fit.members:
        return "No members yet."
    if session.solved is None:
        return "The parts are being built."
    return (
        "Relations fight: nothing moves until they hold." if session.solved.state == "fighting" else "Nothing is loose."
    )


def _moving(solved: Solved | None) -> dict[str, list[str]]:
    out: dict[str, list[str]] = {}
    for f in solved.freedoms if solved is not None else ():
        out.setdefault(f.member, []).append(f.words)
        for other in f.others:
            out.setdefault(other, [])
    return out


def _fighting(solved: Solved | None) -> set[str]:
    if solved is None or solved.solution.ok:
        return set()
    numbers = {n for f in solved.fights for n in f.relations}
    return {m for r in solved.assembled.fit.relations if r.number in numbers for m in r.members}


@dataclass(frozen=True)
class RelationRow:
    """A relation, or copies, in the table. ``state``: holds, fights, left out, suspended."""

    number: int
    first: str
    kind: str
    second: str
    size: str
    state: str
    message: str = ""
    relation: Relation | None = None
    copies: Copies | None = None

    @property
    def sized(self) -> bool:
        """Whether its size can be typed."""
        return self.relation is not None and self.relation.kind in SIZES


def relation_rows(session: FitSession) -> list[RelationRow]:
    """Relations in the order of their numbers, then copies."""
    fit, solved = session.fit, session.solved
    lost = solved.lost if solved is not None else {}
    fights = {n: f.words for f in solved.fights for n in f.relations} if solved and not solved.solution.ok else {}
    rows = [_relation_row(session, r, lost, fights) for r in fit.relations]
    for c in fit.copies:
        about = f"{c.about.member} {c.about.feature}" if c.about is not None else "its hole pattern"
        size = c.size or c.angle
        many = f"{c.count} x " if c.kind in ("ring", "row") else ""
        rows.append(RelationRow(c.number, c.member, f"{many}{c.kind}", about, size, "holds", copies=c))
    return rows


def _relation_row(session: FitSession, r: Relation, lost: Mapping[int, Exception], fights: Mapping[int, str]
                  ) -> RelationRow:  # fmt: skip
    features = session.features()

    def words(member: str, feature: str) -> str:
        it = features.get(session.fit.by_name[member].part, {}).get(feature)
        return f"{member} · {it.words if it is not None else feature}"

    state, message = "holds", ""
    if r.suspended:
        state = "suspended"
    elif r.number in lost:
        state, message = "left out", str(lost[r.number])
    elif r.number in fights:
        state, message = "fights", fights[r.number]
    second = words(r.b.member, r.b.feature) if r.b is not None else "the room"
    return RelationRow(r.number, words(r.a.member, r.a.feature), r.kind, second, r.size, state, message, r)


@dataclass(frozen=True)
class OverlapRow:
    """Two members that have material in common, with what explains it, if anything does."""

    overlap: Overlap
    at: int
    why: str

    @property
    def sign(self) -> str:
        """○ for what a fit explains, ■ for what nothing does."""
        return "○ a press fit" if self.why else "■ overlap"


def overlap_rows(session: FitSession) -> list[OverlapRow]:
    """Overlaps, those that nothing explains first, the greatest first."""
    explained = pressed(session.fits)
    rows = []
    for i, o in enumerate(session.overlaps or ()):
        fit = explained.get(frozenset((o.a, o.b)))
        rows.append(OverlapRow(o, i, f"{fit.kind} by its notes" if fit is not None else ""))
    return sorted(rows, key=lambda r: (bool(r.why), -round(r.overlap.volume_mm3, 3), r.at))


def play(f: LedgerFit, unit: LengthUnit) -> str:
    """Least to most clearance."""
    return f"{fixed(f.least, unit)} … {fixed(f.most, unit)}"


def driven(kind: str, value: float) -> str:
    """A driven number as it is typed: degrees, or mm."""
    return f"{math.degrees(value):.6g}" if kind != "slide" else f"{value:.6g}"
