"""The linework of a page, as plain values: strokes with their width, in mm on the page, y up."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from lathed_solid.sheets.errors import SheetError

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
    """All strokes of a page of ``width`` x ``height`` mm; ``beside``: those that a DXF says belong to dimensions;
    ``traced``: they are a picture's.
    """

    width: float
    height: float
    strokes: tuple[Stroke, ...]
    beside: tuple[Stroke, ...] = ()
    traced: bool = False


def linework_of(found: Mapping[str, Any]) -> Linework:
    """The linework in a worker's answer. Raises SheetError when it is none."""
    try:
        strokes, beside = (
            tuple(Stroke(np.array(s["points"], float).reshape(-1, 2), float(s["width"]), bool(s["dashed"]))
                  for s in found.get(which, ()) if len(s["points"]) > 1)
            for which in ("strokes", "beside")
        )  # fmt: skip
        return Linework(float(found["width_mm"]), float(found["height_mm"]), strokes, beside,
                        bool(found.get("traced")))  # fmt: skip
    except (ValueError, KeyError, TypeError) as exc:
        raise SheetError("the linework of the sheet could not be read", rule=str(exc)) from None
