"""The station table of a turned part, as a person fills it in: every cell an expression.

Stations run from the left face to the right one. ``key`` is a station's lasting name (its number is just
its row), so that faces keep their names when rows are inserted. Depths of bores count from their own face.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from lathed_solid.errors import LathedError
from lathed_solid.quantity.cells import Cell
from lathed_solid.record import Record

Key = Annotated[str, Field(pattern=r"^[A-Za-z][A-Za-z0-9]{0,7}$")]
End = Literal["left", "right"]

MAX_SIZE_MM = 10_000.0


class TableError(LathedError, ValueError):
    """An impossible table; ``station`` is the row number concerned, or None."""

    def __init__(self, what: str, *, station: int | None = None, **rest: object) -> None:
        self.station = station
        where = str(rest.pop("where", "")) or (f"station {station}" if station else "turned table")
        super().__init__(what, where=where, **rest)  # type: ignore[arg-type]


class Edge(Record):
    """A corner broken by a chamfer (leg along the axis, angle from the axis) or rounded by a radius."""

    kind: Literal["chamfer", "radius"]
    size: Cell
    angle: Cell = "45°"


class Taper(Record):
    """A tapered station: to an end diameter, as 1:n, or by the half angle. Falls towards the right unless ``rises``."""

    kind: Literal["diameter", "ratio", "angle"]
    value: Cell
    rises: bool = False


class ThreadStretch(Record):
    """A thread shown as a symbol: its data are carried, the cylinder is its major diameter."""

    designation: str = Field(max_length=40)
    length: Cell | None = None


class Station(Record):
    """One stretch of the outside. Either ``length``, or ``to``: its far shoulder from the datum face."""

    key: Key
    diameter: Cell
    length: Cell | None = None
    to: Cell | None = None
    taper: Taper | None = None
    left: Edge | None = None
    right: Edge | None = None
    thread: ThreadStretch | None = None
    carries: str = Field(default="", max_length=80)


class Groove(Record):
    """A square groove: its near wall ``at`` from the datum face, width, diameter of the bottom."""

    key: Key
    at: Cell
    width: Cell
    diameter: Cell
    carries: str = Field(default="", max_length=80)


class BoreStep(Record):
    """One diameter of a bore; ``depth`` from the bore's own face to its shoulder, None for through."""

    diameter: Cell
    depth: Cell | None = None
    end_diameter: Cell | None = None


class Bore(Record):
    """A bore from one end; ``point`` is the included angle of a drilled bottom, None for a flat one."""

    end: End
    steps: tuple[BoreStep, ...] = Field(min_length=1, max_length=20)
    point: Cell | None = None
    mouth: Edge | None = None


class TurnedTable(Record):
    """All of a turned part. ``datum`` is the face from which ``to`` and ``at`` are measured."""

    datum: End = "left"
    stations: tuple[Station, ...] = Field(default=(), max_length=200)
    grooves: tuple[Groove, ...] = Field(default=(), max_length=200)
    bores: tuple[Bore, ...] = Field(default=(), max_length=2)
