"""Work on the caliper log: readings typed or sent, ways of measuring, new sizes, weighings. No widgets.

Every command gives one edit of the document through ``edited``; what cannot be understood is told.
"""

from __future__ import annotations

import statistics
from collections.abc import Callable
from pathlib import Path

from lathed_solid.devices import DeviceReading
from lathed_solid.errors import LathedError
from lathed_solid.ledger import WAY_WORDS, Callout, Instrument, Reading, SheetPlace
from lathed_solid.ledger.combining import Sum, worded
from lathed_solid.ledger.guide import way_for
from lathed_solid.ledger.readings import SIZES, Taken
from lathed_solid.ledger.repeats import instrument_for, sizes_of, strays
from lathed_solid.part import Document, Sheet, StatedMass
from lathed_solid.part.edits import changed, drop_reading, put_callout, put_reading
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import fixed, length
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.workbench.letters import letter_of, photograph_of
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.tables.log_rows import LogRow, parse_repeats, parse_way

#: a reading this near (relative) to the size in the other unit, and far from the size itself, is in the wrong unit
NEAR = 0.03
#: a weighing this near (relative) to the last ones is one more of them
SAME_WEIGHT = 0.02
PICTURES = (".png", ".jpg", ".jpeg")


class LogCommands:
    """Signals: an edit; that a new size was logged; words."""

    def __init__(self) -> None:
        self.document = Document()
        self.edited: Signal[str, Callable[[Document], Document]] = Signal()
        self.logged: Signal[()] = Signal()
        self.told: Signal[str, bool] = Signal()
        #: what is measured with, and how a doubt is asked about
        self.instrument = Instrument()
        self.confirm: Callable[[str], bool] = lambda _words: False

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
        own = row.reading.instrument if row.reading is not None else self.instrument
        self.log(row, repeats, instrument_for(text, own))

    def log(self, row: LogRow, repeats: tuple[float, ...], instrument: Instrument | None = None) -> None:
        """A reading of these repeats, mm; a first one is taken to be measured as its size suggests.

        Repeats that do not belong to the others are asked about; without a yes nothing is logged.
        """
        read = instrument or (row.reading.instrument if row.reading is not None else self.instrument)
        if not self._belong(repeats, read):
            return
        if row.reading is not None:
            # what was worked out before is read now
            self._commit(row, changed(row.reading, repeats=repeats, instrument=read, terms=(), worked_out=None))
        else:
            way = way_for(row.callout)
            self._commit(row, Reading(balloon=row.balloon, way=way, repeats=repeats, instrument=read))

    def _belong(self, repeats: tuple[float, ...], read: Instrument) -> bool:
        """Whether the repeats are of one size, or are said to be."""
        odd = strays(repeats, read)
        if not odd:
            return True
        shown = ", ".join(f"{length(x, self.document.unit)}" for x in odd[:4])
        off = length(max(abs(x - statistics.median_low(repeats)) for x in odd), self.document.unit)
        words = f"{shown} {'is' if len(odd) == 1 else 'are'} up to {off} {self.document.unit} from the other repeats"
        if self.confirm(f"{words}. Does it belong to this size?"):
            return True
        self.told.emit(f"not logged: {words}", True)
        return False

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
            return drop_reading(document, row.balloon)

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
        read = instrument_for(text, self.instrument)
        groups = sizes_of(repeats, read)
        if len(groups) > 1 and (len(groups) > 2 or min(map(len, groups)) > 1):
            # never heaped into one
            if not self.confirm(f"These are {len(groups)} sizes. Log each by itself?"):
                self.told.emit(f"not logged: {len(groups)} different sizes in one reading", True)
                return
        elif not self._belong(repeats, read):
            return
        else:
            groups = [repeats]

        def change(document: Document) -> Document:
            made = document
            for group in groups:
                made, words = log_size(made, size, group, read)
                said.append(words)
            return made

        self.edited.emit(f"log {size} {text}", change)
        if said:
            self.logged.emit()
            self.told.emit(said[0] if len(said) == 1 else f"{len(said)} sizes: {'; '.join(said[:3])}", False)

    def log_again(self, row: LogRow, size: str, text: str) -> None:
        """What was typed is the chosen size taken another way; how both agree is told."""
        try:
            repeats = parse_repeats(text, self.document.unit)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        read = instrument_for(text, self.instrument)
        if self._belong(repeats, read):
            self._again(row, Taken(way=SIZES[size][1], repeats=repeats, instrument=read))

    def _again(self, row: LogRow, taken: Taken) -> None:
        from lathed_solid.part.caliper_log import read_again

        self.edited.emit(f"another way of callout {row.balloon}", lambda d: read_again(d, row.balloon, taken))
        if row.reading is not None:
            self.logged.emit()
            self.told.emit(f"callout {row.balloon}: {agreement(row.reading, taken, self.document.unit)}", False)

    def work_out(self, found: Sum, row: LogRow | None = None) -> None:
        """A size that is worked out from others: a new one, or another way of one that was read."""
        from lathed_solid.part.caliper_log import log_sum

        if row is not None:
            self._again(row, found.taken)
            return
        said: list[str] = []

        def change(document: Document) -> Document:
            made, words = log_sum(document, found)
            said.append(words)
            return made

        self.edited.emit(found.words, change)
        if said:
            self.told.emit(f"{worded(found.terms)} = {said[0]}", False)

    def adopt(self, balloon: int, text: str) -> None:
        """The callout takes a nominal that its readings suggest."""
        from lathed_solid.part.caliper_log import adopt

        self.edited.emit(f"callout {balloon} takes {text}", lambda d: adopt(d, balloon, text))

    # a photograph ------------------------------------------------------------------------------
    def lay_photograph(self, path: Path) -> bool:
        """A picture of the part beside the log; False, told, when it cannot be."""
        from lathed_solid.files.attachments import keep_sheet, read_for

        if path.suffix.lower() not in PICTURES:
            self.told.emit(f"{path.name} is no photograph: PNG or JPEG", True)
            return False
        try:
            kept = keep_sheet(read_for(path), path)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        sheet = Sheet(name=path.name[:200], file=kept, photograph=True)
        self.edited.emit(f"photograph {path.name}", lambda d: changed(d, sheets=(*d.sheets, sheet)))
        return True

    def place_letter(self, balloon: int | None, x: float, y: float) -> None:
        """The letter of a size where it is on the photograph; places on drawings stay."""
        number, callout = photograph_of(self.document), self.document.callout(balloon or 0)
        if number is None:
            return
        if callout is None:
            self.told.emit("choose a size in the log first, then click where it is", True)
            return
        if callout.place is not None and not self.document.sheets[callout.place.sheet - 1].photograph:
            self.told.emit(f"callout {balloon} stands on {self.document.sheets[callout.place.sheet - 1].name}", True)
            return
        placed = changed(callout, place=SheetPlace(sheet=number, x=x, y=y))
        self.edited.emit(f"letter {letter_of(callout.balloon)}", lambda d: put_callout(d, placed))

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


def agreement(reading: Reading, other: Taken, unit: LengthUnit) -> str:
    """Whether a size taken two ways is the same within both uncertainties, in words."""
    apart, room = reading.apart(other)
    how = worded(other.terms) or WAY_WORDS[other.way]
    words = f"{how} {fixed(other.mean, unit)}, {fixed(abs(apart), unit)} apart"
    if abs(apart) <= room:
        return f"{words}: they agree within {fixed(room, unit)}"
    return f"{words}, more than {fixed(room, unit)}: one of them is wrong, measure again"


def wrong_unit(value: float, callout: Callout) -> str:
    """In words, when a length (mm) is what the callout's size would be in the other unit; else empty."""
    nominal = callout.nominal
    if abs(value / nominal - 1) < NEAR:
        return ""
    for factor, of in ((MM_PER_INCH, "inches"), (1 / MM_PER_INCH, "millimetres")):
        if abs(value * factor / nominal - 1) < NEAR:
            return f"{value:g} looks like {of}: not taken; set the caliper's unit and measure again"
    return ""
