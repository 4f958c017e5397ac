"""Notes on leaders around a view: each at the free place that its leader reaches shortest and crosses least.

Places stand in columns beside the view and in lines above and below it, outside all dimension rows that they would lie
on. What a place costs: the length of the leader, lines crossed, lettering passed through, growth of the view. Notes are
placed one after the other from the inside out; those that a later one runs through are placed again.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.kernel.drawing.figures import Arc, Place
from lathed_solid.reports.drawing.lettering import width_of
from lathed_solid.reports.drawing.meeting import boxes_of, crossing, inside, over_boxes, through_boxes
from lathed_solid.reports.drawing.model import BELOW, CAPITALS, LEADING, Box, Leader, Words

#: lengths of a shelf, room between it and the lettering, room about a note, mm
SHELF, GAP, ROOM = 3.0, 0.8, 1.2
#: how far off the view notes stand, and farther where that is dear; steps between their places
AWAY, STEP_ALONG, STEP_ACROSS = ((7.0, 13.0, 20.0, 28.0), (37.0, 47.0, 58.0)), 5.0, 4.0
#: what costs how much: a crossing, lettering or lines beneath, a leader nearly along an axis, a mm away from the view,
#: a mm across it, an edge of the part crossed
CROSSED, OVER, FLAT, FAR, INSIDE, EDGE = 12.0, 1000.0, 24.0, 0.5, 0.3, 6.0
#: rounds of placing; tips of a note that are tried; places that are looked at closely, and together first
ROUNDS, TIPS, LIKELY, AT_ONCE = 3, 8, 96, 32
#: the cheapest places, which are looked at before the others; most places along a side
FIRST, MOST = 300, 60
#: a leader that leans less than this from an axis could be taken for a dimension line, rad
LEAN = math.radians(12)


@dataclass(frozen=True)
class Wanting:
    """A note to be placed: its lines, where its leader may end, on paper; ``pad``: room for a balloon before it."""

    balloons: tuple[int, ...]
    lines: tuple[str, ...]
    tips: tuple[Place, ...]
    arcs: tuple[Arc | None, ...]
    pad: float = 0.0

    @property
    def width(self) -> float:
        """Of its widest line, mm."""
        return self.pad + max(map(width_of, self.lines))

    @property
    def height(self) -> float:
        """Of all its lines, mm."""
        return (1 + BELOW + LEADING * (len(self.lines) - 1)) * CAPITALS


@dataclass(frozen=True)
class _Set:
    """A note at a place: its box, where its leader runs."""

    box: Box
    tip: Place
    elbow: Place
    shelf: Place

    @property
    def room(self) -> Box:
        """Its box with the shelf."""
        return (min(self.box[0], self.elbow[0]), self.box[1], max(self.box[2], self.elbow[0]), self.box[3])

    @property
    def runs(self) -> Any:
        """Its leader and its shelf (2, 4)."""
        return np.array([(*self.tip, *self.elbow), (*self.elbow, *self.shelf)])


def led(view: str, notes: Sequence[Wanting], box: Box, texts: Sequence[Box], lines: Any, outline: Any) -> list[Leader]:
    """Leaders of all notes about a view's ``box``; ``texts`` and ``lines`` (n, 4) of its dimensions are in the way, and
    the part's own ``outline`` (m, 4).
    """
    order = sorted(range(len(notes)), key=lambda k: _off_middle(notes[k], box))
    if not notes:
        return []
    stands = [_Round(note, box, near) for note, near in zip(notes, _stands(notes, box, AWAY[0]), strict=True)]
    placed: dict[int, _Set] = {}
    for round_ in range(ROUNDS):
        moved = False
        for k in order:
            others = [s for j, s in placed.items() if j != k]
            if round_ and not _meets(placed[k], others):
                continue
            found = _best(stands[k], [*texts, *(s.room for s in others)], _with(lines, others), outline)
            moved = moved or k not in placed or found.box != placed[k].box
            placed[k] = found
        if not moved:
            break
    return [_leader(view, notes[k], placed[k]) for k in sorted(placed)]


def _off_middle(note: Wanting, box: Box) -> float:
    x, y = note.tips[0]
    return math.hypot(x - (box[0] + box[2]) / 2, y - (box[1] + box[3]) / 2)


def _with(lines: Any, others: Sequence[_Set]) -> Any:
    return np.concatenate([lines, *(s.runs for s in others)])


def _meets(own: _Set, others: Sequence[_Set]) -> bool:
    """Whether a note lies over others, or a leader runs through the other's lettering."""
    if not others:
        return False
    rooms, theirs = boxes_of([own.room]), boxes_of(s.room for s in others)
    lines = np.concatenate([s.runs for s in others])
    return bool(
        over_boxes(rooms, theirs).any() or through_boxes(own.runs, theirs).any() or through_boxes(lines, rooms).any()
    )


