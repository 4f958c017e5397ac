"""Which sides of the part are drawn, whole or cut, and in which of them each note shows.

Every note has a cost in every view: nothing where it is seen true and best (a hole end on, a shaft from aside), more
where it is hidden or less plain, most where it cannot be shown. Views are taken, and whole ones exchanged for cut ones,
as long as that saves more than it costs; the front is always there. A turned part that is hollow along its axis is cut
through it, in half where something on its outside would be lost; others at the level of what a cut alone shows well.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from lathed_solid.kernel.drawing.figures import Arc, Corner, Drawn, Half, Length, Place, SideName, Stood, Tip, Wanted
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.vectors import dot
from lathed_solid.ledger import Note
from lathed_solid.part.drawing_style import SectionName
from lathed_solid.reports.drawing.model import LeftOut

#: what a note costs that a view cannot show, that is hidden there, that shows less plainly
NOWHERE, HIDDEN, PLAINER = 10.0, 3.0, 1.0
#: what a view more costs, a cut with its line and letters, the axis that parts a half
SIDE, CUT, HALF = 1.8, 0.8, 0.4
#: a cut goes through what is no farther from it, mm; cuts of a side that are tried
THROUGH, CUTS = 1e-3, 4
#: surfaces that a cut shows well: bores, and the floors of pockets
PLAIN = frozenset({"cylinder", "cone", "plane"})
#: sides that may be drawn, the likelier first
ORDER: tuple[SideName, ...] = ("front", "top", "right", "left", "bottom", "back")
#: roles whose single note is a dimension along the part
ALONG = frozenset({"length", "depth", "square", "row total", "hole depth", "keyway width", "groove width"})


@dataclass(frozen=True)
class Shown:
    """A note in a side: by a length with both its ends, by an angle's corners, or by a leader to one of some tips."""

    note: Note
    balloons: tuple[int, ...]
    side: SideName
    length: Length | None
    tips: tuple[Tip, ...]
    circles: tuple[Arc, ...] = ()
    corners: tuple[Corner, ...] = ()


@dataclass(frozen=True)
class Chosen:
    """The views to draw, the front first; each note in its side; what is drawn nowhere. ``axial``: the side that is cut
    through a turned part's axis, which needs no line to say where.
    """

    sides: tuple[Wanted, ...]
    shown: tuple[Shown, ...]
    left_out: tuple[LeftOut, ...]
    axial: SideName | None = None


@dataclass(frozen=True)
class _Way:
    cost: float
    length: Length | None
    tips: tuple[Tip, ...]
    corners: tuple[Corner, ...] = ()


_Ways = Mapping[Wanted, _Way]
#: of a side the places of each callout, by its balloon
_Tips = Mapping[int, Sequence[Tip]]


def chosen(notes: Iterable[Note], callouts: Sequence[Drawn], stood: Stood, section: SectionName = "") -> Chosen:
    """Views, and what stands in each; ``section``: how a turned part is wanted, empty as it needs."""
    by_balloon = {d.balloon: d for d in callouts}
    by_side = {side: {d.balloon: [t for t in d.tips if t.side == side] for d in callouts} for side in ORDER}
    axial = _axial(stood, section)
    options = _options(callouts, by_side, stood, axial, section)
    seen_in = [(v, _Costs(v, _middle(stood, v.side), by_side[v.side])) for v in options]
    ways: list[tuple[Note, tuple[int, ...], _Ways]] = []
    found: _Ways
    left_out = []
    for note in notes:
        balloons = tuple(c.balloon for c in note.callouts)
        found = {v: w for v, costs in seen_in if (w := _way(note, by_balloon, costs)) is not None}
        if found:
            ways.append((note, balloons, found))
        else:
            why = next((d.reason for b in balloons if (d := by_balloon.get(b)) is not None and d.reason), "")
            left_out.append(LeftOut(balloons, note.text, why or "no view shows it as a length or an outline"))
    views = _views([w for _, _, w in ways], options, axial)
    shown = []
    for note, balloons, found in ways:
        best = min((v for v in views if v in found), key=lambda v: found[v].cost, default=None)
        if best is None:
            left_out.append(LeftOut(balloons, note.text, "no drawn view shows it"))
        else:
            there = best.side
            circles = {a for b in balloons if (d := by_balloon.get(b)) is not None for s, a in d.circles if s == there}
            way = found[best]
            shown.append(Shown(note, balloons, there, way.length, way.tips, tuple(circles), way.corners))
    return Chosen(tuple(views), tuple(shown), tuple(left_out), axial)


