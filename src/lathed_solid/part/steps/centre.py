"""A centre hole in an end face."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.resolver import Resolver


class CentreStep(StepBase):
    """A centre hole (ISO 6411 form A) in an end face, on the axis of a round face."""

    NAMES: ClassVar[tuple[str, ...]] = ("face", "about")

    kind: Literal["centre"] = "centre"
    face: FaceName
    about: str = Field(default="X", min_length=1, max_length=900)
    pilot: Cell = "2.5"

    def title(self) -> str:
        return f"Centre hole A{self.pilot} in {self.face}"

    def fields(self) -> tuple[FieldOf, ...]:
        shown = Probe(kind="diameter", faces=(f"{self.number}/pilot",))
        return (FieldOf("pilot", self.pilot, "length", shown),)

    def resolve(self, evaluate: Resolver) -> ResolvedMachined:
        """All figures. Raises StepError."""
        return ResolvedMachined(
            "centre", self.face, self.about, diameter=Reader(evaluate).size("pilot", self.pilot)
        )  # fmt: skip
