"""From a field's own size, measured, back to the callout that went into it.

A field holds f(x, others). Measured is m, the others are what was measured of them; x solves f(x) = m. The usual
halves, doubles, sums, differences and supplements are linear, and x follows in one step from two values of f; for
other expressions a secant iteration goes on from there.
"""

from __future__ import annotations

import math
from collections.abc import Mapping

from lathed_solid.ledger import Callout
from lathed_solid.part import Document, driving_value, scope
from lathed_solid.part.scope import DIMENSIONS
from lathed_solid.proof.plan import Showing
from lathed_solid.quantity import QuantityError, Value, evaluate, evaluate_all

#: mm, rad or a ratio
CLOSE = 1e-10
ROUNDS = 30


def expected(document: Document, showing: Showing, callout: Callout) -> float:
    """What the field should measure as the document stands, mm or rad. Raises QuantityError."""
    if not showing.text:
        return driving_value(document, callout)
    return evaluate(showing.text, showing.kind, document.unit, scope(document).names)


def solve_for(
    document: Document, showing: Showing, callout: Callout, measured: float, known: Mapping[int, float]
) -> float | None:
    """The callout's value that makes the field ``measured``, with the other callouts at ``known`` (by balloon); None
    when the field does not hang on it.
    """

    def field(x: float) -> float:
        values = {**known, callout.balloon: x}
        return evaluate(showing.text, showing.kind, document.unit, _names(document, values))

    try:
        x0 = callout.nominal
        h = 1e-3 * max(1.0, abs(x0))
        x1 = x0 + h
        f0, f1 = field(x0) - measured, field(x1) - measured
        for _ in range(ROUNDS):
            if abs(f1) < CLOSE:
                return x1
            if abs(f1 - f0) < 1e-14:
                return None
            x0, f0, x1 = x1, f1, x1 - f1 * (x1 - x0) / (f1 - f0)
            if not math.isfinite(x1):
                return None
            f1 = field(x1) - measured
    except (QuantityError, ZeroDivisionError, OverflowError):
        return None
    return x1 if abs(f1) < 1e-7 else None


def _names(document: Document, values: Mapping[int, float]) -> dict[str, Value]:
    base = scope(document).names
    names = dict(base)
    for balloon, value in values.items():
        callout = document.callout(balloon)
        if callout is not None:
            names[callout.name] = Value(value, DIMENSIONS.get(callout.kind, (1, 0, 0)))
    if document.parameters:
        given = {k: v for k, v in names.items() if k.startswith("#")}
        names.update(evaluate_all({p.name: p.expression for p in document.parameters}, given, document.unit))
    return names
