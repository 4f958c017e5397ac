"""The process that reads a page's linework: ``python -m lathed_solid.sheets.line_worker FILE PAGE``.

It prints one JSON object: the page's size and its strokes in mm, or that it is a picture. Limits and errors are those
of ``worker``.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from lathed_solid.quantity.units import MM_PER_POINT as MM
from lathed_solid.sheets.strokes import MOST_POINTS
from lathed_solid.sheets.worker import DXF_HEAD, PDF_HEAD, answered

#: what is said of a page whose lines are to be traced; a page without text and with fewer strokes is one
PICTURE: dict[str, Any] = {"picture": True}
FEWEST = 20
#: points in mm, width in mm, whether dashed
Run = tuple[list[tuple[float, float]], float, bool]


def main(args: list[str]) -> int:
    """The exit code; what was found goes to standard output."""
    path, number = Path(args[0]), int(args[1])
    return answered(lambda: _found(path, number))


def _found(path: Path, number: int) -> dict[str, Any]:
    head = path.read_bytes()[:1024]
    if PDF_HEAD in head:
        from lathed_solid.sheets.pdf import Page

        page = Page(path, number)
        runs = page.strokes()
        if not page.chars() and len(runs) < FEWEST:
            return PICTURE
        strokes = [([(x * MM, y * MM) for x, y in run], wide * MM, dashed) for run, wide, dashed in runs]
        return told_lines(page.width * MM, page.height * MM, strokes)
    if DXF_HEAD.match(head):
        from lathed_solid.sheets.dxf import opened
        from lathed_solid.sheets.dxf_lines import strokes as dxf_strokes

        drawing = opened(path)
        drawn, beside = dxf_strokes(drawing)
        return told_lines(drawing.width * drawing.factor, drawing.height * drawing.factor, drawn, beside)
    return PICTURE


def told_lines(width: float, height: float, strokes: Sequence[Run], beside: Sequence[Run] = ()) -> dict[str, Any]:
    """The linework of a page of ``width`` x ``height`` mm as it is printed. Raises ValueError for too much of it."""
    if sum(len(run) for run, _, _ in (*strokes, *beside)) > MOST_POINTS:
        raise ValueError(f"the page has more than {MOST_POINTS} points of linework")
    told = {"strokes": list(map(_told, strokes)), "beside": list(map(_told, beside))}
    return {"width_mm": width, "height_mm": height, **told}


def _told(stroke: Run) -> dict[str, Any]:
    run, wide, dashed = stroke
    return {"points": [round(v, 4) for p in run for v in p], "width": round(wide, 4), "dashed": dashed}


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
