"""A plate as it is drawn, while its first model is put together."""

from __future__ import annotations

from dataclasses import dataclass, field

from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document
from lathed_solid.part.edits import next_number, put_step
from lathed_solid.part.proposals.coordinates import ZERO, Axis, Told
from lathed_solid.part.proposals.drawn import DrawnNote, Placed, drawn, use
from lathed_solid.part.steps import ExtrudeStep, FacePlane, SketchStep
from lathed_solid.sheets.plate_outline import PlateFace
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.model import Sketch


@dataclass
class DrawnPlate:
    """The face, its axes, page per part, the notes; what is asked, and the rows of the proposal."""

    face: PlateFace
    scale: float
    notes: list[DrawnNote]
    x: Axis
    y: Axis
    rows: list[Placed] = field(default_factory=list)

    def place(self, x: float, y: float) -> tuple[Told, Told]:
        """Of a place on the page, from the view's low left corner; its notes are used."""
        both = self.told(x, y)
        for told in both:
            use(told.notes)
        return both

    def told(self, x: float, y: float) -> tuple[Told, Told]:
        """The same, only looked at."""
        return self.x.at(x / self.scale), self.y.at(y / self.scale)

    def says(self, x: float, y: float, unit: str) -> str:
        """A place on the page in words, drawn to scale."""
        return f"x {drawn(x / self.scale, unit)}, y {drawn(y / self.scale, unit)}"

    def on_page(self, note: DrawnNote) -> tuple[float, float]:
        """Where a note points, or stands, from the view's low left corner."""
        u, v = note.tip or note.at
        return u - self.face.origin[0], v - self.face.origin[1]


def hold(draft: SketchBuilder, origin: str, point: str, axis: str, told: Told) -> None:
    """A point of a sketch at its place along ``axis`` (x, y) from the origin."""
    if told.cell == ZERO:
        draft.add("vertical" if axis == "x" else "horizontal", origin, point)
    else:
        draft.add("across_x" if axis == "x" else "across_y", origin, point, value=told.cell)


def cut_into(document: Document, top: str, sketch: Sketch, deep: Callout | None) -> tuple[Document, int]:
    """A sketch on the face ``top`` and its cut, through where there is no depth; the cut's number."""
    number = next_number(document)
    document = put_step(document, SketchStep(number=number, plane=FacePlane(face=top), sketch=sketch))
    cut = next_number(document)
    step = ExtrudeStep(number=cut, sketch=number, mode="cut", side="into", distance=None if deep is None else deep.name)
    return put_step(document, step), cut
