"""How a picture of the part is wanted: its finish, from where, how large, on what ground."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QSpinBox, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.pane_parts import choice_box, pane_head, pane_layout
from lathed_solid.viewer.finishes import FINISHES
from lathed_solid.viewer.shots import MOST_FRAMES, SIDES
from lathed_solid.workbench.hand_over.pictures import AS_IN_VIEW, PAINT, PictureWish

SIZES = ("1280x800", "1920x1200", "1200x1200", "3840x2400", "7680x4800")
#: pictures of a turn at first
FRAMES = 36


class PicturePane(QWidget):
    """Emits when something else is wished; asks for writing the still one or the turn."""

    changed = pyqtSignal()
    write_asked = pyqtSignal()
    turn_asked = pyqtSignal(int)
    stop_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        layout = pane_layout(self, 8)
        row = QHBoxLayout()
        self.finish = choice_box("finish", [*FINISHES, PAINT], row)
        self.paint = QLineEdit("#336699")
        self.paint.setFixedWidth(84)
        self.paint.setAccessibleName("colour of the paint")
        self.paint.setToolTip("Red, green and blue as #RRGGBB (Enter)")
        self.paint.returnPressed.connect(self.changed)
        row.addWidget(self.paint)
        row.addStretch(1)
        layout.addLayout(row)
        row = QHBoxLayout()
        self.side = choice_box("from", [AS_IN_VIEW, *SIDES], row)
        self.size_box = choice_box("size", SIZES, row)
        self.size_box.setEditable(True)
        self.size_box.setToolTip("Width x height in dots, up to 7680 a side")
        row.addStretch(1)
        layout.addLayout(row)
        row = QHBoxLayout()
        self.floor = self._check("on a floor", "It stands on a floor, with its shadow", row)
        self.clear = self._check("ground left out", "A PNG that can be laid over anything", row)
        self.rays = self._check("rays traced", "Shadows and mirrors as light makes them; slower", row)
        row.addStretch(1)
        layout.addLayout(row)
        self.floor.clicked.connect(lambda on: self._asked(self.clear, on))
        self.clear.clicked.connect(lambda on: self._asked(self.floor, on))
        self.rays.clicked.connect(lambda _on: self.changed.emit())
        for box in (self.finish, self.side, self.size_box):
            box.activated.connect(lambda _n: self._changed())
        edit = self.size_box.lineEdit()
        if edit is not None:
            edit.returnPressed.connect(self.changed)
        self.head = pane_head()
        layout.addWidget(self.head)
        row = QHBoxLayout()
        self.work = QLabel()
        self.work.setObjectName("quiet")
        self.work.setFont(theme.narrow(12))
        row.addWidget(self.work)
        self.stop = self._button("stop", "Give the picture up", row)
        self.stop.clicked.connect(self.stop_asked)
        row.addStretch(1)
        layout.addLayout(row)
        layout.addStretch(1)
        row = QHBoxLayout()
        self.write = self._button("write the picture…", "PNG (Ctrl+Shift+J)", row)
        self.write.clicked.connect(self.write_asked)
        self.turn = self._button("write its turn…", "GIF: the part turned once about the upright", row)
        self.turn.clicked.connect(lambda: self.turn_asked.emit(self.frames.value()))
        self.frames = QSpinBox()
        self.frames.setRange(2, MOST_FRAMES)
        self.frames.setValue(FRAMES)
        self.frames.setAccessibleName("pictures of the turn")
        row.addWidget(QLabel("in"))
        row.addWidget(self.frames)
        row.addWidget(QLabel("pictures"))
        row.addStretch(1)
        layout.addLayout(row)
        self._changed(tell=False)
        self.show_work(busy=False)

    def _check(self, words: str, tip: str, row: QHBoxLayout) -> QCheckBox:
        check = QCheckBox(words)
        check.setFont(theme.narrow(12))
        check.setToolTip(tip)
        row.addWidget(check)
        return check

    def _button(self, words: str, tip: str, row: QHBoxLayout) -> QPushButton:
        button = QPushButton(words)
        button.setFont(theme.narrow(13))
        button.setToolTip(tip)
        row.addWidget(button)
        return button

    def _asked(self, other: QCheckBox, on: bool) -> None:
        """A floor cannot be left out with the ground."""
        if on:
            other.setChecked(False)
        self.changed.emit()

    def _changed(self, *, tell: bool = True) -> None:
        self.paint.setVisible(self.finish.currentText() == PAINT)
        if tell:
            self.changed.emit()

    @property
    def wish(self) -> PictureWish:
        """As it stands in the fields."""
        finish = self.finish.currentText()
        return PictureWish(
            finish=f"{PAINT} {self.paint.text().strip()}" if finish == PAINT else finish,
            side=self.side.currentText(),
            size=self.size_box.currentText(),
            clear=self.clear.isChecked(),
            floor=self.floor.isChecked(),
            rays=self.rays.isChecked(),
        )

    def show_work(self, *, busy: bool, done: int = 0) -> None:
        """Whether a picture is at work, and how many of a turn are done."""
        self.work.setVisible(busy)
        self.stop.setVisible(busy)
        self.work.setText(f"rendering: {done} of the turn done" if done else "rendering …")

    def show_state(self, words: str, *, can: bool) -> None:
        """How it stands, and whether it can be written."""
        self.head.setText(words)
        self.write.setEnabled(can)
        self.turn.setEnabled(can)
