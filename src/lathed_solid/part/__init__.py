"""The part document: steps, parameters, ledger, edits and their history."""

from lathed_solid.part.document import SCHEMA, Document, DocumentError, Parameter, StatedMass
from lathed_solid.part.history import History
from lathed_solid.part.scope import Scope, driving_value, scope
from lathed_solid.part.steps import (
    DatumPlane,
    ExtrudeStep,
    FacePlane,
    HoleStep,
    OnCircle,
    Radial,
    RevolveStep,
    SketchStep,
    Step,
    StepBase,
    TurnedStep,
    UnknownStep,
)

__all__ = [
    "SCHEMA",
    "DatumPlane",
    "Document",
    "DocumentError",
    "ExtrudeStep",
    "FacePlane",
    "History",
    "HoleStep",
    "OnCircle",
    "Parameter",
    "Radial",
    "RevolveStep",
    "Scope",
    "SketchStep",
    "StatedMass",
    "Step",
    "StepBase",
    "TurnedStep",
    "UnknownStep",
    "driving_value",
    "scope",
]
