"""New documents to start from."""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.part.document import Document
from lathed_solid.part.edits import add_note, changed, put_step
from lathed_solid.part.steps import TurnedStep
from lathed_solid.quantity import LengthUnit
from lathed_solid.turned import Station, TurnedTable


def empty(name: str, unit: LengthUnit = "mm") -> Document:
    """A part without callouts or steps."""
    return changed(Document(), name=name, unit=unit)


def turned(name: str, unit: LengthUnit = "mm") -> Document:
    """A shaft of two steps, driven by four callouts: a beginning to change."""
    part = empty(name, unit)
    for text in ("Ø30", "60", "Ø20", "25") if unit == "mm" else ("Ø1.25", "2.50", "Ø.75", "1.00"):
        part = add_note(part, text)
    stations = (Station(key="A", diameter="#1", length="#2"), Station(key="B", diameter="#3", length="#4"))
    return put_step(part, TurnedStep(number=10, table=TurnedTable(stations=stations)))


TEMPLATES: dict[str, Callable[[str, LengthUnit], Document]] = {"turned": turned, "empty": empty}
