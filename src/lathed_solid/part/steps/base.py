"""What every step has: a number, whether it is suspended, and fields that hold expressions."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, ClassVar, NamedTuple

from pydantic import Field

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Probe
from lathed_solid.part.names import renamed, steps_in
from lathed_solid.part.steps.resolver import Resolver
from lathed_solid.quantity import Kind, QuantityError, names_in
from lathed_solid.quantity.cells import Cell
from lathed_solid.quantity.tolerances import NOTHING
from lathed_solid.record import Record

__all__ = ["Cell", "FieldOf", "Reader", "StepBase", "StepError"]


class FieldOf(NamedTuple):
    """One expression of a step: where it stands, its text and kind, and how it shows on the solid."""

    path: str
    text: str
    kind: Kind
    probe: Probe | None


class StepError(LathedError, ValueError):
    """An impossible step; ``where`` names the field."""


LARGEST = 10_000.0


@dataclass(frozen=True, slots=True)
class Reader:
    """Evaluates a step's cells with the checks that all steps share. Raises StepError naming the field."""

    evaluate: Resolver

    def any(self, field: str, text: str, kind: Kind = "length") -> float:
        """A value in base units, whatever its sign. Raises StepError, naming the field."""
        try:
            return self.evaluate(text, kind)
        except QuantityError as exc:
            raise StepError(exc.what, where=field, received=text, hint=exc.hint) from None

    def size(self, field: str, text: str) -> float:
        """A length above zero, mm."""
        value = self.any(field, text)
        if not 0 < value <= LARGEST:
            raise StepError(f"{field} must be above zero and below 10 m", received=f"{value:g} mm")
        return value

    def maybe(self, field: str, text: str | None) -> float | None:
        """A length above zero, or None for an empty cell."""
        return None if text is None else self.size(field, text)

    def angle(self, field: str, text: str, low: float, high: float) -> float:
        """An angle in rad strictly between ``low`` and ``high`` degrees (``high`` itself allowed)."""
        value = self.any(field, text, "angle")
        if not math.radians(low) < value <= math.radians(high) + NOTHING:
            raise StepError(f"{field} must be above {low:g}° and at most {high:g}°", received=text)
        return value


class StepBase(Record):
    """Common to all steps. ``number`` is 10, 20, 30 ... as on a shop route card."""

    kind: str
    number: int = Field(ge=1, le=99_990)
    suspended: bool = False
    remark: str = Field(default="", max_length=200)

    def fields(self) -> tuple[FieldOf, ...]:
        """All expressions of the step, with their probes."""
        return ()

    @cached_property
    def known_fields(self) -> tuple[FieldOf, ...]:
        """``fields``, made once: a step is a value."""
        return self.fields()

    def resolve(self, evaluate: Resolver) -> Any:
        """The step's figures in mm and rad, frozen and plain. Raises StepError and what ``evaluate`` raises."""
        raise StepError(f"a step of the kind {self.kind} makes nothing")

    def title(self) -> str:
        """What the step is, in a few words."""
        return "Step"

    def uses(self) -> frozenset[str]:
        """Names used by the step's expressions; unreadable ones count as using nothing."""
        return self._used

    @cached_property
    def _used(self) -> frozenset[str]:
        found: set[str] = set()
        for field in self.known_fields:
            try:
                found |= names_in(field.text)
            except QuantityError:
                continue
        return frozenset(found)

    #: fields that hold names of faces, edges, axes or points (one, or a tuple of them), and numbers of steps
    NAMES: ClassVar[tuple[str, ...]] = ()
    STEPS: ClassVar[tuple[str, ...]] = ()

    def stands_on(self) -> frozenset[int]:
        """Numbers of the steps whose faces or sketches this one needs."""
        names = (n for field in self.NAMES for n in many(getattr(self, field)))
        numbers = (n for field in self.STEPS for n in many(getattr(self, field)))
        return frozenset().union(*(steps_in(n) for n in names), numbers)

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        """The fields that change when steps get new numbers (old to new), but for ``number`` itself."""
        out: dict[str, Any] = {}
        for field in self.NAMES:
            value = getattr(self, field)
            out[field] = tuple(renamed(n, renumber) for n in value) if isinstance(value, tuple) else (
                renamed(value, renumber) if value else value
            )  # fmt: skip
        for field in self.STEPS:
            value = getattr(self, field)
            out[field] = tuple(renumber.get(n, n) for n in value) if isinstance(value, tuple) else (
                renumber.get(value, value) if value is not None else None
            )  # fmt: skip
        return out

    def balloons(self) -> tuple[int, ...]:
        """Balloon numbers that drive the step, in order."""
        return tuple(sorted(int(n[1:]) for n in self.uses() if n.startswith("#")))


def many(value: Any) -> tuple[Any, ...]:
    """A field's values, whether it holds none, one or several."""
    if value is None or value == "":
        return ()
    return value if isinstance(value, tuple) else (value,)
