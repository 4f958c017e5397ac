"""Callouts: dimensions with a balloon number, entered once in the notation of the paper.

Lengths in mm, angles in radians. ``drive`` says what the geometry takes: the nominal, or the mean of the
readings ("as measured", for a worn seat that is modelled as it is).
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from lathed_solid.errors import LathedError
from lathed_solid.ledger.probe import Probe
from lathed_solid.notation import Clause, Meaning, read_note
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle as angle_text
from lathed_solid.quantity.formatting import length

CalloutKind = Literal["diameter", "radius", "length", "depth", "angle", "chamfer"]
Finite = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class LedgerError(LathedError, ValueError):
    """A callout or reading that cannot be."""


class Callout(BaseModel):
    """One dimension of the sheet. ``count`` is the number of like places; ``angle`` a chamfer's angle."""

    model_config = ConfigDict(frozen=True)

    balloon: int = Field(ge=1, le=9999)
    note: str = Field(min_length=1, max_length=500)
    kind: CalloutKind
    nominal: Finite
    meaning: str = Field(default="", max_length=200)
    low: Finite | None = None
    high: Finite | None = None
    fit: str | None = Field(default=None, max_length=8)
    decimals: int | None = Field(default=None, ge=0, le=9)
    angle: Finite | None = None
    count: int = Field(default=1, ge=1, le=500)
    reference: bool = False
    drive: Literal["nominal", "measured"] = "nominal"
    unit: LengthUnit = "mm"
    source: str = Field(default="sheet", max_length=80)
    measure: Probe | None = None

    @model_validator(mode="after")
    def _positive(self) -> Callout:
        if self.nominal <= 0:
            raise ValueError(f"callout {self.balloon}: a nominal above zero is needed, {self.nominal} given")
        if self.low is not None and self.high is not None and self.low > self.high:
            raise ValueError(f"callout {self.balloon}: the lower limit is above the upper one")
        return self

    @property
    def name(self) -> str:
        """The name in expressions: ``#7``."""
        return f"#{self.balloon}"

    def show(self, value: float | None = None) -> str:
        """A value (the nominal by default) as read on the sheet."""
        shown = self.nominal if value is None else value
        if self.kind == "angle":
            return angle_text(shown)
        sign = {"diameter": "⌀", "radius": "R"}.get(self.kind, "")
        return sign + length(shown, self.unit)


def callouts_from_note(text: str, balloon: int, unit: LengthUnit = "mm", source: str = "sheet") -> tuple[Callout, ...]:
    """Callouts, numbered from ``balloon``, for every dimension that a note states.

    Raises NoteError when the note cannot be read, LedgerError when words of it stay unread or it states no
    dimension.
    """
    meaning = read_note(text, unit)
    if meaning.unread:
        raise LedgerError(
            "part of the note is not understood", received=", ".join(meaning.unread), hint="rewrite that part"
        )
    found: list[Callout] = []
    for clause in meaning.clauses:
        for values in _dimensions(clause):
            found.append(Callout(balloon=balloon + len(found), note=text.strip(), unit=unit, source=source, **values))
    if not found:
        raise LedgerError("the note states no dimension", received=text)
    return tuple(found)


def _dimensions(c: Clause) -> list[dict]:
    """Keyword values of each callout that a clause implies, the clause's own size first."""
    base: dict = {"count": c.count or 1, "reference": bool(c.reference)}
    own = {"low": c.low_mm, "high": c.high_mm, "fit": c.fit, "decimals": c.decimals}
    if c.kind == "hole":
        out = [dict(base, kind="diameter", nominal=c.diameter_mm, meaning="hole diameter", **own)]
        if c.depth_mm is not None:
            out.append(dict(base, kind="depth", nominal=c.depth_mm, meaning=f"hole depth to the {c.depth_to}"))
        if c.cbore:
            out.append(dict(base, kind="diameter", nominal=c.cbore.diameter_mm, meaning="counterbore diameter"))
            out.append(dict(base, kind="depth", nominal=c.cbore.depth_mm, meaning="counterbore depth"))
        if c.csk:
            out.append(dict(base, kind="diameter", nominal=c.csk.diameter_mm, meaning="countersink diameter"))
        if c.bolt_circle_mm:
            out.append({"kind": "diameter", "nominal": c.bolt_circle_mm, "meaning": "bolt circle"})
        return out
    if c.kind == "diameter":
        return [dict(base, kind="diameter", nominal=c.diameter_mm, meaning="diameter", **own)]
    if c.kind in ("radius", "fillet"):
        return [dict(base, kind="radius", nominal=c.size_mm, meaning="radius", **own)]
    if c.kind == "length":
        return [dict(base, kind="length", nominal=c.size_mm, meaning="length", **own)]
    if c.kind == "chamfer":
        angle = math.radians(c.angle_deg or 45)
        return [dict(base, kind="chamfer", nominal=c.size_mm, angle=angle, meaning="chamfer", **own)]
    if c.kind == "angle":
        low = None if c.low_deg is None else math.radians(c.low_deg)
        high = None if c.high_deg is None else math.radians(c.high_deg)
        return [
            dict(
                base,
                kind="angle",
                nominal=math.radians(c.angle_deg or 0),
                low=low,
                high=high,
                meaning="angle",
            )
        ]
    if c.kind == "thread" and c.thread:
        out = [
            dict(
                base,
                kind="diameter",
                nominal=c.thread.major_mm,
                meaning=f"major diameter, {c.thread.designation}",
            )
        ]
        if c.thread.depth_mm:
            out.append(dict(base, kind="length", nominal=c.thread.depth_mm, meaning="thread length"))
        return out
    return []


def plain_meaning(meaning: Meaning) -> str:
    """The chip under the note line: the note in words with what was assumed."""
    extra = f" ({'; '.join(meaning.assumed)})" if meaning.assumed else ""
    return meaning.plain + extra
