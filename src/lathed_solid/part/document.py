"""The document: an immutable value. Edits make new ones; files are this value as JSON."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Any, Literal

from pydantic import Field, field_validator, model_validator

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, General, HouseRule, Iso2768, Limits, Note, Reading, limits
from lathed_solid.ledger.sheet_corners import Corners, checked_corners
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.part.pictures import Coat, RememberedPicture
from lathed_solid.part.steps import Step
from lathed_solid.quantity import LengthUnit
from lathed_solid.record import Record

SCHEMA = 2

Grams = Annotated[float, Field(gt=0, le=1e9, allow_inf_nan=False)]


class DocumentError(LathedError, ValueError):
    """An edit that would make an impossible document."""


class Parameter(Record):
    """A named expression that other expressions may use."""

    name: str = Field(pattern=r"^[A-Za-zα-ωΑ-Ω_][A-Za-z0-9α-ωΑ-Ω_]{0,39}$")
    expression: str = Field(max_length=400)
    remark: str = Field(default="", max_length=200)


class StatedMass(Record):
    """The mass on the drawing, or weighed; ``tolerance`` and the scale's ``resolution`` in grams.

    ``repeats``: what the scale showed each time; ``grams`` is then their mean.
    """

    grams: Grams
    source: Literal["drawing", "scale"] = "scale"
    tolerance: Annotated[float, Field(ge=0, le=1e9, allow_inf_nan=False)] = 0.0
    resolution: Annotated[float, Field(ge=0, le=1e9, allow_inf_nan=False)] = 1.0
    repeats: tuple[Grams, ...] = Field(default=(), max_length=100)

    def weighed_again(self, grams: float) -> StatedMass:
        """One more showing of the scale, and the mean of all."""
        shown = (*(self.repeats or ((self.grams,) if self.source == "scale" else ())), grams)
        return self.model_copy(update={"grams": sum(shown) / len(shown), "repeats": shown, "source": "scale"})

    @property
    def scatter(self) -> float:
        """Standard deviation of the mean of the repeats, g; zero for fewer than two."""
        n = len(self.repeats)
        if n < 2:
            return 0.0
        return (sum((x - self.grams) ** 2 for x in self.repeats) / (n - 1) / n) ** 0.5


class BodyMaterial(Record):
    """A body that is of another material than the part: the step that began it."""

    step: int = Field(ge=1, le=99_990)
    material: str = Field(max_length=60)


class StatedVolume(Record):
    """The volume on the drawing, or of the displaced water; mm3."""

    mm3: Annotated[float, Field(gt=0, le=1e15, allow_inf_nan=False)]
    tolerance: Annotated[float, Field(ge=0, le=1e15, allow_inf_nan=False)] = 0.0


class Sheet(Record):
    """A drawing sheet: its name, the SHA-256 of its file (``store``), and how its pages are turned, degrees.

    ``across``: how wide a page is at the part's full size, mm, once it was brought to scale. ``earlier``: the files of
    the revisions before this one. ``corners`` of a photographed sheet, as they were put by hand.
    """

    name: str = Field(min_length=1, max_length=200)
    file: str = Field(pattern=r"^[0-9a-f]{64}$")
    turn: Literal[0, 90, 180, 270] = 0
    across: Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)] | None = None
    earlier: tuple[Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")], ...] = Field(default=(), max_length=100)
    #: a picture of the part itself, beside the caliper log
    photograph: bool = False
    corners: Corners | None = None

    @field_validator("corners")
    @classmethod
    def _of_a_sheet(cls, corners: Corners | None) -> Corners | None:
        return None if corners is None else checked_corners(corners)


#: a part that nobody named
UNNAMED = "Untitled part"


class Document(Record):
    """One part: its ledger, its parameters and its route of steps."""

    schema_version: Literal[2] = 2
    name: str = Field(default=UNNAMED, min_length=1, max_length=120)
    unit: LengthUnit = "mm"
    material: str = Field(default="C45 steel", max_length=60)
    body_materials: tuple[BodyMaterial, ...] = Field(default=(), max_length=500)
    #: bodies that are meant to stand in several pieces, by the step that began them
    in_pieces: tuple[Annotated[int, Field(ge=1, le=99_990)], ...] = Field(default=(), max_length=500)
    general: General = Iso2768()
    house: HouseRule | None = None
    stated_mass: StatedMass | None = None
    stated_volume: StatedVolume | None = None
    sheets: tuple[Sheet, ...] = Field(default=(), max_length=200)
    parameters: tuple[Parameter, ...] = Field(default=(), max_length=1000)
    notes: tuple[Note, ...] = Field(default=(), max_length=5000)
    readings: tuple[Reading, ...] = Field(default=(), max_length=20000)
    steps: tuple[Step, ...] = Field(default=(), max_length=2000)
    #: words for the shop that no size is asked by, as they stand on the drawing
    instructions: tuple[Annotated[str, Field(min_length=1, max_length=500)], ...] = Field(default=(), max_length=100)
    drawing: DrawingStyle = DrawingStyle()
    coats: tuple[Coat, ...] = Field(default=(), max_length=5000)
    pictures: tuple[RememberedPicture, ...] = Field(default=(), max_length=100)
    #: the exercise that this part answers; empty for none
    exercise: str = Field(default="", max_length=40, pattern=r"^[a-z-]*$")

    @cached_property
    def callouts(self) -> tuple[Callout, ...]:
        """Callouts of all notes, in the order of their balloons."""
        return tuple(sorted((c for n in self.notes for c in n.callouts), key=lambda c: c.balloon))

    @model_validator(mode="after")
    def _unique(self) -> Document:
        checks: tuple[tuple[str, list[Any]], ...] = (
            ("balloon", [c.balloon for c in self.callouts]),
            ("step number", [s.number for s in self.steps]),
            ("parameter", [p.name for p in self.parameters]),
            ("reading of balloon", [r.balloon for r in self.readings]),
            ("material of body", [b.step for b in self.body_materials]),
            ("finish of", [c.of for c in self.coats]),
            ("picture", [p.name for p in self.pictures]),
        )
        for what, keys in checks:
            if len(set(keys)) != len(keys):
                double = next(k for k in keys if keys.count(k) > 1)
                raise ValueError(f"{what} {double} stands twice")
        numbers = [s.number for s in self.steps]
        if numbers != sorted(numbers):
            raise ValueError("the steps are not in the order of their numbers")
        return self

    def material_of(self, body: int) -> str:
        """The material of the body that step ``body`` began."""
        return next((b.material for b in self.body_materials if b.step == body), self.material)

    def used_balloons(self) -> set[int]:
        """Balloons that drive a step or are measured on the solid."""
        driving = {b for s in self.steps for b in s.balloons()}
        return driving | {c.balloon for c in self.callouts if c.measure}

    def note_of(self, balloon: int) -> Note | None:
        """The note that owns a callout."""
        return next((n for n in self.notes if any(c.balloon == balloon for c in n.callouts)), None)

    def decided(self, balloon: int) -> str:
        """The decision against the drawing that a callout's note is, in words; empty for none."""
        note = self.note_of(balloon)
        return note.redress.words if note is not None and note.redress is not None else ""

    def callout(self, balloon: int) -> Callout | None:
        """By its balloon; None for none."""
        return next((c for c in self.callouts if c.balloon == balloon), None)

    def limits(self, callout: Callout, leg: float | None = None) -> Limits:
        """The limits that a callout must keep; ``leg``: the shorter leg of an angle, mm."""
        return limits(callout, self.general, self.house, leg)

    def reading(self, balloon: int) -> Reading | None:
        """Of a callout; None for none."""
        return next((r for r in self.readings if r.balloon == balloon), None)

    def step(self, number: int) -> Step | None:
        """By its number; None for none."""
        return next((s for s in self.steps if s.number == number), None)
