"""A knurl, carried as data on a cylinder."""

from __future__ import annotations

from typing import ClassVar, Literal

from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.resolver import Resolver


class KnurlStep(StepBase):
    """A knurl, carried as data on a cylinder: its form (DIN 82) and pitch; the solid stays plain."""

    NAMES: ClassVar[tuple[str, ...]] = ("face",)

    kind: Literal["knurl"] = "knurl"
    face: FaceName
    form: Literal["RAA", "RBL", "RBR", "RGE", "RGV", "RKE", "RKV"] = "RAA"
    pitch: Cell = "1"

    def title(self) -> str:
        return f"Knurl {self.form} {self.pitch} on {self.face}"

    def fields(self) -> tuple[FieldOf, ...]:
        return (FieldOf("pitch", self.pitch, "length", None),)

    def resolve(self, evaluate: Resolver) -> ResolvedMachined:
        """All figures. Raises StepError."""
        return ResolvedMachined("knurl", self.face, width=Reader(evaluate).size("pitch", self.pitch), form=self.form)
