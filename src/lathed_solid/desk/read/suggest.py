"""Beneath the caliper log: which nominal the chosen reading suggests, which thread, and logging a new size."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.choice import Choice
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.jaws_view import JawsView
from lathed_solid.ledger import WAY_WORDS, Callout, Reading, Way
from lathed_solid.ledger.guide import Next, way_for
from lathed_solid.ledger.readings import SIZES
from lathed_solid.quantity import LengthUnit, QuantityError, evaluate
from lathed_solid.quantity.formatting import fixed

if TYPE_CHECKING:
    from lathed_solid.ledger.snapping import Candidate

SHOWN = 3
#: how the jaws are held, by the way of measuring
HOLDING = {
    "outside": "outside jaws: square across, close lightly, rock a little and take the least",
    "inside": "inside jaws: along the axis, open lightly, rock a little and take the greatest",
    "depth": "depth rod: the beam's end flat on the face, the rod square down; take the greatest",
    "step": "step: the fixed jaw's back on the lower face, the sliding jaw's on the upper, both flat",
}


class Suggestions(QWidget):
    """Emits the balloon and the text of what is adopted; and a new size with its repeats as typed."""

    adopted = pyqtSignal(int, str)
    logged = pyqtSignal(str, str)
    again = pyqtSignal(str, str)
    sums_asked = pyqtSignal(object)
    next_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.unit: LengthUnit = "mm"
        self._reading: Reading | None = None
        self._callout: Callout | None = None
        self.words = QLabel()
        self.words.setFont(theme.narrow(12))
        self.words.setWordWrap(True)
        self.buttons = [QPushButton() for _ in range(SHOWN)]
        self._texts = [""] * SHOWN
        row = QHBoxLayout()
        row.setSpacing(6)
        for k, button in enumerate(self.buttons):
            button.setFont(theme.narrow(12))
            button.clicked.connect(lambda _=False, k=k: self._adopt(k))
            row.addWidget(button)
        row.addStretch(1)
        self.pitch = QLineEdit()
        self.pitch.setPlaceholderText(spoken("pitch: 1.5, or 1in/18"))
        self.pitch.setToolTip(spoken("By gauge: the thread is told from the diameter and the pitch"))
        self.pitch.setAccessibleName(spoken("pitch by gauge"))
        self.pitch.setFixedWidth(150)
        self.pitch.textChanged.connect(lambda _t: self._show())
        self.kind = Choice()
        self.kind.addItems(list(SIZES))
        self.kind.setAccessibleName(spoken("what is measured"))
        self.repeats = QLineEdit()
        self.repeats.setPlaceholderText(spoken("a new size: what the caliper shows, repeats separated by ;"))
        self.repeats.setAccessibleName(spoken("repeats of a new size"))
        self.repeats.returnPressed.connect(self._log)
        self.kind.currentTextChanged.connect(lambda _t: self._say_how())
        self.also = QPushButton(spoken("as another way"))
        self.also.setFont(theme.narrow(12))
        self.also.setToolTip(spoken("What is typed is the chosen size, taken another way: both are compared"))
        self.also.clicked.connect(self._log_again)
        self.sums = QPushButton(spoken("work out ▾"))
        self.sums.setFont(theme.narrow(12))
        self.sums.setToolTip(spoken("Pitches, centres and twins from the chosen size; they follow it"))
        self.sums.clicked.connect(lambda: self.sums_asked.emit(self.sums))
        new = QHBoxLayout()
        new.addWidget(self.kind)
        new.addWidget(self.repeats, 1)
        new.addWidget(self.also)
        new.addWidget(self.sums)
        self.jaws = JawsView()
        self.next = QLabel()
        self.next.setFont(theme.narrow(12))
        self.next.setWordWrap(True)
        outer = QHBoxLayout(self)
        outer.setContentsMargins(12, 8, 12, 10)
        outer.setSpacing(12)
        outer.addWidget(self.jaws, 0, Qt.AlignmentFlag.AlignBottom)
        layout = QVBoxLayout()
        layout.setSpacing(6)
        outer.addLayout(layout, 1)
        self.go = QPushButton(spoken("measure it"))
        self.go.setFont(theme.narrow(12))
        self.go.setToolTip(spoken("Choose the size that tells most when it is measured now (Alt+N)"))
        self.go.setShortcut("Alt+N")
        self.go.clicked.connect(self.next_asked)
        guide = QHBoxLayout()
        guide.addWidget(self.next, 1)
        guide.addWidget(self.go, 0, Qt.AlignmentFlag.AlignTop)
        layout.addLayout(guide)
        said = QHBoxLayout()
        said.addWidget(self.words, 1)
        said.addWidget(self.pitch)
        layout.addLayout(said)
        layout.addLayout(row)
        layout.addLayout(new)
        self._candidates: list[Candidate] = []
        self.show_row(None, None, [], "mm")

    def show_row(
        self, callout: Callout | None, reading: Reading | None, candidates: list[Candidate], unit: LengthUnit
    ) -> None:
        """The chosen row of the log."""
        if callout is None or self._callout is None or callout.balloon != self._callout.balloon:
            self.pitch.blockSignals(True)
            self.pitch.clear()
            self.pitch.blockSignals(False)
        self._callout, self._reading, self._candidates, self.unit = callout, reading, candidates, unit
        self._show()

    def _show(self) -> None:
        callout, reading = self._callout, self._reading
        self.also.setVisible(reading is not None)
        self.sums.setVisible(reading is not None)
        self.jaws.show_way(self._way())
        round_size = callout is not None and callout.kind == "diameter" and reading is not None
        self.pitch.setVisible(bool(round_size))
        if callout is None or reading is None:
            self._say_how()
            self._offer([])
            return
        if round_size and self.pitch.text().strip():
            self._threads(callout, reading)
            return
        mean = fixed(reading.mean, self.unit)
        head = f"{callout.balloon}: mean {mean} ± {fixed(reading.uncertainty, self.unit)}"
        offers = [
            (c.text, f"{c.text} · {c.reason} · {c.share:.0%}") for c in self._candidates[:SHOWN] if c.share >= 0.005
        ]
        if not offers:
            self.words.setText(spoken(f"{head} — no usual size is near: model it as measured"))
        else:
            self.words.setText(spoken(f"{head} — which nominal?{self._wear(callout, reading)}"))
        self._offer(offers)

    def _wear(self, callout: Callout, reading: Reading) -> str:
        """A size under its own limits, or far under the likely nominal."""
        if reading.way != "outside" or callout.kind != "diameter":
            return ""
        if callout.low is not None and reading.mean + reading.uncertainty < callout.low:
            return f" — {fixed(callout.low - reading.mean, self.unit)} under its limits: worn?"
        worn = next((c for c in self._candidates[:1] if c.worn), None)
        return f" — {fixed(worn.worn, self.unit)} under {worn.text}: worn?" if worn else ""

    def _threads(self, callout: Callout, reading: Reading) -> None:
        """Which thread has this diameter and the pitch that is typed."""
        try:
            pitch = evaluate(self.pitch.text(), "length", self.unit)
        except QuantityError as exc:
            self.words.setText(spoken(exc.message))
            self._offer([])
            return
        from lathed_solid.ledger.thread_guess import guess_thread

        inside = reading.way == "inside"
        found = guess_thread(reading.mean, pitch, inside=inside, uncertainty=reading.standard_uncertainty)
        if not found:
            self.words.setText(spoken("no thread of the tables has this diameter and pitch"))
        else:
            self.words.setText(spoken(f"{callout.balloon}: which thread? {found[0].designation}: {found[0].reason}"))
        self._offer([(g.designation, f"{g.designation} · {g.share:.0%}") for g in found[:SHOWN] if g.share >= 0.005])

    def _offer(self, offers: list[tuple[str, str]]) -> None:
        self._texts = [text for text, _ in offers] + [""] * (SHOWN - len(offers))
        for button, (text, words) in zip(self.buttons, offers + [("", "")] * (SHOWN - len(offers)), strict=True):
            button.setText(spoken(words))
            button.setVisible(bool(text))
            button.setToolTip(spoken(f"Take {text} as the nominal; the reading stays"))

    def show_next(self, found: Sequence[Next]) -> None:
        """What to measure next; nothing when all is measured."""
        self.next.setVisible(bool(found))
        self.go.setVisible(bool(found))
        if found:
            n = found[0]
            caution = f" — {n.caution}" if n.caution else ""
            self.next.setText(spoken(f"next: {n.balloon}, {WAY_WORDS[n.way]}: {n.reason}{caution}"))

    def _way(self) -> Way:
        """The way the chosen size is measured; of none, what a new size needs."""
        if self._reading is not None:
            return self._reading.way
        return way_for(self._callout) if self._callout is not None else SIZES[self.kind.currentText()][1]

    def _say_how(self) -> None:
        self.jaws.show_way(self._way())
        if self._reading is None:
            self.words.setText(spoken(HOLDING[self._way()]))

    def _adopt(self, k: int) -> None:
        if self._callout is not None and self._texts[k]:
            self.adopted.emit(self._callout.balloon, self._texts[k])

    def _log_again(self) -> None:
        text = self.repeats.text().strip()
        if text:
            self.again.emit(self.kind.currentText(), text)
        else:
            self.repeats.setFocus()

    def _log(self) -> None:
        text = self.repeats.text().strip()
        if text:
            self.logged.emit(self.kind.currentText(), text)
