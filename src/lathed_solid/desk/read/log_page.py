"""The caliper log: readings beside their callouts, four ways of measuring, repeats, uncertainty.

A row is a callout; typing repeats into it logs the reading. Expressions, fractions and units are taken.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QMessageBox,
    QPushButton,
    QSplitter,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import narrow_choice
from lathed_solid.desk.read.listen import Listener
from lathed_solid.desk.read.photo_pane import PhotoPane
from lathed_solid.desk.read.suggest import Suggestions
from lathed_solid.desk.read.sums_menu import sums_menu
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.devices import DeviceReading
from lathed_solid.devices.port import ports
from lathed_solid.ledger import WAY_WORDS, Callout, Reading
from lathed_solid.ledger.combining import worded
from lathed_solid.ledger.guide import FIRST_MILLED, FIRST_TURNED
from lathed_solid.part import Document
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import fixed, inch_fraction, length
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.workbench.describe import shown_deviation
from lathed_solid.workbench.letters import letter_of
from lathed_solid.workbench.log_commands import LogCommands, agreement
from lathed_solid.workbench.tables.log_rows import READS, LogRow

if TYPE_CHECKING:
    from lathed_solid.ledger.guide import Next
    from lathed_solid.ledger.snapping import Candidate
    from lathed_solid.proof.chain import Told

CAUTION = (
    "Measure with the spindle stopped, the part clamped and deburred. A model from worn parts is no release for "
    "pressure, lifting or life-safety use; local codes and licensed practice decide."
)


class LogPage(QWidget):
    """Emits edited readings; rows hovered and chosen."""

    told = pyqtSignal(str, bool)
    hovered = pyqtSignal(object)
    chosen = pyqtSignal(object)
    drive_asked = pyqtSignal()
    room_changed = pyqtSignal()

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.unit: LengthUnit = "mm"
        self.commands = LogCommands()
        self.commands.told.connect(self.told.emit)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        head = QHBoxLayout()
        head.setContentsMargins(12, 10, 12, 8)
        self.title = QLabel(spoken("CALIPER LOG"))
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.drive = QPushButton(spoken("model as measured"))
        self.drive.setFont(theme.narrow(12))
        self.drive.setToolTip(spoken("Model the chosen callout by the mean of its repeats, or by its nominal (Ctrl+M)"))
        self.drive.clicked.connect(self.drive_asked)
        self.listener = Listener(self)
        self.listener.came.connect(self._came)
        self.listener.told.connect(self.told)
        self.listener.changed.connect(self._show_listening)
        self.listen = QPushButton()
        self.listen.setFont(theme.narrow(12))
        self.listen.clicked.connect(self._ask_port)
        self.key = QPushButton(spoken("press its data key"))
        self.key.setFont(theme.narrow(12))
        self.key.setToolTip(spoken("The simulated caliper measures the chosen size"))
        self.key.clicked.connect(self._press)
        self.fractions = narrow_choice(["no fractions", "1/64 in", "1/128 in"], "means as fractions of an inch",
                                       "The nearest fraction of an inch beside every mean")  # fmt: skip
        self.fractions.currentIndexChanged.connect(lambda _i: self._show_fractions())
        tip = "What the caliper or rule reads to; fractions that are typed tell it themselves"
        self.reads = narrow_choice(list(READS), "what is measured with reads to", tip)
        self.reads.currentIndexChanged.connect(lambda _i: self._set_instrument(self.reads.currentText()))
        self.commands.confirm = self._confirm
        self.photograph = QPushButton(spoken("photograph…"))
        self.photograph.setFont(theme.narrow(12))
        self.photograph.setToolTip(spoken("A picture of the part, PNG or JPEG: each size gets its letter on it"))
        self.photograph.clicked.connect(self._ask_photograph)
        head.addWidget(self.title, 1)
        head.addWidget(self.photograph)
        head.addWidget(self.reads)
        head.addWidget(self.fractions)
        head.addWidget(self.key)
        head.addWidget(self.listen)
        head.addWidget(self.drive)
        layout.addLayout(head)
        layout.addWidget(_caution())
        self.model = RowModel(self._columns())
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Caliper log"))
        self.view.row_hovered.connect(self.hovered)
        self.view.row_chosen.connect(self._choose)
        self.photo = PhotoPane(background)
        self.photo.placed.connect(lambda x, y: self.commands.place_letter(self._chosen, x, y))
        self.photo.chosen.connect(self._choose_balloon)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.setHandleWidth(1)
        split.setChildrenCollapsible(False)
        split.addWidget(self.view)
        split.addWidget(self.photo)
        split.setStretchFactor(0, 3)
        split.setStretchFactor(1, 2)
        layout.addWidget(split, 1)
        turned, milled = (
            "\n".join(f"{n}  {words}" for n, words in enumerate(k, 1)) for k in (FIRST_TURNED, FIRST_MILLED)
        )
        self.empty = QLabel(
            spoken(
                "Nothing to measure yet.\n\nType what the caliper shows below, or enter the dimensions that the part\n"
                "should have in the note line ( / ) and what the caliper shows beside each.\n\n"
                f"A turned part:\n{turned}\n\nA milled part:\n{milled}"
            )
        )
        self.empty.setWordWrap(True)
        self.empty.setContentsMargins(24, 0, 24, 0)
        self.empty.setObjectName("quiet")
        self.empty.setAlignment(Qt.AlignmentFlag.AlignCenter)
        layout.addWidget(self.empty, 1)
        self.chain = QLabel()
        self.chain.setFont(theme.narrow(12))
        self.chain.setObjectName("quiet")
        self.chain.setWordWrap(True)
        self.chain.setContentsMargins(12, 6, 12, 0)
        self.chain.setAccessibleName(spoken("how the lengths agree"))
        layout.addWidget(self.chain)
        self.suggest = Suggestions()
        self.suggest.adopted.connect(self.commands.adopt)
        self.suggest.next_asked.connect(self._choose_next)
        self.suggest.logged.connect(self.commands.log_new)
        self.suggest.again.connect(self._log_again)
        self.suggest.sums_asked.connect(self._work_out)
        self.commands.logged.connect(self.suggest.repeats.clear)
        layout.addWidget(self.suggest)
        self._show_listening()
        self._document: Document | None = None
        self._found: dict[int, list[Candidate]] = {}
        self._stale = False
        self._told: Told | None = None
        self._guided: tuple[Next, ...] = ()
        self._chosen: int | None = None
        self._show_fractions()

    def _columns(self) -> list[Column]:
        def of(show: Callable[[Reading], str]) -> Callable[[LogRow], str]:
            return lambda row: show(row.reading) if row.reading else ""

        return [
            Column("balloon", lambda r: str(r.balloon), look="balloon", width=50),
            Column("letter", lambda r: letter_of(r.balloon), width=44, tip=lambda _r: "its letter on the photograph"),
            Column("size", lambda r: r.callout.show(), look="sheet", width=60, tip=lambda r: r.callout.note),
            Column("way", of(lambda r: "worked out" if r.terms else WAY_WORDS[r.way]), width=92,
                   edit=self.commands.type_way,
                   tip=lambda _r: "outside jaws, inside jaws, depth rod or step; F2 edits"),
            Column("repeats", of(self._repeats),
                   edit=self.commands.type_repeats, width=150,
                   raw=of(lambda r: "; ".join(length(x, self.unit) for x in r.repeats)),
                   tip=lambda r: (r.reading.note if r.reading else "") or "F2 edits; separate repeats by ;"),
            Column("mean", of(lambda r: fixed(r.mean, self.unit)), look="number", width=70),
            Column("± U", of(lambda r: fixed(r.uncertainty, self.unit)), look="number", width=54,
                   tip=of(lambda r: f"k = 2; {r.instrument.name}: resolution {r.instrument.resolution:g} mm, "
                                    f"permissible error {r.instrument.permissible_error:g} mm")),
            Column("nearest", self._nearest, width=110,
                   tip=lambda _r: "the nearest fraction of an inch, and how far the mean is from it"),
            Column("other ways", of(lambda r: "; ".join(agreement(r, t, self.unit) for t in r.again)), width=150,
                   tip=of(lambda r: "\n".join(agreement(r, t, self.unit) for t in r.again))),
            Column("off nominal", self._off_nominal, look="number", width=80),
        ]  # fmt: skip

    def _repeats(self, reading: Reading) -> str:
        if reading.terms:
            return worded(reading.terms)
        return "  ".join(fixed(x, self.unit, self._places(reading)) for x in reading.repeats)

    def _log_again(self, size: str, text: str) -> None:
        row = self._row()
        if row is not None:
            self.commands.log_again(row, size, text)

    def _row(self) -> LogRow | None:
        return next((r for r in self.model.rows if r.balloon == self._chosen), None)

    def _work_out(self, button: QPushButton) -> None:
        if self._document is not None and self._chosen is not None:
            menu = sums_menu(self, self._document, self.model.rows, self._chosen, self.commands)
            menu.exec(button.mapToGlobal(button.rect().topLeft()))

    def _nearest(self, row: LogRow) -> str:
        parts = self._fraction_of()
        if row.reading is None or not parts or row.callout.kind in ("angle", "taper"):
            return ""
        off = row.reading.mean - round(row.reading.mean / MM_PER_INCH * parts) / parts * MM_PER_INCH
        sign = "+" if off > 0 else "−"
        return f"{inch_fraction(row.reading.mean, parts)} {sign} {fixed(abs(off), self.unit)}"

    def _set_instrument(self, words: str) -> None:
        self.commands.instrument = READS[words]

    def _confirm(self, words: str) -> bool:
        kind = QMessageBox.StandardButton
        return QMessageBox.question(self, "Caliper log", words, kind.Yes | kind.No, kind.No) == kind.Yes

    def _fraction_of(self) -> int:
        """64 or 128; 0 for no fractions."""
        return (0, 64, 128)[self.fractions.currentIndex()]

    def _show_fractions(self) -> None:
        self.view.show_column("nearest", shown=bool(self._fraction_of()))
        self.model.set_rows(self.model.rows)

    def _off_nominal(self, row: LogRow) -> str:
        if row.reading is None:
            return ""
        return shown_deviation(row.reading.mean - row.callout.nominal, row.callout.kind, self.unit)

    def _places(self, reading: Reading) -> int:
        return 2 if self.unit == "mm" and reading.instrument.resolution >= 0.01 else 3 if self.unit == "mm" else 4

    def set_document(self, document: Document) -> None:
        """Show the document's log."""
        if document.unit != self.unit:
            self.fractions.setCurrentIndex(1 if document.unit == "in" else 0)
        self.unit, self.commands.document = document.unit, document
        rows = [LogRow(c, document.reading(c.balloon)) for c in document.callouts if c.kind != "angle"]
        self.model.set_rows(rows)
        self.view.show_column("other ways", shown=any(r.reading and r.reading.again for r in rows))
        logged = sum(1 for r in rows if r.reading)
        self.title.setText(spoken(f"CALIPER LOG — {logged} of {len(rows)} sizes measured"))
        self.view.setVisible(bool(rows))
        self._show_photograph(document)
        self.empty.setVisible(not rows)
        self._document = document
        self._stale = True
        if self.isVisible():
            self._judge()

    def _ask_photograph(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A photograph of the part", "", "Photographs (*.png *.jpg *.jpeg)")
        if name:
            self.commands.lay_photograph(Path(name))

    def _show_photograph(self, document: Document) -> None:
        before = self.photo.isHidden()
        shown = self.photo.show_document(document, self._chosen)
        if shown == before:
            self.room_changed.emit()
        self.view.show_column("letter", shown=shown)

    def _choose_balloon(self, balloon: int) -> None:
        at = next((i for i, r in enumerate(self.model.rows) if r.balloon == balloon), None)
        if at is not None:
            self.view.selectRow(at)

    def close_all(self) -> None:
        """End what listens and reads."""
        self.listener.stop()
        self.photo.reader.stop()

    def showEvent(self, event: Any) -> None:
        super().showEvent(event)
        self._judge()

    def _judge(self) -> None:
        """What the readings suggest and whether they agree; only for somebody who looks."""
        if not self._stale or self._document is None:
            return
        self._stale = False
        from lathed_solid.part.caliper_log import suggestions

        self._found = suggestions(self._document)[0] if self._document.readings else {}
        self._show_chain(self._document)
        self._guide(self._document)
        self._suggest()

    def _guide(self, document: Document) -> None:
        """What to measure next."""
        from lathed_solid.part.caliper_log import guide

        suspects = self._told.suspects if self._told is not None else ()
        loops = tuple(loop.balloons for loop in self._told.loops) if self._told is not None else ()
        self._guided = guide(document, loops, suspects)
        self.suggest.show_next(self._guided[:1])

    def _choose_next(self) -> None:
        if self._guided:
            n = self._guided[0]
            self._choose_balloon(n.balloon)
            self.told.emit(f"{n.balloon}, {WAY_WORDS[n.way]}: {n.reason}", False)

    def _show_chain(self, document: Document) -> None:
        """How the lengths of a turned part agree; pointing at it shows every loop."""
        from lathed_solid.proof.chain import length_chain
        from lathed_solid.proof.chain_words import chain_words

        found = self._told = length_chain(document) if document.callouts else None
        words, all_of_it = chain_words(document, found) if found is not None else ("", "")
        self.chain.setVisible(bool(words))
        self.chain.setText(spoken(f"Lengths: {words}"))
        self.chain.setToolTip(spoken(all_of_it))

    def _suggest(self) -> None:
        """What the chosen row's reading suggests."""
        d, balloon = self._document, self._chosen
        reading = d.reading(balloon) if d is not None and balloon is not None else None
        self.suggest.show_row(self._chosen_callout(), reading, self._found.get(balloon or 0, []), self.unit)

    # a caliper on a line ------------------------------------------------------------------------
    def _show_listening(self) -> None:
        port = self.listener.port
        self.listen.setText(spoken("listen…" if port is None else "stop listening"))
        self.listen.setToolTip(
            spoken("Take readings from a caliper on a serial line" if port is None else f"at {port.name}")
        )
        self.key.setVisible(self.listener.simulated is not None)

    def _ask_port(self) -> None:
        if self.listener.port is not None:
            self.listener.stop()
            return
        menu = QMenu(self)
        for name in ports():
            menu.addAction(name, lambda n=name: self.listener.listen(n))
        menu.addAction("another port…", self._other_port)
        menu.addAction("a simulated caliper", lambda: self.listener.listen(""))
        menu.exec(self.listen.mapToGlobal(self.listen.rect().bottomLeft()))

    def _other_port(self) -> None:
        name, ok = QInputDialog.getText(self, "Listen", "The port's path:", text="/dev/ttyUSB0")
        if ok and name.strip():
            self.listener.listen(name.strip())

    def _press(self) -> None:
        """The simulated caliper is held to the chosen size, or to an inch."""
        callout = self._chosen_callout()
        if self.listener.simulated is not None:
            reading = self._document.reading(callout.balloon) if self._document and callout else None
            self.listener.simulated.press(reading.mean if reading else callout.nominal if callout else 25.4)

    def _chosen_callout(self) -> Callout | None:
        d = self._document
        return d.callout(self._chosen) if d is not None and self._chosen is not None else None

    def _came(self, sent: DeviceReading) -> None:
        """A reading from the line: one more repeat of the chosen size, or of the new one."""
        callout = self._chosen_callout()
        row = next((r for r in self.model.rows if callout is not None and r.balloon == callout.balloon), None)
        if not self.commands.take(sent, row):
            shown = fixed(sent.value, self.unit)
            before = self.suggest.repeats.text().strip()
            self.suggest.repeats.setText(spoken(f"{before}; {shown}" if before else shown))

    def _choose(self, row: LogRow | None) -> None:
        self.drive.setEnabled(row is not None)
        measured = row is not None and row.callout.drive == "measured"
        self.drive.setText(spoken("model by nominal" if measured else "model as measured"))
        self._chosen = row.balloon if row is not None else None
        self.photo.show_letters(self.photo.letters, self._chosen)
        self._suggest()
        self.chosen.emit(row)


def _caution() -> QLabel:
    caution = QLabel(spoken(CAUTION))
    caution.setObjectName("caution")
    caution.setWordWrap(True)
    caution.setFont(theme.narrow(12))
    return caution
