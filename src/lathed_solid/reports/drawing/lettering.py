"""How wide lettering is on paper, and how long notes are broken."""

from __future__ import annotations

import re
from functools import cache

from lathed_solid.reports.drawing.model import CAPITALS, EM
from lathed_solid.reports.pen import DRAWING, MM, register_fonts

#: a note longer than this is broken before what widens its hole, its circle, its purpose
LONG = 22
_BREAKS = re.compile(r"\s+(?=⌴|⌵|ON\b|DRILL\b|EQ\b|SPOTFACE\b|CBORE\b|CSK\b)")


@cache
def width_of(text: str, capitals: float = CAPITALS) -> float:
    """How wide a text is in the shipped drawing letters, mm; ``capitals`` their height."""
    from reportlab.pdfbase.pdfmetrics import stringWidth

    register_fonts()
    return float(stringWidth(text, DRAWING, capitals / EM * MM)) / MM


def lines_of(text: str) -> tuple[str, ...]:
    """A note in the lines that it is lettered in."""
    text = " ".join(text.split())
    if len(text) <= LONG:
        return (text,)
    out: list[str] = []
    for piece in _BREAKS.split(text):
        if out and len(out[-1]) + len(piece) + 1 <= LONG:
            out[-1] += f" {piece}"
        else:
            out.append(piece)
    return tuple(out)
