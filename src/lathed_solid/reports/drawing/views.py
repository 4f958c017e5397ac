"""One view with all that stands about it, on paper about its own origin: dimension rows, then notes."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from lathed_solid.kernel.drawing.figures import Arc, End, Place, Projected, Run, points_of
from lathed_solid.reports.drawing.choosing import Shown
from lathed_solid.reports.drawing.cuts import BESIDE, CutLine, Marks, headed, marked, ringed
from lathed_solid.reports.drawing.details import Detail
from lathed_solid.reports.drawing.lettering import lines_of, width_of
from lathed_solid.reports.drawing.meeting import ruled, segments_of
from lathed_solid.reports.drawing.model import (
    BELOW,
    CAPITALS,
    Box,
    Dimension,
    Leader,
    Pen,
    Pointer,
    Stroke,
    Words,
    shifted,
)
from lathed_solid.reports.drawing.notes import Wanting, led
from lathed_solid.reports.drawing.openings import Open, opened
from lathed_solid.reports.drawing.rows import LIFT, Along, Placed, in_rows

#: how far axes go beyond the part, and the arms of a centre cross beyond its circle, mm of paper
BEYOND, ARM = 3.5, 2.0
#: no note stands nearer to the end of a dimension line at its level, mm
ALONE = 15.0
#: a circle smaller than this has a cross of lines without dots
SMALL = 4.0
#: chords of arcs that leaders are kept from, mm of paper; more segments than this are not looked at
CHORD, MANY = 0.3, 1500
#: tips nearer than this are one, mm of paper
SAME = 0.3


@dataclass(frozen=True)
class Viewed:
    """What a view shows beside the part's ``side``: ``cuts`` and ``details`` of it that are drawn elsewhere, or the
    ``detail`` that it is itself; the ``title`` above it.
    """

    side: Projected
    cuts: Sequence[CutLine] = ()
    details: Sequence[Detail] = ()
    detail: Detail | None = None
    title: str = ""


@dataclass(frozen=True)
class Arranged:
    """A view at the origin; ``box`` of the part alone, ``room`` of everything; ``larger`` than the sheet's scale."""

    side: Projected
    box: Box
    room: Box
    strokes: tuple[Stroke, ...]
    hatched: tuple[tuple[Place, ...], ...]
    dimensions: tuple[Dimension, ...]
    leaders: tuple[Leader, ...]
    words: tuple[Words, ...] = ()
    pointers: tuple[Pointer, ...] = ()
    title: str = ""
    detail: Detail | None = None
    larger: float = 1.0

    @property
    def name(self) -> str:
        """By which it is moved."""
        return self.side.side if self.detail is None else self.detail.name


def scaled(box: Box, scale: float) -> Box:
    """A box of the part on paper."""
    return box[0] * scale, box[1] * scale, box[2] * scale, box[3] * scale


def in_rows_only(viewed: Viewed, shown: Sequence[Shown], scale: float, pad: float = 0.0) -> Arranged:
    """A view with its dimensions at the sheet's scale, its notes not placed yet; ``pad``: room for a balloon before
    each.
    """
    side, detail = viewed.side, viewed.detail
    larger = 1.0 if detail is None else detail.scale / scale
    scale *= larger
    box = scaled(side.box, scale)
    marks = marked(viewed.cuts, box, scale)
    if detail is not None:
        (x, y), r = detail.centre, detail.radius
        box = scaled((x - r, y - r, x + r, y + r), scale)
        marks = Marks((Stroke(shifted_arc(Arc(detail.centre, r), scale), "thin"),))
    beside = [BESIDE if any(c.upright == upright for c in viewed.cuts) else 0.0 for upright in (False, True)]
    wide = (box[0] - beside[0], box[1] - beside[1], box[2] + beside[0], box[3] + beside[1])
    found = _dimensions([s for s in shown if s.length is not None], wide, scale, pad)
    name = side.side if detail is None else detail.name
    dimensions = tuple(replace(d, view=name, larger=larger) for d in found)
    texts = [b for d in dimensions for b in (d.words.box, _beside(d))]
    rings = ringed([(d.letter, shifted_arc(Arc(d.centre, d.radius), scale)) for d in viewed.details], texts,
                   _lines_of(dimensions, marks.pointers))  # fmt: skip
    circles = [Stroke(shifted_arc(a, scale), "axis") for s in shown for a in s.circles]
    strokes = (*_strokes(side, scale), *circles, *marks.strokes, *rings.strokes)
    hatched = tuple(tuple((x * scale, y * scale) for x, y in run) for run in side.hatched)
    words = (*marks.words, *rings.words)
    view = Arranged(side, box, box, strokes, hatched, dimensions, (), words, marks.pointers, viewed.title, detail,
                    larger)  # fmt: skip
    return replace(view, room=_room(view))


