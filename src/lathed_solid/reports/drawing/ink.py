"""A sheet as what is laid on paper: strokes by pen, arrows, lettering. What every writer draws."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from lathed_solid.kernel.drawing.figures import Place, Run
from lathed_solid.reports.drawing.hatching import hatch
from lathed_solid.reports.drawing.meeting import gapped
from lathed_solid.reports.drawing.model import ARROW, Box, Dimension, DrawnSheet, Leader, Stroke, Words

#: half the width of an arrow, as a share of its length
SLIM = 0.17


@dataclass(frozen=True, slots=True)
class Arrow:
    """A filled arrow: its point, and the two corners behind."""

    tip: Place
    left: Place
    right: Place


def arrow(tip: Place, from_: Place) -> Arrow:
    """An arrow that comes from a place and ends at ``tip``."""
    d = math.dist(tip, from_) or 1.0
    ux, uy = (from_[0] - tip[0]) / d * ARROW, (from_[1] - tip[1]) / d * ARROW
    back = (tip[0] + ux, tip[1] + uy)
    return Arrow(tip, (back[0] - SLIM * uy, back[1] + SLIM * ux), (back[0] + SLIM * uy, back[1] - SLIM * ux))


def strokes(sheet: DrawnSheet) -> Iterator[Stroke]:
    """All lines, those of dimensions and notes broken where they would run through lettering."""
    yield from sheet.strokes
    for a, b in hatch(sheet.hatched):
        yield Stroke(Run((a, b)), "hatch")
    boxes = [d.words.box for d in sheet.dimensions] + [w.box for n in sheet.leaders for w in n.words]
    yield from (Stroke(b.ring, "thin") for b in sheet.balloons)
    for d in sheet.dimensions:
        yield from (Stroke(Run(piece), "thin") for piece in d.pieces)
        for witness in d.witnesses:
            yield from (Stroke(Run(piece), "thin") for piece in gapped(witness, boxes))
    for n in sheet.leaders:
        yield from of_leader(n, boxes)


def of_leader(n: Leader, boxes: Sequence[Box] = ()) -> Iterator[Stroke]:
    """A note's own lines, its witness lines broken at lettering."""
    if n.runs:
        yield Stroke(Run(n.runs), "thin")
    if n.opening is not None:
        yield Stroke(n.opening.drawn, "thin")
        for witness in n.opening.witnesses:
            yield from (Stroke(Run(piece), "thin") for piece in gapped(witness, boxes))


def arrows(sheet: DrawnSheet) -> Iterator[Arrow]:
    """The arrows of dimensions and notes, and of what else points."""
    yield from (arrow(tip, back) for tip, back in sheet.pointers)
    for d in sheet.dimensions:
        yield from _both(d)
    for n in sheet.leaders:
        yield from arrows_of(n)


def arrows_of(n: Leader) -> Iterator[Arrow]:
    """The arrow at a note's tip, or both at an angle's ends."""
    if n.opening is None:
        yield arrow(n.tip, n.elbow)
        return
    arc = n.opening.arc
    back = ARROW / arc.radius * (-1.0 if n.opening.outside else 1.0)
    yield arrow(arc.at(arc.start), arc.at(arc.start + back))
    yield arrow(arc.at(arc.end), arc.at(arc.end - back))


def _both(d: Dimension) -> Iterator[Arrow]:
    low, high = d.span
    way = -1.0 if d.outside else 1.0
    yield arrow(d.placed(low, d.row), d.placed(low + way, d.row))
    yield arrow(d.placed(high, d.row), d.placed(high - way, d.row))


def lettering(sheet: DrawnSheet) -> Iterator[Words]:
    """All lettering."""
    yield from (d.words for d in sheet.dimensions)
    yield from (w for n in sheet.leaders for w in n.words)
    yield from (b.words for b in sheet.balloons)
    yield from sheet.words


def of_note(leader: Leader) -> str:
    """The whole text of a note."""
    return " ".join(w.text for w in leader.words)
