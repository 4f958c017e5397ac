"""Callouts: dimensions with a balloon number, entered once in the notation of the paper.

Lengths in mm, angles in radians. ``drive`` says what the geometry takes: the nominal, the middle of the limits (for a
fit such as k6 or P9, which the nominal itself does not keep), or the mean of the readings ("as measured", for a worn
seat that is modelled as it is).
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import ConfigDict, Field, ValidationError, model_validator

from lathed_solid.errors import LathedError
from lathed_solid.ledger.duties import Duty, DutyKind
from lathed_solid.ledger.probe import Probe
from lathed_solid.ledger.roles import PLAIN, Role
from lathed_solid.ledger.spans import Span
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle as angle_text
from lathed_solid.quantity.formatting import length
from lathed_solid.record import Record

if TYPE_CHECKING:
    from lathed_solid.notation import Meaning

#: a taper's size is n of 1:n, a number
CalloutKind = Literal["diameter", "radius", "length", "depth", "angle", "chamfer", "taper"]
Finite = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class LedgerError(LathedError, ValueError):
    """A callout or reading that cannot be."""


Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class SheetPlace(Record):
    """Where a callout stands: the sheet (its number in the document), the page from 1, and shares of the page's width
    and height from the top left.
    """

    sheet: int = Field(default=1, ge=1, le=200)
    page: int = Field(default=1, ge=1, le=500)
    x: Share
    y: Share


def _without_owned(schema: dict[str, Any]) -> None:
    """In files these stand with the note alone."""
    for name in OWNED:
        schema["properties"].pop(name)
    schema["required"].remove("note")


#: what a callout has from the note that owns it
OWNED = ("note", "unit", "source")


class Callout(Record):
    """One dimension of the sheet. ``role``: what of its note's feature it is; ``count`` the number of like places;
    ``angle`` a chamfer's angle; ``duties`` what the note asks beside the size; ``span`` between which places of the
    part it runs. ``note``, ``unit`` and ``source`` are those of the note that owns it, and stand in files only there.
    """

    model_config = ConfigDict(json_schema_extra=_without_owned)

    balloon: int = Field(ge=1, le=9999)
    note: str = Field(min_length=1, max_length=500, exclude=True)
    role: Role = "length"
    kind: CalloutKind
    nominal: Finite
    meaning: str = Field(default="", max_length=200)
    low: Finite | None = None
    high: Finite | None = None
    fit: str | None = Field(default=None, max_length=8)
    decimals: int | None = Field(default=None, ge=0, le=9)
    angle: Finite | None = None
    count: int = Field(default=1, ge=1, le=500)
    duties: tuple[Duty, ...] = Field(default=(), max_length=20)
    reference: bool = False
    drive: Literal["nominal", "measured", "middle"] = "nominal"
    unit: LengthUnit = Field(default="mm", exclude=True)
    source: str = Field(default="sheet", max_length=80, exclude=True)
    measure: Probe | None = None
    place: SheetPlace | None = None
    span: Span | None = None

    @model_validator(mode="before")
    @classmethod
    def _plain_role(cls, data: Any) -> Any:
        if isinstance(data, dict) and "role" not in data and data.get("kind") in PLAIN:
            return {**data, "role": PLAIN[data["kind"]]}
        return data

    @model_validator(mode="after")
    def _positive(self) -> Callout:
        if self.nominal <= 0:
            raise ValueError(f"callout {self.balloon}: a nominal above zero is needed, {self.nominal} given")
        if self.low is not None and self.high is not None and self.low > self.high:
            raise ValueError(f"callout {self.balloon}: the lower limit is above the upper one")
        return self

    def duty(self, kind: DutyKind) -> Duty | None:
        """The duty of a kind, None where the note asks for none."""
        return next((d for d in self.duties if d.kind == kind), None)

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


class Redress(Record):
    """What a disputed note of the drawing said, and why another was decided on."""

    drawn: str = Field(min_length=1, max_length=500)
    reason: str = Field(min_length=1, max_length=500)

    @property
    def words(self) -> str:
        """In one line."""
        return f"the drawing says {self.drawn}: {self.reason}"


MAX_CALLOUTS = 100


class Note(Record):
    """One note of the drawing, as it is written there, and the callouts that it states.

    ``redress``: the note is a decision, and what the drawing said instead.
    """

    text: str = Field(min_length=1, max_length=500)
    unit: LengthUnit = "mm"
    source: str = Field(default="sheet", max_length=80)
    callouts: tuple[Callout, ...] = Field(min_length=1, max_length=MAX_CALLOUTS)
    redress: Redress | None = None

    @model_validator(mode="before")
    @classmethod
    def _own(cls, data: Any) -> Any:
        """Callouts read from a file say what their note says."""
        if not isinstance(data, dict) or not isinstance(data.get("callouts"), (list, tuple)):
            return data
        says = {"note": data.get("text", ""), "unit": data.get("unit", "mm"), "source": data.get("source", "sheet")}
        return {**data, "callouts": [{**c, **says} if isinstance(c, dict) else c for c in data["callouts"]]}

    @model_validator(mode="after")
    def _one_text(self) -> Note:
        for c in self.callouts:
            if (c.note, c.unit, c.source) != (self.text, self.unit, self.source):
                raise ValueError(f"callout {c.balloon} says {c.note!r}, its note {self.text!r}")
        return self

    @classmethod
    def of(cls, callouts: Iterable[Callout], redress: Redress | None = None) -> Note:
        """The note that owns these callouts, which all say the same text."""
        owned = tuple(callouts)
        first = owned[0]
        return cls(text=first.note, unit=first.unit, source=first.source, callouts=owned, redress=redress)


def callouts_from_note(text: str, balloon: int, unit: LengthUnit = "mm", source: str = "sheet") -> tuple[Callout, ...]:
    """Callouts, numbered from ``balloon``, for every dimension that a note states.

    Raises NoteError when the note cannot be read, LedgerError when words of it stay unread or it states no
    dimension.
    """
    from lathed_solid.notation import read_note  # a window that only shows a part needs no grammar

    return callouts_from_meaning(read_note(text, unit), balloon, source)


def callouts_from_meaning(meaning: Meaning, balloon: int, source: str = "sheet") -> tuple[Callout, ...]:
    """The same, of a note that was read already. Raises LedgerError."""
    from lathed_solid.ledger.dimensions import beside, dimensions

    if meaning.unread:
        raise LedgerError(
            "part of the note is not understood", received=", ".join(meaning.unread), hint="rewrite that part"
        )
    text, unit = meaning.note.strip(), meaning.unit
    found: list[Callout] = []
    owned = 0  # of the clause whose feature a frame or a datum behind it speaks of
    for clause in meaning.clauses:
        duty = beside(clause)
        if duty is not None and found:
            owner = found[owned]
            found[owned] = owner.model_copy(update={"duties": (*owner.duties, duty)})
            continue
        owned = len(found)
        for values in dimensions(clause):
            try:
                found.append(Callout(balloon=balloon + len(found), note=text, unit=unit, source=source, **values))
            except ValidationError as exc:  # a slip that the grammar lets through: said in words, whatever it is
                first = exc.errors()[0]
                raise LedgerError(
                    f"the note makes no callout: {'.'.join(map(str, first['loc']))}",
                    rule=first["msg"],
                    received=meaning.note,
                ) from None
    if not found:
        raise LedgerError("the note states no dimension", received=meaning.note)
    if len(found) > MAX_CALLOUTS:
        raise LedgerError(f"the note states more than {MAX_CALLOUTS} dimensions", hint="a note for each few of them")
    return tuple(found)


def plain_meaning(meaning: Meaning) -> str:
    """The chip under the note line: the note in words with what was assumed."""
    extra = f" ({'; '.join(meaning.assumed)})" if meaning.assumed else ""
    return meaning.plain + extra
