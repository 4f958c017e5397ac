"""How the drawing is wanted, and its notes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QLineEdit, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import choice_box, labelled, pane_head, pane_layout
from lathed_solid.desk.row_table import Column, RowModel, RowView
from lathed_solid.part.drawing_style import DrawingStyle
from lathed_solid.reports.drawing.sheets import SIZES
from lathed_solid.workbench.hand_over.rows import NoteRow

AS_NEEDED = "as needed"
ANGLES = {"": AS_NEEDED, "first": "first angle", "third": "third angle"}
SECTIONS = {"": AS_NEEDED, "none": "none", "full": "full", "half": "half"}


class DrawingPane(QWidget):
    """Emits another value of the style, the balloon of the chosen note; asks for writing and putting back."""

    restyled = pyqtSignal(object)
    chosen = pyqtSignal(int)
    write_asked = pyqtSignal()
    back_asked = pyqtSignal()
    told = pyqtSignal(str, bool)

    def __init__(self) -> None:
        super().__init__()
        layout = pane_layout(self, 8)
        row = QHBoxLayout()
        row.setSpacing(6)
        self.sheet = choice_box("sheet", [AS_NEEDED, *SIZES], row)
        self.angle = choice_box("projection", list(ANGLES.values()), row)
        self.section = choice_box("section", list(SECTIONS.values()), row)
        self.section.setToolTip(spoken("How a turned part is cut through its axis"))
        self.scale = QLineEdit()
        self.scale.setPlaceholderText("1:2, 5:1")
        self.scale.setFixedWidth(72)
        self.scale.setAccessibleName(spoken("scale"))
        self.scale.setToolTip(spoken("Paper by part: 2:1, 1:5, 0.5; empty as the sheet has room (Enter)"))
        self.scale.returnPressed.connect(self._scaled)
        labelled("scale", self.scale, row)
        self.balloons = QCheckBox(spoken("balloons"))
        self.balloons.setFont(theme.narrow(12))
        self.balloons.setToolTip(spoken("Each note with its number in a ring"))
        self.balloons.clicked.connect(lambda on: self._ask(balloons=on))
        row.addWidget(self.balloons)
        row.addStretch(1)
        layout.addLayout(row)
        self.revision = QLineEdit()
        self.revision.setPlaceholderText(spoken("B bore ⌀12 was ⌀10"))
        self.revision.setMaxLength(240)
        self.revision.setAccessibleName(spoken("revision"))
        self.revision.setToolTip(
            spoken("A revision's mark, then what it changed (Enter); with today's date in the table")
        )
        self.revision.returnPressed.connect(self._revised)
        self.unrevise = QPushButton(spoken("take the last away"))
        self.unrevise.setFont(theme.narrow(13))
        self.unrevise.clicked.connect(lambda: self._ask(revisions=self._style.revisions[:-1]))
        changes = QHBoxLayout()
        changes.setSpacing(6)
        labelled("revision", self.revision, changes)
        changes.addWidget(self.unrevise)
        layout.addLayout(changes)
        self.sheet.activated.connect(self._sized)
        self.angle.activated.connect(lambda: self._ask(angle=_key(ANGLES, self.angle)))
        self.section.activated.connect(lambda: self._ask(section=_key(SECTIONS, self.section)))
        self.head = pane_head()
        layout.addWidget(self.head)
        self.model = RowModel([
            Column("no.", lambda r: str(r.balloon), look="balloon", width=46),
            Column("note", lambda r: r.text, look="drawing", width=236),
            Column("stands", lambda r: r.where, width=150, tip=lambda r: r.why),
        ], alarm=lambda r: bool(r.why))  # fmt: skip
        self.view = RowView(self.model)
        self.view.setAccessibleName(spoken("Notes of the drawing"))
        self.view.row_chosen.connect(self._choose)
        layout.addWidget(self.view, 1)
        buttons = QHBoxLayout()
        self.write = QPushButton(spoken("write the drawing…"))
        self.write.setToolTip(spoken("PDF, DXF or SVG (Ctrl+Shift+W)"))
        self.write.clicked.connect(self.write_asked)
        self.back = QPushButton(spoken("put moved notes back"))
        self.back.clicked.connect(self.back_asked)
        for button in (self.write, self.back):
            button.setFont(theme.narrow(13))
            buttons.addWidget(button)
        buttons.addStretch(1)
        layout.addLayout(buttons)
        self._style = DrawingStyle()

    # what is shown -----------------------------------------------------------------------------
    def show_style(self, style: DrawingStyle) -> None:
        """What is asked of the drawing."""
        self._style = style
        self.sheet.setCurrentText(style.size or AS_NEEDED)
        self.angle.setCurrentText(ANGLES[style.angle])
        self.section.setCurrentText(SECTIONS[style.section])
        self.scale.setText("" if style.scale is None else _ratio(style.scale))
        self.balloons.setChecked(style.balloons)
        self.back.setEnabled(bool(style.moved))
        self.unrevise.setEnabled(bool(style.revisions))

    def show_notes(self, rows: Sequence[NoteRow], words: str) -> None:
        """The notes of the drawing; ``words`` say what it is."""
        self.head.setText(spoken(words))
        self.model.set_rows(rows)

    # what is asked -----------------------------------------------------------------------------
    def _sized(self) -> None:
        text = self.sheet.currentText()
        self._ask(size="" if text == AS_NEEDED else text)

    def _scaled(self) -> None:
        found = _scale(self.scale.text())
        if found is not None and not 1e-4 < found < 1e4:
            self.told.emit(f"this is no scale: {self.scale.text()} (2:1, 1:5 or 0.5 is)", True)
            return
        self._ask(scale=found)

    def _revised(self) -> None:
        mark, _, what = self.revision.text().strip().partition(" ")
        try:
            style = self._style.revised(mark, what, date.today().isoformat())
        except ValueError:
            self.told.emit("a revision has a mark and what it changed: B bore ⌀12 was ⌀10", True)
            return
        self.revision.clear()
        self._ask(revisions=style.revisions)

    def _ask(self, **values: Any) -> None:
        self.restyled.emit(values)

    def _choose(self, row: NoteRow | None) -> None:
        if row is not None:
            self.chosen.emit(row.balloon)


def _key(words: Mapping[str, str], box: QComboBox) -> str:
    return next(k for k, v in words.items() if v == box.currentText())


def _ratio(scale: float) -> str:
    return f"{scale:g}:1" if scale >= 1 else f"1:{1 / scale:g}"


def _scale(text: str) -> float | None:
    """None for an empty field; -1 for what is no scale."""
    text = text.strip().replace(",", ".")
    if not text:
        return None
    over, _, under = text.partition(":")
    try:
        return float(over) / float(under or "1")
    except (ValueError, ZeroDivisionError):
        return -1.0
