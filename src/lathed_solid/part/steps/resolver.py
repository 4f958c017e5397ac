"""What a step is resolved with: values of expressions, and the document's sketches."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from lathed_solid.quantity import Kind, LengthUnit

if TYPE_CHECKING:
    from lathed_solid.part.document import Document
    from lathed_solid.part.steps.sketch import ResolvedSketch


class Resolver(Protocol):
    """``part.scope.Scope`` is one. Asking for the document is noted: what was made of it holds for that one only."""

    unit: LengthUnit

    @property
    def document(self) -> Document | None: ...

    def sketch(self, number: int) -> ResolvedSketch:
        """A sketch of the route, solved once. Raises SketchError, or DocumentError when there is none."""

    def __call__(self, text: str, kind: Kind) -> float:
        """``text`` in base units of ``kind``. Raises QuantityError."""