def with_notes(view: Arranged, shown: Sequence[Shown], scale: float, pad: float = 0.0) -> Arranged:
    """The same with its notes on leaders."""
    scale *= view.larger
    box, dimensions = view.box, view.dimensions
    texts = [*(b for d in dimensions for b in (d.words.box, _beside(d))), *(w.box for w in view.words)]
    lines = _lines_of(dimensions, view.pointers)
    noted = [s for s in shown if s.length is None]
    outline = _outline(view.strokes)
    part = _segments(view.strokes if any(s.corners for s in noted) else ())
    angles: list[Leader] = []
    others = []
    for s in noted:
        wanted = Open(s.balloons, s.note.text, tuple(c.scaled(scale) for c in s.corners), pad)
        found = opened(view.name, wanted, texts, lines, part)
        if found is None:
            others.append(_wanting(s, scale, pad))
            continue
        angles.append(found)
        texts = [*texts, *(w.box for w in found.words)]
        lines = np.vstack([lines, segments_of(ruled(found))])
    leaders = [*angles, *led(view.name, others, box, texts, lines, outline)]
    view = replace(view, leaders=tuple(leaders))
    room = _room(view)
    if not view.title:
        return replace(view, room=room)
    head = headed(view.title, box, room)
    left, _, right, high = head.box
    room = (min(room[0], left), room[1], max(room[2], right), high)
    return replace(view, room=room, words=(*view.words, head))


def _lines_of(dimensions: Sequence[Dimension], pointers: Sequence[Pointer]) -> Any:
    """Lines that are in the way of notes, as segments (n, 4)."""
    return segments_of([*(d.line for d in dimensions), *(w for d in dimensions for w in d.witnesses), *pointers])


def _outline(strokes: Sequence[Stroke]) -> Any:
    """What is seen of the part as segments (n, 4); none where that is too many."""
    found = _segments(s for s in strokes if s.pen == "seen")
    return found if len(found) < MANY else found[:0]


def _segments(strokes: Iterable[Stroke]) -> Any:
    return segments_of(pair for s in strokes for pair in itertools.pairwise(points_of(s.curve, CHORD)))


def _beside(d: Dimension) -> Box:
    """The room of a dimension line: a note that stood at its level could be taken for its number."""
    (ax, ay), (bx, by) = d.line
    u, v = (CAPITALS, ALONE) if d.upright else (ALONE, CAPITALS)
    return ax - u, ay - v, bx + u, by + v


def _dimensions(shown: Sequence[Shown], wide: Box, scale: float, pad: float) -> list[Dimension]:
    """All lengths in rows beside ``wide``."""
    out = []
    for upright in (False, True):
        low, high = (wide[0], wide[2]) if upright else (wide[1], wide[3])
        here = [(k, s) for k, s in enumerate(shown) if s.length is not None and s.length.upright == upright]
        placed = in_rows([_along(k, s, scale, pad) for k, s in here], low, high)
        out += [_dimension(p, shown[p.length.key], upright, low, high, pad) for p in placed]
    return out


