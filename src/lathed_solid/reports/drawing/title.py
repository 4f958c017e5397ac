"""Frame, title block (after ISO 7200) and the notes that stand beside it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from textwrap import wrap

from lathed_solid.kernel.drawing.figures import Arc, Run
from lathed_solid.part.drawing_style import Revision
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.reports.drawing.lettering import width_of
from lathed_solid.reports.drawing.model import CAPITALS, LEADING, Box, Stroke, Words
from lathed_solid.reports.drawing.sheets import Angle, frame_of, title_box

#: heights of capitals: of a label, a value, the name, mm
LABEL, VALUE, NAME = 1.5, 2.2, 3.5
#: rows of the block from below, mm, and its columns by their widths
ROWS = (0.0, 11.0, 22.0, 34.0)
FIRST, SECOND = (0.0, 52.0, 96.0, 132.0, 170.0), (0.0, 60.0, 108.0, 140.0, 170.0)
#: where the name ends and the material begins, mm
PART = 110.0
#: the revision table: height of a row, mm, its columns (mark, what, date), and how many of the latest it has
ROW, CHANGES, LATEST = 6.0, (0.0, 14.0, 142.0, 170.0), 6
#: the widest line of notes, characters
NOTES = 70


@dataclass(frozen=True)
class Titles:
    """What stands in the title block. ``status``: a warning that goes on every sheet; empty for none."""

    name: str
    material: str
    general: str
    unit: str
    mass: str
    revisions: tuple[Revision, ...]
    document: str
    status: str = ""
    sheet: str = ""


def framed(
    size: str, scale: str, angle: Angle, titles: Titles, spoken: Spoken = as_it_is
) -> tuple[list[Stroke], list[Words]]:
    """The frame and the title block; ``spoken``: its own words."""
    block = title_box(size)
    x, y, share = block[0], block[1], (block[2] - block[0]) / FIRST[-1]
    strokes = [_rect(frame_of(size)), *_grid(block, share)]
    words = []
    revision = titles.revisions[-1].mark if titles.revisions else "–"
    cells = [
        (FIRST, 0, (("scale", scale), ("sheet", titles.sheet or size), ("revision", revision))),
        (SECOND, 1, (("general tolerance", titles.general), ("mass", titles.mass), ("unit", spoken(titles.unit)),
                     ("document", titles.document))),
    ]  # fmt: skip
    for columns, row, told in cells:
        for k, (label, value) in enumerate(told):
            left, room = x + share * columns[k] + 1.5, share * (columns[k + 1] - columns[k]) - 3
            words += _cell(spoken(label), value, left, y + ROWS[row], room, VALUE)
    words += _cell(spoken("part"), titles.name, x + 1.5, y + ROWS[2], share * PART - 3, NAME)
    at, room = x + share * PART + 1.5, share * (FIRST[-1] - PART) - 3
    words += _cell(spoken("material"), titles.material, at, y + ROWS[2], room, VALUE)
    strokes += _symbol(x + share * 151, y + 5.5, angle)
    for stroke, lettered in _table(titles.revisions, x, y + ROWS[3], share):
        strokes += stroke
        words += lettered
    if titles.status:
        words.append(
            _fitted(spoken(titles.status), x, y + ROWS[3] + table_height(titles.revisions) + 2.0, share * 168, CAPITALS)
        )
    return strokes, words


def table_height(revisions: Sequence[Revision]) -> float:
    """Of the revision table above the title block, mm."""
    return ROW * min(len(revisions), LATEST)


def _table(
    revisions: Sequence[Revision], x: float, y: float, share: float
) -> Iterator[tuple[list[Stroke], list[Words]]]:
    """The latest revisions, each in a row above the one before it."""
    ends = [x + share * c for c in CHANGES]
    for k, r in enumerate(revisions[-LATEST:]):
        low = y + ROW * k
        strokes = [_rect((ends[0], low, ends[-1], low + ROW))]
        strokes += [Stroke(Run(((at, low), (at, low + ROW))), "frame") for at in ends[1:-1]]
        told = zip((r.mark, r.what, r.date), itertools.pairwise(ends), strict=True)
        yield strokes, [_fitted(text, a + 1.5, low + 1.9, b - a - 3, VALUE) for text, (a, b) in told if text]


def _cell(label: str, value: str, x: float, y: float, room: float, capitals: float) -> list[Words]:
    height = ROWS[1]
    out = [_fitted(label, x, y + height - LABEL - 1.2, room, LABEL)] if label else []
    return [*out, _fitted(value, x, y + 2.2, room, capitals)] if value else out


def _fitted(text: str, x: float, y: float, room: float, capitals: float) -> Words:
    """A text made smaller, then cut, where it would not fit."""
    text = " ".join(text.split())
    while width_of(text, capitals) > room and capitals > 1.4:
        capitals -= 0.2
    while len(text) > 2 and width_of(text, capitals) > room:
        text = text[:-2] + "…"
    return Words(text, (x, y), width_of(text, capitals), capitals)


def _rect(b: Box) -> Stroke:
    return Stroke(Run(((b[0], b[1]), (b[2], b[1]), (b[2], b[3]), (b[0], b[3]), (b[0], b[1]))), "frame")


def _grid(b: Box, share: float) -> list[Stroke]:
    x, y = b[0], b[1]
    out = [_rect(b)]
    out += [Stroke(Run(((b[0], y + r), (b[2], y + r))), "frame") for r in ROWS[1:3]]
    out += [Stroke(Run(((x + share * c, y), (x + share * c, y + ROWS[1]))), "frame") for c in FIRST[1:-1]]
    out += [Stroke(Run(((x + share * c, y + ROWS[1]), (x + share * c, y + ROWS[2]))), "frame") for c in SECOND[1:-1]]
    return [*out, Stroke(Run(((x + share * PART, y + ROWS[2]), (x + share * PART, y + ROWS[3]))), "frame")]


def _symbol(x: float, y: float, angle: Angle) -> list[Stroke]:
    """A blunt cone and its ends, as ISO 5456-2 marks the angle of projection."""
    cone, ends = (x - 6.5, x + 5.5) if angle == "first" else (x + 2.0, x - 5.5)
    low, high = 1.5, 3.0
    run = ((cone, y - low), (cone + 7, y - high), (cone + 7, y + high), (cone, y + low), (cone, y - low))
    out = [Stroke(Run(run), "thin"), Stroke(Arc((ends, y), low), "thin"), Stroke(Arc((ends, y), high), "thin")]
    return [*out, Stroke(Run(((x - 9.5, y), (x + 10.5, y))), "axis")]


def noted(lines: Sequence[str], size: str) -> tuple[list[Words], Box | None]:
    """General notes, low at the left of the sheet, and the room they take; None for none."""
    if not lines:
        return [], None
    left, low, _, _ = frame_of(size)
    pitch = LEADING * CAPITALS
    words = [Words(text, (left + 4, low + 5 + pitch * (len(lines) - 1 - k)), width_of(text)) for k, text in
             enumerate(lines)]  # fmt: skip
    return words, (left, low, left + 8 + max(w.width for w in words), low + 8 + pitch * len(lines))


def wrapped(text: str) -> list[str]:
    """A note in lines of at most ``NOTES`` characters."""
    return wrap(text, NOTES)


def ratio(scale: float) -> str:
    """``2:1``, ``1:5``."""
    if scale >= 1:
        return f"{scale:g}:1"
    return f"1:{round(1 / scale, 6):g}" if math.isfinite(1 / scale) else "–"
