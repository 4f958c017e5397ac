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

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from lathed_solid.engine.results import StepResult, Summary
from lathed_solid.errors import LathedError
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
from lathed_solid.part import Document
from lathed_solid.proof import Report
from lathed_solid.record import READING
from lathed_solid.sketch.laid_edge import Edge

MAX_FRAME = 1 << 30


class _Message(BaseModel):
    """``request``: the number it was given when it was sent; an answer has its request's."""

    model_config = ConfigDict(frozen=True, extra="forbid", ser_json_inf_nan="constants")

    request: int = 0


# requests --------------------------------------------------------------------------------------
class Build(_Message):
    """The proof, and the solid when ``shape``; answered by ``BuildReply``."""

    op: Literal["build"] = "build"
    document: Document
    shape: bool = True


class Export(_Message):
    """A STEP or STL file, by the path's ending; answered by ``Exported``."""

    op: Literal["export"] = "export"
    document: Document
    path: str


class Compare(_Message):
    """Which faces and masses differ; answered by ``Compared``."""

    op: Literal["compare"] = "compare"
    old: Document
    document: Document


class MeasureByHand(_Message):
    """All sizes of one or two picked things, a section's figures (where, axis), a mesh's volume; ``Measured``."""

    op: Literal["measure by hand"] = "measure by hand"
    document: Document
    things: tuple[Thing, ...]
    section: tuple[float, str] | None = None
    mesh: bool = False


class DrawViews(_Message):
    """The proof with views of the solid, for the inspection sheet; answered by ``Viewed``."""

    op: Literal["views"] = "views"
    document: Document


class DrawSides(_Message):
    """The six sides of the solid as lines, for the drawing to bear witness; answered by ``Sides``."""

    op: Literal["sides"] = "sides"
    document: Document


class FindVolumes(_Message):
    """The volumes of documents that differ little; answered by ``Volumes``."""

    op: Literal["volumes"] = "volumes"
    documents: tuple[Document, ...]


Request = Annotated[
    Build | Export | Compare | MeasureByHand | DrawViews | DrawSides | FindVolumes, Field(discriminator="op")
]  # fmt: skip


# answers ---------------------------------------------------------------------------------------
class Ready(_Message):
    """The worker has started."""

    kind: Literal["ready"] = "ready"
    pid: int


class Progress(_Message):
    """Step ``number`` is being built, row ``row`` of ``total``."""

    kind: Literal["progress"] = "progress"
    number: int
    row: int
    total: int


class BuildReply(_Message):
    """A finished build: results of the steps, figures, report, and the solid as bytes."""

    kind: Literal["built"] = "built"
    steps: tuple[StepResult, ...]
    summary: Summary
    report: Report
    labels: list[str] = []
    #: names of the edges in edge order, empty for seams
    edge_labels: list[str] = Field(default=[], repr=False)
    #: of each solid in order the number of its body
    owners: tuple[int, ...] = Field(default=(), repr=False)
    #: threads drawn as symbols
    marks: tuple[Mark, ...] = Field(default=(), repr=False)
    #: datum planes, axes and points of the route, as they are shown
    datums: tuple[DatumMark, ...] = Field(default=(), repr=False)
    #: the sketches, as they are shown over the solid
    sketches: tuple[SketchMark, ...] = Field(default=(), repr=False)
    #: the body beneath each sketch, by step number
    outlines: Mapping[int, tuple[Edge, ...]] = Field(default={}, repr=False)
    shape: bytes = Field(default=b"", repr=False, exclude=True)

    @property
    def failed(self) -> StepResult | None:
        """The first step that could not be built."""
        return next((s for s in self.steps if not s.ok), None)


class Exported(_Message):
    """A file was written there."""

    kind: Literal["exported"] = "exported"
    path: str


class Compared(_Message):
    """Two builds side by side; masses in g, None where not known."""

    kind: Literal["compared"] = "compared"
    faces: FaceChanges
    masses: tuple[float | None, float | None]


class Volumes(_Message):
    """The volumes (mm3) of the documents asked for; None for one that cannot be built."""

    kind: Literal["volumes"] = "volumes"
    values: tuple[float | None, ...]


class Viewed(_Message):
    """The proof, the figures, and views of the solid."""

    kind: Literal["viewed"] = "viewed"
    report: Report
    summary: Summary
    views: tuple[View, ...]


class Sides(_Message):
    """The six sides of the solid as lines; none where there is no solid."""

    kind: Literal["sides"] = "sides"
    sides: tuple[FlatSide, ...] = Field(repr=False)


class Measured(_Message):
    """Sizes of what was picked, the figures of the section, and the volume by a mesh with its error (mm3)."""

    kind: Literal["measured"] = "measured"
    sizes: tuple[Hand, ...]
    section: SectionFigures | None
    mesh: tuple[float, float] | None


class Failed(_Message):
    """The worker answered that it could not do the request."""

    kind: Literal["failed"] = "failed"
    message: str = "the worker failed"


Answer = Annotated[
    Ready | Progress | BuildReply | Exported | Compared | Volumes | Viewed | Sides | Measured | Failed,
    Field(discriminator="kind"),
]


# the pipe --------------------------------------------------------------------------------------
@cache
def _adapter(of: Any) -> TypeAdapter[Any]:
    return TypeAdapter(of)


def send(connection: Connection, message: _Message) -> None:
    """Write one frame. Raises OSError when the other side is gone."""
    text = message.model_dump_json().encode()
    shape = message.shape if isinstance(message, BuildReply) else b""
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
    told: Answer = answer.model_copy(update={"shape": blob}) if isinstance(answer, BuildReply) else answer
    return told
