"""A photograph of the part beside the log, with its sizes' letters: a click puts the chosen one's letter there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.read.page_reader import PageReader
from lathed_solid.part import Document
from lathed_solid.workbench.letters import Letter, letters_on, photograph_of

RADIUS = 10.0
EMPTY = "A photograph of the part shows where each size is.\nIts letters are put on by clicks."


class PhotoPane(QWidget):
    """Shows a picture as large as it fits; places are shares of its width and height from the top left."""

    placed = pyqtSignal(float, float)
    chosen = pyqtSignal(int)

    def __init__(self, background: Background) -> None:
        super().__init__()
        self.setAccessibleName(spoken("Photograph"))
        self.reader = PageReader(background, self, flat=False)
        self.reader.came.connect(lambda _page, pictures: self.show_picture(pictures))
        self.reader.failed.connect(lambda words: self.show_picture((), f"The photograph cannot be shown: {words}"))
        self._file = ""
        self.hide()
        self.setMinimumSize(QSize(220, 160))
        self._pictures: Sequence[QPixmap] = ()
        self.letters: tuple[Letter, ...] = ()
        self.current: int | None = None
        self.words = EMPTY

    def show_document(self, document: Document, current: int | None) -> bool:
        """The document's photograph, with its letters; whether it has one."""
        number = photograph_of(document)
        self.setVisible(number is not None)
        if number is None:
            return False
        file = document.sheets[number - 1].file
        if file != self._file:
            self._file = file
            self.show_picture((), "reading the photograph …")
            self.reader.want(file, 1, document.unit)
        self.show_letters(letters_on(document, number), current)
        return True

    def show_picture(self, pictures: Sequence[QPixmap], words: str = EMPTY) -> None:
        """A picture, full size and by halves down; none: ``words`` instead."""
        self._pictures, self.words = pictures, words
        self.update()

    def show_letters(self, letters: Sequence[Letter], current: int | None) -> None:
        """The sizes that have a place here; ``current``: the balloon of the chosen one."""
        self.letters, self.current = tuple(letters), current
        self.setToolTip("")
        self.update()

    # places --------------------------------------------------------------------------------------
    def area(self) -> QRectF:
        """Where the picture lies; empty for none."""
        if not self._pictures:
            return QRectF()
        size = QSize(self._pictures[0].size()).scaled(self.size(), Qt.AspectRatioMode.KeepAspectRatio)
        corner = QPointF((self.width() - size.width()) / 2, (self.height() - size.height()) / 2)
        return QRectF(corner, size.toSizeF())

    def _at(self, letter: Letter) -> QPointF:
        area = self.area()
        return QPointF(area.left() + letter.x * area.width(), area.top() + letter.y * area.height())

    def mousePressEvent(self, event: Any) -> None:
        """On a letter its size is chosen, elsewhere the chosen size's letter is put."""
        at, area = event.position(), self.area()
        near = [a for a in self.letters if (self._at(a) - at).manhattanLength() < 1.5 * RADIUS]
        if near and near[0].balloon != self.current:
            self.chosen.emit(near[0].balloon)
        elif area.contains(at):
            self.placed.emit((at.x() - area.left()) / area.width(), (at.y() - area.top()) / area.height())

    # drawing -------------------------------------------------------------------------------------
    def paintEvent(self, _event: Any) -> None:
        roles = theme.roles()
        with QPainter(self) as painter:
            painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
            area = self.area()
            if area.isEmpty():
                painter.setPen(QColor(roles.quiet))
                painter.setFont(theme.narrow(12))
                painter.drawText(
                    self.rect(), Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap, spoken(self.words)
                )
                return
            fit = [p for p in self._pictures if p.width() >= area.width()]
            picture = fit[-1] if fit else self._pictures[0]
            painter.drawPixmap(area, picture, QRectF(picture.rect()))
            painter.setFont(theme.font(12, theme.QFont.Weight.DemiBold))
            for letter in self.letters:
                chosen = letter.balloon == self.current
                ring = QRectF(-RADIUS, -RADIUS, 2 * RADIUS, 2 * RADIUS).translated(self._at(letter))
                painter.setPen(QPen(QColor(roles.ink), 2.0 if chosen else 1.0))
                painter.setBrush(QColor(roles.tint if chosen else roles.card))
                # a square with rounded corners: balloons are the drawing's
                painter.drawRoundedRect(ring, 3, 3)
                painter.drawText(ring, Qt.AlignmentFlag.AlignCenter, letter.text)
