"""What a drawing note means: clauses, each one thing to make or to hold.

Lengths in mm, angles in degrees here (they are what the note says); ``low_mm`` and ``high_mm`` are the
limits when the note carries a tolerance, measured as the clause's own size is.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

ClauseKind = Literal["hole", "diameter", "radius", "length", "angle", "chamfer", "fillet", "thread", "general"]


class _Frozen(BaseModel):
    model_config = ConfigDict(frozen=True)


class Entry(_Frozen):
    """A counterbore (diameter, depth) or a countersink (diameter, included angle)."""

    diameter_mm: float | None = None
    depth_mm: float | None = None
    angle_deg: float | None = None


class Thread(_Frozen):
    designation: str
    major_mm: float
    pitch_mm: float
    thread_class: str | None = None
    hand: Literal["right", "left"] = "right"
    internal: bool | None = None
    depth_mm: float | None = None


class Clause(_Frozen):
    """One meaning. Fields that do not apply are None; ``as_json`` leaves them out."""

    kind: ClauseKind
    count: int | None = None
    diameter_mm: float | None = None
    through: bool | None = None
    depth_mm: float | None = None
    depth_to: Literal["shoulder", "tip"] | None = None
    point_deg: float | None = None
    cbore: Entry | None = None
    csk: Entry | None = None
    thread: Thread | None = None
    bolt_circle_mm: float | None = None
    size_mm: float | None = None
    angle_deg: float | None = None
    low_mm: float | None = None
    high_mm: float | None = None
    low_deg: float | None = None
    high_deg: float | None = None
    reference: bool | None = None
    fit: str | None = None
    decimals: int | None = None

    def as_json(self) -> dict[str, Any]:
        data = self.model_dump(exclude_none=True, exclude={"decimals"})
        if self.thread and self.thread.thread_class:
            data["thread"]["class"] = data["thread"].pop("thread_class")
        return data


class Meaning(_Frozen):
    """A note read: clauses, what was assumed, and the words that were not read."""

    note: str
    unit: Literal["mm", "in"] = "mm"
    clauses: tuple[Clause, ...] = ()
    assumed: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()
    plain: str = ""

    def as_json(self) -> dict[str, Any]:
        """The stable shape that ``lathed-solid note --json`` prints."""
        return {
            "ok": bool(self.clauses) and not self.unread,
            "plain": self.plain,
            "clauses": [c.as_json() for c in self.clauses],
            "assumed": list(self.assumed),
            "unread": list(self.unread),
        }
