"""What is loose: each freedom in words, moved by a slider or a number, swept through a travel with its curve."""

from __future__ import annotations

import math
from dataclasses import dataclass

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QPushButton,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.fit.curve import Curve
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.fit.document import Drive
from lathed_solid.fit.freedoms import Freedom
from lathed_solid.quantity import QuantityError, evaluate
from lathed_solid.quantity.formatting import trim

#: steps of the slider, and how far it goes: a turn either way, or so many mm
STEPS, REACH = 720, 100.0


@dataclass(frozen=True)
class Travelled:
    """A travel that is asked for: rad or mm, so many steps, and the pair whose clearance is wanted."""

    freedom: Freedom
    start: float
    stop: float
    steps: int
    pair: tuple[str, str] | None


def _quiet(words: str) -> QLabel:
    label = QLabel(spoken(words))
    label.setObjectName("quiet")
    label.setFont(theme.narrow(12))
    return label


class MovementPane(QWidget):
    """Emits the freedom that is chosen, a number to try it at (rad, mm), one to take, a travel to walk, a moment."""

    chosen = pyqtSignal(object)
    tried = pyqtSignal(object, float)
    taken = pyqtSignal(object, float)
    travel_asked = pyqtSignal(object)
    moment = pyqtSignal(int)
    let_go = pyqtSignal(int)
    told = pyqtSignal(str, bool)

    def __init__(self) -> None:
        super().__init__()
        self.model = RowModel([
            Column("member", lambda f: f.member, look="narrow", width=86),
            Column("moves", lambda f: f.words, look="narrow", width=226, tip=lambda f: f.words),
            Column("with", lambda f: ", ".join(f.others), look="narrow", width=110, tip=lambda f: "\n".join(f.others)),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Free movements"))
        self.view.row_chosen.connect(self._choose)
        self.view.setMaximumHeight(190)
        self.empty = QLabel(spoken("Nothing is loose."))
        self.empty.setObjectName("quiet")
        self.slider = QSlider(Qt.Orientation.Horizontal)
        self.slider.setRange(-STEPS, STEPS)
        self.slider.setAccessibleName(spoken("drive the chosen movement"))
        self.slider.valueChanged.connect(self._slide)
        self.slider.sliderReleased.connect(self._release)
        self.number = QLineEdit("0")
        self.number.setFixedWidth(90)
        self.number.setAccessibleName(spoken("the movement as a number"))
        self.number.returnPressed.connect(self._take)
        self.unit = QLabel("°")
        self.set_button = QPushButton(spoken("set"))
        self.set_button.setToolTip(spoken("Hold the movement at this number (Enter)"))
        self.set_button.clicked.connect(self._take)
        hand = QHBoxLayout()
        hand.setSpacing(6)
        for widget in (self.slider, self.number, self.unit, self.set_button):
            hand.addWidget(widget, 1 if widget is self.slider else 0)
        self.curve = Curve()
        self.curve.moment.connect(self.moment)
        self.state = QLabel()
        self.state.setObjectName("quiet")
        self.state.setWordWrap(True)
        self.driven = QVBoxLayout()
        self.driven.setSpacing(4)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 4, 12, 8)
        layout.setSpacing(6)
        layout.addWidget(self.view)
        layout.addWidget(self.empty)
        layout.addLayout(self.driven)
        layout.addLayout(hand)
        layout.addLayout(self._travel_row())
        layout.addWidget(self.curve)
        layout.addWidget(self.state)
        layout.addStretch(1)
        self._quiet = False
        self.set_freedoms((), (), ())

    def _travel_row(self) -> QVBoxLayout:
        self.start, self.stop, self.steps = QLineEdit("0"), QLineEdit("360"), QLineEdit("24")
        self.first, self.second = QComboBox(), QComboBox()
        self.sweep = QPushButton(spoken("sweep"))
        self.sweep.setToolTip(
            spoken("Move it through this travel and judge every moment: overlaps, and the pair's clearance")
        )
        self.sweep.clicked.connect(self._ask_travel)
        travel, pair = QHBoxLayout(), QHBoxLayout()
        for row in (travel, pair):
            row.setSpacing(6)
        for words, field in (("from", self.start), ("to", self.stop), ("steps", self.steps)):
            field.setAccessibleName(spoken(f"travel {words}"))
            field.setFixedWidth(52)
            field.returnPressed.connect(self._ask_travel)
            travel.addWidget(_quiet(words))
            travel.addWidget(field)
        travel.addWidget(self.sweep)
        travel.addStretch(1)
        pair.addWidget(_quiet("clearance of"))
        for box, name in ((self.first, "first"), (self.second, "second")):
            box.setAccessibleName(spoken(f"{name} member of the pair"))
            box.setMinimumContentsLength(8)
            box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
            pair.addWidget(box, 1)
        both = QVBoxLayout()
        both.setSpacing(4)
        both.addLayout(travel)
        both.addLayout(pair)
        return both

    # content -----------------------------------------------------------------------------------
    def set_freedoms(self, freedoms: tuple[Freedom, ...], drives: tuple[Drive, ...], names: tuple[str, ...],
                     none: str = "Nothing is loose.") -> None:  # fmt: skip
        """What is free, what is set by numbers, and the members there are; ``none``: why nothing is free."""
        self._quiet = True
        self.model.set_rows(freedoms)
        if freedoms and self.view.current_row() is None:
            self.view.selectRow(0)
        self.view.setVisible(bool(freedoms))
        self.empty.setText(spoken(none))
        self.empty.setVisible(not freedoms)
        for box in (self.first, self.second):
            now = box.currentText()
            box.clear()
            box.addItems(["–", *names])
            box.setCurrentText(now if now in names else "–")
        while (item := self.driven.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for i, d in enumerate(drives):
            self.driven.addWidget(self._driven_row(i, d))
        self._quiet = False
        self._enable()
        self._rest()

    def _driven_row(self, i: int, d: Drive) -> QWidget:
        row = QWidget()
        inner = QHBoxLayout(row)
        inner.setContentsMargins(0, 0, 0, 0)
        shown = f"{trim(math.degrees(d.value), 4)}°" if d.kind == "turn" else f"{trim(d.value, 4)} mm"
        label = QLabel(spoken(f"{d.member} {d.words}: set to {shown}"))
        label.setWordWrap(True)
        free = QPushButton(spoken("let go"))
        free.setFont(theme.narrow(12))
        free.setToolTip(spoken("Let it move freely again"))
        free.clicked.connect(lambda: self.let_go.emit(i))
        inner.addWidget(label, 1)
        inner.addWidget(free)
        return row

    def show_travel(self, values: tuple[float, ...], clearances: tuple[float, ...], overlaps: tuple[float, ...],
                    words: str) -> None:  # fmt: skip
        """The outcome of a travel."""
        self.curve.show_travel(values, clearances, overlaps, self.unit.text().strip())
        self.state.setText(spoken(words))

    def _enable(self) -> None:
        freedom = self.freedom
        for widget in (self.slider, self.number, self.set_button, self.sweep):
            widget.setEnabled(freedom is not None)
        slide = freedom is not None and freedom.kind == "slide"
        self.unit.setText(spoken(" mm" if slide else "°"))

    @property
    def freedom(self) -> Freedom | None:
        """The chosen one."""
        found: Freedom | None = self.view.current_row()
        return found

    def _choose(self, freedom: Freedom | None) -> None:
        if self._quiet:
            return
        self._enable()
        self._rest()
        if freedom is not None:
            self.stop.setText("20" if freedom.kind == "slide" else "360")
        self.chosen.emit(freedom)

    def _rest(self) -> None:
        self.slider.blockSignals(True)
        self.slider.setValue(0)
        self.slider.blockSignals(False)
        self.number.setText("0")

    # the hand ----------------------------------------------------------------------------------
    def _of_slider(self) -> float:
        freedom = self.freedom
        share = self.slider.value() / STEPS
        return share * (REACH if freedom is not None and freedom.kind == "slide" else 2 * math.pi)

    def _slide(self) -> None:
        freedom = self.freedom
        if freedom is not None:
            value = self._of_slider()
            self.number.setText(trim(value if freedom.kind == "slide" else math.degrees(value), 3))
            self.tried.emit(freedom, value)

    def _release(self) -> None:
        """The movement stays where the slider left it, still free."""
        freedom = self.freedom
        if freedom is not None and self.slider.value():
            self.moment.emit(-1)

    def _value(self, field: QLineEdit, freedom: Freedom) -> float | None:
        try:
            return evaluate(field.text(), "length" if freedom.kind == "slide" else "angle")
        except QuantityError as exc:
            self.told.emit(exc.message, True)
            field.setFocus()
            return None

    def _take(self) -> None:
        freedom = self.freedom
        value = None if freedom is None else self._value(self.number, freedom)
        if freedom is not None and value is not None:
            self.taken.emit(freedom, value)

    def _ask_travel(self) -> None:
        freedom = self.freedom
        if freedom is None:
            return
        start, stop = self._value(self.start, freedom), self._value(self.stop, freedom)
        if start is None or stop is None:
            return
        if not self.steps.text().strip().isdigit() or not 1 <= int(self.steps.text()) <= 720:
            self.told.emit("how many steps? a whole number from 1 to 720", True)
            self.steps.setFocus()
            return
        first, second = self.first.currentText(), self.second.currentText()
        pair = (first, second) if "–" not in (first, second) and first != second else None
        self.state.setText(spoken("sweeping …"))
        self.travel_asked.emit(Travelled(freedom, start, stop, int(self.steps.text()), pair))
