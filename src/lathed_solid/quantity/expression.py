"""Expressions: parse once into a small tree, then evaluate with names.

``1 3/8``, ``1/4in + 3mm``, ``5' 3 1/2"``, ``12°30'``, ``#7 / 2`` (the value of callout 7), ``wall * 2``.
In a sum, a plain number beside a length (or an angle) takes the field's unit: ``1in + 3`` on a millimetre
sheet is 28.4 mm. Several arguments are separated by ``;`` or by a comma and a space, since ``1,2`` is a
decimal comma. Evaluation walks the tree; nothing is ever handed to the interpreter.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from lathed_solid.quantity.functions import CONSTANTS, FUNCTIONS
from lathed_solid.quantity.grammar import parser
from lathed_solid.quantity.units import (
    KIND_DIMENSION,
    MM_PER_INCH,
    UNITS,
    Kind,
    LengthUnit,
    QuantityError,
    Value,
    as_kind,
    decimal,
    describe_dimension,
    plain_factor,
)

MAX_TEXT = 400
MAX_DEPTH = 60


@lru_cache(maxsize=1)
def _parser() -> Any:
    return parser(Path(__file__).parent / "expression.lark")


@lru_cache(maxsize=4096)
def parse(text: str) -> Any:
    """The syntax tree of ``text``. Raises QuantityError with the column of the first bad character."""
    import lark

    if not text or not text.strip():
        raise QuantityError("the field is empty", hint="a number such as 12.5, 1 3/8 or #7/2")
    if len(text) > MAX_TEXT:
        raise QuantityError(f"the expression is longer than {MAX_TEXT} characters")
    depth = 0
    for column, char in enumerate(text, 1):
        depth += (char == "(") - (char == ")")
        if depth > MAX_DEPTH:
            raise QuantityError(f"more than {MAX_DEPTH} open parentheses", column=column)
    try:
        return _parser().parse(text)
    except lark.exceptions.UnexpectedCharacters as exc:
        raise QuantityError(f"{text[exc.pos_in_stream]!r} is not understood here", column=exc.column, text=text,
                            hint=_hint(text)) from None  # fmt: skip
    except lark.exceptions.UnexpectedToken as exc:
        if exc.token.type == "$END":
            raise QuantityError("the expression stops too early", column=len(text) + 1, text=text) from None
        raise QuantityError(
            f"{str(exc.token)!r} does not fit here", column=exc.column, text=text, hint=_hint(text)
        ) from None
    except RecursionError:
        raise QuantityError("the expression is nested too deeply") from None


def _hint(text: str) -> str:
    if text.count(",") and "." in text:
        return "either a point or a comma as the decimal mark, no thousands separator"
    return "an operator + - * / ^ between two values"


def names_in(text: str) -> frozenset[str]:
    """Names (parameters and ``#balloons``) an expression uses. Raises QuantityError."""
    tree = parse(text)
    found = {str(t) for t in _tokens(tree) if t.type in ("NAME", "BALLOON")}
    return frozenset(n for n in found if n not in FUNCTIONS and n not in CONSTANTS)


def _tokens(tree: Any) -> list[Any]:
    if not hasattr(tree, "children"):
        return [tree]
    import lark

    return list(tree.scan_values(lambda v: isinstance(v, lark.Token)))


def evaluate(
    text: str, kind: Kind = "length", unit: LengthUnit = "mm", names: Mapping[str, Value] | None = None
) -> float:
    """``text`` as a finite number in base units of ``kind``.

    ``unit`` is the sheet's unit, taken by plain numbers; ``names`` maps parameters and ``#balloons`` to
    values. Raises QuantityError (column, reason) for anything else than a finite result of that kind.
    """
    value = evaluate_value(text, kind, unit, names)
    return as_kind(value, kind, unit)


def evaluate_value(
    text: str, kind: Kind = "number", unit: LengthUnit = "mm", names: Mapping[str, Value] | None = None
) -> Value:
    """Like ``evaluate`` but keeps the dimension, so that a parameter may be a plain number or a length."""
    tree = parse(text)
    try:
        value = _Walk(kind, unit, names or {}, text).visit(tree)
    except QuantityError as exc:
        if not exc.text:
            raise QuantityError(exc.what, column=exc.column, text=text, hint=exc.hint) from None
        raise
    except OverflowError:
        raise QuantityError("the result is too large", text=text) from None
    except (ValueError, ZeroDivisionError) as exc:
        raise QuantityError(f"no result: {exc}", text=text) from None
    if not math.isfinite(value.number):
        raise QuantityError("the result is not a finite number", text=text)
    return value


class _Walk:
    """One evaluation: a method for each rule of the grammar."""

    def __init__(self, kind: Kind, unit: LengthUnit, names: Mapping[str, Value], text: str) -> None:
        self.kind, self.unit, self.names, self.text = kind, unit, names, text

    def visit(self, node: Any) -> Value:
        rule: Callable[[Any], Value] = getattr(self, "do_" + str(node.data))
        return rule(node)

    def pair(self, node: Any) -> tuple[Value, Value]:
        return self.visit(node.children[0]), self.visit(node.children[1])

    def do_number(self, node: Any) -> Value:
        return Value(decimal(node.children[0]))

    def do_number_unit(self, node: Any) -> Value:
        return _with_unit(decimal(node.children[0]), node.children[1])

    def do_fraction_unit(self, node: Any) -> Value:
        return _with_unit(_fraction(node.children[0]), node.children[1])

    def do_mixed(self, node: Any) -> Value:
        return Value(_mixed(node.children[0]))

    def do_mixed_unit(self, node: Any) -> Value:
        return _with_unit(_mixed(node.children[0]), node.children[1])

    def do_inches(self, node: Any) -> Value:
        return Value(_mixed(node.children[0].rstrip('"″ ')) * MM_PER_INCH, (1, 0, 0))

    def do_feet_inches(self, node: Any) -> Value:
        feet, _, rest = str(node.children[0]).replace("′", "'").partition("'")
        rest = rest.strip(' "″-')
        inches = _mixed(rest) if rest else 0.0
        return Value((12 * decimal(feet) + inches) * MM_PER_INCH, (1, 0, 0))

    def do_dms(self, node: Any) -> Value:
        text = str(node.children[0]).translate(str.maketrans("°'′\"″", "    " + " "))
        parts = [decimal(p) for p in text.split()]
        return Value(math.radians(sum(p / 60**i for i, p in enumerate(parts))), KIND_DIMENSION["angle"])

    def do_group_unit(self, node: Any) -> Value:
        inner = self.visit(node.children[0])
        if not inner.plain:
            raise QuantityError("a unit after a bracket that has one already", column=node.meta.column)
        return _with_unit(inner.number, node.children[1])

    def do_name(self, node: Any) -> Value:
        return self.look_up(node.children[0])

    do_balloon = do_name

    def look_up(self, token: Any) -> Value:
        name = str(token)
        if name in self.names:
            return self.names[name]
        if name in CONSTANTS:
            return CONSTANTS[name]
        what = f"there is no callout {name}" if name.startswith("#") else f"the name {name!r} is not known"
        raise QuantityError(what, column=token.column, text=self.text, hint=self.nearest(name))

    def nearest(self, name: str) -> str:
        from difflib import get_close_matches

        close = get_close_matches(name, [*self.names, *FUNCTIONS, *CONSTANTS], n=2, cutoff=0.5)
        return " or ".join(close) if close else "a callout such as #3, a parameter, or a number"

    def do_call(self, node: Any) -> Value:
        head = node.children[0]
        name = str(head)
        if name not in FUNCTIONS:
            raise QuantityError(
                f"{name}() is not a function", column=head.column, text=self.text, hint=self.nearest(name)
            )
        args = [self.visit(c) for c in node.children[1:] if hasattr(c, "data")]
        least, most, function = FUNCTIONS[name]
        if not least <= len(args) <= most:
            wants = str(least) if least == most else f"{least} to {most}"
            raise QuantityError(
                f"{name}() takes {wants} arguments, {len(args)} given",
                column=head.column,
                text=self.text,
                hint="separate arguments by ; (a comma is a decimal mark)",
            )
        return function(*args)

    def level(self, a: Value, b: Value, node: Any) -> tuple[Value, Value]:
        """Give a plain summand the field's unit when the other one has a dimension."""
        if a.dimension == b.dimension:
            return a, b
        for kind in ("length", "angle", "mass"):
            dimension = KIND_DIMENSION[kind]
            if {a.dimension, b.dimension} == {dimension, (0, 0, 0)}:
                factor = plain_factor(kind, self.unit)
                if a.plain:
                    return Value(a.number * factor, dimension), b
                return a, Value(b.number * factor, dimension)
        raise QuantityError(
            f"{describe_dimension(a.dimension)} and {describe_dimension(b.dimension)} cannot be added",
            column=node.meta.column,
        )

    def do_add(self, node: Any) -> Value:
        a, b = self.level(*self.pair(node), node)
        return Value(a.number + b.number, a.dimension)

    def do_sub(self, node: Any) -> Value:
        a, b = self.level(*self.pair(node), node)
        return Value(a.number - b.number, a.dimension)

    def do_mul(self, node: Any) -> Value:
        a, b = self.pair(node)
        return Value(a.number * b.number, _sum(a.dimension, b.dimension, 1))

    def do_div(self, node: Any) -> Value:
        a, b = self.pair(node)
        if b.number == 0:
            raise QuantityError("division by zero", column=node.meta.column)
        return Value(a.number / b.number, _sum(a.dimension, b.dimension, -1))

    def do_neg(self, node: Any) -> Value:
        a = self.visit(node.children[0])
        return Value(-a.number, a.dimension)

    def do_pow(self, node: Any) -> Value:
        if str(node.children[0].data).endswith("_unit"):
            raise QuantityError(
                "does the exponent belong to the unit or to the length?",
                column=node.meta.column,
                hint="(9 mm)^2, or 9 mm * 1 mm",
            )
        a, b = self.pair(node)
        if not b.plain:
            raise QuantityError("an exponent must be a plain number", column=node.meta.column)
        if a.plain:
            result = a.number**b.number
            if isinstance(result, complex):
                raise QuantityError("a root of a negative number", column=node.meta.column)
            return Value(result)
        if b.number != int(b.number) or abs(b.number) > 6:
            raise QuantityError("a length takes a whole exponent", column=node.meta.column, hint="sqrt()")
        power = int(b.number)
        x, y, z = a.dimension
        return Value(a.number**power, (x * power, y * power, z * power))


def _sum(a: tuple[int, int, int], b: tuple[int, int, int], sign: int) -> tuple[int, int, int]:
    return (a[0] + sign * b[0], a[1] + sign * b[1], a[2] + sign * b[2])


def _fraction(text: str) -> float:
    top, _, bottom = str(text).partition("/")
    if int(bottom) == 0:
        raise QuantityError("a fraction over zero")
    return int(top) / int(bottom)


def _mixed(text: str) -> float:
    """``1 3/8``, ``3/8`` or ``.5`` -> number."""
    parts = str(text).split()
    return sum(_fraction(p) if "/" in p else decimal(p) for p in parts)


def _with_unit(number: float, unit: Any) -> Value:
    factor, dimension = UNITS[str(unit)]
    return Value(number * factor, dimension)
