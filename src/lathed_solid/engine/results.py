"""What a build says of itself: how each step went, and the part's figures. Plain values that every process knows."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NotRequired

from typing_extensions import TypedDict

from lathed_solid.quantity import LengthUnit


@dataclass(frozen=True, slots=True)
class StepResult:
    """How one step went. ``cached`` is True when nothing had to be built; ``ms`` is the time it took.

    ``volume_mm3``: of all bodies after it, by the quick rule (None for a sketch, or a step that failed);
    ``pieces``: the most that one of them stands in.
    """

    number: int
    kind: str
    ok: bool
    ms: float
    message: str = ""
    cached: bool = False
    suspended: bool = False
    candidates: tuple[str, ...] = ()
    missing: str = ""
    volume_mm3: float | None = None
    pieces: int = 1


class StepFigures(TypedDict):
    """A step's result as ``build --json`` prints it; ``ms``: the time it took."""

    number: int
    kind: str
    ok: bool
    ms: float
    message: str
    cached: bool
    suspended: bool


class MassFigures(TypedDict, total=False):
    """Mass (g), centre (mm), inertia about it, its principal moments and axes (rows), inertia about the origin (g mm2);
    None where the material is not known.
    """

    mass_g: float | None
    centre_mm: list[float]
    inertia_g_mm2: list[list[float]] | None
    principal_g_mm2: list[float]
    principal_axes: list[list[float]]
    inertia_origin_g_mm2: list[list[float]]


class Summary(MassFigures):
    """The stable shape of ``build --json``; what a part without a solid lacks is left out."""

    ok: bool
    unit: LengthUnit
    steps: list[StepFigures]
    material_message: NotRequired[str]
    volume_mm3: float
    area_mm2: NotRequired[float]
    box_mm: NotRequired[list[list[float]]]
    solids: int
    faces: int
    edges: int
