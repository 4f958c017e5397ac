"""The numbers of the ledger in rings, each before its note."""

from __future__ import annotations

from collections.abc import Iterator

from lathed_solid.kernel.drawing.figures import Arc
from lathed_solid.reports.drawing.lettering import width_of
from lathed_solid.reports.drawing.model import NUMBER, PAD, RING, Balloon, DrawnSheet, Words


def balloons_of(sheet: DrawnSheet) -> Iterator[Balloon]:
    """One for each note of a sheet, its first number."""
    for d in sheet.dimensions:
        yield _before(d.words, d.balloons[0])
    for n in sheet.leaders:
        yield _before(n.words[0], n.balloons[0])


def _before(w: Words, number: int) -> Balloon:
    x, y = w.at
    rise = w.capitals / 2
    centre = (x - rise, y - PAD + RING) if w.upright else (x - PAD + RING, y + rise)
    text = str(number)
    capitals = min(NUMBER, NUMBER * 2.9 / max(width_of(text, NUMBER), 0.1))
    wide = width_of(text, capitals)
    (cx, cy), half = centre, capitals / 2
    at = (cx + half, cy - wide / 2) if w.upright else (cx - wide / 2, cy - half)
    return Balloon(Arc(centre, RING), Words(text, at, wide, capitals, w.upright))
