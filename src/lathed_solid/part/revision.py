"""A sheet against the callouts that stand on it: what a new revision of the drawing changed, callout by callout.

Every note found on the page is read into the sizes it states. Callouts and sizes are paired so that the whole costs
least (linear assignment): nothing for the same size, more for another size the farther it is off and away.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, SheetPlace, callouts_from_note
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import add_note, changed, drop_callout, put_callout, reworded, with_callouts
from lathed_solid.sheets.client import LeftText, NoteCandidate

#: the cost of another size, of another kind of size, of a page's width away, and of pairing with nothing
OTHER, OTHER_KIND, AWAY, NOTHING = 1.0, 0.4, 2.0, 1.9
SAME = 1e-6
LENGTHS = frozenset({"length", "depth"})


@dataclass(frozen=True)
class Change:
    """``same``: only its place may differ; ``changed``: another size stands there; ``gone``: nothing does; ``new``: a
    note that no callout stands at. ``size``: the number of the size within ``offer``'s note.
    """

    kind: Literal["same", "changed", "gone", "new"]
    balloon: int | None
    was: str
    now: str
    offer: NoteCandidate | None = None
    size: int = 0


ORDER = {"changed": 0, "gone": 1, "new": 2, "same": 3}


def compare_sheet(document: Document, sheet: int, page: int, offers: Sequence[NoteCandidate]) -> tuple[Change, ...]:
    """How the callouts placed on a page stand to the notes found on it, what needs an answer first."""
    here = [c for c in document.callouts if c.place is not None and (c.place.sheet, c.place.page) == (sheet, page)]
    sizes = [(o, k, c) for o in offers for k, c in enumerate(_sizes(document, o))]
    pairs = _pairs(here, sizes)
    taken = {id(sizes[j][0]) for j in pairs.values()}
    out = []
    for i, callout in enumerate(here):
        if i not in pairs:
            out.append(Change("gone", callout.balloon, callout.note, ""))
            continue
        offer, k, found = sizes[pairs[i]]
        kind: Literal["same", "changed"] = "same" if _alike(callout, found) else "changed"
        out.append(Change(kind, callout.balloon, callout.note, offer.text, offer, k))
    out += [Change("new", None, "", o.text, o) for o in offers if id(o) not in taken]
    return tuple(sorted(out, key=lambda c: ORDER[c.kind]))


def take_change(document: Document, change: Change, sheet: int, page: int) -> Document:
    """The document with one change taken over: the new size, the new callout, or none any more.

    Raises DocumentError where a callout that is gone from the sheet is still used.
    """
    offer = change.offer
    if change.kind == "gone" and change.balloon is not None:
        return drop_callout(document, change.balloon)
    if offer is None:
        return document
    at = _place(offer, change.size, sheet, page)
    if change.balloon is None:
        added = add_note(document, offer.text)
        old = {c.balloon for c in document.callouts}
        callouts = tuple(c if c.balloon in old else changed(c, place=at, span=offer.span) for c in added.callouts)
        return with_callouts(added, callouts)
    callout = document.callout(change.balloon)
    if callout is None:
        raise DocumentError(f"there is no callout {change.balloon}")
    if change.kind == "changed":
        callout = reworded(callout, _sizes(document, offer)[change.size])
    return put_callout(document, changed(callout, place=at))


def moved(document: Document, changes: Sequence[Change], sheet: int, page: int) -> Document:
    """The balloons of callouts that are the same, at where their notes stand now."""
    for change in changes:
        if change.kind == "same":
            document = take_change(document, change, sheet, page)
    return document


def beside(offer: NoteCandidate | LeftText) -> tuple[float, float]:
    """Where the balloon of a found note stands: at its left, on the page also where the text reaches beyond it."""
    left, top, _right, bottom = offer.box
    return _on_page(left - 0.018), _on_page((top + bottom) / 2)


def _on_page(share: float) -> float:
    return min(max(share, 0.0), 1.0)


def _place(offer: NoteCandidate, size: int, sheet: int, page: int) -> SheetPlace:
    x, y = beside(offer)
    lines = offer.text.count("\n") + 1
    tall = (offer.box[3] - offer.box[1]) / lines
    return SheetPlace(sheet=sheet, page=page, x=x, y=_on_page(y + tall * (min(size, lines - 1) - (lines - 1) / 2)))


def _sizes(document: Document, offer: NoteCandidate) -> tuple[Callout, ...]:
    try:
        return callouts_from_note(offer.text, 1, document.unit)
    except LathedError:
        return ()


def _alike(a: Callout, b: Callout) -> bool:
    """Whether two callouts say the same: size, limits, fit, and reference or not."""
    kinds = a.kind == b.kind or {a.kind, b.kind} <= LENGTHS

    def near(x: float | None, y: float | None) -> bool:
        return x == y if x is None or y is None else abs(x - y) < SAME

    return (kinds and near(a.nominal, b.nominal) and near(a.low, b.low) and near(a.high, b.high)
            and a.fit == b.fit and a.reference == b.reference)  # fmt: skip


def _pairs(here: Sequence[Callout], sizes: Sequence[tuple[NoteCandidate, int, Callout]]) -> dict[int, int]:
    from scipy.optimize import linear_sum_assignment  # the window starts without it

    if not here or not sizes:
        return {}
    cost = np.full((len(here), len(sizes) + len(here)), NOTHING)
    for i, a in enumerate(here):
        for j, (offer, _, b) in enumerate(sizes):
            x, y = beside(offer)
            away = math.hypot(a.place.x - x, a.place.y - y) if a.place is not None else 1.0
            cost[i, j] = AWAY * away
            if not _alike(a, b):
                off = min(1.0, abs(a.nominal - b.nominal) / max(a.nominal, b.nominal))
                kinds = a.kind == b.kind or {a.kind, b.kind} <= LENGTHS
                cost[i, j] += OTHER + off + (0.0 if kinds else OTHER_KIND)
    rows, columns = linear_sum_assignment(cost)
    return {int(i): int(j) for i, j in zip(rows, columns, strict=True) if j < len(sizes)}
