"""Files for others: the solid in each format, a face or a section at full size, everything in one package."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QLineEdit, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import pane_head, pane_layout

ROWS: tuple[tuple[str, str, str], ...] = (
    (".step", "STEP", "the exact solid, AP242, with name and finish: for whoever goes on working on it"),
    (".3mf", "3MF", "triangles with unit, name, material and colour: for printing"),
    (".stl", "STL", "bare triangles in mm: where nothing else is taken"),
    (".glb", "GLB", "triangles with the finish, in metres: to be looked at"),
    ("face", "face as DXF, SVG", "the bounds of the flat face picked last, at full size: laser, water jet, scriber"),
    ("section", "section as DXF, SVG", "the bounds of the cut that is in view (X), at full size"),
    ("outline", "outline as DXF, SVG", "the bounds of the part as it is looked at, from the side nearest to the view"),
    ("package", "everything", "one zip: the part, its files, drawing, inspection and machinist's sheets, a manifest"),
)


class FilesPane(QWidget):
    """Emits what is to be written, and the chord error (mm) that goes with it."""

    asked = pyqtSignal(str, float)
    told = pyqtSignal(str, bool)

    def __init__(self) -> None:
        super().__init__()
        layout = pane_layout(self, 8)
        self.head = pane_head()
        layout.addWidget(self.head)
        grid = QGridLayout()
        grid.setHorizontalSpacing(10)
        grid.setVerticalSpacing(8)
        self.buttons: dict[str, QPushButton] = {}
        for n, (what, name, words) in enumerate(ROWS):
            button = QPushButton(spoken(name))
            button.setFont(theme.narrow(13))
            button.clicked.connect(lambda _=False, w=what: self._ask(w))
            self.buttons[what] = button
            label = QLabel(spoken(words))
            label.setWordWrap(True)
            label.setFont(theme.narrow(13))
            grid.addWidget(button, n, 0)
            grid.addWidget(label, n, 1)
        grid.setColumnStretch(1, 1)
        layout.addLayout(grid)
        row = QHBoxLayout()
        label = QLabel(spoken("triangles may be off by"))
        label.setFont(theme.narrow(13))
        self.chord = QLineEdit("0.02")
        self.chord.setFixedWidth(70)
        self.chord.setAccessibleName(spoken("chord error, mm"))
        self.chord.setToolTip(spoken("The chord error of STL, 3MF and GLB, and of free curves in DXF and SVG, mm"))
        self.chord.textChanged.connect(lambda _t: self._say_cost())
        self.cost = QLabel()
        self.cost.setObjectName("quiet")
        self.cost.setWordWrap(True)
        self.cost.setFont(theme.narrow(12))
        row.addWidget(label)
        row.addWidget(self.chord)
        row.addWidget(QLabel(spoken("mm")))
        row.addWidget(self.cost, 1)
        layout.addLayout(row)
        layout.addStretch(1)
        self._area = self._grams_mm3 = 0.0

    def show_part(self, words: str, area_mm2: float, grams_mm3: float, *, whole: bool) -> None:
        """``words`` say how the part stands; its area and density tell what a chord error costs."""
        self.head.setText(spoken(words))
        self._area, self._grams_mm3 = area_mm2, grams_mm3
        for button in self.buttons.values():
            button.setEnabled(whole)
        self._say_cost()

    def _value(self) -> float | None:
        try:
            found = float(self.chord.text().replace(",", "."))
        except ValueError:
            return None
        return found if 0 < found <= 100 else None

    def _say_cost(self) -> None:
        chord = self._value()
        if chord is None:
            self.cost.setText(spoken("a length above zero, up to 100 mm"))
        elif self._area:
            # triangles lie within their surface by the chord at most: volume by area times chord
            grams = self._area * chord * self._grams_mm3
            tail = f", {grams:.2g} g" if self._grams_mm3 else ""
            self.cost.setText(spoken(f"costs at most {self._area * chord:.3g} mm³{tail}"))
        else:
            self.cost.setText("")

    def _ask(self, what: str) -> None:
        chord = self._value()
        if chord is None:
            self.told.emit("the chord error has to be a length above zero, up to 100 mm", True)
        else:
            self.asked.emit(what, chord)