def _places(note: Wanting, box: Box, far: Sequence[float]) -> Any:
    """Lower left corners (n, 2) of the note's room, and whether its leader comes from the left (n,)."""
    left, low, right, high = box
    w, h = note.width, note.height
    ups = np.arange(low - 25, high + 25, max(STEP_ACROSS, (high - low) / MOST))
    overs = np.arange(left - 0.5 * w - 20, right + 20, max(STEP_ALONG, (right - left) / MOST))
    out = []
    for away in far:
        beside = np.empty((len(ups), 2, 3))
        beside[:, :, 0], beside[:, :, 1], beside[:, :, 2] = (right + away, left - away - w), ups[:, None], (1, 0)
        over = np.empty((len(overs), 2, 2, 3))
        over[..., 0], over[..., 1] = overs[:, None, None], (high + away, low - away - h)
        over[..., 2] = np.array([1, 0])[:, None]
        out += [beside.reshape(-1, 3), over.reshape(-1, 3)]
    return np.concatenate(out)


@dataclass(frozen=True)
class _Stands:
    """Places (n,) of a note, from the cheapest by what needs only the place: its box, that with its shelf, its leader
    (tip, elbow) and its shelf as segments, the cost.
    """

    boxes: Any
    rooms: Any
    leaders: Any
    shelves: Any
    cost: Any


def _stands(notes: Sequence[Wanting], view: Box, far: Sequence[float]) -> list[_Stands]:
    """Of each note all places about a view, ``far`` off it, mm. They are weighed together: most of what that takes is
    not for their number.
    """
    each = [_places(note, view, far) for note in notes]
    counts = [len(own) for own in each]
    places = np.concatenate(each)
    w, h = (np.repeat(sizes, counts) for sizes in ([n.width for n in notes], [n.height for n in notes]))
    from_left = places[:, 2] > 0.5
    x, y = places[:, 0], places[:, 1]
    before, behind = np.where(from_left, SHELF + GAP, 0.0), np.where(from_left, 0.0, SHELF + GAP)
    rooms = np.column_stack([x - before - ROOM, y - ROOM, x + w + behind + ROOM, y + h + ROOM])
    first = y + h - CAPITALS * 0.6
    shelf = np.where(from_left, x - GAP, x + w + GAP)
    elbows = np.column_stack([np.where(from_left, shelf - SHELF, shelf + SHELF), first])
    ends = np.cumsum(counts)[:-1]
    tips = np.concatenate([_tips(note, own) for note, own in zip(notes, np.split(elbows, ends), strict=True)])
    d = elbows - tips
    run, rise = np.abs(d.T)
    flat = (rise < math.tan(LEAN) * run) | (run < math.tan(LEAN) * rise)
    backwards = np.where(from_left, d[:, 0] < 0, d[:, 0] > 0)
    reach = np.maximum.reduce([view[0] - rooms[:, 0], rooms[:, 2] - view[2], view[1] - rooms[:, 1],
                               rooms[:, 3] - view[3]])  # fmt: skip
    leaders = np.column_stack([tips, elbows])
    cost = np.hypot(run, rise) + FLAT * flat + FLAT * backwards + FAR * np.maximum(reach, 0.0)
    cost += OVER * over_boxes(rooms, boxes_of([view])) + INSIDE * _within(leaders, view)
    made = (np.column_stack([x, y, x + w, y + h]), rooms, leaders, np.column_stack([elbows, shelf, first]), cost)
    out = []
    for start, count in zip([0, *ends], counts, strict=True):
        order = start + np.argsort(cost[start : start + count], kind="stable")
        out.append(_Stands(*(a[order] for a in made)))
    return out


class _Round:
    """All places of a note about a view; those farther off are worked out when the near ones are dearer."""

    def __init__(self, note: Wanting, view: Box, near: _Stands) -> None:
        self._note, self._view = note, view
        self._known = {0: near}

    def at(self, k: int) -> _Stands:
        """Those of the k-th distance."""
        if k not in self._known:
            (self._known[k],) = _stands([self._note], self._view, AWAY[k])
        return self._known[k]

    def least(self, k: int) -> float:
        """No place so far off is cheaper: by how the view grows, and the leader to the view's side and within it."""
        away, note, (left, low, right, high) = AWAY[k][0], self._note, self._view
        deep = math.inf  # how far within the view leaders end at least, below zero where they may end beyond it
        for (x, y), arc in zip(note.tips, note.arcs, strict=True):
            r = 0.0 if arc is None else arc.radius
            x, y = (x, y) if arc is None else arc.centre
            deep = min(deep, min(x - left, right - x, y - low, high - y) - r)
        within = (1 + INSIDE) * deep if deep > 0 else deep
        return FAR * (away + min(note.width, note.height) + ROOM) + away - SHELF - GAP + within


