"""Spans: between which places of the part a dimension runs, and along which direction.

A person says so from the sheet (``x: left end to bore``), a DXF dimension by its definition points, a turned table by
its stations. Places are words: what bears one name is one place. Two kinds of span need no second place: a diameter or
radius about its axis, and a distance from the middle. ``symmetric`` says that both places stand alike about the middle.
"""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import Field, model_validator

from lathed_solid.record import Record

#: the middle of a direction, from which symmetric places stand equally far; an axis for diameters
MIDDLE = "middle"
#: the direction in which diameters are: from the axis outwards
ACROSS = "across the axis"

Place = Annotated[str, Field(min_length=1, max_length=80)]


class Span(Record):
    """From ``start`` to ``end`` along ``along``; the start lies on the left, below, in front, or nearer the datum."""

    along: Annotated[str, Field(min_length=1, max_length=40)]
    start: Place
    end: Place = MIDDLE
    symmetric: bool = False

    @model_validator(mode="after")
    def _two(self) -> Span:
        if self.start == self.end:
            raise ValueError(f"a dimension runs between two places, not from {self.start!r} to itself")
        if self.symmetric and MIDDLE in (self.start, self.end):
            raise ValueError("places that stand alike about the middle cannot be the middle itself")
        return self

    @property
    def turning(self) -> bool:
        """Whether the direction is one of angles: around something."""
        return self.along.startswith(("about ", "around "))


def tidy(words: str) -> str:
    """A place's or direction's name with its spaces made one: so that two ways of typing it are one place."""
    return re.sub(r"\s+", " ", words).strip()
