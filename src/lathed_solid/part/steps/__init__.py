"""The registry of step kinds: a kind is three modules of one name (here, kernel/build, desk/steps)."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Discriminator, Tag

from lathed_solid.part.steps.base import FieldOf, StepBase
from lathed_solid.part.steps.hole import HoleError, HoleStep, OnCircle, Radial, ResolvedHole
from lathed_solid.part.steps.turned import TurnedStep
from lathed_solid.part.steps.unknown import UnknownStep

KINDS: dict[str, type[StepBase]] = {"turned": TurnedStep, "hole": HoleStep}


def _tag(value: Any) -> str:
    kind = value.get("kind") if isinstance(value, dict) else getattr(value, "kind", None)
    return kind if kind in KINDS else "unknown"


Step = Annotated[
    Annotated[TurnedStep, Tag("turned")] | Annotated[HoleStep, Tag("hole")] | Annotated[UnknownStep, Tag("unknown")],
    Discriminator(_tag),
]

__all__ = [
    "KINDS",
    "FieldOf",
    "HoleError",
    "HoleStep",
    "OnCircle",
    "Radial",
    "ResolvedHole",
    "Step",
    "StepBase",
    "TurnedStep",
    "UnknownStep",
]
