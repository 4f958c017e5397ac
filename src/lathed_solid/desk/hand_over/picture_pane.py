"""How a picture of the part is wanted: its finish, from where, how large, on what ground; faces and bodies of a finish
of their own; pictures remembered by name.
"""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QHBoxLayout, QLabel, QLineEdit, QPushButton, QSpinBox, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import choice_box, pane_head, pane_layout
from lathed_solid.desk.row_table import RowModel, RowView
from lathed_solid.part.pictures import LONGEST_NAME, RememberedPicture
from lathed_solid.viewer.finishes import FINISHES
from lathed_solid.viewer.shots import MOST_FRAMES, PARALLEL, SIDES
from lathed_solid.workbench.hand_over.pictures import AS_IN_VIEW, PAINT, CoatRow, PictureWish
from lathed_solid.workbench.tables.column import Column

LENSES = (PARALLEL, "35 mm", "50 mm", "85 mm", "135 mm")
#: a face that is as the part is
AS_PART = "as the part"
SIZES = ("1280x800", "1920x1200", "1200x1200", "3840x2400", "7680x4800")
#: pictures of a turn at first
FRAMES = 36


class PicturePane(QWidget):
    """Emits when something else is wished, when a face or a body gets a finish of its own, and by what name a picture
    is to be remembered, taken again or forgotten; asks for writing the still one or the turn.
    """

    changed = pyqtSignal()
    write_asked = pyqtSignal()
    turn_asked = pyqtSignal(int)
    stop_asked = pyqtSignal()
    coated = pyqtSignal(str, str)
    remember_asked = pyqtSignal(str)
    again_asked = pyqtSignal(str)
    forget_asked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        layout = pane_layout(self, 8)
        row = QHBoxLayout()
        self.finish = choice_box("finish", [*FINISHES, PAINT], row)
        self.paint = QLineEdit("#336699")
        self.paint.setFixedWidth(84)
        self.paint.setAccessibleName(spoken("colour of the paint"))
        self.paint.setToolTip(spoken("Red, green and blue as #RRGGBB (Enter)"))
        self.paint.returnPressed.connect(self.changed)
        row.addWidget(self.paint)
        row.addStretch(1)
        layout.addLayout(row)
        row = QHBoxLayout()
        self.side = choice_box("from", [AS_IN_VIEW, *SIDES], row)
        self.side.setEditable(True)
        self.side.setToolTip(spoken("A side by its name, or x,y,z towards the eye"))
        self.size_box = choice_box("size", SIZES, row)
        self.size_box.setEditable(True)
        self.size_box.setToolTip(spoken("Width x height in dots, up to 7680 a side"))
        row.addStretch(1)
        layout.addLayout(row)
        row = QHBoxLayout()
        self.lens = choice_box("lens", LENSES, row)
        self.lens.setEditable(True)
        self.lens.setToolTip(spoken("Focal length, mm of a frame 24 mm high: the shorter, the nearer the eye"))
        self.floor = self._check("on a floor", "It stands on a floor, with its shadow", row)
        self.clear = self._check("ground left out", "A PNG that can be laid over anything", row)
        self.rays = self._check("rays traced", "Shadows and mirrors as light makes them; slower", row)
        row.addStretch(1)
        layout.addLayout(row)
        self.floor.clicked.connect(lambda on: self._asked(self.clear, on))
        self.clear.clicked.connect(lambda on: self._asked(self.floor, on))
        self.rays.clicked.connect(lambda _on: self.changed.emit())
        for box in (self.finish, self.side, self.size_box, self.lens):
            box.activated.connect(lambda _n: self._changed())
            if (edit := box.lineEdit()) is not None:
                edit.returnPressed.connect(self.changed)
        self._lay_names(layout)
        self.head = pane_head()
        layout.addWidget(self.head)
        self.model = RowModel([
            Column("body, step or face", lambda r: r.words, width=270),
            Column("finish of its own", lambda r: r.finish or AS_PART, raw=lambda r: r.finish, edit=self._coat,
                   width=150, choices=lambda: [AS_PART, *FINISHES, f"{PAINT} #336699"],
                   tip=lambda _r: "F2 or a double click; empty: as the part"),
        ])  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Finishes of faces and bodies"))
        layout.addWidget(self.view, 1)
        row = QHBoxLayout()
        self.work = QLabel()
        self.work.setObjectName("quiet")
        self.work.setFont(theme.narrow(12))
        row.addWidget(self.work)
        self.stop = self._button("stop", "Give the picture up", row)
        self.stop.clicked.connect(self.stop_asked)
        row.addStretch(1)
        layout.addLayout(row)
        row = QHBoxLayout()
        self.write = self._button("write the picture…", "PNG (Ctrl+Shift+J)", row)
        self.write.clicked.connect(self.write_asked)
        self.turn = self._button("write its turn…", "GIF or APNG: the part turned once about the upright", row)
        self.turn.clicked.connect(lambda: self.turn_asked.emit(self.frames.value()))
        self.frames = QSpinBox()
        self.frames.setRange(2, MOST_FRAMES)
        self.frames.setValue(FRAMES)
        self.frames.setAccessibleName(spoken("pictures of the turn"))
        row.addWidget(QLabel(spoken("in")))
        row.addWidget(self.frames)
        row.addWidget(QLabel(spoken("pictures")))
        row.addStretch(1)
        layout.addLayout(row)
        self._changed(tell=False)
        self.show_work(busy=False)

    def _lay_names(self, layout: QVBoxLayout) -> None:
        row = QHBoxLayout()
        self.name = choice_box("remembered", [], row)
        self.name.setEditable(True)
        self.name.setMinimumWidth(130)
        self.name.setToolTip(spoken("Choose a picture to take it again; or type a name, then remember this one by it"))
        edit = self.name.lineEdit()
        assert edit is not None
        edit.setPlaceholderText(spoken("a name"))
        edit.setMaxLength(LONGEST_NAME)
        edit.returnPressed.connect(lambda: self.remember_asked.emit(self.name.currentText()))
        self.name.activated.connect(lambda _n: self.again_asked.emit(self.name.currentText()))
        self.remember = self._button("remember", "This picture by the name before it (Enter)", row)
        self.remember.clicked.connect(lambda: self.remember_asked.emit(self.name.currentText()))
        self.forget = self._button("forget", "The picture of this name is forgotten", row)
        self.forget.clicked.connect(lambda: self.forget_asked.emit(self.name.currentText()))
        row.addStretch(1)
        layout.addLayout(row)

    def _coat(self, row: CoatRow, finish: str) -> None:
        self.coated.emit(row.of, "" if finish == AS_PART else finish)

    def _check(self, words: str, tip: str, row: QHBoxLayout) -> QCheckBox:
        check = QCheckBox(spoken(words))
        check.setFont(theme.narrow(12))
        check.setToolTip(spoken(tip))
        row.addWidget(check)
        return check

    def _button(self, words: str, tip: str, row: QHBoxLayout) -> QPushButton:
        button = QPushButton(spoken(words))
        button.setFont(theme.narrow(13))
        button.setToolTip(spoken(tip))
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
            lens=self.lens.currentText(),
        )

    def put(self, wish: PictureWish) -> None:
        """Another wish in the fields."""
        word, _, colour = wish.finish.partition(" ")
        self.finish.setCurrentText(PAINT if word == PAINT else wish.finish)
        if word == PAINT:
            self.paint.setText(colour)
        for box, text in ((self.side, wish.side), (self.size_box, wish.size), (self.lens, wish.lens)):
            box.setEditText(text)
        for check, on in ((self.clear, wish.clear), (self.floor, wish.floor), (self.rays, wish.rays)):
            check.setChecked(on)
        self._changed(tell=False)

    def show_part(self, rows: Sequence[CoatRow], pictures: Sequence[RememberedPicture]) -> None:
        """The faces and bodies of the part, and the pictures that it remembers."""
        self.model.set_rows(rows)
        names, typed = [p.name for p in pictures], self.name.currentText()
        if [self.name.itemText(k) for k in range(self.name.count())] != names:
            self.name.clear()
            for name in names:
                self.name.addItem(name, name)
            self.name.setEditText(typed)
        self.forget.setEnabled(bool(names))

    def choose_face(self, name: str) -> None:
        """The row of a face that was picked in the solid."""
        row = next((k for k, r in enumerate(self.model.rows) if r.of == name), None)
        if row is not None:
            self.view.selectRow(row)

    def show_work(self, *, busy: bool, done: int = 0) -> None:
        """Whether a picture is at work, and how many of a turn are done."""
        self.work.setVisible(busy)
        self.stop.setVisible(busy)
        self.work.setText(spoken(f"rendering: {done} of the turn done" if done else "rendering …"))

    def show_state(self, words: str, *, can: bool) -> None:
        """How it stands, and whether it can be written."""
        self.head.setText(spoken(words))
        self.write.setEnabled(can)
        self.turn.setEnabled(can)
