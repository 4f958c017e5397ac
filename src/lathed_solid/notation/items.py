"""From text to a flat run of items, by the lark grammar of ``note.lark``.

An item is ``Item(kind, value, column, ...)`` with lengths already in mm and angles in degrees. Grouping
them into clauses is the interpreter's job, so that a new spelling touches the grammar alone.
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache
from pathlib import Path
from typing import Any

from lathed_solid.errors import LathedError
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.grammar import parser
from lathed_solid.quantity.units import MM_PER_INCH, decimal
from lathed_solid.standards import StandardError, deviations
from lathed_solid.standards.drills import drill

MAX_NOTE = 500
#: mm; a size or a limit beyond it is a slip
LARGEST = 1e6
RADII = ("R", "SR", "RAD", "RADIUS")
SQUARES = ("□", "SQ", "SQUARE")


class NoteError(LathedError, ValueError):
    """A note that cannot be read; ``column`` counts from 1."""

    def __init__(self, what: str, *, column: int = 0, **rest: Any) -> None:
        self.column = column
        super().__init__(what, where=f"column {column}" if column else "", **rest)


@dataclass(frozen=True, slots=True)
class Item:
    """One read piece. ``low``/``high`` are limits; ``decimals`` counts the decimal places as written."""

    kind: str
    value: float = 0.0
    text: str = ""
    low: float | None = None
    high: float | None = None
    fit: str | None = None
    decimals: int | None = None
    column: int = 0


@lru_cache(maxsize=1)
def _parser() -> Any:
    return parser(Path(__file__).parent / "note.lark")


def read_items(text: str, unit: LengthUnit) -> list[Item]:
    """Items of a note on a sheet in ``unit``. Raises NoteError with the column."""
    import lark

    if not text.strip():
        raise NoteError("the note is empty", hint="Ø12, 4X Ø6.6 THRU, R2, 1x45°")
    if len(text) > MAX_NOTE:
        raise NoteError(f"the note is longer than {MAX_NOTE} characters")
    try:
        tree = _parser().parse(text)
    except lark.exceptions.UnexpectedCharacters as exc:
        raise NoteError(f"{text[exc.pos_in_stream]!r} is not understood here", column=exc.column) from None
    except lark.exceptions.UnexpectedToken as exc:
        if exc.token.type == "$END":
            raise NoteError("the note stops too early", column=len(text) + 1, hint=_example(exc)) from None
        raise NoteError(f"{str(exc.token)!r} does not fit here", column=exc.column, hint=_example(exc)) from None
    return [_Reader(unit).item(node) for node in tree.children]


def _example(exc: Any) -> str:
    wanted: set[str] = getattr(exc, "accepts", None) or getattr(exc, "expected", None) or set()
    return "a number" if "NUMBER" in wanted else "Ø12, 4X Ø6.6 THRU ⌴ Ø11 ↧6.8, 1x45°"


class _Reader:
    """Turns one syntax node into an Item; a method for each rule."""

    def __init__(self, unit: LengthUnit) -> None:
        self.unit: LengthUnit = unit

    def item(self, node: Any) -> Item:
        handler = getattr(self, "do_" + str(node.data), None)
        return handler(node) if handler is not None else self._word(str(node.data), node)

    # numbers -----------------------------------------------------------------------------------
    def number(self, node: Any) -> tuple[float, int | None, float]:
        """(value in mm, decimals as written, mm per written unit)."""
        digits = str(node.children[0])
        factor = MM_PER_INCH if self.unit == "in" else 1.0
        if len(node.children) > 1:
            factor = 1.0 if str(node.children[1]).lower() == "mm" else MM_PER_INCH
        value, decimals = plain_number(digits, node.meta.column)
        if value * factor > LARGEST:
            raise NoteError("a size goes up to 1 km", column=node.meta.column, received=digits)
        return value * factor, decimals, factor

    def sized(self, kind: str, number: Any, tolerance: Any, text: str = "") -> Item:
        value, decimals, factor = self.number(number)
        limited = tolerance is not None and tolerance.data == "limits"
        if not limited:
            _above_zero(value, number)
        low = high = fit = None
        if tolerance is not None:
            low, high, fit = self.tolerance(value, factor, tolerance)
        if high is not None and limited:
            value = (low + high) / 2 if low is not None else high
            _above_zero(value, number)
        if max(abs(low or 0.0), abs(high or 0.0)) > LARGEST:
            raise NoteError("a limit goes up to 1 km", column=number.meta.column, received=high)
        return Item(kind, value, text, low, high, fit, decimals, number.meta.column)

    def tolerance(self, value: float, factor: float, node: Any) -> tuple[float | None, float | None, str | None]:
        parts = node.children
        if node.data == "symmetric":
            d, _, _ = self.number(parts[1])
            return value - d, value + d, None
        if node.data in ("deviations", "one_sided"):
            given = [signed(str(p)) * factor for p in parts]
            given = given if len(given) == 2 else [given[0], 0.0]
            return value + min(given), value + max(given), None
        if node.data == "limits":
            other = plain_number(str(parts[1]), node.meta.column)[0] * factor
            return min(value, other), max(value, other), None
        name = str(parts[0]).replace(" ", "")
        if node.data == "fit_pair":
            return None, None, name
        try:
            lower, upper = deviations(value, name)
        except StandardError as exc:
            raise NoteError(exc.what, column=node.meta.column, rule=exc.rule, hint=exc.hint) from None
        return value + lower, value + upper, name

    # rules -------------------------------------------------------------------------------------
    def do_count(self, node: Any) -> Item:
        digits = re.search(r"\d+", str(node.children[0]))
        count = int(digits[0]) if digits else 0
        if not 1 <= count <= 500:
            raise NoteError("a count goes from 1 to 500", column=node.meta.column, received=count)
        return Item("count", count, text=str(node.children[0]), column=node.meta.column)

    def do_size(self, node: Any) -> Item:
        symbol = str(node.children[0]).upper()
        bare = symbol.rstrip(".")
        kind = "radius" if bare in RADII else "square" if bare in SQUARES else "dia"
        return self.sized(kind, node.children[1], _third(node), text=symbol)

    def do_sized_after(self, node: Any) -> Item:
        return self.sized("dia", node.children[0], _third(node))

    def do_fitted_after(self, node: Any) -> Item:
        return self.sized("dia", node.children[0], Fitted(str(node.children[1]), node))

    def do_drill(self, node: Any) -> Item:
        return self.sized("drill", node.children[0], None)

    def do_drill_named(self, node: Any) -> Item:
        text = str(node.children[0])
        name = re.search(r"#\s*\d+|(?<=LETTER )\s*[A-Z]", text, re.I)
        try:
            size = drill(name[0] if name else text)
        except StandardError as exc:
            raise NoteError(exc.what, column=node.meta.column, received=text, hint=exc.hint) from None
        return Item("drill", size.diameter, text=size.name, column=node.meta.column)

    def do_total(self, node: Any) -> Item:
        value, decimals = plain_number(re.sub(r"[()=\s]", "", str(node.children[0])))
        return Item("total", value * (MM_PER_INCH if self.unit == "in" else 1.0), decimals=decimals,
                    column=node.meta.column)  # fmt: skip

    def do_range(self, node: Any) -> Item:
        text = str(node.children[0])
        low, high = (plain_number(n) for n in re.findall(r"\d*[.,]\d+", text))
        factor = MM_PER_INCH if self.unit == "in" else 1.0
        a, b = sorted((low[0] * factor, high[0] * factor))
        _above_zero(a, node, text)
        kind = "dia" if re.match(r"[⌀Øø]", text) else "plain"
        return Item(kind, (a + b) / 2, "", a, b, None, low[1], node.meta.column)

    def do_ratio(self, node: Any) -> Item:
        one, many = (decimal(n) for n in str(node.children[0]).split(":"))
        if one <= 0 or many <= 0:
            raise NoteError("a taper reads 1:10", column=node.meta.column, received=str(node.children[0]))
        return Item("ratio", many / one, column=node.meta.column)

    def do_plain(self, node: Any) -> Item:
        return self.sized("plain", node.children[0], node.children[1] if len(node.children) > 1 else None)

    def do_depth(self, node: Any) -> Item:
        number = next(c for c in node.children if getattr(c, "data", None) == "number")
        return self.sized("depth", number, _third(node) if node.children[0] is not number else None)

    def do_angle(self, node: Any) -> Item:
        return Item("angle", degrees(str(node.children[0])), column=node.meta.column)

    def do_angle_tolerance(self, node: Any) -> Item:
        value, d = degrees(str(node.children[0])), degrees(str(node.children[2]))
        return Item("angle", value, low=value - d, high=value + d, column=node.meta.column)

    def do_reference(self, node: Any) -> Item:
        return self.sized("reference", node.children[0], None)

    def do_reference_size(self, node: Any) -> Item:
        kind = "radius" if str(node.children[0]).upper() in ("R", "SR") else "dia"
        return self.sized("reference", node.children[1], None, text=kind)

    def do_reference_angle(self, node: Any) -> Item:
        return Item("reference", degrees(str(node.children[0])), text="angle", column=node.meta.column)

    def do_basic(self, node: Any) -> Item:
        return self.sized("basic", node.children[0], None)

    def do_chamfer_c(self, node: Any) -> Item:
        value, decimals = plain_number(str(node.children[0])[1:].strip())
        factor = MM_PER_INCH if self.unit == "in" else 1.0
        _above_zero(value, node)
        return Item("chamfer_c", value * factor, decimals=decimals, column=node.meta.column)

    def do_thread(self, node: Any) -> Item:
        text = "".join(str(c) for c in node.children).replace(" ", "")
        return Item("thread", text=text, column=node.meta.column)

    def _word(self, kind: str, node: Any) -> Item:
        return Item(kind, text=str(node.children[0]), column=node.meta.column)

    def do_wide(self, node: Any) -> Item:
        return self._with_number("wide", node)

    def do_long(self, node: Any) -> Item:
        return self._with_number("long", node)

    def _with_number(self, kind: str, node: Any) -> Item:
        """A word after a number, or the word alone (value 0)."""
        first = node.children[0]
        if getattr(first, "data", None) != "number":
            return self._word(kind, node)
        item = self.sized(kind, first, None)
        return replace(item, fit=str(node.children[1])) if len(node.children) > 2 else item


class Fitted:
    """A class that stands between a size and its word: ``12 H7 DIA``."""

    data = "fit"

    def __init__(self, name: str, node: Any) -> None:
        self.children, self.meta = [name], node.meta


def _third(node: Any) -> Any:
    return node.children[2] if len(node.children) > 2 else None


def _above_zero(value: float, node: Any, received: Any = None) -> None:
    if value <= 0:
        raise NoteError(
            "a size must be above zero", column=node.meta.column, received=value if received is None else received
        )


def plain_number(text: str, column: int = 1) -> tuple[float, int | None]:
    """``12,5`` ``.562`` ``9/16`` ``1-3/8`` -> (number, decimals as written or None for a fraction).

    Raises NoteError, which names ``column``, for a fraction over zero.
    """
    text = text.strip()
    if "/" in text:
        *whole, fraction = re.split(r"[\s-]+", text)
        top, bottom = fraction.split("/")
        if not int(bottom):
            raise NoteError("a fraction over zero", column=column, received=text)
        return (float(whole[0]) if whole else 0.0) + int(top) / int(bottom), None
    text = text.replace(",", ".")
    return float(text), len(text.partition(".")[2])


def signed(text: str) -> float:
    """``+0.2`` ``/-0`` ``−.002`` -> number with its sign."""
    bare = "".join(text.replace("/", "").replace("−", "-").replace(",", ".").split())
    return float(bare)


def degrees(text: str) -> float:
    """``12°30'`` -> 12.5. Raises NoteError above 360."""
    parts = re.findall(r"\d+(?:[.,]\d+)?", text)
    value = sum(decimal(p) / 60**i for i, p in enumerate(parts[:3]))
    if not 0 < value <= 360 or not math.isfinite(value):
        raise NoteError("an angle goes above 0 up to 360 degrees", received=value)
    return value
