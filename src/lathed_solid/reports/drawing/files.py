"""Writing a drawing by the ending of its path, and what it says of itself as JSON."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from lathed_solid.files.atomic import write_atomic
from lathed_solid.files.errors import FileError
from lathed_solid.reports.drawing.dxf import drawing_dxf
from lathed_solid.reports.drawing.ink import of_note
from lathed_solid.reports.drawing.model import Box, DrawnSheet, Words
from lathed_solid.reports.drawing.pdf import drawing_pdf
from lathed_solid.reports.drawing.svg import drawing_svg

#: formats that hold one sheet a file
SINGLE: dict[str, Callable[[DrawnSheet], bytes]] = {".dxf": drawing_dxf, ".svg": drawing_svg}
ENDINGS = (".pdf", *SINGLE)


def write_drawing(path: Path, sheets: Sequence[DrawnSheet]) -> tuple[Path, ...]:
    """Write all sheets; where a format holds one only, the others beside it as ``name-2``. The paths written. Raises
    FileError.
    """
    ending = path.suffix.lower()
    if ending == ".pdf":
        write_atomic(path, drawing_pdf(*sheets))
        return (path,)
    write = SINGLE.get(ending)
    if write is None:
        raise FileError("the ending is not known", path, hint=f"a file name ending in {', '.join(ENDINGS)}")
    paths = [path if n == 1 else path.with_stem(f"{path.stem}-{n}") for n in range(1, len(sheets) + 1)]
    for place, sheet in zip(paths, sheets, strict=True):
        write_atomic(place, write(sheet))
    return tuple(paths)


def drawing_json(sheets: Sequence[DrawnSheet]) -> dict[str, Any]:
    """The stable shape of ``lathed-solid drawing --json``; boxes in mm from the lower left corner of their sheet."""
    return {
        "ok": True,
        "sheets": [
            {"size": s.size, "width_mm": s.width, "height_mm": s.height, "scale": s.scale, "unit": s.unit}
            for s in sheets
        ],
        "views": [
            {"sheet": n, "name": v.name, "title": v.title, "cut": v.cut, "box": list(v.box)}
            for n, s in enumerate(sheets, 1) for v in s.views
        ],
        "dimensions": [it for n, s in enumerate(sheets, 1) for it in _dimensions(n, s)],
        "left_out": [{"balloons": list(o.balloons), "text": o.text, "why": o.why} for o in sheets[0].left_out],
    }  # fmt: skip


def _dimensions(number: int, sheet: DrawnSheet) -> list[dict[str, Any]]:
    lengths = [(d.balloons, d.view, d.words.text, [d.words]) for d in sheet.dimensions]
    notes = [(n.balloons, n.view, of_note(n), list(n.words)) for n in sheet.leaders]
    return [
        {"balloon": balloons[0], "balloons": list(balloons), "sheet": number, "view": view, "text": text,
         "box": list(around(words))}
        for balloons, view, text, words in [*lengths, *notes]
    ]  # fmt: skip


def around(words: Sequence[Words]) -> Box:
    """The room of some lettering."""
    boxes = [w.box for w in words]
    return (min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes))
