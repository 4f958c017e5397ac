"""A ring groove, or an undercut beside a shoulder."""

from __future__ import annotations

from typing import ClassVar, Literal

from lathed_solid.ledger import Probe
from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.resolver import Resolver


class GrooveStep(StepBase):
    """A ring groove (or, beside a shoulder, an undercut) around a cylinder; ``at`` from the flat face to its near
    wall.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("face", "from_face")

    kind: Literal["groove"] = "groove"
    face: FaceName
    from_face: FaceName
    at: Cell = "0"
    width: Cell | None = None
    diameter: Cell | None = None

    def title(self) -> str:
        return f"{'Undercut' if self.at.strip() in ('0', '') else 'Ring groove'} on {self.face}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        out = []
        if self.width is not None:
            # an undercut has the shoulder itself for its near wall
            near = self.from_face if self.at.strip() in ("0", "") else f"{n}/near"
            out.append(FieldOf("width", self.width, "length", Probe(kind="distance", faces=(near, f"{n}/far"))))
        if self.diameter is not None:
            bottom = Probe(kind="diameter", faces=(f"{n}/bottom",))
            out.append(FieldOf("groove diameter", self.diameter, "length", bottom))
        shown = Probe(kind="distance", faces=(self.from_face, f"{n}/near"))
        return (*out, FieldOf("place", self.at, "length", None if self.at.strip() in ("0", "") else shown))

    def resolve(self, evaluate: Resolver) -> ResolvedMachined:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        at = read.any("place", self.at)
        if at < 0:
            raise StepError("the groove must not stand off its face's other side", where="place", received=self.at)
        if at == 0 and (self.width is None or self.diameter is None):
            raise StepError("an undercut needs its width and diameter", where="width")
        return ResolvedMachined(
            "groove", self.face, self.from_face, at, read.maybe("width", self.width),
            diameter=read.maybe("diameter", self.diameter),
        )  # fmt: skip
