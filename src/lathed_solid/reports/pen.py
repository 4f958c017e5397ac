"""What every report is drawn with: the shipped fonts, the inks, and a pen that counts in mm."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from lathed_solid.quantity.formatting import Spoken, as_it_is

ASSETS = Path(__file__).parents[1] / "assets" / "fonts"
BODY, DRAWING = "body", "drawing"
MM = 72 / 25.4
INK, QUIET, LINE, TINT, OUT_TINT = "#27323A", "#5C6B73", "#D8D2C4", "#F0E3C8", "#F7E6E0"


def register_fonts() -> None:
    """Make the shipped fonts known to the report writer."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for name, pattern in ((BODY, "Barlow_400Regular.ttf"), (DRAWING, "osifont*.ttf")):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(next(ASSETS.glob(pattern)))))


class Pen:
    """Draws on a canvas; places in mm from the lower left corner. Words are ``spoken`` but those that are ``raw``:
    names and notes, and what is in the reader's language already.
    """

    def __init__(self, canvas: Any, spoken: Spoken = as_it_is) -> None:
        self.c, self.spoken = canvas, spoken

    def text(self, x: float, y: float, words: str, size: float = 9, font: str = BODY, colour: str = INK,
             right: bool = False, raw: bool = False) -> None:  # fmt: skip
        """Words at a place, or ending there."""
        self.c.setFont(font, size)
        self.c.setFillColor(colour)
        told = words if raw else self.spoken(words)
        (self.c.drawRightString if right else self.c.drawString)(x * MM, y * MM, told)

    def span(self, low: str, high: str) -> str:
        """From one size to another, in the reader's language."""
        return f"{self.spoken(low)} {self.spoken('to', 'limits')} {self.spoken(high)}"

    def rule(self, x0: float, y0: float, x1: float, y1: float, width: float = 0.4, colour: str = LINE) -> None:
        """A straight line."""
        self.c.setStrokeColor(colour)
        self.c.setLineWidth(width)
        self.c.line(x0 * MM, y0 * MM, x1 * MM, y1 * MM)

    def fitted(self, x: float, y: float, words: str, room: float, size: float, font: str, raw: bool = False) -> None:
        """A text made smaller, then cut, where it would not fit."""
        from reportlab.pdfbase.pdfmetrics import stringWidth

        words = " ".join((words if raw else self.spoken(words)).split())
        while size > 5.5 and stringWidth(words, font, size) > room * MM:
            size -= 0.5
        while len(words) > 2 and stringWidth(words, font, size) > room * MM:
            words = words[:-2] + "…"
        self.text(x, y, words, size, font, raw=True)
