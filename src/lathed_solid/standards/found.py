"""An answer of a look-up: figures with their clauses."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH


@dataclass(frozen=True, slots=True)
class Figure:
    """One line of an answer: ``low`` and ``high`` in ``unit``, alike for a single value, None for no limit."""

    label: str
    low: float | None
    high: float | None
    unit: str = "mm"
    source: str = ""

    def texts(self, unit: LengthUnit = "mm") -> tuple[str, str, str]:
        """(low, high, unit) as read: lengths to a micrometre or a tenth of a thou, no high where both are alike."""
        factor, shown = (1 / MM_PER_INCH, "in") if unit == "in" and self.unit == "mm" else (1.0, self.unit)
        places = 4 if shown == "in" else 2 if shown in ("mm²", "µm") else 3

        def text(v: float | None) -> str:
            return "–" if v is None else f"{v * factor:.{places}f}".rstrip("0").rstrip(".")

        return text(self.low), "" if self.low == self.high else text(self.high), shown


@dataclass(frozen=True)
class Found:
    """What was found: a title, its figures, what was assumed, and the same as data."""

    title: str
    figures: tuple[Figure, ...]
    assumed: tuple[str, ...] = ()
    data: dict[str, Any] = field(default_factory=dict)


def one(label: str, value: float, source: str, unit: str = "mm") -> Figure:
    """A single value."""
    return Figure(label, value, value, unit, source)
