"""Callouts: dimensions with a balloon number, entered once in the notation of the paper.

Lengths in mm, angles in radians. ``drive`` says what the geometry takes: the nominal, or the mean of the
readings ("as measured", for a worn seat that is modelled as it is).
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from lathed_solid.errors import LathedError
from lathed_solid.ledger.probe import Probe
from lathed_solid.ledger.spans import Span
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle as angle_text
from lathed_solid.quantity.formatting import length

if TYPE_CHECKING:
    from lathed_solid.notation import Meaning

#: a taper's size is n of 1:n, a number
CalloutKind = Literal["diameter", "radius", "length", "depth", "angle", "chamfer", "taper"]
Finite = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class LedgerError(LathedError, ValueError):
    """A callout or reading that cannot be."""


Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class SheetPlace(BaseModel):
    """Where a callout stands: the sheet (its number in the document), the page from 1, and shares of the page's width
    and height from the top left.
    """

    model_config = ConfigDict(frozen=True)

    sheet: int = Field(default=1, ge=1, le=200)
    page: int = Field(default=1, ge=1, le=500)
    x: Share
    y: Share


class Callout(BaseModel):
    """One dimension of the sheet. ``count`` is the number of like places; ``angle`` a chamfer's angle;
    ``span`` between which places of the part it runs."""

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
    place: SheetPlace | None = None
    span: Span | None = None

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
        if self.kind == "taper":
            return f"1:{shown:.6g}"
        sign = {"diameter": "⌀", "radius": "R"}.get(self.kind, "")
        return sign + length(shown, self.unit)


def callouts_from_note(text: str, balloon: int, unit: LengthUnit = "mm", source: str = "sheet") -> tuple[Callout, ...]:
    """Callouts, numbered from ``balloon``, for every dimension that a note states.

    Raises NoteError when the note cannot be read, LedgerError when words of it stay unread or it states no
    dimension.
    """
    from lathed_solid.ledger.dimensions import dimensions
    from lathed_solid.notation import read_note  # a window that only shows a part needs no grammar

    meaning = read_note(text, unit)
    if meaning.unread:
        raise LedgerError(
            "part of the note is not understood", received=", ".join(meaning.unread), hint="rewrite that part"
        )
    found: list[Callout] = []
    for clause in meaning.clauses:
        for values in dimensions(clause):
            found.append(Callout(balloon=balloon + len(found), note=text.strip(), unit=unit, source=source, **values))
    if not found:
        raise LedgerError("the note states no dimension", received=text)
    return tuple(found)


def plain_meaning(meaning: Meaning) -> str:
    """The chip under the note line: the note in words with what was assumed."""
    extra = f" ({'; '.join(meaning.assumed)})" if meaning.assumed else ""
    return meaning.plain + extra
