"""The registry of step kinds: a kind is three modules of one name (here, kernel/build, desk/steps)."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag

from lathed_solid.part.steps.base import FieldOf, StepBase, StepError
from lathed_solid.part.steps.chamfer import ChamferStep, ResolvedChamfer
from lathed_solid.part.steps.edges import EdgePick
from lathed_solid.part.steps.extrude import ExtrudeStep, ResolvedExtrude
from lathed_solid.part.steps.fillet import FilletStep, ResolvedFillet
from lathed_solid.part.steps.hole import HoleError, HoleStep, ResolvedHole
from lathed_solid.part.steps.places import Grid, OnCircle, OnEdges, Radial, SketchPoints, Table
from lathed_solid.part.steps.planes import DatumPlane, FacePlane, Frame, face_frame
from lathed_solid.part.steps.revolve import ResolvedRevolve, RevolveStep
from lathed_solid.part.steps.sketch import SketchStep
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.part.steps.unknown import UnknownStep

KINDS: dict[str, type[StepBase]] = {
    "turned": TurnedStep,
    "hole": HoleStep,
    "sketch": SketchStep,
    "extrude": ExtrudeStep,
    "revolve": RevolveStep,
    "fillet": FilletStep,
    "chamfer": ChamferStep,
}


def _tag(value: Any) -> str:
    kind = value.get("kind") if isinstance(value, dict) else getattr(value, "kind", None)
    return kind if kind in KINDS else "unknown"


Step = Annotated[
    Annotated[TurnedStep, Tag("turned")]
    | Annotated[HoleStep, Tag("hole")]
    | Annotated[SketchStep, Tag("sketch")]
    | Annotated[ExtrudeStep, Tag("extrude")]
    | Annotated[RevolveStep, Tag("revolve")]
    | Annotated[FilletStep, Tag("fillet")]
    | Annotated[ChamferStep, Tag("chamfer")]
    | Annotated[UnknownStep, Tag("unknown")],
    Discriminator(_tag),
]

__all__ = [
    "KINDS",
    "ChamferStep",
    "DatumPlane",
    "EdgePick",
    "ExtrudeStep",
    "FacePlane",
    "FieldOf",
    "FilletStep",
    "Frame",
    "Grid",
    "HoleError",
    "HoleStep",
    "OnCircle",
    "OnEdges",
    "Radial",
    "ResolvedChamfer",
    "ResolvedExtrude",
    "ResolvedFillet",
    "ResolvedHole",
    "ResolvedRevolve",
    "RevolveStep",
    "SketchPoints",
    "SketchStep",
    "Step",
    "StepBase",
    "StepError",
    "Table",
    "TurnedStep",
    "UnknownStep",
    "face_frame",
]
