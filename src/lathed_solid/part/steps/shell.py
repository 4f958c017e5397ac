"""Hollowing the body: a wall along its faces, open where faces are named."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedShell:
    """``wall`` in mm; the faces that are left open."""

    wall: float
    open_faces: tuple[str, ...]
    outwards: bool


class ShellStep(StepBase):
    """Hollows the body out to a wall, inwards or outwards, and leaves faces open."""

    NAMES: ClassVar[tuple[str, ...]] = ("open_faces",)

    kind: Literal["shell"] = "shell"
    wall: Cell = "2"
    open_faces: tuple[str, ...] = Field(default=(), max_length=100)
    outwards: bool = False

    def title(self) -> str:
        n = len(self.open_faces)
        return f"Hollow out, {n} face{'s' if n != 1 else ''} open"

    def fields(self) -> tuple[FieldOf, ...]:
        return (FieldOf("wall", self.wall, "length", Probe(kind="wall", faces=("**'",))),)

    def resolve(self, evaluate: Resolver) -> ResolvedShell:
        """All figures. Raises StepError."""
        if not self.open_faces:
            raise StepError("name at least one face that is left open", where="open faces", hint="pick a face")
        return ResolvedShell(Reader(evaluate).size("wall", self.wall), self.open_faces, self.outwards)
