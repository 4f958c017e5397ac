"""What every step has: a number, whether it is suspended, and fields that hold expressions."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

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


def face_step(face: str) -> frozenset[int]:
    """The step whose face a name is of."""
    head = face.partition("/")[0]
    return frozenset({int(head)}) if head.isdigit() else frozenset()


def renamed(face: str, renumber: Mapping[int, int]) -> str:
    """A face name after steps got new numbers."""
    head, slash, rest = face.partition("/")
    return f"{renumber.get(int(head), int(head))}{slash}{rest}" if head.isdigit() else face


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

    def stands_on(self) -> frozenset[int]:
        """Numbers of the steps whose faces or sketches this one needs."""
        return frozenset()

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        """The fields that change when steps get new numbers (old to new), but for ``number`` itself."""
        return {}

    def balloons(self) -> tuple[int, ...]:
        """Balloon numbers that drive the step, in order."""
        return tuple(sorted(int(n[1:]) for n in self.uses() if n.startswith("#")))
