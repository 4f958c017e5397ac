"""Where a section is cut, told in another view: a chain line with wide ends, arrows to where one looks, letters; and
the same letters over the section (ISO 128-3).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from lathed_solid.kernel.drawing.figures import Arc, Place, Run, SideName, Wanted
from lathed_solid.kernel.drawing.flat import FLATS
from lathed_solid.kernel.vectors import dot
from lathed_solid.reports.drawing.choosing import Chosen, parent_of
from lathed_solid.reports.drawing.lettering import width_of
from lathed_solid.reports.drawing.meeting import boxes_of, over_boxes, through_boxes
from lathed_solid.reports.drawing.model import Box, Pointer, Stroke, Words

#: letters that are no other sign's on a sheet
LETTERS = "ABCDEFGHKL"
#: height of letters, the wide ends, how far they stand off the part, the arrows' length, mm
CAPITALS, WIDE, OFF, ARROW = 3.5, 6.0, 1.5, 8.0
#: room that the ends take beside a part, mm
BESIDE = OFF + WIDE + CAPITALS
#: from a view to the title above it, mm
ABOVE = 3.0


@dataclass(frozen=True)
class CutLine:
    """A cut as another view shows it: a line along y where it is ``upright``, else along x, ``at`` mm of the part
    across that; one looks along it by ``way``, 1 or -1.
    """

    letter: str
    upright: bool
    at: float
    way: int


def letters_left(found: Chosen) -> Iterator[str]:
    """Letters that no cut has, for details."""
    return iter(LETTERS[len(list(_cuts(found))) :])


def titles_of(found: Chosen) -> dict[SideName, str]:
    """What stands over each section whose place is shown."""
    return {v.side: f"{letter}-{letter}" for letter, v, _ in _cuts(found)}


def cut_lines(found: Chosen) -> dict[SideName, list[CutLine]]:
    """By view, the cuts that it shows."""
    out: dict[SideName, list[CutLine]] = {}
    for letter, cut, parent in _cuts(found):
        flat, eye = FLATS[parent.side], FLATS[cut.side].eye
        right, up = dot(eye, flat.right), dot(eye, flat.up)
        upright = abs(right) > abs(up)
        sense = right if upright else up
        assert cut.cut is not None
        out.setdefault(parent.side, []).append(CutLine(letter, upright, cut.cut * sense, -round(sense)))
    return out


def _cuts(found: Chosen) -> Iterable[tuple[str, Wanted, Wanted]]:
    """Each cut but the one through the axis, with its letter and the view that shows where it is."""
    told = [v for v in found.sides if v.cut is not None and v.side != found.axial]
    for letter, cut in zip(LETTERS, told, strict=False):
        parent = parent_of(cut, found.sides)
        if parent is not None:
            yield letter, cut, parent


@dataclass(frozen=True)
class Marks:
    """What is drawn of cuts in a view, on paper about its origin."""

    strokes: tuple[Stroke, ...] = ()
    words: tuple[Words, ...] = ()
    pointers: tuple[Pointer, ...] = ()


def marked(lines: Sequence[CutLine], box: Box, scale: float) -> Marks:
    """The lines over a view's ``box``."""
    strokes: list[Stroke] = []
    words: list[Words] = []
    pointers: list[Pointer] = []
    for it in lines:
        at = it.at * scale
        low, high = (box[1], box[3]) if it.upright else (box[0], box[2])

        def place(along: float, across: float, upright: bool = it.upright) -> Place:
            return (across, along) if upright else (along, across)

        strokes.append(Stroke(Run((place(low - OFF, at), place(high + OFF, at))), "axis"))
        for end, out in ((low, -1.0), (high, 1.0)):
            far = end + out * (OFF + WIDE)
            tail = at - it.way * ARROW
            strokes.append(Stroke(Run((place(end + out * OFF, at), place(far, at))), "seen"))
            strokes.append(Stroke(Run((place(far, at), place(far, tail))), "thin"))
            pointers.append((place(far, at), place(far, tail)))
            words.append(_letter(it.letter, place(far, tail - it.way * CAPITALS)))
    return Marks(tuple(strokes), tuple(words), tuple(pointers))


def _letter(letter: str, about: Place) -> Words:
    width = width_of(letter, CAPITALS)
    return Words(letter, (about[0] - width / 2, about[1] - CAPITALS / 2), width, CAPITALS)


def ringed(rings: Sequence[tuple[str, Arc]], taken: Sequence[Box], lines: Any) -> Marks:
    """Circles about what a detail shows, each with its letter where least is in its way."""
    words: list[Words] = []
    for letter, ring in rings:
        away = ring.radius + CAPITALS
        angles = [math.radians(45 + 30 * k) for k in range(12)]
        tried = [_letter(letter, Arc(ring.centre, away).at(a)) for a in angles]

        def met(w: Words) -> int:
            box = boxes_of([w.box])
            return int(over_boxes(box, boxes_of([*taken, *(o.box for o in words)]))[0]) + int(
                through_boxes(lines, box).sum()
            )

        words.append(min(tried, key=met))
    return Marks(tuple(Stroke(ring, "thin") for _, ring in rings), tuple(words))


def headed(text: str, box: Box, room: Box) -> Words:
    """A title in the middle above a view and all that stands about it."""
    width = width_of(text, CAPITALS)
    return Words(text, ((box[0] + box[2] - width) / 2, room[3] + ABOVE), width, CAPITALS)
