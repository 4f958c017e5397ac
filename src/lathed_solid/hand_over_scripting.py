"""Handing over from scripts: the drawing. Part of ``lathed_solid.scripting``."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from lathed_solid.engine.protocol import DrawFigures, Figured
    from lathed_solid.part import Document
    from lathed_solid.reports.drawing.draw import Style
    from lathed_solid.reports.drawing.model import DrawnSheet

__all__ = ["drawing", "write_drawing"]


def drawing(part: Document, style: Style | None = None) -> tuple[DrawnSheet, ...]:
    """The drawing of a part: its sheets. Raises DrawingError, MeasureError where there is no solid."""
    from lathed_solid.engine.handlers import draw_figures
    from lathed_solid.reports.drawing.draw import drawing as drawn
    from lathed_solid.scripting import engine

    def ask(request: DrawFigures) -> Figured:
        return draw_figures(engine(), request, lambda *_: None)

    return drawn(part, ask, style)


def write_drawing(part: Document, path: str | Path, style: Style | None = None) -> tuple[Path, ...]:
    """Draw a part and write it as PDF, DXF or SVG by the file's ending. Raises DrawingError, FileError."""
    from lathed_solid.reports.drawing.files import write_drawing as write

    return write(Path(path), drawing(part, style))
