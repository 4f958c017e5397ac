"""Duties: what a note asks beside the callout's own size. Each is measured on the solid and judged by itself.

| kind          | value, or word                        | asked by                                    |
|---------------|---------------------------------------|---------------------------------------------|
| form          | hole, pin, round, sphere              | Ø, R, SR, SØ, THRU, a depth                 |
| places        | how many                              | 4X, (4), 4 HOLES, BOTH ENDS                 |
| through       | open at both ends                     | THRU                                        |
| concentric    | with its hole                         | ⌴ ⌵ SF CDRILL                               |
| equal spacing | equal angles on the full circle       | EQ SP, ON Ø.. BC, PCD                       |
| both ways     | the other width of a square, mm       | □                                           |
| second leg    | a bevel's other leg, mm               | 1 x 2                                       |
| leg angle     | a bevel's angle from the axis, rad    | 1 x 45°                                     |
| pitch         | mm                                    | M8x1, 5/16-18                               |
| hand          | right, left                           | LH                                          |
| starts        | how many                              | Tr20x8(P4)                                  |
| thread class  | the designation with its class        | M8-6g, 1/4-20 UNC-2B                        |
| geometry      | mm, and the characteristic            | ⟂ 0.05 A, RUNOUT 0.02 TO A, FLATNESS 0.02   |
| datum         | the letter                            | -A-, DATUM A                                |
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle as angle_text
from lathed_solid.quantity.formatting import length
from lathed_solid.record import Record

DutyKind = Literal[
    "form",
    "places",
    "through",
    "concentric",
    "equal spacing",
    "both ways",
    "second leg",
    "leg angle",
    "pitch",
    "hand",
    "starts",
    "thread class",
    "geometry",
    "datum",
]
#: duties whose value is an angle, rad; and those whose value is a number of things
ANGLES: frozenset[DutyKind] = frozenset({"leg angle"})
NUMBERS: frozenset[DutyKind] = frozenset({"places", "starts"})

Size = Annotated[float, Field(allow_inf_nan=False, ge=-1e6, le=1e6)]


class Duty(Record):
    """One thing that a note asks for: a size (mm, rad or a number) with its own limits, or a word."""

    kind: DutyKind
    value: Size | None = None
    word: str = Field(default="", max_length=40)
    low: Size | None = None
    high: Size | None = None
    #: of a geometry: the letters that it is told from, and whether its zone is round
    datums: tuple[str, ...] = Field(default=(), max_length=6)
    diametral: bool = False

    def said(self, unit: LengthUnit = "mm") -> str:
        """What the note says, in words."""
        if self.kind == "geometry":
            zone = ("⌀" if self.diametral else "") + length(self.value or 0.0, unit)
            return " ".join([self.word, zone, *self.datums])
        if self.value is None:
            return self.word or ("equal" if self.kind == "equal spacing" else "yes")
        if self.kind in NUMBERS:
            return f"{self.value:g}"
        return angle_text(self.value) if self.kind in ANGLES else length(self.value, unit)
