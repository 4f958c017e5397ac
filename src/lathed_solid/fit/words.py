"""Fits in plain words and JSON: what the command line prints and the desk's tables show."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from lathed_solid.fit.judged import Clearance, Mass, Overlap, Row
from lathed_solid.fit.ledger_fits import LedgerFit
from lathed_solid.fit.motion import Travel
from lathed_solid.fit.solved import Solved
from lathed_solid.fit.stacks import FitStack
from lathed_solid.quantity.formatting import fixed


def state_json(s: Solved) -> dict[str, Any]:
    """Members with placements, freedoms, fights and what is lost: the stable shape of ``fit build --json``."""
    return {
        "name": s.fit.name, "state": s.state, "words": s.words,
        "members": [
            {"name": m.name, "part": m.part, "held": m.held, "hidden": m.hidden,
             "placement": [[float(x) for x in row] for row in m.placement.matrix]}
            for m in s.whole.members
        ],
        "freedoms": [
            {"member": f.member, "kind": f.kind, "words": f.words, "twist": [float(x) for x in f.twist],
             "with": list(f.others)}
            for f in s.freedoms
        ],
        "fights": [{"relations": list(f.relations), "ways": list(f.ways), "words": f.words} for f in s.fights],
        "lost": [{"relation": n, "words": e.message, "candidates": list(getattr(e, "candidates", ()))}
                 for n, e in s.lost.items()],
        "trouble": list(s.trouble),
    }  # fmt: skip


def overlap_json(o: Overlap) -> dict[str, Any]:
    """One overlap."""
    return {"a": o.a, "b": o.b, "volume_mm3": o.volume_mm3, "middle_mm": list(o.middle), "about": o.about}


def clearance_json(c: Clearance) -> dict[str, Any]:
    """One least distance."""
    return {"a": c.a, "b": c.b, "mm": c.mm, "at_a_mm": list(c.at_a), "at_b_mm": list(c.at_b)}


def fit_row_json(f: LedgerFit) -> dict[str, Any]:
    """One fit across parts."""
    return {
        "relation": f.relation, "what": f.what, "kind": f.kind, "moves": f.moves, "verdict": f.verdict,
        "reason": f.reason, "least_mm": f.least, "most_mm": f.most,
        **{side: {"member": s.member, "feature": s.feature, "note": s.note, "balloon": s.balloon, "low_mm": s.low,
                  "high_mm": s.high} for side, s in (("hole", f.hole), ("shaft", f.shaft))},
    }  # fmt: skip


def stack_json(s: FitStack) -> dict[str, Any]:
    """One stack across parts."""
    return {
        "from": s.start.words, "to": s.end.words, "nominal_mm": s.nominal, "low_mm": s.low, "high_mm": s.high,
        "middle_mm": s.middle, "root_mm": s.root,
        "sizes": [{"member": b.member, "note": b.note, "balloon": b.balloon, "nominal_mm": b.nominal, "low_mm": b.low,
                   "high_mm": b.high, "limited": b.limited} for b in s.bars],
    }  # fmt: skip


def mass_json(m: Mass) -> dict[str, Any]:
    """The mass of all."""
    return {"mass_g": m.grams, "centre_mm": list(m.centre), "inertia_g_mm2": [list(r) for r in m.inertia],
            "without": list(m.without)}  # fmt: skip


def rows_json(rows: Iterable[Row]) -> list[dict[str, Any]]:
    """The parts list."""
    return [
        {"number": r.number, "part": r.part, "count": r.count, "material": r.material, "grams_each": r.grams,
         "grams": None if r.grams is None else r.grams * r.count, "standard": r.standard, "members": list(r.members)}
        for r in rows
    ]  # fmt: skip


def travel_json(t: Travel) -> dict[str, Any]:
    """A travel: values in degrees or mm, and placements."""
    turn = t.drive.kind == "turn"
    return {
        "member": t.drive.member, "kind": t.drive.kind, "unit": "deg" if turn else "mm", "stopped": t.stopped,
        "frames": [
            {"value": math.degrees(f.value) if turn else f.value,
             "placements": {n: [[float(x) for x in row] for row in p.matrix] for n, p in f.placements.items()}}
            for f in t.frames
        ],
    }  # fmt: skip


def fit_words(f: LedgerFit, unit: str = "mm") -> str:
    """One fit across parts in a line."""
    ends = [f"{s.member} {s.note or f'⌀ {s.high:.4g} as modelled'}" for s in (f.hole, f.shaft)]
    play = f"{fixed(f.least, unit)} to {fixed(f.most, unit)}"  # type: ignore[arg-type]
    return f"{ends[0]} on {ends[1]}: {f.kind}, {play}{' · moves' if f.moves else ''}"
