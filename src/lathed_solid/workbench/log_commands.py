"""Work on the caliper log: readings typed or sent, ways of measuring, new sizes, weighings. No widgets.

Every command gives one edit of the document through ``edited``; what cannot be understood is told.
"""

from __future__ import annotations

from collections.abc import Callable

from lathed_solid.devices import DeviceReading
from lathed_solid.errors import LathedError
from lathed_solid.ledger import Callout, Instrument, Reading
from lathed_solid.ledger.guide import way_for
from lathed_solid.part import Document, StatedMass
from lathed_solid.part.edits import changed, put_reading
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.tables.log_rows import LogRow, parse_repeats, parse_way

#: a reading this near (relative) to the size in the other unit, and far from the size itself, is in the wrong unit
NEAR = 0.03
#: a weighing this near (relative) to the last ones is one more of them
SAME_WEIGHT = 0.02


class LogCommands:
    """Signals: an edit; that a new size was logged; words."""

    def __init__(self) -> None:
        self.document = Document()
        self.edited: Signal[str, Callable[[Document], Document]] = Signal()
        self.logged: Signal[()] = Signal()
        self.told: Signal[str, bool] = Signal()

    def type_repeats(self, row: LogRow, text: str) -> None:
        """What was typed into a row: repeats parted by semicolons; nothing takes the reading out."""
        if not text:
            self._commit(row, None)
            return
        try:
            repeats = parse_repeats(text, self.document.unit)
        except LathedError as exc:
            self.told.emit(f"callout {row.balloon}: {exc.message}", True)
            return
        self.log(row, repeats)

    def log(self, row: LogRow, repeats: tuple[float, ...]) -> None:
        """A reading of these repeats, mm; a first one is taken to be measured as its size suggests."""
        if row.reading is not None:
            self._commit(row, changed(row.reading, repeats=repeats))
        else:
            way = way_for(row.callout)
            self._commit(row, Reading(balloon=row.balloon, way=way, repeats=repeats, instrument=Instrument()))

    def type_way(self, row: LogRow, text: str) -> None:
        """Another way of measuring; its reading must be there."""
        if row.reading is None:
            self.told.emit("log a repeat first, then its way", True)
            return
        try:
            self._commit(row, changed(row.reading, way=parse_way(text)))
        except LathedError as exc:
            self.told.emit(exc.message, True)

    def _commit(self, row: LogRow, reading: Reading | None) -> None:
        def change(document: Document) -> Document:
            if reading is not None:
                return put_reading(document, reading)
            kept = tuple(r for r in document.readings if r.balloon != row.balloon)
            return changed(document, readings=kept)

        self.edited.emit(f"reading of callout {row.balloon}", change)

    def log_new(self, size: str, text: str) -> None:
        """A new size: its callout and its reading in one edit."""
        from lathed_solid.part.caliper_log import log_size

        try:
            repeats = parse_repeats(text, self.document.unit)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        said: list[str] = []

        def change(document: Document) -> Document:
            made, words = log_size(document, size, repeats, Instrument())
            said.append(words)
            return made

        self.edited.emit(f"log {size} {text}", change)
        if said:
            self.logged.emit()
            self.told.emit(said[0], False)

    def adopt(self, balloon: int, text: str) -> None:
        """The callout takes a nominal that its readings suggest."""
        from lathed_solid.part.caliper_log import adopt

        self.edited.emit(f"callout {balloon} takes {text}", lambda d: adopt(d, balloon, text))

    # a caliper or a scale on a line ------------------------------------------------------------
    def weigh(self, grams: float) -> None:
        """A weighing: one more of the last ones when it is near them, else it begins anew."""
        once = StatedMass(grams=grams, source="scale", repeats=(grams,))

        def weighed(d: Document) -> Document:
            old = d.stated_mass
            again = old is not None and old.repeats and abs(old.grams - grams) < SAME_WEIGHT * old.grams
            return changed(d, stated_mass=old.weighed_again(grams) if again and old is not None else once)

        self.edited.emit(f"weighed {grams:g} g", weighed)

    def take(self, sent: DeviceReading, row: LogRow | None) -> bool:
        """A reading from the line: a weighing, or one more repeat of the chosen row; False when there is none."""
        if sent.kind != "length":
            self.weigh(sent.value)
            return True
        if row is None:
            return False
        words = wrong_unit(sent.value, row.callout)
        if words:
            self.told.emit(words, True)
        else:
            self.log(row, (*(row.reading.repeats if row.reading else ()), sent.value))
        return True


def wrong_unit(value: float, callout: Callout) -> str:
    """In words, when a length (mm) is what the callout's size would be in the other unit; else empty."""
    nominal = callout.nominal
    if abs(value / nominal - 1) < NEAR:
        return ""
    for factor, of in ((MM_PER_INCH, "inches"), (1 / MM_PER_INCH, "millimetres")):
        if abs(value * factor / nominal - 1) < NEAR:
            return f"{value:g} looks like {of}: not taken; set the caliper's unit and measure again"
    return ""
