"""A body from a STEP file, as a step: named by the SHA-256 of the file, whose bytes lie in the store."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from pydantic import Field

from lathed_solid.part.steps.base import StepBase
from lathed_solid.part.steps.resolver import Resolver


@dataclass(frozen=True, slots=True)
class ResolvedImport:
    """The SHA-256 of the stored STEP file."""

    body: str


class ImportedStep(StepBase):
    """Begins a body of all solids of the file, in pieces where they are several.

    Faces are named ``N/f1``, ``N/f2`` in the file's order.
    """

    kind: Literal["imported"] = "imported"
    body: str = Field(pattern=r"^[0-9a-f]{64}$")
    file: str = Field(default="", max_length=200)

    def title(self) -> str:
        return f"Body from {self.file or 'a STEP file'}"

    def resolve(self, evaluate: Resolver) -> ResolvedImport:
        """Never fails."""
        return ResolvedImport(self.body)
