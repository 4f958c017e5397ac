"""Numbers that go into a field of another kind: a radius into a diameter, a diameter into a radius, a whole angle
into a half angle. Told at once, with the expression that would be right.

Only a field that holds nothing but the callout can be told so: whoever writes ``2*#1`` has thought of it.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from lathed_solid.ledger import Callout, LedgerError
from lathed_solid.part.document import Document
from lathed_solid.part.steps import SketchStep, StepBase
from lathed_solid.part.steps.base import FieldOf

#: what a field takes, by the way its faces show it; sketches' dimensions by their own kind
SENSE = {"diameter": "diameter", "diameter_at": "diameter", "mouth": "diameter", "bolt_circle": "diameter",
         "thread_major": "diameter", "across_axis": "diameter", "radius": "radius",
         "cone_angle": "half angle", "included": "whole angle"}  # fmt: skip
#: (what the callout is, what the field takes) -> how the callout has to stand there
RIGHT = {("radius", "diameter"): "2 * {}", ("diameter", "radius"): "{} / 2", ("whole angle", "half angle"): "{} / 2"}


@dataclass(frozen=True, slots=True)
class Mismatch:
    """A field of one kind that holds a callout of another; ``right``: the expression that would be right."""

    step: int
    field: str
    takes: str
    callout: Callout
    is_a: str
    right: str

    @property
    def words(self) -> str:
        """One line for a message."""
        return (
            f"step {self.step}, {self.field}: callout {self.callout.balloon} ({self.callout.note.strip()}) is a "
            f"{self.is_a}, the field takes a {self.takes}: {self.right}"
        )


class KindError(LedgerError):
    """A callout in a field of another kind; ``mismatch`` says which, and what would be right."""

    def __init__(self, mismatch: Mismatch) -> None:
        self.mismatch = mismatch
        super().__init__(
            f"callout {mismatch.callout.balloon} is a {mismatch.is_a}, the field takes a {mismatch.takes}",
            where=f"step {mismatch.step}, {mismatch.field}", received=mismatch.callout.name, hint=mismatch.right,
        )  # fmt: skip


def mismatches(document: Document, step: StepBase) -> Iterator[Mismatch]:
    """Fields of a step that hold a callout of another kind."""
    for field, takes in _senses(step):
        name = field.text.strip()
        if not name.startswith("#") or not name[1:].isdigit():
            continue
        callout = document.callout(int(name[1:]))
        if callout is None:
            continue
        is_a = "whole angle" if callout.role == "countersink angle" else callout.kind
        right = RIGHT.get((is_a, takes))
        if right is not None:
            yield Mismatch(step.number, field.path, takes, callout, is_a, right.format(callout.name))


def new_mismatches(before: Document, after: Document) -> list[Mismatch]:
    """Those of the steps that an edit made or changed."""
    known = set(before.steps)
    return [m for s in after.steps if s not in known for m in mismatches(after, s)]


def checked(document: Document) -> Document:
    """The document, when its last step holds every callout in a field of its kind. Raises KindError."""
    for m in mismatches(document, document.steps[-1]) if document.steps else ():
        raise KindError(m)
    return document


def _senses(step: StepBase) -> Iterator[tuple[FieldOf, str]]:
    if isinstance(step, SketchStep):
        for c in step.sketch.constraints:
            if c.value and not c.reference and c.kind in SENSE:
                yield FieldOf(f"{c.kind.replace('_', ' ')} {c.id}", c.value, "length", None), SENSE[c.kind]
        return
    for field in step.fields():
        if field.probe is not None and field.probe.kind in SENSE:
            yield field, SENSE[field.probe.kind]
