"""What the window's process asks of the worker, and what it answers: two tagged unions, and how they cross the pipe.

A frame is the header's length (8 hex digits), the header as JSON, then shapes as bytes. No pickle. A new request is
one class here, one of its answer, and one function in ``engine.handlers``.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from functools import cache
from multiprocessing.connection import Connection
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from lathed_solid.engine.fit_protocol import (
    AssemblyRead,
    BuildParts,
    ClearanceFound,
    ExportFit,
    FitJudged,
    JudgeFit,
    JudgeTravel,
    MeasureClearance,
    PartsBuilt,
    ReadAssembly,
    TravelJudged,
)
from lathed_solid.engine.frame import Framed, Shaped
from lathed_solid.engine.results import StepResult, Summary
from lathed_solid.errors import LathedError
from lathed_solid.kernel.drawing.figures import Drawn, Projected, SideName, Stood, Wanted
from lathed_solid.kernel.figures import (
    DatumMark,
    FaceChanges,
    FlatSide,
    Hand,
    Mark,
    SectionFigures,
    SketchMark,
    Thing,
    View,
)
from lathed_solid.kernel.loop_figures import Loop
from lathed_solid.kernel.shop.figures import ShopFigures
from lathed_solid.kernel.vectors import Ways
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.record import READING
from lathed_solid.sketch.laid_edge import Edge

MAX_FRAME = 1 << 30


# requests --------------------------------------------------------------------------------------
class Build(Framed):
    """The proof, and the solid when ``shape``; answered by ``BuildReply``."""

    op: Literal["build"] = "build"
    document: Document
    shape: bool = True


class Drop(Framed):
    """The request of this number is not wanted any more: ``Dropped``, unless its answer is under way already."""

    op: Literal["drop"] = "drop"


class Export(Framed):
    """A STEP, STL, 3MF or GLB file, by the path's ending; ``chord``: how far triangles may be off, mm; ``Exported``."""

    op: Literal["export"] = "export"
    document: Document
    path: str
    chord: float = Field(default=0.02, gt=0, le=100)


class Compare(Framed):
    """Which faces and masses differ; answered by ``Compared``."""

    op: Literal["compare"] = "compare"
    old: Document
    document: Document


class MeasureByHand(Framed):
    """All sizes of one or two picked things, a section's figures (where, axis), a mesh's volume; ``Measured``."""

    op: Literal["measure by hand"] = "measure by hand"
    document: Document
    things: tuple[Thing, ...]
    section: tuple[float, str] | None = None
    mesh: bool = False


class DrawViews(Framed):
    """The proof with views of the solid, for the inspection sheet; answered by ``Viewed``."""

    op: Literal["views"] = "views"
    document: Document


class DrawSides(Framed):
    """The six sides of the solid as lines, for the drawing to bear witness; or how it is seen from ``ways`` (towards
    the eye, to the right of the paper), for a pictorial one. Answered by ``Sides``.
    """

    op: Literal["sides"] = "sides"
    document: Document
    ways: Ways = Field(default=(), max_length=24)


class DrawFigures(Framed):
    """Where each callout can be drawn (``places``), and the sides that are wanted, with hidden lines; ``Figured``."""

    op: Literal["draw"] = "draw"
    document: Document
    places: bool = True
    sides: tuple[Wanted, ...] = ()


class FindForShop(Framed):
    """What cutting the part asks: holes, stations, corners, from part zero; answered by ``ShopFound``."""

    op: Literal["shop"] = "shop"
    document: Document


class FindLoops(Framed):
    """The bounds of a flat ``face``, of the ``section`` square to an axis (where, axis), or the outline of a ``side``;
    answered by ``LoopsFound``.
    """

    op: Literal["loops"] = "loops"
    document: Document
    face: str = ""
    section: tuple[float, Literal["x", "y", "z"]] | None = None
    side: SideName | None = None
    chord: float = Field(default=0.02, gt=0, le=100)


class FindVolumes(Framed):
    """The volumes of documents that differ little; answered by ``Volumes``."""

    op: Literal["volumes"] = "volumes"
    documents: tuple[Document, ...]


Request = Annotated[
    Build | Drop | Export | Compare | MeasureByHand | DrawViews | DrawSides | FindVolumes
    | DrawFigures | FindForShop | FindLoops
    | BuildParts | JudgeFit | JudgeTravel | MeasureClearance | ExportFit | ReadAssembly, Field(discriminator="op")
]  # fmt: skip


# answers ---------------------------------------------------------------------------------------
class Ready(Framed):
    """The worker has started."""

    kind: Literal["ready"] = "ready"
    pid: int


class Progress(Framed):
    """Step ``number`` is being built, row ``row`` of ``total``."""

    kind: Literal["progress"] = "progress"
    number: int
    row: int
    total: int


class Dropped(Framed):
    """The request was given up, as it was asked."""

    kind: Literal["dropped"] = "dropped"


class Seen(Shaped):
    """What is seen of a build: results of the steps, and the solid as bytes."""

    steps: tuple[StepResult, ...]
    #: names of the faces in face order
    labels: list[str] = []
    #: names of the edges in edge order, empty for seams
    edge_labels: list[str] = Field(default=[], repr=False)
    #: of each solid in order the number of its body
    owners: tuple[int, ...] = Field(default=(), repr=False)
    #: threads drawn as symbols
    marks: tuple[Mark, ...] = Field(default=(), repr=False)
    #: datum planes, axes and points of the route, as they are shown
    datums: tuple[DatumMark, ...] = Field(default=(), repr=False)

    @property
    def failed(self) -> StepResult | None:
        """The first step that could not be built."""
        return next((s for s in self.steps if not s.ok), None)


