"""What matters: how volume and mass depend on each size, and the band that the tolerances make of the mass."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.prove.asking import Asking
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.part import Document
from lathed_solid.proof import density
from lathed_solid.proof.sensitivity import Sensitivity, nudge, nudge_words, sensitivities, volume_band
from lathed_solid.quantity.formatting import angle, length, volume, volume_change
from lathed_solid.standards import StandardError


class MattersPane(QWidget):
    """Emits the balloon that is chosen."""

    chosen = pyqtSignal(int)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.document = Document()
        self._asked: Document | None = None
        self._rho: float | None = None
        self.asking = Asking(background, self)
        self.asking.progressed.connect(lambda done, of: self.state.setText(spoken(f"{done} of {of} parts built")))
        self.asking.answered.connect(self._found)
        self.asking.failed.connect(self._failed)
        self.ask = QPushButton(spoken("work it out"))
        self.ask.setToolTip(spoken("Move every size a little both ways and build the part anew"))
        self.ask.clicked.connect(self.start)
        self.state = QLabel(spoken("How much of the mass hangs on each size?"))
        self.state.setWordWrap(True)
        self.state.setFont(theme.font(13))
        row = QHBoxLayout()
        row.addWidget(self.ask)
        row.addWidget(self.state, 1)
        self.model = RowModel([
            Column("balloon", lambda s: str(s.balloon or ""), look="balloon", width=58),
            Column("size", lambda s: s.target, width=124, tip=lambda s: s.target),
            Column("value", self._value, look="number", width=70),
            Column("volume moves", lambda s: volume_change(self._moves(s), self.document.unit, 2),
                   look="number", width=110,
                   tip=self._error),
            Column("g moves", lambda s: "" if self._rho is None else f"{self._moves(s) * self._rho:+.3f}",
                   look="number", width=80),
            Column("g by tolerance", self._by_tolerance, look="number", width=100),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Sensitivities"))
        self.view.row_chosen.connect(lambda s: self.chosen.emit(s.balloon) if s is not None and s.balloon else None)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addLayout(row)
        layout.addWidget(self.view, 1)
        self.view.hide()
        layout.addStretch(0)

    def _moves(self, s: Sensitivity) -> float:
        return s.slope * nudge(s, self.document.unit)

    def _error(self, s: Sensitivity) -> str:
        unit = self.document.unit
        return f"± {volume(s.error * nudge(s, unit), unit, 3)} by the differences"

    def _value(self, s: Sensitivity) -> str:
        return angle(s.value) if s.kind == "angle" else length(s.value, self.document.unit)

    def _by_tolerance(self, s: Sensitivity) -> str:
        return "" if s.spread is None or self._rho is None else f"± {s.spread / 2 * self._rho:.3f}"

    def show_part(self, document: Document) -> None:
        """Another value of the part: what was worked out before is no longer true."""
        if document != self._asked and (self.model.rows or self.asking.busy):
            self.asking.stop()
            self.model.set_rows(())
            self.view.hide()
            self.state.setText(spoken("The part changed: work it out anew."))
        self.document = document
        self.ask.setEnabled(bool(document.steps))

    def start(self) -> None:
        """Work out what matters, or give it up while it runs."""
        if self.asking.busy:
            self.asking.stop()
            return
        document = self._asked = self.document
        try:
            self._rho = density(document)
        except StandardError:
            self._rho = None
        self.ask.setText(spoken("stop"))
        self.state.setText(spoken("starting …"))
        self.asking.ask(lambda: sensitivities(document))

    def _failed(self, why: str) -> None:
        self.ask.setText(spoken("work it out"))
        self.state.setText(spoken(why))

    def _found(self, found: tuple[Sensitivity, ...]) -> None:
        self.ask.setText(spoken("work it out"))
        self.model.set_rows(found)
        self.view.setVisible(bool(found))
        worst, root = volume_band(found)
        most = ", ".join(s.target for s in found[:3])
        rho = self._rho
        band = f"± {worst * rho:.2f} g at worst, ± {root * rho:.2f} g by root of squares" if rho is not None else (
            f"± {volume(worst, self.document.unit, 1)} at worst")  # fmt: skip
        self.state.setText(
            spoken(
                f"By the tolerances the mass strays {band}. Most hangs on {most}. "
                f"In the table {nudge_words(self.document.unit)}."
            )
        )
