"""Picked regions of a sketch pushed straight through space: material added, cut away, kept in common, or a body of
its own.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from pydantic import Field

from lathed_solid.ledger import Probe
from lathed_solid.part.steps.base import LARGEST, Cell, FieldOf, Reader, StepBase, StepError
from lathed_solid.part.steps.regions import Picked, RegionName, picked
from lathed_solid.part.steps.resolver import Resolver

Mode = Literal["add", "cut", "common", "new"]
MODE_WORDS = {"add": "Extrude", "cut": "Cut", "common": "Keep within", "new": "Separate body from"}
BodyNumbers = tuple[int, ...]


@dataclass(frozen=True, slots=True)
class ResolvedExtrude:
    """From ``start`` to ``end`` mm along the plane's normal.

    ``through`` goes on to the far side of the body; ``until`` to the next face (``next``) or to a face or plane by
    name, ``offset`` mm past it, in the direction ``way``; 0 is for the kernel to find: to where more material lies.
    ``from_face`` starts there instead of the sketch's plane. ``taper`` in rad narrows away from the start; ``wall``
    in mm leaves the region's rim only, inwards.
    """

    picked: Picked
    mode: Mode
    through: bool
    start: float
    end: float
    way: int
    until: str
    offset: float
    from_face: str
    taper: float
    wall: float
    outside: bool
    on: BodyNumbers


class ExtrudeStep(StepBase):
    """``side``: along the sketch's normal, against it, half to each side, or into the material: where more of it lies.

    ``second`` is a length to the other side.
    ``distance`` None is through all. ``until``: empty, ``next``, or the name of a face or datum plane.
    """

    NAMES: ClassVar[tuple[str, ...]] = ("until", "from_face")
    STEPS: ClassVar[tuple[str, ...]] = ("sketch", "on")

    kind: Literal["extrude"] = "extrude"
    sketch: int = Field(ge=1, le=99_990)
    regions: tuple[RegionName, ...] = Field(default=(), max_length=500)
    mode: Mode = "add"
    distance: Cell | None = "10"
    side: Literal["front", "back", "both", "into"] = "front"
    second: Cell | None = None
    until: str = Field(default="", max_length=400)
    until_offset: Cell = "0"
    start: Cell = "0"
    from_face: str = Field(default="", max_length=400)
    taper: Cell | None = None
    wall: Cell | None = None
    outside: bool = False
    on: BodyNumbers = Field(default=(), max_length=50)

    def title(self) -> str:
        what = "Cut around" if self.outside else MODE_WORDS[self.mode]
        far = "" if self.until or self.distance is not None else " through"
        to = " to the next face" if self.until == "next" else f" to {self.until}" if self.until else ""
        return f"{what} sketch {self.sketch}{far}{to}"

    def fields(self) -> tuple[FieldOf, ...]:
        n = self.number
        out: list[FieldOf] = []
        whole = Probe(kind="height", faces=(f"{n}/end", f"{n}/start"))
        if self.distance is not None and not self.until:
            plain = self.second is None and not self.outside
            out.append(FieldOf("distance", self.distance, "length", whole if plain else None))
        if self.second is not None:
            out.append(FieldOf("second distance", self.second, "length", None))
        if self.taper is not None:
            lean = Probe(kind="draft", faces=(f"{n}/{'end' if self.side != 'back' else 'start'}", f"{n}/**"))
            out.append(FieldOf("taper", self.taper, "angle", lean))
        if self.wall is not None:
            out.append(FieldOf("wall", self.wall, "length", Probe(kind="wall", faces=(f"{n}/**'",))))
        out += [FieldOf("start", self.start, "length", None), FieldOf("offset", self.until_offset, "length", None)]
        return tuple(out)

    def resolve(self, evaluate: Resolver) -> ResolvedExtrude:
        """All figures. Raises StepError, SketchError, PickError."""
        read = Reader(evaluate)
        chosen, _ = picked(evaluate, self.sketch, self.regions)
        way = {"back": -1, "into": 0}.get(self.side, 1)
        shift = read.any("start", self.start)
        through = self.distance is None and not self.until
        if through and self.mode in ("add", "new"):
            raise StepError("added material needs a distance", where="distance")
        if self.outside and self.mode != "cut":
            raise StepError("only a cut works outside the regions", where="outside")
        if through:
            start, end = {"front": (0.0, 1.0), "back": (-1.0, 0.0)}.get(self.side, (-1.0, 1.0))
        else:
            start, end = self._ends(read) if not self.until else (0.0, 0.0)
            start, end = start + shift, end + shift
        taper = 0.0
        if self.taper is not None:
            taper = read.any("taper", self.taper, "angle")
            if not -1.3 < taper < 1.3 or taper == 0:
                raise StepError("the taper must be between -75° and 75°, and not 0", where="taper", received=self.taper)
        return ResolvedExtrude(
            chosen, self.mode, through, start, end, way, self.until, read.any("offset", self.until_offset),
            self.from_face, taper, read.size("wall", self.wall) if self.wall else 0.0, self.outside, self.on,
        )  # fmt: skip

    def _ends(self, read: Reader) -> tuple[float, float]:
        distance = read.any("distance", self.distance or "")
        if not 0 < distance <= LARGEST:
            raise StepError(
                "the distance must be above zero and below 10 m", where="distance", received=f"{distance:g} mm",
                hint="the other side, for a negative distance",
            )  # fmt: skip
        second = read.maybe("second distance", self.second)
        if second is not None:
            return (-second, distance) if self.side != "back" else (-distance, second)
        half = distance / 2
        ends = {"back": (-distance, 0.0), "both": (-half, half)}
        return ends.get(self.side, (0.0, distance))
