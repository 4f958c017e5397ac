"""The exercises as data: their drawings, what they teach, and the figures of the finished part.

The figures (volume, area, principal moments) were measured on the answers when the drawings were made
(``tools/exercise_sheets.py``); a test builds the answers anew and compares, with closed forms beside.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.exercises.parts import bearing_plate, fairlead_bush, sheave_pin
from lathed_solid.files.attachments import keep_sheet
from lathed_solid.part import Document, Sheet, StatedMass, StatedVolume
from lathed_solid.part.edits import changed

SHEETS = Path(__file__).parent / "sheets"
#: how far the mass on the drawing, a rounded figure, may be off, as a share
MASS_BAND = 0.002


@dataclass(frozen=True)
class Figures:
    """A solid told apart from others, wherever it lies: volume (mm3), area (mm2), mass (g), principal moments of
    inertia about its centre (g mm2, ascending).
    """

    volume: float
    area: float
    mass: float
    moments: tuple[float, float, float]

    @classmethod
    def of(cls, summary: Mapping[str, Any]) -> Figures:
        """From a build's summary."""
        a, b, c = sorted(float(v) for v in summary["principal_g_mm2"])
        return cls(float(summary["volume_mm3"]), float(summary["area_mm2"]), float(summary["mass_g"]), (a, b, c))


@dataclass(frozen=True)
class Exercise:
    """``name`` is its key; ``teaches`` in a line; ``answer`` makes the finished part."""

    name: str
    title: str
    number: str
    teaches: str
    answer: Callable[[], Document]

    @property
    def sheet(self) -> Path:
        """Its drawing."""
        return SHEETS / f"{self.name}.pdf"

    @cache  # noqa: B019 - there are three, for good
    def figures(self) -> Figures:
        """What the finished part has to be."""
        told = json.loads((SHEETS / f"{self.name}.json").read_text("utf-8"))
        return Figures(told["volume"], told["area"], told["mass"], tuple(told["moments"]))


EXERCISES = (
    Exercise("sheave-pin", "Sheave pin", "E-01", "a turned table, a fit, a cross hole", sheave_pin),
    Exercise("bearing-plate", "Bearing plate", "E-02", "a sketch, counterbored holes, a bore's class", bearing_plate),
    Exercise("fairlead-bush", "Fairlead bush", "E-03", "inches, a stepped bore, holes on a bolt circle", fairlead_bush),
)


def exercise(name: str) -> Exercise:
    """By its name. Raises LathedError for one that is not known."""
    found = next((e for e in EXERCISES if e.name == name), None)
    if found is None:
        raise LathedError(f"there is no exercise {name!r}", hint=", ".join(e.name for e in EXERCISES))
    return found


def begun(task: Exercise) -> Document:
    """The part to build: what its title block says, the drawing beside it, and nothing else - but the volume, which
    makes suspects sharp. Raises FileError.
    """
    answer, figures = task.answer(), task.figures()
    mass = round(figures.mass, 1)
    sheet = Sheet(name=f"{task.number} {task.title}.pdf", file=keep_sheet(task.sheet.read_bytes(), task.sheet))
    return changed(
        Document(), name=task.title, unit=answer.unit, material=answer.material, general=answer.general,
        stated_mass=StatedMass(grams=mass, source="drawing", tolerance=mass * MASS_BAND),
        stated_volume=StatedVolume(mm3=round(figures.volume, 3)), sheets=(sheet,), exercise=task.name,
    )  # fmt: skip
