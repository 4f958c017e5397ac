"""How a part's drawing is wanted: sheet, angle of projection, scale, and what was moved on it by hand."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.record import Record

#: farther than this nothing is moved on a sheet, mm
FAR = 2000.0
Shift = Annotated[float, Field(ge=-FAR, le=FAR, allow_inf_nan=False)]


class Moved(Record):
    """A note (by its first ``balloon``) or a ``view`` moved on the sheet, mm."""

    balloon: int = Field(default=0, ge=0, le=9999)
    view: Literal["", "front", "top", "right", "back", "bottom", "left"] = ""
    x: Shift = 0.0
    y: Shift = 0.0


class DrawingStyle(Record):
    """Empty fields are as the part needs them. ``scale``: paper by part; ``balloons``: each note with its number."""

    size: str = Field(default="", max_length=8)
    angle: Literal["", "first", "third"] = ""
    scale: Annotated[float, Field(gt=1e-4, lt=1e4, allow_inf_nan=False)] | None = None
    balloons: bool = False
    moved: tuple[Moved, ...] = Field(default=(), max_length=5000)

    def with_move(self, balloon: int, view: str, x: float, y: float) -> DrawingStyle:
        """One note or view moved by so much more, no farther than ``FAR``. Raises ValueError for what is no number."""
        before = next((m for m in self.moved if (m.balloon, m.view) == (balloon, view)), Moved())
        others = tuple(m for m in self.moved if (m.balloon, m.view) != (balloon, view))
        at = [max(-FAR, min(FAR, v)) if math.isfinite(v) else v for v in (before.x + x, before.y + y)]
        moved = Moved.model_validate({"balloon": balloon, "view": view, "x": at[0], "y": at[1]})
        return self.model_copy(update={"moved": (*others, moved)})
