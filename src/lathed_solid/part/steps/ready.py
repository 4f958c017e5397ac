"""Details that turned parts often have, ready to be put on a face: keyway, ring groove, undercut, centre hole,
flats, knurl.

Cells left empty take the standard's figure for the size of the face, which is read from the solid.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.names import FaceName
from lathed_solid.part.steps.base import Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.turned import Evaluate


@dataclass(frozen=True, slots=True)
class ResolvedReady:
    """mm and rad; None where the standard decides. ``from_face``: the flat face that ``at`` counts from."""

    what: str
    face: str
    from_face: str = ""
    at: float = 0.0
    width: float | None = None
    depth: float | None = None
    length: float | None = None
    diameter: float | None = None
    angle: float = 0.0
    count: int = 1
    form: str = ""


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

    def resolve(self, evaluate: Evaluate) -> ResolvedReady:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        return ResolvedReady(
            "keyway", self.face, self.from_face, read.any("place", self.at), read.maybe("width", self.width),
            read.maybe("depth", self.depth), read.maybe("length", self.length),
            angle=read.any("angle", self.angle, "angle"), form=self.ends,
        )  # fmt: skip


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

    def resolve(self, evaluate: Evaluate) -> ResolvedReady:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        at = read.any("place", self.at)
        if at < 0:
            raise StepError("the groove must not stand off its face's other side", where="place", received=self.at)
        if at == 0 and (self.width is None or self.diameter is None):
            raise StepError("an undercut needs its width and diameter", where="width")
        return ResolvedReady(
            "groove", self.face, self.from_face, at, read.maybe("width", self.width),
            diameter=read.maybe("diameter", self.diameter),
        )  # fmt: skip


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

    def resolve(self, evaluate: Evaluate) -> ResolvedReady:
        """All figures. Raises StepError."""
        return ResolvedReady(
            "centre", self.face, self.about, diameter=Reader(evaluate).size("pilot", self.pilot)
        )  # fmt: skip


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

    def resolve(self, evaluate: Evaluate) -> ResolvedReady:
        """All figures. Raises StepError."""
        read = Reader(evaluate)
        return ResolvedReady(
            "flats", self.face, self.from_face, width=read.size("across flats", self.across),
            length=read.maybe("length", self.length), angle=read.any("angle", self.angle, "angle"), count=self.sides,
        )  # fmt: skip


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

    def resolve(self, evaluate: Evaluate) -> ResolvedReady:
        """All figures. Raises StepError."""
        return ResolvedReady("knurl", self.face, width=Reader(evaluate).size("pitch", self.pitch), form=self.form)
