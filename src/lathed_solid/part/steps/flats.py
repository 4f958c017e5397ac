"""Flats on a cylinder: a hexagon, a square, two flats."""

from __future__ import annotations

from typing import ClassVar, Literal

from lathed_solid.ledger import Probe
from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.resolver import Resolver


class FlatsStep(StepBase):
    """Flats on a cylinder's end: two, four (a square) or six (a hexagon), ``across`` them, from the end face
    inwards.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("face", "from_face")

    kind: Literal["flats"] = "flats"
    face: FaceName
    from_face: FaceName
    across: Cell = "17"
    length: Cell | None = "10"
    sides: Literal[2, 4, 6, 8] = 6
    angle: Cell = "0"

    def title(self) -> str:
        words = {2: "Two flats", 4: "Square", 6: "Hexagon", 8: "Octagon"}
        return f"{words[self.sides]} on {self.face}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        half = self.sides // 2
        pairs = [Probe(kind="distance", faces=(f"{n}/flat.{k}", f"{n}/flat.{k + half}")) for k in range(half)]
        out = [FieldOf("across flats", self.across, "length", pair) for pair in pairs]
        if self.length is not None:
            shown = Probe(kind="distance", faces=(self.from_face, f"{n}/shoulder"))
            out.append(FieldOf("length", self.length, "length", shown))
        return (*out, FieldOf("angle", self.angle, "angle", None))

    def resolve(self, evaluate: Resolver) -> ResolvedMachined:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        return ResolvedMachined(
            "flats", self.face, self.from_face, width=read.size("across flats", self.across),
            length=read.maybe("length", self.length), angle=read.any("angle", self.angle, "angle"), count=self.sides,
        )  # fmt: skip
