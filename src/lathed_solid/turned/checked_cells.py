"""Cells of a turned table, evaluated and refused by their places."""

from __future__ import annotations

import math

from lathed_solid.quantity import Kind, QuantityError
from lathed_solid.quantity.cells import Evaluate
from lathed_solid.turned.table import MAX_SIZE_MM, TableError


class Cells:
    """Evaluates cells and refuses sizes that are not above zero, naming the place."""

    def __init__(self, evaluate: Evaluate) -> None:
        self.evaluate = evaluate

    def size(self, text: str, where: str, station: int | None = None, *, zero: bool = False) -> float:
        """A length in mm above zero (or from zero when ``zero``), below 10 m."""
        value = self._value(text, "length", where, station)
        if not (value > 0 or (zero and value == 0)) or value > MAX_SIZE_MM:
            raise TableError(
                f"{where} must be above zero" if value <= 0 else f"{where} is above 10 m",
                station=station,
                received=f"{text} = {value:g} mm" if text.strip() != f"{value:g}" else text,
            )
        return value

    def angle(self, text: str, where: str, station: int | None = None) -> float:
        """An angle in radians between 0 and 180 degrees, both excluded."""
        value = self._value(text, "angle", where, station)
        if not 0 < value < math.pi:
            raise TableError(f"{where} must be between 0 and 180°", station=station, received=text)
        return value

    def number(self, text: str, where: str, station: int | None = None) -> float:
        """A plain number above zero. Raises TableError, naming the place."""
        value = self._value(text, "number", where, station)
        if value <= 0:
            raise TableError(f"{where} must be above zero", station=station, received=text)
        return value

    def _value(self, text: str, kind: Kind, where: str, station: int | None) -> float:
        try:
            return self.evaluate(text, kind)
        except QuantityError as exc:
            place = f"station {station}, {where}" if station else where
            raise TableError(exc.what, station=station, where=place, received=text, hint=exc.hint) from None
