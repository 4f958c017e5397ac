"""The volume as a sum that a person can follow: what the first step made, and what each later one added or took.

    388 = 281.4 (plate) + 119.1 (column) - 6.1 (groove) - 6.0 (4 holes) ...

For a part turned from a table the first line is checked by Pappus: V = 2 pi r A, with A the area of the half section
and r the distance of its centroid from the axis (Pappus of Alexandria, Collection VII).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

from lathed_solid.errors import LathedError
from lathed_solid.part import Document
from lathed_solid.part.edits import turned_step
from lathed_solid.part.scope import scope
from lathed_solid.quantity.formatting import area as shown_area
from lathed_solid.quantity.formatting import fixed
from lathed_solid.quantity.formatting import volume as shown_volume
from lathed_solid.quantity.tolerances import RELATIVE


@dataclass(frozen=True, slots=True)
class VolumeLine:
    """What a step changed, mm3, and the volume after it."""

    step: int
    what: str
    volume: float
    total: float


class StepOutcome(Protocol):
    """What a build says of a step; ``volume_mm3`` of all bodies after it, None where it is not known."""

    @property
    def number(self) -> int: ...
    @property
    def ok(self) -> bool: ...
    @property
    def suspended(self) -> bool: ...
    @property
    def volume_mm3(self) -> float | None: ...


def itemised(document: Document, steps: Sequence[StepOutcome]) -> tuple[VolumeLine, ...]:
    """One line for every step that changed the volume; ``steps`` as a build tells them, each with its volume after."""
    out, before = [], 0.0
    for told in steps:
        after, step = told.volume_mm3, document.step(told.number)
        if after is None or step is None or told.suspended or not told.ok:
            continue
        if abs(after - before) > RELATIVE * max(after, 1.0):
            out.append(VolumeLine(step.number, step.title(), after - before, after))
        before = after
    return tuple(out)


def pappus(document: Document) -> tuple[float, float, float] | None:
    """(area of the half section, distance of its centroid from the axis, volume) of a turned table; None for others."""
    step = turned_step(document)
    if step is None or step.suspended:
        return None
    try:
        section = step.resolve(scope(document))
    except LathedError:
        return None
    from lathed_solid.turned.properties import revolved

    figures = revolved(section)
    radius = figures.volume / (2 * math.pi * figures.half_area) if figures.half_area else 0.0
    return figures.half_area, radius, figures.volume


def sum_words(document: Document, lines: Sequence[VolumeLine]) -> str:
    """The sum in one line; of a turned table the same by Pappus in another."""
    if not lines:
        return ""
    first, *rest = lines

    def plain(mm3: float) -> str:
        return shown_volume(mm3, document.unit, 1).rpartition(" ")[0]

    terms = "".join(f" {'+' if k.volume > 0 else '−'} {plain(abs(k.volume))}" for k in rest)
    words = f"{shown_volume(lines[-1].total, document.unit, 1)} = {plain(first.volume)}{terms}"
    by_hand = pappus(document)
    turned = turned_step(document)
    if by_hand is not None and turned is not None:
        area, radius, volume = by_hand
        unit = document.unit
        words += (f"\nstep {turned.number} by Pappus: 2π × {fixed(radius, unit)} {unit} × {shown_area(area, unit)} = "
                  f"{shown_volume(volume, unit, 1)}")  # fmt: skip
    return words
