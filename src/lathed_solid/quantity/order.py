"""Named expressions that use one another: evaluation order, and cycles with their path."""

from __future__ import annotations

import graphlib
from collections.abc import Mapping

from lathed_solid.quantity.expression import evaluate_value, names_in
from lathed_solid.quantity.units import LengthUnit, QuantityError, Value


class CycleError(QuantityError):
    """Names that depend on each other; ``path`` starts and ends with the same name."""

    def __init__(self, path: tuple[str, ...]) -> None:
        self.path = path
        super().__init__(f"{path[0]} depends on itself: {' -> '.join(path)}", hint="give one of these a plain number")


def evaluate_all(expressions: Mapping[str, str], given: Mapping[str, Value], unit: LengthUnit) -> dict[str, Value]:
    """Values of all ``expressions`` (name -> text), which may use each other and ``given``.

    Raises CycleError with the path, or QuantityError naming the expression that fails.
    """
    graph: dict[str, set[str]] = {}
    for name, text in expressions.items():
        try:
            graph[name] = {n for n in names_in(text) if n in expressions}
        except QuantityError as exc:
            raise exc.at(f"parameter {name}") from None
    try:
        order = tuple(graphlib.TopologicalSorter(graph).static_order())
    except graphlib.CycleError as exc:
        # graphlib lists each node before the one that needs it; readers want "a uses b"
        raise CycleError(tuple(reversed(exc.args[1]))) from None
    values = dict(given)
    for name in order:
        try:
            values[name] = evaluate_value(expressions[name], "number", unit, values)
        except QuantityError as exc:
            raise exc.at(f"parameter {name}") from None
    return {name: values[name] for name in expressions}
