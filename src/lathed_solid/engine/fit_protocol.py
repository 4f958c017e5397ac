"""What is asked of the worker about fits, and what it answers. See ``protocol``, which carries both."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from lathed_solid.engine.frame import Framed, Shaped
from lathed_solid.fit.document import Fit, PartSource
from lathed_solid.fit.features import Feature
from lathed_solid.fit.judged import Clearance, Overlap, PartMass
from lathed_solid.fit.placement import Placement
from lathed_solid.kernel.figures import Mark
from lathed_solid.proof import Report


# requests --------------------------------------------------------------------------------------
class BuildParts(Framed):
    """Build parts of a fit; answered by ``PartsBuilt``."""

    op: Literal["build parts"] = "build parts"
    parts: tuple[PartSource, ...]


class JudgeFit(Framed):
    """Which members of a whole fit overlap; ``pairs`` None: all whose boxes meet. Answered by ``FitJudged``."""

    op: Literal["judge fit"] = "judge fit"
    fit: Fit
    pairs: tuple[tuple[str, str], ...] | None = None


class JudgeTravel(Framed):
    """Overlaps at each moment of a travel, and the least clearance of a ``pair``; ``TravelJudged``.

    ``moving``: the members that move; pairs of others are not looked at.
    """

    op: Literal["judge travel"] = "judge travel"
    fit: Fit
    frames: tuple[Mapping[str, Placement], ...] = Field(repr=False)
    moving: tuple[str, ...]
    pair: tuple[str, str] | None = None


class MeasureClearance(Framed):
    """The least distance between two members; answered by ``ClearanceFound``."""

    op: Literal["measure clearance"] = "measure clearance"
    fit: Fit
    a: str
    b: str


class ExportFit(Framed):
    """A STEP assembly or GLB, by the path's ending; answered by ``Exported``."""

    op: Literal["export fit"] = "export fit"
    fit: Fit
    path: str


class ReadAssembly(Framed):
    """The components of a STEP assembly; answered by ``AssemblyRead``."""

    op: Literal["read assembly"] = "read assembly"
    path: str


# answers ---------------------------------------------------------------------------------------
class BuiltPartNews(BaseModel):
    """One part as built: its features, its mass, its own proof; ``bytes`` of the shapes behind the message are its."""

    model_config = ConfigDict(frozen=True)

    name: str
    sha256: str
    message: str = ""
    features: Mapping[str, Feature] = Field(default={}, repr=False)
    mass: PartMass | None = None
    report: Report = Field(repr=False)
    labels: tuple[str, ...] = Field(default=(), repr=False)
    edge_labels: tuple[str, ...] = Field(default=(), repr=False)
    marks: tuple[Mark, ...] = Field(default=(), repr=False)
    bytes: int = 0


class PartsBuilt(Shaped):
    """Parts as built, each with its solid in the bytes behind."""

    kind: Literal["parts built"] = "parts built"
    parts: tuple[BuiltPartNews, ...]

    def shapes(self) -> dict[str, bytes]:
        """The solids by the parts' hashes."""
        cut = _cut(self.shape, tuple(p.bytes for p in self.parts))
        return {p.sha256: data for p, data in zip(self.parts, cut, strict=True)}


class FitJudged(Shaped):
    """Overlaps, each with its common shape in the bytes behind (none where points tell it)."""

    kind: Literal["fit judged"] = "fit judged"
    overlaps: tuple[Overlap, ...]
    lengths: tuple[int, ...] = ()
    pairs: int = 0

    def shapes(self) -> tuple[bytes, ...]:
        """What overlaps, in the order of the overlaps."""
        return _cut(self.shape, self.lengths)


class TravelJudged(Framed):
    """Overlaps at each moment, and the clearances (mm) of the pair asked for."""

    kind: Literal["travel judged"] = "travel judged"
    overlaps: tuple[tuple[Overlap, ...], ...]
    clearances: tuple[float, ...] = ()


class Component(BaseModel):
    """One component: its name, its colour, which of the bodies it is, and where it stands (4 x 4 rows)."""

    model_config = ConfigDict(frozen=True)

    name: str
    colour: str
    body: int
    matrix: tuple[tuple[float, ...], ...]


class AssemblyRead(Shaped):
    """The components of an assembly; the bodies, each a STEP file of its own, in the bytes behind."""

    kind: Literal["assembly read"] = "assembly read"
    path: str
    components: tuple[Component, ...]
    names: tuple[str, ...]
    lengths: tuple[int, ...]

    def bodies(self) -> tuple[bytes, ...]:
        """The bodies' STEP files."""
        return _cut(self.shape, self.lengths)


class ClearanceFound(Framed):
    """The least distance between two members."""

    kind: Literal["clearance found"] = "clearance found"
    clearance: Clearance


def _cut(data: bytes, lengths: tuple[int, ...]) -> tuple[bytes, ...]:
    """Bytes behind a message, piece by piece."""
    out, at = [], 0
    for length in lengths:
        out.append(data[at : at + length])
        at += length
    return tuple(out)
