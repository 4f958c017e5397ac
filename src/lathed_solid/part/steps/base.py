"""What every step has: a number, whether it is suspended, and fields that hold expressions."""

from __future__ import annotations

from typing import NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from lathed_solid.ledger import Probe
from lathed_solid.quantity import Kind, QuantityError, names_in
from lathed_solid.turned.table import Cell

__all__ = ["Cell", "FieldOf", "StepBase"]


class FieldOf(NamedTuple):
    """One expression of a step: where it stands, its text and kind, and how it shows on the solid."""

    path: str
    text: str
    kind: Kind
    probe: Probe | None


class StepBase(BaseModel):
    """Common to all steps. ``number`` is 10, 20, 30 ... as on a shop route card."""

    model_config = ConfigDict(frozen=True)

    number: int = Field(ge=1, le=99_990)
    suspended: bool = False
    remark: str = Field(default="", max_length=200)

    def fields(self) -> tuple[FieldOf, ...]:
        """All expressions of the step, with their probes."""
        return ()

    def title(self) -> str:
        """What the step is, in a few words."""
        return "Step"

    def uses(self) -> frozenset[str]:
        """Names used by the step's expressions; unreadable ones count as using nothing."""
        found: set[str] = set()
        for field in self.fields():
            try:
                found |= names_in(field.text)
            except QuantityError:
                continue
        return frozenset(found)

    def balloons(self) -> tuple[int, ...]:
        """Balloon numbers that drive the step, in order."""
        return tuple(sorted(int(n[1:]) for n in self.uses() if n.startswith("#")))
