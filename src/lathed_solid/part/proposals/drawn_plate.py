"""A plate as it is drawn, while its first model is put together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from lathed_solid.part.proposals.coordinates import Axis, Told
from lathed_solid.part.proposals.drawn import DrawnNote, Placed, drawn
from lathed_solid.sheets.plate_outline import PlateFace


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


def use(notes: Sequence[DrawnNote]) -> None:
    """These say something of the part."""
    for note in notes:
        note.used = True
