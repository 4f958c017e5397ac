"""Edits of a station table: each gives a new table. Row indices count from 0."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from lathed_solid.turned.cells import parse_edge, parse_taper
from lathed_solid.turned.table import Bore, BoreStep, End, Groove, Station, TableError, TurnedTable

M = TypeVar("M", bound=BaseModel)


def _with(model: M, **values: Any) -> M:
    try:
        return type(model)(**{n: getattr(model, n) for n in type(model).model_fields} | values)
    except ValidationError as exc:
        first = exc.errors(include_url=False)[0]
        raise TableError(str(first["msg"]), where=" ".join(map(str, first["loc"]))) from None


def new_key(table: TurnedTable, first: str) -> str:
    """A key not yet used: A, B ... Z, A1 ... for stations, g1, g2 ... for grooves."""
    used = {s.key for s in table.stations} | {g.key for g in table.grooves}
    if first == "g":
        candidates: Iterable[str] = (f"g{i}" for i in range(1, 10_000))
    else:
        letters = [chr(c) for c in range(ord("A"), ord("Z") + 1)]
        candidates = (c + (str(i) if i else "") for i in range(1000) for c in letters)
    return next(k for k in candidates if k not in used)


def set_station_cell(table: TurnedTable, row: int, column: str, text: str) -> TurnedTable:
    """Set one cell of a station from its text. ``length`` and ``to`` exclude each other.

    Raises TableError for an edge or taper cell that is not understood, naming the station.
    """
    text = text.strip()
    try:
        if column in ("left", "right"):
            values: dict[str, Any] = {column: parse_edge(text)}
        elif column == "taper":
            values = {"taper": parse_taper(text)}
        elif column == "length":
            values = {"length": text, "to": None}
        elif column == "to":
            values = {"to": text, "length": None}
        else:
            values = {column: text}
    except TableError as exc:
        raise TableError(exc.what, station=row + 1, received=exc.received, hint=exc.hint) from None
    stations = list(table.stations)
    stations[row] = _with(stations[row], **values)
    return _with(table, stations=tuple(stations))


def add_station(table: TurnedTable, after: int | None = None, diameter: str = "20", length: str = "10") -> TurnedTable:
    """A new station after row ``after`` (at the end when None)."""
    stations = list(table.stations)
    place = len(stations) if after is None else after + 1
    stations.insert(place, Station(key=new_key(table, "A"), diameter=diameter, length=length))
    return _with(table, stations=tuple(stations))


def remove_station(table: TurnedTable, row: int) -> TurnedTable:
    """Without a row. Raises TableError for the last one."""
    if len(table.stations) == 1:
        raise TableError("a turned table keeps at least one station", hint="change it, or remove the step")
    return _with(table, stations=tuple(s for i, s in enumerate(table.stations) if i != row))


def move_station(table: TurnedTable, row: int, by: int) -> TurnedTable:
    """Swap a station with its neighbour; at the ends nothing happens."""
    target = row + by
    stations = list(table.stations)
    if not 0 <= target < len(stations):
        return table
    stations[row], stations[target] = stations[target], stations[row]
    return _with(table, stations=tuple(stations))


def add_groove(table: TurnedTable, at: str = "5", width: str = "2", diameter: str = "10") -> TurnedTable:
    """With a ring groove more; sizes are expressions."""
    groove = Groove(key=new_key(table, "g"), at=at, width=width, diameter=diameter)
    return _with(table, grooves=(*table.grooves, groove))


def set_groove_cell(table: TurnedTable, row: int, column: str, text: str) -> TurnedTable:
    """One cell of a groove's row. Raises TableError."""
    grooves = list(table.grooves)
    grooves[row] = _with(grooves[row], **{column: text.strip()})
    return _with(table, grooves=tuple(grooves))


def remove_groove(table: TurnedTable, row: int) -> TurnedTable:
    """Without a groove."""
    return _with(table, grooves=tuple(g for i, g in enumerate(table.grooves) if i != row))


def bore_rows(table: TurnedTable) -> list[tuple[int, int, Bore, BoreStep]]:
    """(bore, step, bore, step value) for every step of every bore."""
    return [(b, s, bore, step) for b, bore in enumerate(table.bores) for s, step in enumerate(bore.steps)]


def add_bore_step(table: TurnedTable, end: str, diameter: str = "5", depth: str | None = None) -> TurnedTable:
    """A further step of the bore from ``end``, which begins with it, right through, when there is none."""
    step = BoreStep(diameter=diameter, depth=depth)
    for i, bore in enumerate(table.bores):
        if bore.end == end:
            longer = _with(bore, steps=(*bore.steps, step))
            return _with(table, bores=tuple(longer if j == i else b for j, b in enumerate(table.bores)))
    return _with(table, bores=(*table.bores, Bore(end=end, steps=(step,))))


def set_bore_cell(table: TurnedTable, row: int, column: str, text: str) -> TurnedTable:
    """Set a cell of a bore row: its end, diameter, depth (empty is through), point, mouth. Raises TableError."""
    b, s, bore, step = bore_rows(table)[row]
    text = text.strip()
    if column == "end":
        bore = _with(bore, end=_free_end(table, b, text.split(",")[0].lower()))
    elif column == "depth":
        step = _with(step, depth=None if text.lower() in ("", "thru", "through") else text)
    elif column == "diameter":
        step = _with(step, diameter=text)
    elif column == "point":
        bore = _with(bore, point=None if text.lower() in ("", "flat") else text)
    else:
        bore = _with(bore, mouth=parse_edge(text))
    bore = _with(bore, steps=tuple(step if i == s else old for i, old in enumerate(bore.steps)))
    return _with(table, bores=tuple(bore if i == b else old for i, old in enumerate(table.bores)))


def _free_end(table: TurnedTable, own: int, text: str) -> End:
    ends: dict[str, End] = {"left": "left", "right": "right"}
    if text not in ends:
        raise TableError("a bore begins at one of the two faces", received=text, hint="left, right")
    if any(b.end == text for i, b in enumerate(table.bores) if i != own):
        raise TableError(f"there is a bore from the {text} already", hint="add a step to it")
    return ends[text]


def remove_bore_step(table: TurnedTable, row: int) -> TurnedTable:
    """Without a step of a bore; a bore without steps goes too."""
    b, s, bore, _ = bore_rows(table)[row]
    steps = tuple(old for i, old in enumerate(bore.steps) if i != s)
    if not steps:
        return _with(table, bores=tuple(old for i, old in enumerate(table.bores) if i != b))
    shorter = _with(bore, steps=steps)
    return _with(table, bores=tuple(shorter if i == b else old for i, old in enumerate(table.bores)))
