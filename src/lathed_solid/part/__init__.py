"""The part document: steps, parameters, ledger, edits and their history."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from lathed_solid.part.document import (
    SCHEMA,
    BodyMaterial,
    Document,
    DocumentError,
    Parameter,
    Sheet,
    StatedMass,
    StatedVolume,
)
from lathed_solid.part.history import History
from lathed_solid.part.scope import Scope, driving_value, scope
from lathed_solid.part.steps import (
    DatumPlane,
    FacePlane,
    SketchStep,
    Step,
    StepBase,
    StepError,
    TurnedStep,
    UnknownStep,
)

if TYPE_CHECKING:
    from lathed_solid.part.steps import (
        AxisStep,
        CentreStep,
        ChamferStep,
        CombineStep,
        DraftStep,
        DropStep,
        EdgePick,
        ExtrudeStep,
        FilletStep,
        FlatsStep,
        FromWalls,
        Grid,
        GrooveStep,
        HelixStep,
        HoleStep,
        ImportedStep,
        KeywayStep,
        KnurlStep,
        LoftStep,
        MirrorStep,
        MoveStep,
        OnCircle,
        OnEdges,
        PatternStep,
        PlaneStep,
        PointStep,
        Radial,
        RevolveStep,
        RibStep,
        ShellStep,
        SketchPoints,
        SplitStep,
        SweepStep,
        Table,
        ThreadStep,
        ZeroStep,
    )


def __getattr__(name: str) -> Any:
    """Step kinds, imported when they are asked for (see part/steps)."""
    from lathed_solid.part import steps

    if name in steps.__all__:
        return getattr(steps, name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")


__all__ = [
    "SCHEMA",
    "AxisStep",
    "BodyMaterial",
    "CentreStep",
    "ChamferStep",
    "CombineStep",
    "DatumPlane",
    "Document",
    "DocumentError",
    "DraftStep",
    "DropStep",
    "EdgePick",
    "ExtrudeStep",
    "FacePlane",
    "FilletStep",
    "FlatsStep",
    "FromWalls",
    "Grid",
    "GrooveStep",
    "HelixStep",
    "History",
    "HoleStep",
    "ImportedStep",
    "KeywayStep",
    "KnurlStep",
    "LoftStep",
    "MirrorStep",
    "MoveStep",
    "OnCircle",
    "OnEdges",
    "Parameter",
    "PatternStep",
    "PlaneStep",
    "PointStep",
    "Radial",
    "RevolveStep",
    "RibStep",
    "Scope",
    "Sheet",
    "ShellStep",
    "SketchPoints",
    "SketchStep",
    "SplitStep",
    "StatedMass",
    "StatedVolume",
    "Step",
    "StepBase",
    "StepError",
    "SweepStep",
    "Table",
    "ThreadStep",
    "TurnedStep",
    "UnknownStep",
    "ZeroStep",
    "driving_value",
    "scope",
]
