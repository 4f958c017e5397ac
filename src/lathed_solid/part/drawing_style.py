"""How a part's drawing is wanted: sheet, angle of projection, scale, and what was moved on it by hand."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.record import Record

#: farther than this nothing is moved on a sheet, mm
FAR = 2000.0
#: how a turned part is cut through its axis: as it needs, not at all, whole, in half
SectionName = Literal["", "none", "full", "half"]
Shift = Annotated[float, Field(ge=-FAR, le=FAR, allow_inf_nan=False)]


class Moved(Record):
    """A note (by its first ``balloon``) or a ``view`` (a side, a detail by its letter) moved on the sheet, mm."""

    balloon: int = Field(default=0, ge=0, le=9999)
    view: str = Field(default="", max_length=12, pattern=r"^(front|top|right|back|bottom|left|detail [A-Z])?$")
    x: Shift = 0.0
    y: Shift = 0.0


class Revision(Record):
    """A row of the revision table: its mark, what it changed, when (a date as it is written on the sheet)."""

    mark: str = Field(min_length=1, max_length=8, pattern=r"^\S+$")
    what: str = Field(min_length=1, max_length=200)
    date: str = Field(default="", max_length=20)


class DrawingStyle(Record):
    """Empty fields are as the part needs them. ``scale``: paper by part; ``section``: of a turned part; ``balloons``:
    each note with its number; ``revisions``: the oldest first.
    """

    size: str = Field(default="", max_length=8)
    angle: Literal["", "first", "third"] = ""
    scale: Annotated[float, Field(gt=1e-4, lt=1e4, allow_inf_nan=False)] | None = None
    section: SectionName = ""
    balloons: bool = False
    moved: tuple[Moved, ...] = Field(default=(), max_length=5000)
    revisions: tuple[Revision, ...] = Field(default=(), max_length=200)

    def revised(self, mark: str, what: str, date: str = "") -> DrawingStyle:
        """With one revision more, or another of the same mark. Raises ValueError for a mark or words that are none."""
        new = Revision.model_validate({"mark": mark.strip(), "what": " ".join(what.split()), "date": date.strip()})
        if any(r.mark == new.mark for r in self.revisions):
            revisions = tuple(new if r.mark == new.mark else r for r in self.revisions)
        else:
            revisions = (*self.revisions, new)
        return DrawingStyle.model_validate(self.model_dump() | {"revisions": revisions})

    def with_move(self, balloon: int, view: str, x: float, y: float) -> DrawingStyle:
        """One note or view moved by so much more, no farther than ``FAR``. Raises ValueError for what is no number."""
        before = next((m for m in self.moved if (m.balloon, m.view) == (balloon, view)), Moved())
        others = tuple(m for m in self.moved if (m.balloon, m.view) != (balloon, view))
        at = [max(-FAR, min(FAR, v)) if math.isfinite(v) else v for v in (before.x + x, before.y + y)]
        moved = Moved.model_validate({"balloon": balloon, "view": view, "x": at[0], "y": at[1]})
        return self.model_copy(update={"moved": (*others, moved)})
