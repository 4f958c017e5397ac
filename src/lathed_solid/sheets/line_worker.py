"""The process that reads a page's linework: ``python -m lathed_solid.sheets.line_worker FILE PAGE``.

It prints one JSON object: the page's size and its strokes in mm. Limits and errors are those of ``worker``.
"""

from __future__ import annotations

import sys
from pathlib import Path
from typing import Any

from lathed_solid.quantity.units import MM_PER_POINT as MM
from lathed_solid.sheets.strokes import MOST_POINTS
from lathed_solid.sheets.worker import DXF_HEAD, PDF_HEAD, answered

#: points in mm, width in mm, whether dashed
Run = tuple[list[tuple[float, float]], float, bool]


def main(args: list[str]) -> int:
    """The exit code; what was found goes to standard output."""
    path, number = Path(args[0]), int(args[1])
    return answered(lambda: _found(path, number))


def _found(path: Path, number: int) -> dict[str, Any]:
    head = path.read_bytes()[:1024]
    beside: list[Run] = []
    if PDF_HEAD in head:
        from lathed_solid.sheets.pdf import Page

        page = Page(path, number)
        width, height = page.width * MM, page.height * MM
        strokes = [([(x * MM, y * MM) for x, y in run], wide * MM, dashed) for run, wide, dashed in page.strokes()]
    elif DXF_HEAD.match(head):
        from lathed_solid.sheets.dxf import opened
        from lathed_solid.sheets.dxf_lines import strokes as dxf_strokes

        drawing = opened(path)
        width, height = drawing.width * drawing.factor, drawing.height * drawing.factor
        strokes, beside = dxf_strokes(drawing)
    else:
        raise ValueError("a picture has no linework that can be followed yet: a PDF or DXF is needed")
    if sum(len(run) for run, _, _ in (*strokes, *beside)) > MOST_POINTS:
        raise ValueError(f"the page has more than {MOST_POINTS} points of linework")
    told = {"strokes": list(map(_told, strokes)), "beside": list(map(_told, beside))}
    return {"width_mm": width, "height_mm": height, **told}


def _told(stroke: Run) -> dict[str, Any]:
    run, wide, dashed = stroke
    return {"points": [round(v, 4) for p in run for v in p], "width": round(wide, 4), "dashed": dashed}


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
