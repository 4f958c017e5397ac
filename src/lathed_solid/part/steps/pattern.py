"""Repeating what steps made: as an exact copy of the material, or rebuilt at each place.

An exact copy is the very same material moved. Rebuilt, each copy is made anew where it stands, so that an end
condition (to
the next face, through all) is found there: a cut to the next face gets another depth where that face lies deeper.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field

from lathed_solid.part.steps.base import FieldOf, StepBase, StepError
from lathed_solid.part.steps.catalogue import CATALOGUE
from lathed_solid.part.steps.edges import EdgeStep
from lathed_solid.part.steps.pattern_layout import (
    Layout,
    ResolvedLayout,
    RowLayout,
    copies,
    layout_fields,
    layout_renumbered,
    layout_stands_on,
    resolve_layout,
)
from lathed_solid.part.steps.resolver import Resolver

StepNumbers = tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Source:
    """A step to repeat; ``figures`` when it is to be rebuilt, or ``breaks`` edges."""

    number: int
    kind: str
    figures: Any = None
    breaks: bool = False


@dataclass(frozen=True, slots=True)
class ResolvedPattern:
    """``skip``: numbers of copies left out (the original is 0)."""

    sources: tuple[Source, ...]
    layout: ResolvedLayout
    skip: tuple[int, ...]


def sources_of(steps: StepNumbers, number: int, rebuilt: bool, evaluate: Resolver) -> tuple[Source, ...]:
    """The steps to repeat. Raises StepError for one that is not there, comes later, or cannot be repeated."""
    document = evaluate.document
    if not steps:
        raise StepError("no step is named to repeat", where="steps", hint="numbers of steps, such as 20; 30")
    out = []
    for n in steps:
        step = document.step(n) if document is not None else None
        if step is None or n >= number or step.suspended:
            raise StepError(f"there is no step {n} before this one to repeat", where="steps")
        breaks = step.kind in CATALOGUE and CATALOGUE[step.kind].breaks
        if breaks and not isinstance(step, EdgeStep):
            raise StepError(f"step {n} makes no material of its own to copy", where="steps")
        out.append(Source(n, step.kind, step.resolve(evaluate) if rebuilt or breaks else None, breaks))
    if all(s.breaks for s in out):
        raise StepError("edges are broken again where what they belong to is repeated", where="steps",
                        hint="name the step that made them too")  # fmt: skip
    return tuple(out)


class PatternStep(StepBase):
    """Repeats ``steps`` at the places of ``layout``."""

    kind: Literal["pattern"] = "pattern"
    steps: StepNumbers = Field(default=(), max_length=50)
    layout: Layout = RowLayout()
    rebuilt: bool = False
    skip: tuple[int, ...] = Field(default=(), max_length=2000)

    def title(self) -> str:
        words = {"row": "Row", "grid": "Grid", "ring": "Ring", "curve": "Along a curve", "list": "Places"}
        of = ", ".join(map(str, self.steps)) or "…"
        return f"{words[self.layout.kind]} of {copies(self.layout) - len(self.skip)}: step {of}"

    def resolve(self, evaluate: Resolver) -> ResolvedPattern:
        """All figures. Raises StepError."""
        sources = sources_of(self.steps, self.number, self.rebuilt, evaluate)
        many = copies(self.layout)
        wrong = [k for k in self.skip if not 1 <= k < many]
        if wrong:
            raise StepError(f"there is no copy {wrong[0]} to skip", where="skip", rule=f"copies are 1 to {many - 1}")
        return ResolvedPattern(sources, resolve_layout(self.layout, evaluate), self.skip)

    def fields(self) -> tuple[FieldOf, ...]:
        return layout_fields(self.layout, self.number)

    def stands_on(self) -> frozenset[int]:
        return frozenset(self.steps) | layout_stands_on(self.layout)

    def renumbered(self, renumber: Mapping[int, int]) -> dict[str, Any]:
        steps = tuple(renumber.get(n, n) for n in self.steps)
        return {"steps": steps, "layout": layout_renumbered(self.layout, renumber)}
