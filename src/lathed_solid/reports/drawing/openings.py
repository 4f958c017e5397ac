"""Angles between arrows: where about its apex an angle's arc lies, and its number beyond it.

An arc may lie at any distance from the apex, and its number anywhere along it. That place is taken at which the number
lies over no line and no lettering, the arc crosses the part least, and its witness lines, which go on where its legs do
not reach it, are shortest; where there is none, the angle is led to as other notes are.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.kernel.drawing.figures import Arc, Corner, Place
from lathed_solid.reports.drawing.lettering import width_of
from lathed_solid.reports.drawing.meeting import CHORDS, boxes_of, crossing, over_boxes, segments_of, through_boxes
from lathed_solid.reports.drawing.model import (
    ARROW,
    BELOW,
    CAPITALS,
    OFF,
    PAST,
    Box,
    Leader,
    Opening,
    Words,
)  # fmt: skip

#: distances from the apex at which an arc is tried: the least, how many, how far apart, mm of paper
LEAST, MANY, STEP = 6.0, 30, 3.0
#: an arc is no longer than this, mm of paper: a slender cone's would go round the sheet
LONGEST = 90.0
#: costs, in mm: lettering over lettering or lines, a dimension line crossed, a line of the part crossed
OVER, CROSSED, EDGE = 400.0, 30.0, 8.0
#: what a mm farther from the apex costs
REACH = 0.3
#: where along the arc its number is tried
SHARES = (0.5, 0.3, 0.7, 0.15, 0.85)
#: between an arc and its number, mm
GAP = 0.8


@dataclass(frozen=True)
class Open:
    """An angle to be placed: its number, and its corners on paper; ``pad``: room for a balloon before it."""

    balloons: tuple[int, ...]
    text: str
    corners: tuple[Corner, ...]
    pad: float = 0.0


def opened(view: str, wanted: Open, texts: Sequence[Box], lines: Any, part: Any) -> Leader | None:
    """The angle at its cheapest place; None where it has none that is free. ``lines`` (n, 4) of dimensions, ``part``
    (m, 4) all that is drawn of it.
    """
    places = itertools.product(wanted.corners, range(MANY), SHARES)
    found = [it for c, k, share in places if (it := _at(view, wanted, c, LEAST + STEP * k, share)) is not None]
    blocked, ruled = boxes_of(texts), np.vstack([lines, part])
    costs = [_cost(it, blocked, ruled, lines, part) for it in found]
    best = int(np.argmin(costs)) if costs else -1
    return None if best < 0 or costs[best] >= OVER else found[best]


def _at(view: str, wanted: Open, corner: Corner, radius: float, share: float) -> Leader | None:
    """The arc at a distance; arrows from outside where it is short, None where it would be far too long."""
    angle = corner.end - corner.start
    if radius * angle > LONGEST or radius * math.pi < 4 * ARROW:
        return None
    outside = radius * angle < 2.6 * ARROW
    arc = Arc(corner.apex, radius, corner.start, corner.end)
    witnesses = []
    for way, (near, far) in zip((corner.start, corner.end), corner.legs, strict=True):
        u = (math.cos(way), math.sin(way))
        if radius > far:
            witnesses.append((_along(corner.apex, u, far + OFF), _along(corner.apex, u, radius + PAST)))
        elif radius < near:
            witnesses.append((_along(corner.apex, u, near - OFF), _along(corner.apex, u, max(radius - PAST, 0.0))))
    opening = Opening(arc, tuple(witnesses), outside)
    way = corner.start + share * angle
    middle = arc.at(way)
    wide, high = wanted.pad + width_of(wanted.text), (1 + BELOW) * CAPITALS
    c, s = math.cos(way), math.sin(way)
    away = GAP + abs(c) * wide / 2 + abs(s) * high / 2
    x, y = middle[0] + away * c - wide / 2 + wanted.pad, middle[1] + away * s - CAPITALS / 2
    words = Words(wanted.text, (x, y), wide - wanted.pad)
    return Leader(wanted.balloons, view, middle, middle, middle, (words,), opening)


def _along(p: Place, u: Place, by: float) -> Place:
    return p[0] + by * u[0], p[1] + by * u[1]


def _cost(it: Leader, blocked: Any, ruled: Any, lines: Any, part: Any) -> float:
    """``blocked``: boxes (k, 4) of lettering; ``ruled``: ``lines`` and ``part`` together."""
    opening = it.opening
    assert opening is not None
    box = boxes_of((a - GAP, b - GAP, c + GAP, d + GAP) for a, b, c, d in (w.box for w in it.words))
    arc = segments_of(opening.chords(CHORDS))
    witnesses = segments_of(opening.witnesses)
    led = sum(math.dist(a, b) for a, b in opening.witnesses)
    cost = led + REACH * opening.arc.radius
    cost += OVER * float(through_boxes(ruled, box).sum() + through_boxes(witnesses, box).sum())
    cost += OVER * float(over_boxes(box, blocked).sum() + through_boxes(arc, blocked).sum())
    for run in (arc, witnesses):
        cost += CROSSED * float(crossing(run, lines).sum())
    return cost + EDGE * float(crossing(arc, part).sum())
