"""How pictures of a part are wanted: faces and bodies of a finish of their own, and pictures remembered by name."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator

from lathed_solid.record import Record

#: least and greatest side of a picture, dots; shortest and longest focal length, mm of a frame 24 mm high
LEAST, MOST = 16, 7680
SHORT, LONG = 10.0, 1000.0
#: longest name of a picture
LONGEST_NAME = 60

Finished = Annotated[str, Field(min_length=1, max_length=40)]
Side = Annotated[int, Field(ge=LEAST, le=MOST)]
Way = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


class Coat(Record):
    """What has a finish of its own. ``of``: a face by its name; "step 90" for all faces that a step made; "body 30" for
    the body that a step began.
    """

    of: str = Field(min_length=1, max_length=200)
    finish: Finished

    @property
    def group(self) -> tuple[Literal["body", "step", ""], int]:
        """A body or a step, and its number; empty for a face."""
        word, _, number = self.of.partition(" ")
        if not number.isdigit() or len(number) > 5:
            return "", 0
        return ("body", int(number)) if word == "body" else ("step", int(number)) if word == "step" else ("", 0)


class RememberedPicture(Record):
    """A picture by its name. ``eye``: towards the eye; ``lens``: focal length, mm; 0 for a parallel view."""

    name: str = Field(min_length=1, max_length=LONGEST_NAME)
    finish: Finished = "turned"
    eye: tuple[Way, Way, Way]
    width: Side = 1280
    height: Side = 800
    lens: Annotated[float, Field(ge=0, le=LONG, allow_inf_nan=False)] = 0.0
    clear: bool = False
    floor: bool = False
    rays: bool = False

    @field_validator("eye")
    @classmethod
    def _from_somewhere(cls, eye: tuple[float, float, float]) -> tuple[float, float, float]:
        if not any(eye):
            raise ValueError("a picture is taken from some side")
        return eye


def with_coat(coats: tuple[Coat, ...], of: str, finish: str) -> tuple[Coat, ...]:
    """One face or body of a finish of its own; an empty ``finish`` takes it away."""
    others = tuple(c for c in coats if c.of != of)
    return (*others, Coat(of=of, finish=finish)) if finish else others


def with_picture(pictures: tuple[RememberedPicture, ...], picture: RememberedPicture) -> tuple[RememberedPicture, ...]:
    """One picture more, or another of the same name, in its place."""
    if any(p.name == picture.name for p in pictures):
        return tuple(picture if p.name == picture.name else p for p in pictures)
    return (*pictures, picture)