class Pictured(Seen):
    """What is seen of a build, ahead of its proof."""

    kind: Literal["pictured"] = "pictured"


class BuildReply(Seen):
    """A finished build: results of the steps, figures, report. What is seen of it comes ahead, as ``Pictured``, and is
    put in where it arrives (``with_picture``).
    """

    kind: Literal["built"] = "built"
    summary: Summary
    report: Report
    #: the sketches, as they are shown over the solid
    sketches: tuple[SketchMark, ...] = Field(default=(), repr=False)
    #: the body beneath each sketch, by step number
    outlines: Mapping[int, tuple[Edge, ...]] = Field(default={}, repr=False)

    def with_picture(self, pictured: Pictured | None) -> BuildReply:
        """The reply with what was seen ahead of it."""
        if pictured is None:
            return self
        return self.model_copy(
            update={name: getattr(pictured, name) for name in Seen.model_fields if name != "request"}
        )


class Exported(Framed):
    """A file was written there."""

    kind: Literal["exported"] = "exported"
    path: str


class Compared(Framed):
    """Two builds side by side; masses in g, None where not known."""

    kind: Literal["compared"] = "compared"
    faces: FaceChanges
    masses: tuple[float | None, float | None]


class Volumes(Framed):
    """The volumes (mm3) of the documents asked for; None for one that cannot be built."""

    kind: Literal["volumes"] = "volumes"
    values: tuple[float | None, ...]


class Viewed(Framed):
    """The proof, the figures, and views of the solid."""

    kind: Literal["viewed"] = "viewed"
    report: Report
    summary: Summary
    views: tuple[View, ...]


class Sides(Framed):
    """The six sides of the solid as lines; none where there is no solid."""

    kind: Literal["sides"] = "sides"
    sides: tuple[FlatSide, ...] = Field(repr=False)


class Figured(Framed):
    """The proof, the figures, how the part stands, where each callout can be drawn, and the sides asked for."""

    kind: Literal["figured"] = "figured"
    report: Report
    summary: Summary
    stood: Stood
    callouts: tuple[Drawn, ...] = Field(repr=False)
    sides: tuple[Projected, ...] = Field(repr=False)


class ShopFound(Framed):
    """The proof, the figures, and what was found for the shop."""

    kind: Literal["shop found"] = "shop found"
    report: Report
    summary: Summary
    figures: ShopFigures = Field(repr=False)


class LoopsFound(Framed):
    """Closed loops in a plane."""

    kind: Literal["loops found"] = "loops found"
    loops: tuple[Loop, ...] = Field(repr=False)


class Measured(Framed):
    """Sizes of what was picked, the figures of the section, and the volume by a mesh with its error (mm3)."""

    kind: Literal["measured"] = "measured"
    sizes: tuple[Hand, ...]
    section: SectionFigures | None
    mesh: tuple[float, float] | None


class Failed(Framed):
    """The worker answered that it could not do the request."""

    kind: Literal["failed"] = "failed"
    message: str = "the worker failed"


Answer = Annotated[
    Ready
    | Progress
    | Dropped
    | Pictured
    | BuildReply
    | Exported
    | Compared
    | Volumes
    | Viewed
    | Sides
    | Measured
    | Figured
    | ShopFound
    | LoopsFound
    | Failed
    | PartsBuilt
    | FitJudged
    | TravelJudged
    | ClearanceFound
    | AssemblyRead,
    Field(discriminator="kind"),
]


# the pipe --------------------------------------------------------------------------------------
@cache
def _adapter(of: Any) -> TypeAdapter[Any]:
    return TypeAdapter(of)


def send(connection: Connection, message: Framed) -> None:
    """Write one frame. Raises OSError when the other side is gone."""
    text = message.model_dump_json().encode()
    shape = message.shape if isinstance(message, Shaped) else b""
    connection.send_bytes(b"%08x" % len(text) + text + shape)


class Malformed(LathedError, ValueError):
    """A frame that is no message; ``request`` is the number it says, 0 when it says none."""

    def __init__(self, frame: bytes, why: str) -> None:
        super().__init__("the kernel was asked something it does not understand", received=why)
        found = re.search(rb'"request":(\d+)', frame)
        self.request = int(found[1]) if found else 0


def _receive(connection: Connection, of: Any) -> tuple[Any, bytes]:
    frame = connection.recv_bytes(MAX_FRAME)
    try:
        end = 8 + int(frame[:8], 16)
        return _adapter(of).validate_json(frame[8:end], context=READING), frame[end:]
    except ValueError as exc:
        raise Malformed(frame, str(exc)[:200]) from None


def receive_request(connection: Connection) -> Request:
    """Read one request. Raises EOFError when the other side is gone, Malformed for what is no request."""
    request: Request = _receive(connection, Request)[0]
    return request


def receive_answer(connection: Connection) -> Answer:
    """Read one answer. Raises EOFError when the other side is gone, Malformed for what is no answer."""
    answer, blob = _receive(connection, Answer)
    told: Any = answer.model_copy(update={"shape": blob}) if isinstance(answer, Shaped) else answer
    return told