def _axial(stood: Stood, section: SectionName) -> SideName | None:
    """The side that is cut through the axis: a hollow turned part's front, or its top where its axis runs to the eye in
    front.
    """
    if stood.axis is None or section == "none" or not (stood.bored or section):
        return None
    return "top" if abs(stood.axis[1]) > 0.5 else "front"


def _options(
    callouts: Sequence[Drawn], tips: Mapping[SideName, _Tips], stood: Stood, axial: SideName | None,
    section: SectionName,
) -> list[Wanted]:  # fmt: skip
    """All views that may be drawn: of a part that is cut through its axis that cut and whole sides; of others cuts at
    the levels of what is hidden.
    """
    whole = [Wanted(s) for s in ORDER if s != axial]
    if axial is not None and stood.axis is not None:
        level = dot(_centre(stood), FLATS[axial].eye)
        half: Half = "low" if abs(dot(stood.axis, FLATS[axial].right)) > 0.5 else "right"
        kinds: dict[SectionName, tuple[Half, ...]] = {"": ("", half), "full": ("",), "half": (half,)}
        return [*(Wanted(axial, level, h) for h in kinds[section]), *whole]
    if section == "none" or stood.axis is not None:
        return whole
    return whole + [Wanted(s, level) for s in ORDER for level in _levels(callouts, tips[s], s)]


def _levels(callouts: Sequence[Drawn], tips: _Tips, side: SideName) -> list[float]:
    """Where a cut would lay open what is hidden in a side: the levels of most of it."""
    found: Counter[float] = Counter()
    for d in callouts:
        here = [t for t in tips[d.balloon] if t.form in ("outline", "edge") and t.surface in PLAIN]
        levels = {round(sum(t.levels) / 2, 6) + 0.0 for t in here if not t.seen}
        # what runs aslant lies at no one level
        found.update(levels if len(levels) == 1 or all(t.form == "edge" for t in here) else ())
        ends = [e for x in d.lengths if x.side == side for e in (x.start, x.end)]
        found.update({round(sum(e.hidden) / 2, 6) + 0.0 for e in ends if e.hidden is not None} - levels)
    return [level for level, _ in found.most_common(CUTS)]


def _centre(stood: Stood) -> tuple[float, float, float]:
    x, y, z = ((a + b) / 2 for a, b in zip(stood.low, stood.high, strict=True))
    return x, y, z


def _middle(stood: Stood, side: SideName) -> Place:
    return FLATS[side].of(_centre(stood))


def _views(ways: Sequence[_Ways], options: Sequence[Wanted], axial: SideName | None) -> list[Wanted]:
    table = {v: np.array([min(w[v].cost, NOWHERE) if v in w else NOWHERE for w in ways]) for v in options}

    def price(view: Wanted) -> float:
        return SIDE + (HALF if view.half else 0.0) + (CUT if view.cut is not None and view.side != axial else 0.0)

    def cost(views: Sequence[Wanted]) -> float:
        # a cut whose place no other view can show stands for nothing
        bare = sum(parent_of(v, views) is None for v in views if v.cut is not None and v.side != axial)
        notes = float(np.minimum.reduce([table[v] for v in views]).sum())
        return notes + NOWHERE * bare + sum(map(price, views))

    first = axial or "front"
    taken = min(([v] for v in options if v.side == first and (v.cut is None or v.side == axial)), key=cost)
    least = cost(taken)
    while True:
        tried = [(cost(views), views) for views in (list(_with(taken, v)) for v in options if v not in taken)]
        now, best = min(tried, key=lambda it: it[0], default=(least, taken))
        if now >= least:
            return taken
        least, taken = now, best


def _with(views: Sequence[Wanted], view: Wanted) -> Iterator[Wanted]:
    """One view more, or in place of its side's."""
    yield from (view if v.side == view.side else v for v in views)
    if all(v.side != view.side for v in views):
        yield view


def parent_of(cut: Wanted, views: Sequence[Wanted]) -> Wanted | None:
    """The whole view that shows where another is cut: one that looks along the cut."""
    across = [v for v in views if v.cut is None and abs(dot(FLATS[v.side].eye, FLATS[cut.side].eye)) < 0.5]
    return min(across, key=lambda v: ORDER.index(v.side), default=None)