def _best(places: _Round, texts: Sequence[Box], lines: Any, outline: Any) -> _Set:
    """The cheapest place. What lies in the way only adds to a cost: dearer places than the best are not looked at."""
    blocked, drawn = boxes_of(texts), np.concatenate([lines, outline])
    costs = np.repeat((CROSSED, EDGE), (len(lines), len(outline)))
    best, found = math.inf, None
    for far, near in itertools.product(range(len(AWAY)), (slice(0, FIRST), slice(FIRST, None))):
        if far and places.least(far) >= best:
            break
        at = places.at(far)
        if len(at.cost[near]) == 0 or at.cost[near][0] >= best:
            continue
        least = at.cost[near] + OVER * over_boxes(at.rooms[near], blocked)
        order = np.argsort(least, kind="stable")[:LIKELY]
        tried, size = 0, AT_ONCE
        while tried < len(order) and least[order[tried]] < best:
            here = order[tried : tried + size] + near.start
            cost = least[here - near.start] + _in_the_way(at, here, blocked, lines, drawn, costs)
            cheapest = int(np.argmin(cost))
            if cost[cheapest] < best:
                best, found = float(cost[cheapest]), (at, int(here[cheapest]))
            tried, size = tried + size, 2 * size
    assert found is not None  # there are always places near it
    at, k = found
    left, low, right, high = map(float, at.boxes[k])
    tip_x, tip_y, elbow_x, elbow_y = map(float, at.leaders[k])
    x, y = map(float, at.shelves[k, 2:])
    return _Set((left, low, right, high), (tip_x, tip_y), (elbow_x, elbow_y), (x, y))


def _in_the_way(at: _Stands, here: Any, blocked: Any, lines: Any, drawn: Any, costs: Any) -> Any:
    """What it costs that lines run through a note, and its leader through notes and all that is ``drawn`` (m, 4), each
    crossing at its own ``costs`` (m,): (n,). What lies in a shelf's way lies in its note's room.
    """
    own = at.leaders[here]
    over = through_boxes(own, blocked).sum(axis=1) + through_boxes(lines, at.rooms[here]).sum(axis=0)
    return OVER * over + crossing(own, drawn) @ costs


def _within(lines: Any, box: Box) -> Any:
    """How much of each line (n, 4) lies within a box, mm (n,)."""
    near, far = inside(lines, boxes_of([box]))
    return np.maximum(far - near, 0.0)[:, 0] * np.hypot(lines[:, 2] - lines[:, 0], lines[:, 3] - lines[:, 1])


def _tips(note: Wanting, elbows: Any) -> Any:
    """Of each place's leader the nearest end (n, 2): on a circle where it points to the centre. A point is a circle of
    no size.
    """
    both = list(zip(note.tips, note.arcs, strict=True))[:TIPS]
    whole = [(tip, 0.0) if arc is None else (arc.centre, arc.radius) for tip, arc in both if arc is None or arc.whole]
    every = np.arange(len(elbows))
    found = []
    if whole:
        centres, radii = np.array([c for c, _ in whole]), np.array([r for _, r in whole])
        away = elbows[None] - centres[:, None]
        far = np.hypot(away[..., 0], away[..., 1])
        near = np.abs(far - radii[:, None]).argmin(axis=0)
        found.append(centres[near] + away[near, every] * (radii[near] / far[near, every])[:, None])
    found += [_on_arc(arc, elbows) for _, arc in both if arc is not None and not arc.whole]
    if len(found) == 1:
        return found[0]
    all_of_them = np.stack(found)
    near = np.hypot(*(all_of_them - elbows[None]).transpose(2, 0, 1)).argmin(axis=0)
    return all_of_them[near, every]


def _on_arc(arc: Arc, elbows: Any) -> Any:
    """Where each leader ends on a part of a circle (n, 2), not near its ends."""
    away = elbows - np.array(arc.centre)
    angle = np.arctan2(away[:, 1], away[:, 0])
    middle = (arc.start + arc.end) / 2
    off = (angle - middle + math.pi) % (2 * math.pi) - math.pi
    half = 0.8 * (arc.end - arc.start) / 2
    angle = middle + np.clip(off, -half, half)
    return np.array(arc.centre) + arc.radius * np.column_stack([np.cos(angle), np.sin(angle)])


def _leader(view: str, note: Wanting, at: _Set) -> Leader:
    left, _, _, high = at.box
    words = tuple(
        Words(line, (left + note.pad, high - CAPITALS * (1.1 + LEADING * k)), width_of(line))
        for k, line in enumerate(note.lines)
    )
    return Leader(note.balloons, view, at.tip, at.elbow, at.shelf, words)
