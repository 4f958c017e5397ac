"""The general tolerance that a line of the sheet tells."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from lathed_solid.ledger.callouts import LedgerError
from lathed_solid.ledger.limits import AnyGeneral, InchBlock, Iso2768, MetricBlock, PlusMinus
from lathed_solid.notation.general_tolerances import FRACTION
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH

if TYPE_CHECKING:
    from lathed_solid.notation import Instruction

#: the names of a block's places
PLACES = {FRACTION: "fraction", 0: "zero", 1: "one", 2: "two", 3: "three", 4: "four"}


def general_of(told: Instruction, unit: LengthUnit, present: AnyGeneral | None = None) -> AnyGeneral:
    """What an instruction of a sheet in ``unit`` tells; of angles alone, or of fractions alone, beside what is
    ``present``. Raises LedgerError for deviations that cannot be, and where nothing is there to be beside of.
    """
    try:
        if told.letter is not None:
            return Iso2768(letter=told.letter, angle_deg=told.angle_deg)
        if told.plus_minus_mm is not None:
            return PlusMinus(length=told.plus_minus_mm, angle_deg=told.angle_deg, unit=unit)
        return _block(told, told.unit or unit, present)
    except ValidationError as exc:
        first = exc.errors()[0]["msg"]
        raise LedgerError("this general tolerance cannot be", rule=first, received=told.text) from None


def beside(told: Instruction) -> bool:
    """Whether it says something of angles or of fractions alone, and is added to what is there."""
    lengths = told.letter is not None or told.plus_minus_mm is not None
    return not lengths and all(n == FRACTION for n, _ in told.by_places or ())


def _block(told: Instruction, unit: LengthUnit, present: AnyGeneral | None) -> AnyGeneral:
    """A block by places of this unit, with what one that is there says beside."""
    inch = unit == "in"
    values: dict[str, Any] = {PLACES[n]: round(by / MM_PER_INCH, 9) if inch else by for n, by in told.by_places or ()}
    if told.angle_deg is not None:
        values["angle_deg"] = told.angle_deg
    if not beside(told):
        return (InchBlock if inch else MetricBlock).model_validate(values)
    if present is None or not set(values) <= set(type(present).model_fields):
        raise LedgerError("this says nothing of lengths", received=told.text,
                          hint="the general tolerance of lengths first: ±0.1, ISO 2768-m, .XX ±.01")  # fmt: skip
    return type(present).model_validate(present.model_dump() | values)
