"""The names that expressions of a document may use: ``#7`` for callouts, and parameters.

A callout's value is its nominal, the middle of its limits, or the mean of its readings, by what drives it.
"""

from __future__ import annotations

from collections import OrderedDict
from functools import lru_cache

from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.steps.resolved import ResolvedSketch
from lathed_solid.part.steps.sketch import SketchStep
from lathed_solid.quantity import Kind, LengthUnit, Value, evaluate, evaluate_all

#: powers of length, angle and mass in a callout's value, where it is no length
DIMENSIONS = {"angle": (0, 1, 0), "taper": (0, 0, 0)}


def driving_value(document: Document, callout: Callout) -> float:
    """mm or rad that the geometry takes. Raises DocumentError when it is to be as measured and was not."""
    if callout.drive == "nominal":
        return callout.nominal
    if callout.drive == "middle":
        bounds = document.limits(callout)
        if bounds.low is None or bounds.high is None:
            raise DocumentError(f"callout {callout.balloon} has no limits on both sides to stand in the middle of",
                                hint="write a tolerance, or drive it by its nominal")  # fmt: skip
        return (bounds.low + bounds.high) / 2
    reading = document.reading(callout.balloon)
    if reading is None:
        raise DocumentError(
            f"callout {callout.balloon} is modelled as measured, but has no reading",
            hint="log a reading, or drive it by its nominal",
        )
    return reading.mean


#: solved sketches, or why they cannot be, by the identity of their step: with it, the unit and the names they are of
_SOLVED: OrderedDict[int, tuple[SketchStep, LengthUnit, dict[str, Value], ResolvedSketch | LathedError]] = OrderedDict()
KEPT = 64


class Scope:
    """Names and values of one document, ready to evaluate expressions with."""

    def __init__(self, unit: LengthUnit, names: dict[str, Value], document: Document | None = None) -> None:
        self.unit, self.names, self._document = unit, names, document
        #: set when somebody looked at the whole document, so that what he made of it holds for this document only
        self.looked = False
        self._sketches: dict[int, ResolvedSketch | LathedError] = {}

    @property
    def document(self) -> Document | None:
        """The document, and the note that it was asked for."""
        self.looked = True
        return self._document

    def sketch(self, number: int) -> ResolvedSketch:
        """Sketch step ``number``, solved once. Raises SketchError, or DocumentError when there is no such sketch."""
        if number not in self._sketches:
            step = self._document.step(number) if self._document is not None else None
            if not isinstance(step, SketchStep):
                raise DocumentError(f"there is no sketch at step {number}", hint="pick a sketch of the route")
            self._sketches[number] = self._solved(step)
        found = self._sketches[number]
        if isinstance(found, LathedError):
            raise found
        return found

    def _solved(self, step: SketchStep) -> ResolvedSketch | LathedError:
        """A sketch follows from itself and the names: what an edit or a shorter route left alone is solved already."""
        known = _SOLVED.get(id(step))
        if known is not None and known[0] is step and known[1:3] == (self.unit, self.names):
            _SOLVED.move_to_end(id(step))
            return known[3]
        found: ResolvedSketch | LathedError
        try:
            found = step.resolve(self)
        except LathedError as exc:
            found = exc
        _SOLVED[id(step)] = (step, self.unit, self.names, found)
        while len(_SOLVED) > KEPT:
            _SOLVED.popitem(last=False)
        return found

    def __call__(self, text: str, kind: Kind) -> float:
        """``text`` in base units of ``kind``. Raises QuantityError."""
        return evaluate(text, kind, self.unit, self.names)


def scope(document: Document) -> Scope:
    """All names of ``document``. Raises QuantityError (CycleError) or DocumentError."""
    # the same value is asked for many times over: its hash, a walk over all of it, only once
    global _last
    if _last is None or _last[0] is not document:
        _last = (document, _scope(document))
    return _last[1]


_last: tuple[Document, Scope] | None = None


@lru_cache(maxsize=64)
def _scope(document: Document) -> Scope:
    names: dict[str, Value] = {}
    for callout in document.callouts:
        dimension = DIMENSIONS.get(callout.kind, (1, 0, 0))
        names[callout.name] = Value(driving_value(document, callout), dimension)
    expressions = {p.name: p.expression for p in document.parameters}
    names.update(evaluate_all(expressions, names, document.unit))
    return Scope(document.unit, names, document)
