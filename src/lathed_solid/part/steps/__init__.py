"""The registry of step kinds: a kind is three modules of one name (here, kernel/builders, desk/steps).

A kind's module is imported when a document first has such a step: a window opens without the thirty that its part does
not use.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from importlib import import_module
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler, TypeAdapter, ValidationError, ValidationInfo
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from lathed_solid.part.steps.base import FieldOf, StepBase, StepError
from lathed_solid.part.steps.planes import DatumPlane, FacePlane, Frame, face_frame
from lathed_solid.part.steps.sketch import SketchStep
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.part.steps.unknown import UnknownStep

if TYPE_CHECKING:
    from lathed_solid.part.steps.bodies import CombineStep, DropStep, MoveStep, SplitStep
    from lathed_solid.part.steps.chamfer import ChamferStep, ResolvedChamfer
    from lathed_solid.part.steps.datum import AxisStep, PlaneStep, PointStep, ZeroStep
    from lathed_solid.part.steps.draft import DraftStep
    from lathed_solid.part.steps.edges import EdgePick
    from lathed_solid.part.steps.extrude import ExtrudeStep, ResolvedExtrude
    from lathed_solid.part.steps.fillet import FilletStep, ResolvedFillet
    from lathed_solid.part.steps.helix import HelixStep
    from lathed_solid.part.steps.hole import HoleStep, ResolvedHole
    from lathed_solid.part.steps.hole_placement import Grid, OnCircle, OnEdges, Radial, SketchPoints, Table
    from lathed_solid.part.steps.imported import ImportStep
    from lathed_solid.part.steps.loft import LoftStep
    from lathed_solid.part.steps.mirror import MirrorStep
    from lathed_solid.part.steps.pattern import PatternStep
    from lathed_solid.part.steps.ready import CentreStep, FlatsStep, GrooveStep, KeywayStep, KnurlStep
    from lathed_solid.part.steps.revolve import ResolvedRevolve, RevolveStep
    from lathed_solid.part.steps.rib import RibStep
    from lathed_solid.part.steps.shell import ShellStep
    from lathed_solid.part.steps.sweep import SweepStep
    from lathed_solid.part.steps.thread import ThreadStep

#: kind -> module and class
_WHERE: dict[str, tuple[str, str]] = {
    "turned": ("turned", "TurnedStep"),
    "hole": ("hole", "HoleStep"),
    "sketch": ("sketch", "SketchStep"),
    "extrude": ("extrude", "ExtrudeStep"),
    "revolve": ("revolve", "RevolveStep"),
    "fillet": ("fillet", "FilletStep"),
    "chamfer": ("chamfer", "ChamferStep"),
    "pattern": ("pattern", "PatternStep"),
    "mirror": ("mirror", "MirrorStep"),
    "thread": ("thread", "ThreadStep"),
    "plane": ("datum", "PlaneStep"),
    "axis": ("datum", "AxisStep"),
    "point": ("datum", "PointStep"),
    "zero": ("datum", "ZeroStep"),
    "sweep": ("sweep", "SweepStep"),
    "helix": ("helix", "HelixStep"),
    "loft": ("loft", "LoftStep"),
    "shell": ("shell", "ShellStep"),
    "draft": ("draft", "DraftStep"),
    "rib": ("rib", "RibStep"),
    "combine": ("bodies", "CombineStep"),
    "split": ("bodies", "SplitStep"),
    "move": ("bodies", "MoveStep"),
    "drop": ("bodies", "DropStep"),
    "keyway": ("ready", "KeywayStep"),
    "groove": ("ready", "GrooveStep"),
    "centre": ("ready", "CentreStep"),
    "flats": ("ready", "FlatsStep"),
    "knurl": ("ready", "KnurlStep"),
    "imported": ("imported", "ImportStep"),
}
#: name -> module, for all that this package gives on demand
_LAZY: dict[str, str] = {
    **{cls: module for module, cls in _WHERE.values()},
    **dict.fromkeys(("Grid", "OnCircle", "OnEdges", "Radial", "SketchPoints", "Table"), "hole_placement"),
    "EdgePick": "edges", "ResolvedHole": "hole", "ResolvedChamfer": "chamfer", "ResolvedExtrude": "extrude",
    "ResolvedFillet": "fillet",
    "ResolvedRevolve": "revolve",
}  # fmt: skip


def __getattr__(name: str) -> Any:
    if name in _LAZY:
        return getattr(import_module(f"{__name__}.{_LAZY[name]}"), name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")


class _Kinds(Mapping[str, type[StepBase]]):
    """Step classes by kind, imported when they are asked for."""

    def __getitem__(self, kind: str) -> type[StepBase]:
        found: type[StepBase] = __getattr__(_WHERE[kind][1])
        return found

    def __iter__(self) -> Iterator[str]:
        return iter(_WHERE)

    def __len__(self) -> int:
        return len(_WHERE)

    def __contains__(self, kind: object) -> bool:
        return kind in _WHERE


KINDS: Mapping[str, type[StepBase]] = _Kinds()


class _AnyStep:
    """Validates a step by its kind; one of an unknown kind is kept as it is."""

    @classmethod
    def __get_pydantic_core_schema__(cls, _source: Any, _handler: GetCoreSchemaHandler) -> CoreSchema:
        dump = core_schema.plain_serializer_function_ser_schema(
            lambda step, info: step.model_dump(mode=info.mode), info_arg=True
        )
        return core_schema.with_info_plain_validator_function(_read, serialization=dump)

    @classmethod
    def __get_pydantic_json_schema__(cls, _schema: CoreSchema, handler: GetJsonSchemaHandler) -> JsonSchemaValue:
        union: Any = UnknownStep
        for kind in KINDS.values():
            union = union | kind
        return handler(TypeAdapter(union).core_schema)


def _read(value: Any, info: ValidationInfo) -> StepBase:
    if isinstance(value, StepBase):
        return value
    if not isinstance(value, dict):
        raise PydanticCustomError("step", "a step is an object with a kind")
    kind = value.get("kind")
    made = KINDS.get(kind, UnknownStep) if isinstance(kind, str) else UnknownStep
    try:
        return made.model_validate(value, context=info.context)
    except ValidationError as exc:
        first = exc.errors(include_url=False)[0]
        where = " / ".join(str(p) for p in first["loc"])
        words = str(first["msg"]).removeprefix("Value error, ")
        raise PydanticCustomError("step", "{where}: {words}", {"where": where, "words": words}) from None


Step = Annotated[StepBase, _AnyStep]

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
