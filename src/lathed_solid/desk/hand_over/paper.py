"""The paper: a drawing's sheets, or pages of a report, as they will print; zoomed, moved, and notes put elsewhere.

The wheel zooms at the pointer, a drag on blank paper moves it, + and - zoom, Home shows all of it, Page up and Page
down turn to the next sheet. A note, a dimension line or a view follows the hand; it is told where to when let go.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPen, QTransform, QWheelEvent
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.hand_over.ink_paths import ink_of, pens_of
from lathed_solid.desk.language import spoken
from lathed_solid.reports.drawing.model import PENS, Box, DrawnSheet, Pen
from lathed_solid.reports.pen import INK

#: room about the paper, pixels; a step of the wheel; least and greatest zoom, pixels a mm
ROOM, WHEEL, LEAST, MOST = 18.0, 1.2, 0.3, 60.0
#: a press that moves less is a click, pixels; how near to a thing it is taken, mm
CLICK, NEAR = 4, 1.5


@dataclass(frozen=True)
class Piece:
    """Something that can be taken: a note by its first balloon, or a view; its boxes on the sheet."""

    balloon: int
    view: str
    boxes: tuple[Box, ...]

    def hit(self, x: float, y: float) -> bool:
        """Whether a place is on it."""
        return any(a - NEAR <= x <= c + NEAR and b - NEAR <= y <= d + NEAR for a, b, c, d in self.boxes)


def pieces_of(sheet: DrawnSheet) -> list[Piece]:
    """Notes before views: what lies on top is taken first."""
    out = []
    for d in sheet.dimensions:
        (ax, ay), (bx, by) = d.line
        out.append(Piece(d.balloons[0], "", (d.words.box, (min(ax, bx), min(ay, by), max(ax, bx), max(ay, by)))))
    out += [Piece(n.balloons[0], "", tuple(w.box for w in n.words)) for n in sheet.leaders]
    return [*out, *(Piece(0, v.name, (v.box,)) for v in sheet.views)]


def stated(sheet: DrawnSheet) -> set[int]:
    """The balloons that a sheet states."""
    return {b for d in sheet.dimensions for b in d.balloons} | {b for n in sheet.leaders for b in n.balloons}


class Paper(QWidget):
    """Emits what was moved (balloon, view, by x and y mm, upwards) and the balloon that was clicked."""

    moved = pyqtSignal(int, str, float, float)
    chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(spoken("Paper"))
        self.setMinimumSize(200, 160)
        self.sheets: tuple[DrawnSheet, ...] = ()
        self.pages: tuple[QImage, ...] = ()
        self.words = ""
        self.index = 0
        self.balloon = 0
        self._pens: dict[Pen, QPainterPath] = {}
        self._ink = QPainterPath()
        self._pieces: list[Piece] = []
        self._zoom, self._at, self._fitted = 1.0, QPointF(), True
        self._press: QPointF | None = None
        self._piece: Piece | None = None
        self._over: Piece | None = None
        self._by = QPointF()

    # what is shown -----------------------------------------------------------------------------
    def show_sheets(self, sheets: Sequence[DrawnSheet]) -> None:
        """The sheets of a drawing; the view stays where another value of the same sheet is shown."""
        before = self._size()
        self.sheets, self.pages, self.words = tuple(sheets), (), ""
        self._turn(min(self.index, max(len(sheets) - 1, 0)), keep=before == self._size())

    def show_pages(self, pages: Sequence[QImage]) -> None:
        """Pages of a report."""
        before = self._size()
        self.sheets, self.pages, self.words = (), tuple(pages), ""
        self._turn(min(self.index, max(len(pages) - 1, 0)), keep=before == self._size())

    def show_words(self, words: str) -> None:
        """Nothing but words."""
        self.sheets, self.pages, self.words = (), (), words
        self._turn(0, keep=False)

    def turn(self, by: int) -> None:
        """To the next sheet, or the one before."""
        many = len(self.sheets) or len(self.pages)
        if 0 <= self.index + by < many:
            self._turn(self.index + by, keep=True)

    def choose(self, balloon: int) -> None:
        """Mark a note, on whatever sheet it stands."""
        self.balloon = balloon
        on = [n for n, sheet in enumerate(self.sheets) if balloon in stated(sheet)]
        if on and self.index not in on:
            self._turn(on[0], keep=True)
        self.update()

    def _turn(self, index: int, *, keep: bool) -> None:
        self.index = index
        if self.sheets:
            sheet = self.sheets[index]
            self._pens, self._ink, self._pieces = pens_of(sheet), ink_of(sheet), pieces_of(sheet)
        else:
            self._pens, self._ink, self._pieces = {}, QPainterPath(), []
        self._piece = self._over = None
        if not keep or self._fitted:
            self.fit()
        self.update()

    def _size(self) -> tuple[float, float]:
        """Of the sheet in view, mm; of a page, in its own points."""
        if self.sheets:
            return self.sheets[self.index].width, self.sheets[self.index].height
        if self.pages:
            image = self.pages[min(self.index, len(self.pages) - 1)]
            return 210.0, 210.0 * image.height() / max(image.width(), 1)
        return 0.0, 0.0

    # looking -----------------------------------------------------------------------------------
    def fit(self) -> None:
        """All of the sheet; it stays so until it is zoomed."""
        wide, tall = self._size()
        self._fitted = True
        if wide and tall:
            self._zoom = max(LEAST, min((self.width() - 2 * ROOM) / wide, (self.height() - 2 * ROOM) / tall))
            self._at = QPointF((self.width() - self._zoom * wide) / 2, (self.height() - self._zoom * tall) / 2)
        self.update()

    def zoom(self, by: float, at: QPointF | None = None) -> None:
        """Larger or smaller, about a place."""
        place = at if at is not None else QPointF(self.width() / 2, self.height() / 2)
        new = min(max(self._zoom * by, LEAST), MOST)
        self._at = place - (place - self._at) * (new / self._zoom)
        self._zoom, self._fitted = new, False
        self.update()

    def resizeEvent(self, event: object) -> None:
        if self._fitted:
            self.fit()

    def _place(self, p: QPointF) -> tuple[float, float]:
        """A place of the widget on the sheet, mm from its lower left corner."""
        q = (p - self._at) / self._zoom
        return q.x(), self._size()[1] - q.y()

    # painting ----------------------------------------------------------------------------------
    def paintEvent(self, event: object) -> None:
        r = theme.roles()
        p = QPainter(self)
        p.fillRect(self.rect(), QColor(r.paper))
        wide, tall = self._size()
        if not wide:
            p.setPen(QColor(r.quiet))
            p.setFont(theme.font(14))
            p.drawText(QRectF(self.rect()).adjusted(40, 0, -40, 0),
                       int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap), spoken(self.words))  # fmt: skip
            p.end()
            return
        p.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        p.setTransform(QTransform().translate(self._at.x(), self._at.y()).scale(self._zoom, self._zoom))
        paper = QRectF(0, 0, wide, tall)
        p.fillRect(paper.translated(0.8, 1.0), QColor(r.line))
        p.fillRect(paper, QColor("#FFFFFF"))  # what prints is white in either palette
        if self.pages:
            p.drawImage(paper, self.pages[self.index])
        for name, path in self._pens.items():
            width, dash = PENS[name]
            pen = QPen(QColor(INK), max(width, 0.9 / self._zoom))
            if dash:
                pen.setDashPattern([v / pen.widthF() for v in dash])
            pen.setCapStyle(Qt.PenCapStyle.FlatCap if dash else Qt.PenCapStyle.RoundCap)
            p.strokePath(path, pen)
        p.fillPath(self._ink, QColor(INK))
        self._paint_taken(p)
        p.end()

    def _paint_taken(self, p: QPainter) -> None:
        """The chosen note, what lies under the pointer, and what follows the hand."""
        r = theme.roles()
        tall = self._size()[1]
        for piece in self._pieces:
            chosen = piece.balloon > 0 and piece.balloon == self.balloon
            if not chosen and piece is not self._over and piece is not self._piece:
                continue
            by = self._by if piece is self._piece else QPointF()
            p.setPen(QPen(QColor(r.brass), (2.0 if chosen else 1.2) / self._zoom))
            for a, b, c, d in piece.boxes:
                box = QRectF(a, tall - d, c - a, d - b).adjusted(-NEAR, -NEAR, NEAR, NEAR)
                p.drawRect(box.translated(by))

    # the hand ----------------------------------------------------------------------------------
    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        self._press, self._by = event.position(), QPointF()
        left = event.button() == Qt.MouseButton.LeftButton
        self._piece = self._hit(event.position()) if left else None

    def _hit(self, p: QPointF) -> Piece | None:
        x, y = self._place(p)
        return next((piece for piece in self._pieces if piece.hit(x, y)), None)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        if self._press is None:
            over = self._hit(event.position())
            if over is not self._over:
                self._over = over
                shape = Qt.CursorShape.SizeAllCursor if over is not None else Qt.CursorShape.ArrowCursor
                self.setCursor(shape)
                self.update()
            return
        away = event.position() - self._press
        if self._piece is not None:
            self._by = away / self._zoom
        else:
            self._at, self._press, self._fitted = self._at + away, event.position(), False
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        assert event is not None
        press, piece, by = self._press, self._piece, self._by
        self._press = self._piece = None
        self._by = QPointF()
        if press is None or piece is None:
            return
        if (event.position() - press).manhattanLength() < CLICK:
            if piece.balloon:
                self.choose(piece.balloon)
                self.chosen.emit(piece.balloon)
        else:
            self.moved.emit(piece.balloon, piece.view, by.x(), -by.y())
        self.update()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        assert event is not None
        self.zoom(WHEEL ** (event.angleDelta().y() / 120), event.position())

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key = event.key()
        if key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom(WHEEL)
        elif key == Qt.Key.Key_Minus:
            self.zoom(1 / WHEEL)
        elif key == Qt.Key.Key_Home:
            self.fit()
        elif key in (Qt.Key.Key_PageDown, Qt.Key.Key_PageUp):
            self.turn(1 if key == Qt.Key.Key_PageDown else -1)
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._nudge(key, event.modifiers())
        else:
            super().keyPressEvent(event)

    def _nudge(self, key: int, modifiers: Qt.KeyboardModifier) -> None:
        """The chosen note by a millimetre, with Shift by ten."""
        far = 10.0 if modifiers & Qt.KeyboardModifier.ShiftModifier else 1.0
        x, y = {Qt.Key.Key_Left: (-far, 0.0), Qt.Key.Key_Right: (far, 0.0), Qt.Key.Key_Up: (0.0, far),
                Qt.Key.Key_Down: (0.0, -far)}[Qt.Key(key)]  # fmt: skip
        if self.balloon and any(p.balloon == self.balloon for p in self._pieces):
            self.moved.emit(self.balloon, "", x, y)
