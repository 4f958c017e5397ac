"""Handing over from scripts: the drawing, the machinist's sheet, pictures. Part of ``lathed_solid.scripting``."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from lathed_solid.errors import LathedError

if TYPE_CHECKING:
    from lathed_solid.engine.protocol import DrawFigures, Figured
    from lathed_solid.part import Document
    from lathed_solid.part.drawing_style import DrawingStyle
    from lathed_solid.reports.drawing.model import DrawnSheet
    from lathed_solid.reports.machinist.model import MachinistSheet
    from lathed_solid.viewer.shots import Shot

__all__ = ["coated", "drawing", "machinist", "revised", "write_drawing", "write_machinist", "write_picture"]


def drawing(part: Document, style: DrawingStyle | None = None) -> tuple[DrawnSheet, ...]:
    """The drawing of a part: its sheets. Raises DrawingError, MeasureError where there is no solid."""
    from lathed_solid.engine.at_hand import engine
    from lathed_solid.engine.handlers import draw_figures
    from lathed_solid.reports.drawing.draw import drawing as drawn

    def ask(request: DrawFigures) -> Figured:
        return draw_figures(engine(), request, lambda *_: None)

    return drawn(part, ask, style)


def revised(part: Document, mark: str, what: str, date: str = "") -> Document:
    """With a row more in the revision table of its drawing. Raises ValueError for a mark or words that are none."""
    return part.model_copy(update={"drawing": part.drawing.revised(mark, what, date)})


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


def coated(part: Document, of: str, finish: str) -> Document:
    """A face (by its name), the faces of a step ("step 90") or a body ("body 30") of a finish of its own in pictures.

    An empty finish takes it away. Raises LathedError for a finish that is none.
    """
    from lathed_solid.viewer import finishes

    return finishes.coated(part, of, finish)


def write_picture(part: Document, path: str | Path, finish: str = "turned", shot: Shot | None = None) -> None:
    """Render a part as PNG, or a shot of several frames as GIF; faces and bodies with a finish of their own in that.

    Raises LathedError, ViewError, FileError.
    """
    from lathed_solid.engine.at_hand import engine
    from lathed_solid.engine.handlers import build
    from lathed_solid.engine.protocol import Build
    from lathed_solid.engine.telling import Telling
    from lathed_solid.files.atomic import write_atomic
    from lathed_solid.standards.materials import material
    from lathed_solid.viewer.finishes import coats_of, finish_named
    from lathed_solid.viewer.picture_process import taken
    from lathed_solid.viewer.shots import Shot

    telling = Telling()
    build(engine(), Build(document=part), telling)
    if telling.pictured is None or not telling.pictured.shape:
        raise LathedError("there is no solid to take a picture of", where=part.name)
    wanted = finish_named(finish, material(part.material).finish_colour)
    seen = telling.pictured
    coats = coats_of(part, seen.labels, seen.owners)
    write_atomic(Path(path), taken(seen.shape, wanted, shot or Shot(), coats=coats))
