"""The linework of a page, as plain values: strokes with their width, in mm on the page, y up."""

from __future__ import annotations

import json
import sys
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from lathed_solid.sheets.client import SheetError, answer

Array = Any
#: more points than this are no drawing of a part
MOST_POINTS = 400_000
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


def command(path: Path, page: int) -> list[str]:
    """What reads the linework of page ``page`` (from 1) of a PDF or DXF."""
    return [sys.executable, "-m", "lathed_solid.sheets.line_worker", str(path), str(page)]


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


def read_linework(path: Path, page: int = 1) -> Linework:
    """The linework of a page, read by a process with limits. Raises SheetError."""
    return linework_of(answer(command(path, page), path))
