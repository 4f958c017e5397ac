"""Which sides of the part are drawn, and in which of them each note shows.

Every note has a cost in every side: nothing where it is seen true and best (a hole end on, a shaft from aside), more
where it is hidden or less plain, most where it cannot be shown. Sides are taken as long as one more saves more than
it costs; the front is always there. A turned part that is hollow along its axis is cut through it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from lathed_solid.kernel.drawing.figures import Arc, Corner, Drawn, Length, SideName, Stood, Tip, Wanted
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.ledger import Note
from lathed_solid.reports.drawing.model import LeftOut

#: what a note costs that a side cannot show, that is hidden there, that shows less plainly; what a side more costs
NOWHERE, HIDDEN, PLAINER, SIDE = 10.0, 3.0, 1.0, 1.8
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
    """The sides to draw, the front first; each note in its side; what is drawn nowhere."""

    sides: tuple[Wanted, ...]
    shown: tuple[Shown, ...]
    left_out: tuple[LeftOut, ...]


@dataclass(frozen=True)
class _Way:
    cost: float
    length: Length | None
    tips: tuple[Tip, ...]
    corners: tuple[Corner, ...] = ()


def chosen(notes: Iterable[Note], callouts: Sequence[Drawn], stood: Stood) -> Chosen:
    """Sides, and what stands in each."""
    by_balloon = {d.balloon: d for d in callouts}
    ways: list[tuple[Note, tuple[int, ...], dict[SideName, _Way]]] = []
    left_out = []
    cut = _cut_side(stood)
    for note in notes:
        balloons = tuple(c.balloon for c in note.callouts)
        found = {s: w for s in ORDER if (w := _way(note, by_balloon, s, s == cut)) is not None}
        if found:
            ways.append((note, balloons, found))
        else:
            why = next((d.reason for b in balloons if (d := by_balloon.get(b)) is not None and d.reason), "")
            left_out.append(LeftOut(balloons, note.text, why or "no view shows it as a length or an outline"))
    sides = _sides([w for _, _, w in ways], cut or "front")
    shown = []
    for note, balloons, found in ways:
        best = min((s for s in sides if s in found), key=lambda s: found[s].cost, default=None)
        if best is None:
            left_out.append(LeftOut(balloons, note.text, "no drawn view shows it"))
        else:
            circles = {a for b in balloons if (d := by_balloon.get(b)) is not None for s, a in d.circles if s == best}
            way = found[best]
            shown.append(Shown(note, balloons, best, way.length, way.tips, tuple(circles), way.corners))
    return Chosen(
        tuple(Wanted(s, _level(stood, s) if s == cut else None) for s in sides), tuple(shown), tuple(left_out)
    )


def _cut_side(stood: Stood) -> SideName | None:
    """The side that is cut: a hollow turned part's front, or its top where its axis runs to the eye in front."""
    if not stood.bored or stood.axis is None:
        return None
    return "top" if abs(stood.axis[1]) > 0.5 else "front"


def _level(stood: Stood, side: SideName) -> float:
    """The middle of the part towards the eye of a side."""
    middle = [(a + b) / 2 for a, b in zip(stood.low, stood.high, strict=True)]
    return sum(m * e for m, e in zip(middle, FLATS[side].eye, strict=True))


def _sides(ways: Sequence[dict[SideName, _Way]], first: SideName) -> list[SideName]:
    def cost(sides: Sequence[SideName]) -> float:
        return sum(min((w[s].cost for s in sides if s in w), default=NOWHERE) for w in ways) + SIDE * len(sides)

    taken = [first]
    while True:
        best = min((s for s in ORDER if s not in taken), key=lambda s: cost([*taken, s]), default=None)
        if best is None or cost([*taken, best]) >= cost(taken):
            return taken
        taken.append(best)


def _way(note: Note, by_balloon: dict[int, Drawn], side: SideName, cut: bool) -> _Way | None:
    lead = next(
        (d for c in note.callouts if (d := by_balloon.get(c.balloon)) is not None and (d.lengths or d.tips)), None
    )
    if lead is None:
        return None
    if len(note.callouts) == 1 and note.callouts[0].role in ALONG and lead.lengths:
        length = next((x for x in lead.lengths if x.side == side), None)
        if length is None:
            return None
        return _Way(_hidden_ends(lead, side), length, ())
    costs = [(_tip_cost(t, cut, note.callouts[0].kind), t) for t in lead.tips if t.side == side]
    if not costs:
        return None
    best = min(c for c, _ in costs)
    beside = [
        min(_tip_cost(t, cut, c.kind) for t in d.tips if t.side == side)
        for c in note.callouts if (d := by_balloon.get(c.balloon)) is not None and any(t.side == side for t in d.tips)
    ]  # fmt: skip
    # a pattern of holes is seen end on
    many = PLAINER if note.callouts[0].count > 1 and all(t.inner and t.form == "outline" for _, t in costs) else 0.0
    corners = lead.corners if note.callouts[0].role == "angle" else ()
    here = tuple(c for c in corners if c.side == side)
    if corners and not here:
        many += HIDDEN  # it opens in another side
    return _Way(many + sum(beside) / len(beside), None, tuple(t for c, t in costs if c < best + PLAINER / 2), here)


def _hidden_ends(lead: Drawn, side: SideName) -> float:
    """A length between hidden faces is better shown where one of them is seen."""
    here = [t.seen for t in lead.tips if t.side == side]
    return 0.0 if not here or any(here) else PLAINER / 2


#: forms in which a face shows what it is: (kind of callout, surface, form)
TRUE = frozenset(
    {
        ("radius", "torus", "outline"), ("radius", "sphere", "outline"), ("radius", "cylinder", "rim"),
        ("chamfer", "cone", "outline"), ("chamfer", "plane", "edge"), ("angle", "cone", "outline"),
        ("angle", "plane", "edge"), ("taper", "cone", "outline"), ("length", "plane", "edge"),
    }
)  # fmt: skip


def _tip_cost(tip: Tip, cut: bool, kind: str) -> float:
    """What it costs to show a callout of a kind by a leader to a place."""
    hidden = 0.0 if tip.seen or cut or (tip.inner and tip.form == "outline") else HIDDEN
    if kind in ("diameter", "depth"):
        if tip.form == "rim":
            return hidden + (0.0 if tip.inner else PLAINER)
        return hidden + (1.5 * PLAINER if tip.inner and not cut else 0.0)
    whole = tip.arc is not None and tip.arc.whole
    return hidden + (0.0 if (kind, tip.surface, tip.form) in TRUE and not whole else 1.5 * PLAINER)
