"""The functions an expression may call.

Trigonometric functions take an angle, or a plain number read as degrees (shop habit); the inverse
functions give an angle. A function that takes several arguments wants them in one dimension.
"""

from __future__ import annotations

import math
from collections.abc import Callable

from lathed_solid.quantity.units import QuantityError, Value, describe_dimension

ANGLE = (0, 1, 0)


def _angle(v: Value, name: str) -> float:
    if v.dimension == ANGLE:
        return v.number
    if v.plain:
        return math.radians(v.number)
    raise QuantityError(f"{name}() needs an angle, it was given {describe_dimension(v.dimension)}")


def _plain(v: Value, name: str) -> float:
    if not v.plain:
        raise QuantityError(f"{name}() needs a plain number, it was given {describe_dimension(v.dimension)}")
    return v.number


def _same(args: tuple[Value, ...], name: str) -> tuple[int, int, int]:
    if len({a.dimension for a in args}) != 1:
        raise QuantityError(f"the arguments of {name}() are of different kinds", hint="write a unit on each number")
    return args[0].dimension


def _sqrt(a: Value) -> Value:
    if a.number < 0:
        raise QuantityError("sqrt() of a negative value")
    if any(e % 2 for e in a.dimension):
        raise QuantityError(f"sqrt() of {describe_dimension(a.dimension)} has no meaning here")
    x, y, z = a.dimension
    return Value(math.sqrt(a.number), (x // 2, y // 2, z // 2))


def _hypot(*a: Value) -> Value:
    return Value(math.hypot(*(x.number for x in a)), _same(a, "hypot"))


def _least(*a: Value) -> Value:
    return Value(min(x.number for x in a), _same(a, "min"))


def _greatest(*a: Value) -> Value:
    return Value(max(x.number for x in a), _same(a, "max"))


def _atan2(y: Value, x: Value) -> Value:
    _same((y, x), "atan2")
    return Value(math.atan2(y.number, x.number), ANGLE)


def _rounding(name: str, whole: Callable[[float], float]) -> Callable[..., Value]:
    def rounded(a: Value, step: Value | None = None) -> Value:
        if step is None:
            if not a.plain:
                raise QuantityError(
                    f"{name}() of {describe_dimension(a.dimension)} needs a step",
                    hint=f"{name}(x; 0.5 mm)",
                )
            step = Value(1.0)
        _same((a, step), name)
        if step.number <= 0:
            raise QuantityError(f"the step of {name}() must be above zero")
        return Value(whole(a.number / step.number) * step.number, a.dimension)

    return rounded


def _half_up(x: float) -> float:
    return math.copysign(math.floor(abs(x) + 0.5), x)


#: name -> (least arguments, most arguments, function)
FUNCTIONS: dict[str, tuple[int, int, Callable[..., Value]]] = {
    "sin": (1, 1, lambda a: Value(math.sin(_angle(a, "sin")))),
    "cos": (1, 1, lambda a: Value(math.cos(_angle(a, "cos")))),
    "tan": (1, 1, lambda a: Value(math.tan(_angle(a, "tan")))),
    "asin": (1, 1, lambda a: Value(math.asin(_plain(a, "asin")), ANGLE)),
    "acos": (1, 1, lambda a: Value(math.acos(_plain(a, "acos")), ANGLE)),
    "atan": (1, 1, lambda a: Value(math.atan(_plain(a, "atan")), ANGLE)),
    "atan2": (2, 2, _atan2),
    "sqrt": (1, 1, _sqrt),
    "abs": (1, 1, lambda a: Value(abs(a.number), a.dimension)),
    "hypot": (2, 8, _hypot),
    "min": (2, 32, _least),
    "max": (2, 32, _greatest),
    "round": (1, 2, _rounding("round", _half_up)),
    "floor": (1, 2, _rounding("floor", math.floor)),
    "ceil": (1, 2, _rounding("ceil", math.ceil)),
}

CONSTANTS: dict[str, Value] = {"pi": Value(math.pi), "π": Value(math.pi)}
