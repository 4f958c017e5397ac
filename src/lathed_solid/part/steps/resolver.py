"""What a step is resolved with: values of expressions, and the route's sketches and steps."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Protocol

from lathed_solid.part.steps.resolved import ResolvedSketch
from lathed_solid.quantity import Kind, LengthUnit


class Route(Protocol):
    """The steps that a step may look at; ``part.Document`` is one."""

    @property
    def steps(self) -> Sequence[Any]: ...

    def step(self, number: int) -> Any:
        """The step of that number, or None."""


class Resolver(Protocol):
    """``part.scope.Scope`` is one. Asking for the document is noted: what was made of it holds for that one only."""

    unit: LengthUnit

    @property
    def document(self) -> Route | None: ...

    def sketch(self, number: int) -> ResolvedSketch:
        """A sketch of the route, solved once. Raises SketchError, or DocumentError when there is none."""

    def __call__(self, text: str, kind: Kind) -> float:
        """``text`` in base units of ``kind``. Raises QuantityError."""
