"""The linework of a page, as plain values: strokes with their width, in mm on the page, y up."""

from __future__ import annotations

import json
import sys
import tempfile
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lathed_solid.ledger.sheet_corners import Corners
from lathed_solid.sheets.client import SheetError, answer, command, page_of

Array = Any
#: more points than this are no drawing of a part
MOST_POINTS = 400_000
#: tracing a picture takes no longer
TRACING_S = 90.0
#: outlines are at least this share of the widest stroke that is no border (ISO 128: dimensions are half as wide)
WIDE = 0.7


@dataclass(frozen=True)
class Stroke:
    """A polyline: ``points`` (n, 2) in mm, its width in mm (0: not told), whether it is dashed."""

    points: Array
    width: float = 0.0
    dashed: bool = False

    @property
    def length(self) -> float:
        """mm."""
        return float(np.linalg.norm(np.diff(self.points, axis=0), axis=1).sum())

    @property
    def box(self) -> tuple[float, float, float, float]:
        """Left, low, right, high."""
        (left, low), (right, high) = self.points.min(axis=0), self.points.max(axis=0)
        return float(left), float(low), float(right), float(high)


@dataclass(frozen=True)
class Linework:
    """All strokes of a page of ``width`` x ``height`` mm; ``beside``: those that a DXF says belong to dimensions."""

    width: float
    height: float
    strokes: tuple[Stroke, ...]
    beside: tuple[Stroke, ...] = ()


def linework_of(text: str) -> Linework:
    """The linework in the worker's answer. Raises SheetError when it is none."""
    try:
        found = json.loads(text)
        strokes, beside = (
            tuple(Stroke(np.array(s["points"], float).reshape(-1, 2), float(s["width"]), bool(s["dashed"]))
                  for s in found.get(which, ()) if len(s["points"]) > 1)
            for which in ("strokes", "beside")
        )  # fmt: skip
        return Linework(float(found["width_mm"]), float(found["height_mm"]), strokes, beside)
    except (ValueError, KeyError, TypeError) as exc:
        raise SheetError("the linework of the sheet could not be read", rule=str(exc)) from None


def read_linework(path: Path, page: int = 1, *, width: float = 0.0, corners: Corners | None = None) -> Linework:
    """The linework of a page, read by a process with limits; that of a picture is traced. ``width``: what the page
    measures in mm, where its picture does not tell; ``corners`` of a photographed sheet as they were put right. Raises
    SheetError.
    """
    text = answer([sys.executable, "-m", "lathed_solid.sheets.line_worker", str(path), str(page)], path)
    if json.loads(text).get("picture"):
        text = _traced(path, page, width, corners)
    return linework_of(text)


def _traced(path: Path, page: int, width: float, corners: Corners | None) -> str:
    with tempfile.TemporaryDirectory() as folder:
        picture = Path(folder) / "page.bmp"
        found = page_of(answer(command(path, page, picture, corners=corners), path))
        if found.lettering != "unread":
            raise SheetError("the lines of a picture cannot be traced", received=path.name, hint=(
                "install the packages that read lettering: ./run" if found.lettering == "absent" else "a larger scan"))  # fmt: skip
        across = width or (found.width if found.sized else 0.0)
        worker = [sys.executable, "-m", "lathed_solid.sheets.pictures.line_worker", str(picture), f"{across:.6g}"]
        return answer(worker, path, TRACING_S)