class _Costs:
    """What leaders to a callout's places cost in a view; worked out once a callout, which several notes may tell."""

    def __init__(self, view: Wanted, middle: Place, tips: _Tips) -> None:
        self.view, self.middle, self._tips = view, middle, tips
        self._known: dict[tuple[int, str], list[tuple[float, Tip]]] = {}

    def of(self, balloon: int, kind: str) -> list[tuple[float, Tip]]:
        """What a leader to each place costs that the view shows, as a callout of a kind."""
        if (balloon, kind) not in self._known:
            found = ((_behind(t, self.view, self.middle), t) for t in self._tips.get(balloon, ()))
            self._known[balloon, kind] = [
                (behind + _plainness(t, _cut_open(t, self.view, self.middle), kind), t)
                for behind, t in found if behind is not None
            ]  # fmt: skip
        return self._known[balloon, kind]


def _way(note: Note, by_balloon: Mapping[int, Drawn], seen: _Costs) -> _Way | None:
    lead = next(
        (d for c in note.callouts if (d := by_balloon.get(c.balloon)) is not None and (d.lengths or d.tips)), None
    )
    if lead is None:
        return None
    side, first = seen.view.side, note.callouts[0]
    if len(note.callouts) == 1 and first.role in ALONG and lead.lengths:
        length = next((x for x in lead.lengths if x.side == side), None)
        if length is None:
            return None
        return _Way(_hidden_ends(lead, length, seen.view, seen.middle), length, ())
    costs = seen.of(lead.balloon, first.kind)
    if not costs:
        return None
    best = min(c for c, _ in costs)
    beside = [min(c for c, _ in own) for c in note.callouts if (own := seen.of(c.balloon, c.kind))]
    # a pattern of holes is seen end on
    many = PLAINER if first.count > 1 and all(t.inner and t.form == "outline" for _, t in costs) else 0.0
    corners = lead.corners if first.role == "angle" else ()
    here = tuple(c for c in corners if c.side == side)
    if corners and not here:
        many += HIDDEN  # it opens in another side
    return _Way(many + sum(beside) / len(beside), None, tuple(t for c, t in costs if c < best + PLAINER / 2), here)


def _cut_open(tip: Tip, view: Wanted, middle: Place) -> bool:
    """Whether the part is cut where a place lies."""
    if view.cut is None or not view.half:
        return view.cut is not None
    x, y = tip.place
    return y < middle[1] + THROUGH if view.half == "low" else x > middle[0] - THROUGH


def _behind(tip: Tip, view: Wanted, middle: Place) -> float | None:
    """What it costs that a place lies behind material; None where it was cut away, or no hidden lines are drawn."""
    if not _cut_open(tip, view, middle):
        if tip.seen or (tip.inner and tip.form == "outline" and not view.half):
            return 0.0
        return None if view.half else HIDDEN
    assert view.cut is not None
    low, high = tip.levels
    if low > view.cut + THROUGH:
        return None
    return 0.0 if tip.seen or high > view.cut - THROUGH else HIDDEN / 2


def _hidden_ends(lead: Drawn, length: Length, view: Wanted, middle: Place) -> float:
    """A length to a hidden face is better shown where that is seen or cut through; and hardly where it was cut away."""
    for low, high in (e.hidden for e in (length.start, length.end) if e.hidden is not None):
        if view.cut is None or high < view.cut - THROUGH:
            return PLAINER
        if low > view.cut + THROUGH:
            return HIDDEN
    here = [_behind(t, view, middle) if t.seen or view.cut is not None else HIDDEN
            for t in lead.tips if t.side == view.side]  # fmt: skip
    if not here or 0.0 in here:
        return 0.0
    return HIDDEN if all(cost is None for cost in here) else PLAINER


#: forms in which a face shows what it is: (kind of callout, surface, form)
TRUE = frozenset(
    {
        ("radius", "torus", "outline"), ("radius", "sphere", "outline"), ("radius", "cylinder", "rim"),
        ("chamfer", "cone", "outline"), ("chamfer", "plane", "edge"), ("angle", "cone", "outline"),
        ("angle", "plane", "edge"), ("taper", "cone", "outline"), ("length", "plane", "edge"),
    }
)  # fmt: skip


def _plainness(tip: Tip, cut: bool, kind: str) -> float:
    """What it costs that a place does not show a callout of a kind as what it is."""
    if kind in ("diameter", "depth"):
        if tip.form == "rim":
            return 0.0 if tip.inner else PLAINER
        return 1.5 * PLAINER if tip.inner and not cut else 0.0
    whole = tip.arc is not None and tip.arc.whole
    return 0.0 if (kind, tip.surface, tip.form) in TRUE and not whole else 1.5 * PLAINER
