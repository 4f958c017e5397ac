"""Handing over from scripts: the drawing, the machinist's sheet. Part of ``lathed_solid.scripting``."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from lathed_solid.engine.protocol import DrawFigures, Figured
    from lathed_solid.part import Document
    from lathed_solid.part.drawing_style import DrawingStyle
    from lathed_solid.reports.drawing.model import DrawnSheet
    from lathed_solid.reports.machinist.model import MachinistSheet

__all__ = ["drawing", "machinist", "write_drawing", "write_machinist"]


def drawing(part: Document, style: DrawingStyle | None = None) -> tuple[DrawnSheet, ...]:
    """The drawing of a part: its sheets. Raises DrawingError, MeasureError where there is no solid."""
    from lathed_solid.engine.at_hand import engine
    from lathed_solid.engine.handlers import draw_figures
    from lathed_solid.reports.drawing.draw import drawing as drawn

    def ask(request: DrawFigures) -> Figured:
        return draw_figures(engine(), request, lambda *_: None)

    return drawn(part, ask, style)


def write_drawing(part: Document, path: str | Path, style: DrawingStyle | None = None) -> tuple[Path, ...]:
    """Draw a part and write it as PDF, DXF or SVG by the file's ending. Raises DrawingError, FileError."""
    from lathed_solid.reports.drawing.files import write_drawing as write

    return write(Path(path), drawing(part, style))


def machinist(part: Document) -> MachinistSheet:
    """The machinist's sheet of a part. Raises MeasureError where there is no solid."""
    from lathed_solid.engine.at_hand import engine
    from lathed_solid.engine.handlers import find_for_shop
    from lathed_solid.reports.machinist.sheet import machinist_sheet

    return machinist_sheet(part, lambda request: find_for_shop(engine(), request, lambda *_: None))


def write_machinist(part: Document, path: str | Path) -> None:
    """Write the machinist's sheet as PDF, CSV or JSON by the file's ending. Raises FileError."""
    from lathed_solid.reports.machinist.files import write_machinist as write

    write(Path(path), machinist(part))
