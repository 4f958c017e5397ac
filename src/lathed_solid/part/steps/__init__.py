"""The registry of step kinds: a kind is three modules of one name (here, kernel/build, desk/steps)."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag

from lathed_solid.part.steps.base import FieldOf, StepBase, StepError
from lathed_solid.part.steps.bodies import CombineStep, DropStep, MoveStep, SplitStep
from lathed_solid.part.steps.chamfer import ChamferStep, ResolvedChamfer
from lathed_solid.part.steps.datum import AxisStep, PlaneStep, PointStep, ZeroStep
from lathed_solid.part.steps.draft import DraftStep
from lathed_solid.part.steps.edges import EdgePick
from lathed_solid.part.steps.extrude import ExtrudeStep, ResolvedExtrude
from lathed_solid.part.steps.fillet import FilletStep, ResolvedFillet
from lathed_solid.part.steps.helix import HelixStep
from lathed_solid.part.steps.hole import HoleError, HoleStep, ResolvedHole
from lathed_solid.part.steps.imported import ImportStep
from lathed_solid.part.steps.loft import LoftStep
from lathed_solid.part.steps.mirror import MirrorStep
from lathed_solid.part.steps.pattern import PatternStep
from lathed_solid.part.steps.places import Grid, OnCircle, OnEdges, Radial, SketchPoints, Table
from lathed_solid.part.steps.planes import DatumPlane, FacePlane, Frame, face_frame
from lathed_solid.part.steps.ready import CentreStep, FlatsStep, GrooveStep, KeywayStep, KnurlStep
from lathed_solid.part.steps.revolve import ResolvedRevolve, RevolveStep
from lathed_solid.part.steps.rib import RibStep
from lathed_solid.part.steps.shell import ShellStep
from lathed_solid.part.steps.sketch import SketchStep
from lathed_solid.part.steps.sweep import SweepStep
from lathed_solid.part.steps.thread import ThreadStep
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
    "imported": ImportStep,
    "knurl": KnurlStep,
    "flats": FlatsStep,
    "centre": CentreStep,
    "groove": GrooveStep,
    "keyway": KeywayStep,
    "drop": DropStep,
    "move": MoveStep,
    "split": SplitStep,
    "combine": CombineStep,
    "rib": RibStep,
    "draft": DraftStep,
    "shell": ShellStep,
    "loft": LoftStep,
    "helix": HelixStep,
    "sweep": SweepStep,
    "zero": ZeroStep,
    "point": PointStep,
    "axis": AxisStep,
    "plane": PlaneStep,
    "thread": ThreadStep,
    "mirror": MirrorStep,
    "pattern": PatternStep,
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
    | Annotated[PatternStep, Tag("pattern")]
    | Annotated[MirrorStep, Tag("mirror")]
    | Annotated[ThreadStep, Tag("thread")]
    | Annotated[PlaneStep, Tag("plane")]
    | Annotated[AxisStep, Tag("axis")]
    | Annotated[PointStep, Tag("point")]
    | Annotated[ZeroStep, Tag("zero")]
    | Annotated[SweepStep, Tag("sweep")]
    | Annotated[HelixStep, Tag("helix")]
    | Annotated[LoftStep, Tag("loft")]
    | Annotated[ShellStep, Tag("shell")]
    | Annotated[DraftStep, Tag("draft")]
    | Annotated[RibStep, Tag("rib")]
    | Annotated[CombineStep, Tag("combine")]
    | Annotated[SplitStep, Tag("split")]
    | Annotated[MoveStep, Tag("move")]
    | Annotated[DropStep, Tag("drop")]
    | Annotated[KeywayStep, Tag("keyway")]
    | Annotated[GrooveStep, Tag("groove")]
    | Annotated[CentreStep, Tag("centre")]
    | Annotated[FlatsStep, Tag("flats")]
    | Annotated[KnurlStep, Tag("knurl")]
    | Annotated[ImportStep, Tag("imported")]
    | Annotated[UnknownStep, Tag("unknown")],
    Discriminator(_tag),
]

__all__ = [
    "KINDS",
    "AxisStep",
    "CentreStep",
    "ChamferStep",
    "CombineStep",
    "DatumPlane",
    "DraftStep",
    "DropStep",
    "EdgePick",
    "ExtrudeStep",
    "FacePlane",
    "FieldOf",
    "FilletStep",
    "FlatsStep",
    "Frame",
    "Grid",
    "GrooveStep",
    "HelixStep",
    "HoleError",
    "HoleStep",
    "ImportStep",
    "KeywayStep",
    "KnurlStep",
    "LoftStep",
    "MirrorStep",
    "MoveStep",
    "OnCircle",
    "OnEdges",
    "PatternStep",
    "PlaneStep",
    "PointStep",
    "Radial",
    "ResolvedChamfer",
    "ResolvedExtrude",
    "ResolvedFillet",
    "ResolvedHole",
    "ResolvedRevolve",
    "RevolveStep",
    "RibStep",
    "ShellStep",
    "SketchPoints",
    "SketchStep",
    "SplitStep",
    "Step",
    "StepBase",
    "StepError",
    "SweepStep",
    "Table",
    "ThreadStep",
    "TurnedStep",
    "UnknownStep",
    "ZeroStep",
    "face_frame",
]
