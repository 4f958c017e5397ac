"""A cell of a step or of a turned table: an expression as it was typed, and what gives it its value."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from pydantic import Field

from lathed_solid.quantity.units import Kind

Cell = Annotated[str, Field(max_length=400)]
#: (expression, kind) -> mm, rad or a plain number. Raises QuantityError.
Evaluate = Callable[[str, Kind], float]
