"""The kinds of step, each a row of the ``catalogue`` and a module here, in ``kernel/builders`` and in ``desk/steps``.

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
from lathed_solid.part.steps.catalogue import CATALOGUE
from lathed_solid.part.steps.planes import DatumPlane, FacePlane, face_frame
from lathed_solid.part.steps.resolved import Frame
from lathed_solid.part.steps.sketch import SketchStep
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.part.steps.unknown import UnknownStep

if TYPE_CHECKING:
    from lathed_solid.part.steps.axis import AxisStep
    from lathed_solid.part.steps.centre import CentreStep
    from lathed_solid.part.steps.chamfer import ChamferStep, ResolvedChamfer
    from lathed_solid.part.steps.combine import CombineStep
    from lathed_solid.part.steps.draft import DraftStep
    from lathed_solid.part.steps.drop import DropStep
    from lathed_solid.part.steps.edges import EdgePick
    from lathed_solid.part.steps.extrude import ExtrudeStep, ResolvedExtrude
    from lathed_solid.part.steps.fillet import FilletStep, ResolvedFillet
    from lathed_solid.part.steps.flats import FlatsStep
    from lathed_solid.part.steps.groove import GrooveStep
    from lathed_solid.part.steps.helix import HelixStep
    from lathed_solid.part.steps.hole import HoleStep, ResolvedHole
    from lathed_solid.part.steps.hole_placement import FromWalls, Grid, OnCircle, OnEdges, Radial, SketchPoints, Table
    from lathed_solid.part.steps.imported import ImportedStep
    from lathed_solid.part.steps.keyway import KeywayStep
    from lathed_solid.part.steps.knurl import KnurlStep
    from lathed_solid.part.steps.loft import LoftStep
    from lathed_solid.part.steps.mirror import MirrorStep
    from lathed_solid.part.steps.move import MoveStep
    from lathed_solid.part.steps.pattern import PatternStep
    from lathed_solid.part.steps.plane import PlaneStep
    from lathed_solid.part.steps.point import PointStep
    from lathed_solid.part.steps.revolve import ResolvedRevolve, RevolveStep
    from lathed_solid.part.steps.rib import RibStep
    from lathed_solid.part.steps.shell import ShellStep
    from lathed_solid.part.steps.split import SplitStep
    from lathed_solid.part.steps.sweep import SweepStep
    from lathed_solid.part.steps.thread import ThreadStep
    from lathed_solid.part.steps.zero import ZeroStep

#: name -> module, for what this package gives on demand beside the classes of the catalogue
_LAZY: dict[str, str] = {
    **dict.fromkeys(("FromWalls", "Grid", "OnCircle", "OnEdges", "Radial", "SketchPoints", "Table"), "hole_placement"),
    "EdgePick": "edges", "ResolvedHole": "hole", "ResolvedChamfer": "chamfer", "ResolvedExtrude": "extrude",
    "ResolvedFillet": "fillet",
    "ResolvedRevolve": "revolve",
}  # fmt: skip


def __getattr__(name: str) -> Any:
    module = _LAZY.get(name) or next((k.name for k in CATALOGUE.values() if k.cls == name), "")
    if module:
        return getattr(import_module(f"{__name__}.{module}"), name)
    raise AttributeError(f"module {__name__!r} has no attribute {name!r}")


class _Kinds(Mapping[str, type[StepBase]]):
    """Step classes by kind, imported when they are asked for."""

    def __getitem__(self, kind: str) -> type[StepBase]:
        found: type[StepBase] = __getattr__(CATALOGUE[kind].cls)
        return found

    def __iter__(self) -> Iterator[str]:
        return iter(CATALOGUE)

    def __len__(self) -> int:
        return len(CATALOGUE)

    def __contains__(self, kind: object) -> bool:
        return kind in CATALOGUE


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
    "FromWalls",
    "Grid",
    "GrooveStep",
    "HelixStep",
    "HoleStep",
    "ImportedStep",
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
