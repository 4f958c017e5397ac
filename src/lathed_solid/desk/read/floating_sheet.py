"""The sheet, small, beside the work at every desk: what is chosen or being typed is found on it and ringed."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPixmap
from PyQt6.QtWidgets import QVBoxLayout, QWidget

from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.sheet_page import SheetsPage
from lathed_solid.desk.read.sheet_view import Mark, SheetView
from lathed_solid.sheets import SheetPage
from lathed_solid.sheets.client import NoteCandidate

#: how much of the page's width is shown about what is chosen, and the window's own size, pixels
NEAR, SIZE = 0.45, (440, 310)
#: from the window's lower left corner, pixels; a balloon's note is no farther from it, shares of the page
OFF_CORNER, BESIDE = (76, 44), 0.05
#: signs of a note from which on it is looked for
FEW = 3


class FloatingSheet(QWidget):
    """Follows the page of the sheets."""

    chosen = pyqtSignal(int)

    def __init__(self, sheets: SheetsPage, parent: QWidget) -> None:
        super().__init__(parent, Qt.WindowType.Tool)
        self._sheets = sheets
        self._page: tuple[SheetPage, Sequence[QPixmap]] | None = None
        self._placed = False
        self.resize(*SIZE)
        self.view: SheetView = SheetView()
        self.view.setAccessibleName(spoken("Sheet beside the work"))
        self.view.chosen.connect(self.chosen)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.addWidget(self.view)
        sheets.reader.came.connect(self._came)
        sheets.reader.lettered.connect(self.view.show_found)
        sheets.marked.connect(self._mark)

    def _came(self, found: SheetPage, pictures: Sequence[QPixmap]) -> None:
        self._page = (found, pictures)
        if self.isVisible():
            self._show_page()

    def _show_page(self) -> None:
        sheet = self._sheets.commands.sheet
        if self._page is None or sheet is None:
            return
        found, pictures = self._page
        self.setWindowTitle(spoken(sheet.name))
        self.view.resetTransform()
        self.view.rotate(sheet.turn)
        self.view.show_page(pictures, self._sheets.commands.found or found)
        self._mark(self._sheets.view.marks, self._sheets.view.current)

    def _mark(self, marks: Sequence[Mark], current: int | None) -> None:
        if not self.isVisible():
            return
        self.view.taken = self._sheets.view.taken
        self.view.set_marks(marks, current)
        mark = next((m for m in marks if m.balloon == current), None)
        if mark is None:
            self._look(None)
            return
        callout = self._sheets.commands.document.callout(mark.balloon)
        told = [o for o in self.view.offers if callout is not None and _plain(o.text) == _plain(callout.note)]
        beside = [o for o in self.view.offers if _off(o, mark) < BESIDE]
        self._look(min(told or beside, key=lambda o: _off(o, mark), default=None), (mark.x, mark.y))

    def look_for(self, text: str) -> None:
        """What is being typed: where it stands on the sheet, or what begins so, when that is one place."""
        typed = _plain(text)
        whole = [o for o in self.view.offers if _plain(o.text) == typed]
        begun = [o for o in self.view.offers if len(typed) >= FEW and _plain(o.text).startswith(typed)]
        told = whole or begun
        if self.isVisible() and typed and len(told) == 1:
            self._look(told[0])

    def _look(self, offer: NoteCandidate | None, at: tuple[float, float] | None = None) -> None:
        """Ring a note and bring it near; without a place all of the page is shown."""
        self.view.show_offer(offer)
        if offer is not None:
            left, top, right, low = offer.box
            at = ((left + right) / 2, (top + low) / 2)
        if at is None:
            self.view.fit()
        else:
            self.view.show_near(*at, NEAR)

    def showEvent(self, event: Any) -> None:
        super().showEvent(event)
        parent = self.parentWidget()
        if not self._placed and parent is not None:
            corner = parent.mapToGlobal(parent.rect().bottomLeft())
            self.move(corner.x() + OFF_CORNER[0], corner.y() - OFF_CORNER[1] - self.height())
            self._placed = True
        self._show_page()


def _off(offer: NoteCandidate, mark: Mark) -> float:
    """How far a note begins from a balloon."""
    left, top, _, low = offer.box
    return math.dist((left, (top + low) / 2), (mark.x, mark.y))


def _plain(text: str) -> str:
    """Notes that differ in blanks, case or the form of their signs are one."""
    return "".join(text.upper().replace("Ø", "⌀").split())
