"""The general tolerance that a line of the sheet tells."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from pydantic import ValidationError

from lathed_solid.ledger.callouts import LedgerError
from lathed_solid.ledger.limits import AnyGeneral, InchBlock, Iso2768, PlusMinus
from lathed_solid.quantity import LengthUnit

if TYPE_CHECKING:
    from lathed_solid.notation import Instruction

#: the names of an inch block's places
PLACES = {1: "one", 2: "two", 3: "three", 4: "four"}


def general_of(told: Instruction, unit: LengthUnit) -> AnyGeneral:
    """What an instruction of a sheet in ``unit`` tells. Raises LedgerError for deviations that cannot be."""
    try:
        if told.letter is not None:
            return Iso2768(letter=told.letter)
        if told.plus_minus_mm is not None:
            return PlusMinus(length=told.plus_minus_mm, angle_deg=told.angle_deg, unit=unit)
        values: dict[str, Any] = {PLACES[n]: by for n, by in told.by_places or ()}
        if told.angle_deg is not None:
            values["angle_deg"] = told.angle_deg
        return InchBlock(**values)
    except ValidationError as exc:
        first = exc.errors()[0]["msg"]
        raise LedgerError("this general tolerance cannot be", rule=first, received=told.text) from None
