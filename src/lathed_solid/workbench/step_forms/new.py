"""The menu of new steps: the catalogue's entries, each begun by its kind's editor module.

A new step comes after the row where work stands.
"""

from __future__ import annotations

from dataclasses import dataclass
from importlib import import_module

from lathed_solid.part import Document, StepBase
from lathed_solid.part.steps import KINDS
from lathed_solid.part.steps.catalogue import CATALOGUE, GROUPS, Entry
from lathed_solid.workbench.step_forms.begin import Make, Missing, Picked

__all__ = ["GROUPS", "NEW", "Missing", "NewStep", "new_step"]


@dataclass(frozen=True)
class NewStep:
    """An entry of the menu; ``place``: the how-manieth of its kind."""

    kind: str
    entry: Entry
    place: int

    @property
    def make(self) -> Make:
        """What the step begins with; its editor's module is imported for it."""
        begin: tuple[Make, ...] = import_module(f"lathed_solid.workbench.step_forms.{self.kind}").BEGIN
        return begin[self.place]


NEW: tuple[NewStep, ...] = tuple(
    NewStep(kind.name, entry, place)
    for group in GROUPS
    for kind in CATALOGUE.values()
    for place, entry in enumerate(kind.entries)
    if entry.group == group
)


def new_step(new: NewStep, document: Document, picked: Picked, number: int) -> StepBase:
    """The step, with what could be guessed. Raises Missing with words, or a validation error."""
    return KINDS[new.kind](number=number, **new.make(document, picked))