def _along(key: int, s: Shown, scale: float, pad: float) -> Along:
    assert s.length is not None
    a, b = s.length.start, s.length.end

    def reach(e: End) -> tuple[float, float]:
        return e.low * scale, e.high * scale

    return Along(key, a.at * scale, b.at * scale, reach(a), reach(b), pad + width_of(s.note.text))


def _dimension(p: Placed, s: Shown, upright: bool, low: float, high: float, pad: float) -> Dimension:
    level, it = p.level(low, high), p.length
    # a place that reaches beyond the part's outline is left at its end
    near = [e[0] if p.side < 0 else e[1] for e in (it.starts, it.ends)]
    begin = p.number + pad
    at = (begin, level + LIFT) if not upright else (level - LIFT, begin)
    words = Words(s.note.text, at, it.width - pad, CAPITALS, upright)
    ends = [(u, v) if not upright else (v, u) for u, v in ((it.start, near[0]), (it.end, near[1]))]
    return Dimension(s.balloons, s.side, ends[0], ends[1], level, upright, words, it.narrow)


def _wanting(s: Shown, scale: float, pad: float) -> Wanting:
    tips: list[Place] = []
    arcs: list[Arc | None] = []
    for t in s.tips:
        place = (t.place[0] * scale, t.place[1] * scale)
        if any(math.dist(place, o) < SAME for o in tips):
            continue
        tips.append(place)
        arcs.append(None if t.arc is None else shifted_arc(t.arc, scale))
    return Wanting(s.balloons, lines_of(s.note.text), tuple(tips), tuple(arcs), pad)


def shifted_arc(arc: Arc, scale: float) -> Arc:
    """An arc on paper about the view's origin."""
    return replace(arc, centre=(arc.centre[0] * scale, arc.centre[1] * scale), radius=arc.radius * scale)


def _strokes(side: Projected, scale: float) -> list[Stroke]:
    zero = (0.0, 0.0)
    out = [Stroke(shifted(c, scale, zero), "seen") for c in side.seen]
    if side.cut is None:  # what a cut shows needs no hidden lines
        out += [Stroke(shifted(c, scale, zero), "hidden") for c in side.hidden]
    for thread in side.threads:
        pen: Pen = "thin" if not thread.inside or side.cut is not None else "hidden"
        out.append(Stroke(shifted(thread.curve, scale, zero), pen))
    for run in side.axes:
        (ax, ay), (bx, by) = shifted(run, scale, zero).points  # type: ignore[union-attr]
        size = math.dist((ax, ay), (bx, by)) or 1.0
        dx, dy = BEYOND * (bx - ax) / size, BEYOND * (by - ay) / size
        out.append(Stroke(Run(((ax - dx, ay - dy), (bx + dx, by + dy))), "axis"))
    for arc in side.crosses:
        x, y = arc.centre[0] * scale, arc.centre[1] * scale
        reach = arc.radius * scale + ARM
        arms: Pen = "thin" if reach < SMALL + ARM else "axis"
        out += [
            Stroke(Run(((x - reach, y), (x + reach, y))), arms),
            Stroke(Run(((x, y - reach), (x, y + reach))), arms),
        ]
    return out


def _room(view: Arranged) -> Box:
    """All that a view and what stands about it take."""
    box, dimensions, leaders = view.box, view.dimensions, view.leaders
    # axes and centre crosses go beyond the part
    wide = (box[0] - BEYOND, box[1] - BEYOND, box[2] + BEYOND, box[3] + BEYOND)
    boxes = [wide, *(d.words.box for d in dimensions), *(w.box for n in leaders for w in n.words)]
    boxes += [w.box for w in view.words]
    points = [p for d in dimensions for p in (*d.line, *(q for w in d.witnesses for q in w))]
    points += [p for n in leaders for segment in ruled(n) for p in segment]
    a = np.array([*((b[0], b[1]) for b in boxes), *((b[2], b[3]) for b in boxes), *points])
    low, high = a.min(axis=0) - BELOW, a.max(axis=0) + BELOW
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])
