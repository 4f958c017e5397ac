"""A key seat along a cylinder."""

from __future__ import annotations

from typing import ClassVar, Literal

from lathed_solid.ledger import Probe
from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase
from lathed_solid.part.steps.machined import ResolvedMachined
from lathed_solid.part.steps.resolver import Resolver


class KeywayStep(StepBase):
    """A key seat along a cylinder, outside or in a bore; ``length`` None is all along.

    ``depth`` from the cylinder's surface; ``at`` from the flat face to the near end; ``ends`` round or square.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("face", "from_face")

    kind: Literal["keyway"] = "keyway"
    face: FaceName
    from_face: FaceName
    at: Cell = "0"
    width: Cell | None = None
    depth: Cell | None = None
    length: Cell | None = "20"
    angle: Cell = "0"
    ends: Literal["round", "square"] = "round"

    def title(self) -> str:
        return f"Keyway on {self.face}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        out = []
        if self.width is not None:
            sides = Probe(kind="distance", faces=(f"{n}/side.a", f"{n}/side.b"))
            out.append(FieldOf("width", self.width, "length", sides))
        if self.depth is not None:
            below = Probe(kind="recess", faces=(self.face, f"{n}/bottom"))
            out.append(FieldOf("depth", self.depth, "length", below))
        if self.length is not None:
            out.append(FieldOf("length", self.length, "length", Probe(kind="slot", faces=(f"{n}/end.a", f"{n}/end.b"))))
        near = Probe(kind="slot", faces=(self.from_face, f"{n}/end.a")) if not self._at_the_end else None
        return (*out, FieldOf("place", self.at, "length", near), FieldOf("angle", self.angle, "angle", None))

    @property
    def _at_the_end(self) -> bool:
        return self.at.strip() in ("0", "")

    def resolve(self, evaluate: Resolver) -> ResolvedMachined:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        return ResolvedMachined(
            "keyway", self.face, self.from_face, read.any("place", self.at), read.maybe("width", self.width),
            read.maybe("depth", self.depth), read.maybe("length", self.length),
            angle=read.any("angle", self.angle, "angle"), form=self.ends,
        )  # fmt: skip
