"""What a drawing note means: clauses, each one thing to make or to hold.

Lengths in mm, angles in degrees here (they are what the note says); ``low_mm`` and ``high_mm`` are the
limits when the note carries a tolerance, measured as the clause's own size is.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

ClauseKind = Literal[
    "hole",
    "diameter",
    "radius",
    "length",
    "angle",
    "chamfer",
    "fillet",
    "thread",
    "general",
    "taper",
    "groove",
    "keyway",
    "centre",
    "knurl",
]


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
    starts: int | None = None


class Pattern(_Frozen):
    """Like places: equally spaced on a full circle, or a row (spacing, total length)."""

    kind: Literal["circle", "row"]
    count: int | None = None
    diameter_mm: float | None = None
    spacing_mm: float | None = None
    total_mm: float | None = None


class Taper(_Frozen):
    """``ratio`` is n of 1:n on the diameter."""

    ratio: float


class Groove(_Frozen):
    """A groove by width and the diameter of its bottom or its depth; ``form`` E or F is an undercut of DIN 509."""

    width_mm: float | None = None
    diameter_mm: float | None = None
    depth_mm: float | None = None
    radius_mm: float | None = None
    form: Literal["E", "F"] | None = None
    ring: bool | None = None


class Keyway(_Frozen):
    width_mm: float
    depth_mm: float | None = None
    length_mm: float | None = None
    fit: str | None = None


class Centre(_Frozen):
    """A centre hole of ISO 6411: form A, B or R."""

    form: Literal["A", "B", "R"]
    pilot_mm: float
    countersink_mm: float | None = None


class Knurl(_Frozen):
    """DIN 82: RAA straight, RGE crossed raised, and so on."""

    form: str
    pitch_mm: float


class Rule(_Frozen):
    """A general note: what is done to every edge of a kind that has no dimension of its own."""

    what: Literal["fillet", "round", "fillet and round", "break", "chamfer"]
    size_mm: float
    angle_deg: float | None = None
    at_most: bool | None = None
    where: Literal["every edge not named elsewhere"] = "every edge not named elsewhere"


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
    spotface: Entry | None = None
    cdrill: Entry | None = None
    thread: Thread | None = None
    bolt_circle_mm: float | None = None
    pattern: Pattern | None = None
    taper: Taper | None = None
    groove: Groove | None = None
    keyway: Keyway | None = None
    centre: Centre | None = None
    knurl: Knurl | None = None
    rule: Rule | None = None
    size_mm: float | None = None
    second_mm: float | None = None
    square: bool | None = None
    spherical: bool | None = None
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
    #: for words that were not read, the nearest that could be
    nearest: tuple[tuple[str, str], ...] = ()
    plain: str = ""

    def as_json(self) -> dict[str, Any]:
        """The stable shape that ``lathed-solid note --json`` prints."""
        return {
            "ok": bool(self.clauses) and not self.unread,
            "plain": self.plain,
            "clauses": [c.as_json() for c in self.clauses],
            "assumed": list(self.assumed),
            "unread": list(self.unread),
            **({"nearest": dict(self.nearest)} if self.nearest else {}),
        }
