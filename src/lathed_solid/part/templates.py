"""New documents to start from.

The callouts of a template are made as the grammar would read them: a window that begins with a new part needs no
grammar, which takes as long to load and to make ready as the rest of such a window.
"""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.ledger import Callout
from lathed_solid.ledger.duties import Duty
from lathed_solid.part.document import Document
from lathed_solid.part.edits import changed, put_note, put_step
from lathed_solid.part.steps import TurnedStep
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.turned import Station, TurnedTable


def empty(name: str, unit: LengthUnit = "mm") -> Document:
    """A part without callouts or steps."""
    return changed(Document(), name=name, unit=unit)


def turned(name: str, unit: LengthUnit = "mm") -> Document:
    """A shaft of two steps, driven by four callouts: a beginning to change."""
    part = empty(name, unit)
    texts = ("Ø30", "60", "Ø20", "25") if unit == "mm" else ("Ø1.25", "2.50", "Ø.75", "1.00")
    for balloon, text in enumerate(texts, 1):
        part = put_note(part, [_callout(balloon, text, unit)])
    stations = (Station(key="A", diameter="#1", length="#2"), Station(key="B", diameter="#3", length="#4"))
    return put_step(part, TurnedStep(number=10, table=TurnedTable(stations=stations)))


def _callout(balloon: int, text: str, unit: LengthUnit) -> Callout:
    """Of a note that is one diameter or one length."""
    figures, kind = text.removeprefix("Ø"), "diameter" if text.startswith("Ø") else "length"
    return Callout.model_validate({
        "balloon": balloon, "note": text, "unit": unit, "kind": kind, "role": kind, "meaning": kind,
        "nominal": float(figures) * (MM_PER_INCH if unit == "in" else 1.0),
        "decimals": len(figures.partition(".")[2]),
        "duties": (Duty(kind="form", word="round"),) if kind == "diameter" else (),
    })  # fmt: skip


TEMPLATES: dict[str, Callable[[str, LengthUnit], Document]] = {"turned": turned, "empty": empty}
