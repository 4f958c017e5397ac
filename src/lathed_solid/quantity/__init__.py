"""Units, expressions, fractions, angles."""

from lathed_solid.quantity.expression import evaluate, evaluate_value, names_in, parse
from lathed_solid.quantity.order import CycleError, evaluate_all
from lathed_solid.quantity.units import Kind, LengthUnit, QuantityError, Value, as_kind, unit_factor

__all__ = [
    "CycleError",
    "Kind",
    "LengthUnit",
    "QuantityError",
    "Value",
    "as_kind",
    "evaluate",
    "evaluate_all",
    "evaluate_value",
    "names_in",
    "parse",
    "unit_factor",
]
