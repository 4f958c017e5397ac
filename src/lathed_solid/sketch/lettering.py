"""Lettering as outlines: the shipped drawing font's curves, laid along x or along a line.

Glyphs of a TrueType font are closed chains of lines and quadratic Bezier curves, B(t) = (1-t)^2 a + 2 t (1-t) b +
t^2 c; they are kept as they are, not flattened. The height of the text is that of its capitals (ISO 3098-1).
"""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.geometry import Shape, Straight
from lathed_solid.sketch.model import Line, Sketch, Text

FONT = Path(__file__).parents[1] / "assets" / "fonts" / "osifont.ttf"


@dataclass(frozen=True)
class Quadratic(Shape):
    """A quadratic Bezier curve with poles a, b, c."""

    a: complex
    b: complex
    c: complex

    def at(self, t: float) -> complex:
        return (1 - t) ** 2 * self.a + 2 * t * (1 - t) * self.b + t * t * self.c

    def along(self, t: float) -> complex:
        return 2 * (1 - t) * (self.b - self.a) + 2 * t * (self.c - self.b)

    def stretches(self, t0: float, t1: float) -> list[float]:
        return [t0, t1]


@cache
def _font() -> Any:
    from fontTools.ttLib import TTFont

    return TTFont(FONT, lazy=True)


@cache
def _capital_height() -> float:
    from fontTools.pens.boundsPen import BoundsPen

    glyphs = _font().getGlyphSet()
    pen = BoundsPen(glyphs)
    glyphs[_font().getBestCmap()[ord("H")]].draw(pen)
    return float(pen.bounds[3])


@cache
def _glyph(char: str) -> tuple[tuple[tuple[complex, ...], ...], float]:
    """Chains of poles (two for a line, three for a curve) in font units, and the advance width."""
    from fontTools.pens.recordingPen import DecomposingRecordingPen

    font = _font()
    name = font.getBestCmap().get(ord(char))
    if name is None:
        raise SketchError(f"the drawing font has no {char!r}", hint="another character")
    glyphs = font.getGlyphSet()
    pen = DecomposingRecordingPen(glyphs)
    glyphs[name].draw(pen)
    poles: list[tuple[complex, ...]] = []
    start = here = 0j
    for command, points in pen.value:
        z = [complex(*p) for p in points if p is not None]
        if command == "moveTo":
            start = here = z[0]
        elif command == "lineTo":
            poles.append((here, z[0]))
            here = z[0]
        elif command == "qCurveTo":
            # implied on-curve places lie halfway between two controls
            middles = [(a + b) / 2 for a, b in itertools.pairwise(z[:-1])]
            for control, end in zip(z[:-1], [*middles, z[-1]], strict=True):
                poles.append((here, control, end))
                here = end
        elif command in ("closePath", "endPath"):
            if abs(here - start) > ROUNDING:
                poles.append((here, start))
            here = start
    return tuple(p for p in poles if abs(p[0] - p[-1]) > ROUNDING), float(glyphs[name].width)


def check_text(text: str) -> str:
    """``text`` if the drawing font has all its characters. Raises SketchError."""
    if not text.strip():
        raise SketchError("there is no text to letter")
    for char in text:
        _glyph(char)
    return text


def outlines(sketch: Sketch, text: Text) -> list[Shape]:
    """The outline curves of a text, each with the text's id. Raises SketchError for a character without a glyph."""
    scale = text.height / _capital_height()
    origin, turn = complex(*sketch.at(text.at)), 1 + 0j
    line = sketch.by_id.get(text.along or "")
    if isinstance(line, Line):
        d = complex(*sketch.at(line.end)) - complex(*sketch.at(line.start))
        turn = d / abs(d) if abs(d) > ROUNDING else turn
    out: list[Shape] = []
    pen = -sum(_glyph(char)[1] for char in text.text) / 2 if text.centred else 0.0
    for char in text.text:
        poles, advance = _glyph(char)
        for p in poles:
            z = [origin + turn * scale * (q + pen) for q in p]
            out.append(Straight(text.id, z[0], z[1]) if len(z) == 2 else Quadratic(text.id, *z))
        pen += advance
    return out
