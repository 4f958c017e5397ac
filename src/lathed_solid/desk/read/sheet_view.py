"""A page of a sheet to look at: its picture, the notes found on it, and the balloons.

Wheel zooms at the pointer, a drag moves, a click on a found note offers it as a callout, a click elsewhere asks for
one to be typed there, a click on a balloon chooses its callout. A balloon says by shape and word whether its callout
is unused (dashed), used (solid) or proven (with its verdict's sign).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, QSizeF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen, QPixmap, QTransform
from PyQt6.QtWidgets import QGraphicsItem, QGraphicsScene, QGraphicsView, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.proof import SIGNS
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.sheets.client import LeftText, NoteCandidate, SheetPage
from lathed_solid.sheets.title_block import zone
from lathed_solid.workbench.sheet_commands import Mode

BALLOON, LEAST_BALLOON = 15.0, 8.5
CLICK_REACH = 4
#: a smaller box, in pixels of the picture, is a slip
LEAST_CROP = 24


@dataclass(frozen=True, slots=True)
class Mark:
    """A balloon on the page: where (shares of the page), and how its callout stands."""

    balloon: int
    x: float
    y: float
    state: str  # unused, used, in, near, out, no limit, not found

    @property
    def words(self) -> str:
        """What the balloon's state means."""
        return {"unused": "not used yet", "used": "used, not measured yet"}.get(self.state, f"proven: {self.state}")


class _Page(QGraphicsItem):
    """A page's picture, at full size and by halves down: thin lines last when all of it is seen."""

    def __init__(self, levels: Sequence[QPixmap]) -> None:
        super().__init__()
        self.levels = levels

    def boundingRect(self) -> QRectF:
        return QRectF(self.levels[0].rect())

    def paint(self, painter: QPainter | None, option: Any, widget: QWidget | None = None) -> None:
        assert painter is not None
        t = painter.worldTransform()
        scale = math.hypot(t.m11(), t.m12()) * painter.device().devicePixelRatioF()  # type: ignore[union-attr]
        # the level just above the size on the screen: the painter's own smoothing looks at four pixels only
        k = min(max(int(-math.log2(max(scale, LINEAR)) + 0.3), 0), len(self.levels) - 1)
        level = self.levels[k]
        painter.drawPixmap(self.boundingRect(), level, QRectF(level.rect()))


class SheetView(QGraphicsView):
    """Shows one page; places are shares of its width and height from the top left."""

    offered = pyqtSignal(object)  # NoteCandidate
    unread = pyqtSignal(object)  # LeftText
    pointed = pyqtSignal(float, float)
    chosen = pyqtSignal(int)
    measured = pyqtSignal(float)  # share of the page's width
    cropped = pyqtSignal(object, float)  # QPixmap, share of the page's width

    def __init__(self) -> None:
        super().__init__()
        self.setScene(QGraphicsScene(self))
        self.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.AnchorUnderMouse)
        self.setResizeAnchor(QGraphicsView.ViewportAnchor.AnchorViewCenter)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMouseTracking(True)
        self.setAccessibleName(spoken("Sheet"))
        self.offers: tuple[NoteCandidate, ...] = ()
        self.left: tuple[LeftText, ...] = ()
        self.marks: tuple[Mark, ...] = ()
        self.taken: frozenset[NoteCandidate] = frozenset()
        self.current: int | None = None
        #: what a press does: takes notes, clicks two points, drags a box
        self.mode: Mode = "notes"
        self._points: list[QPointF] = []
        self._shown: NoteCandidate | None = None
        self._pixmap = QPixmap()
        self._size = QRectF()
        self._width_mm = self._height_mm = 0.0
        self._fitted = True
        self._press: QPointF | None = None

    def show_page(self, pictures: Sequence[QPixmap], found: SheetPage) -> None:
        """A page's pictures (full size and by halves down) and what was found on it; the view is fitted anew."""
        scene = self._scene()
        scene.clear()
        self._pixmap, self._shown = pictures[0], None
        self.set_mode("notes")
        scene.addItem(_Page(pictures))
        self._size = QRectF(self._pixmap.rect())
        scene.setSceneRect(self._size.adjusted(-200, -200, 200, 200))
        self.show_found(found)
        self.fit()

    def show_found(self, found: SheetPage) -> None:
        """What was found on the page that is shown, and how large it is."""
        self._width_mm, self._height_mm = found.width, found.height
        self.offers, self.left, self._shown = found.offers, found.left, None
        self._update()

    def picture_of(self, offer: NoteCandidate, room: QSize) -> QPixmap:
        """The part of the page where a note stands, upright, as large as the room is."""
        if self._pixmap.isNull():
            return QPixmap()
        box = self.box_of(offer)
        air = 0.3 * min(box.width(), box.height())
        cut = self._pixmap.copy(box.adjusted(-air, -air, air, air).toAlignedRect())
        if offer.angle % 180:
            cut = cut.transformed(QTransform().rotate(offer.angle))
        return cut.scaled(room, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation)

    def _scene(self) -> QGraphicsScene:
        scene = self.scene()
        assert scene is not None
        return scene

    def set_marks(self, marks: Sequence[Mark], current: int | None) -> None:
        """Balloons, and the chosen one."""
        self.marks, self.current = tuple(marks), current
        self._update()

    def _update(self) -> None:
        port = self.viewport()
        if port is not None:
            port.update()

    def fit(self) -> None:
        """The whole page; it stays fitted until it is zoomed."""
        self._fitted = True
        if not self._size.isEmpty():
            self.fitInView(self._size, Qt.AspectRatioMode.KeepAspectRatio)

    def show_near(self, x: float, y: float, share: float) -> None:
        """A place of the page in the middle, with so much of the page's width about it."""
        wide = share * self._size.width()
        tall = wide * self.height() / max(self.width(), 1)
        at = QPointF(x * self._size.width() - wide / 2, y * self._size.height() - tall / 2)
        self.fitInView(QRectF(at, QSizeF(wide, tall)), Qt.AspectRatioMode.KeepAspectRatio)

    def set_mode(self, mode: Mode) -> None:
        """Take notes, measure, or crop."""
        self.mode, self._points = mode, []
        self.viewport().setCursor(Qt.CursorShape.ArrowCursor if mode == "notes" else Qt.CursorShape.CrossCursor)  # type: ignore[union-attr]
        self._update()

    def show_offer(self, offer: NoteCandidate | None) -> None:
        """Draw a found note strongly, and bring it into view."""
        self._shown = offer
        if offer is not None and not self._fitted:
            self.ensureVisible(self.box_of(offer), 80, 80)
        self._update()

    def at(self, x: float, y: float) -> QPointF:
        """A place of the page, in the view."""
        return QPointF(self.mapFromScene(QPointF(x * self._size.width(), y * self._size.height())))

    def box_of(self, offer: NoteCandidate | LeftText) -> QRectF:
        """Where a found note, or a text that is none, stands, in the scene."""
        left, top, right, bottom = offer.box
        w, h = self._size.width(), self._size.height()
        return QRectF(QPointF(left * w, top * h), QPointF(right * w, bottom * h))

    def zone(self, x: float, y: float) -> str:
        """The zone of a place on the sheet, ``C4``."""
        return zone(x, y, self._width_mm, self._height_mm) if self._width_mm > 0 else ""

    # painting ----------------------------------------------------------------------------------
    def drawForeground(self, painter: QPainter | None, rect: QRectF) -> None:
        """Found notes that are not taken yet, tinted; balloons at one size whatever the zoom."""
        assert painter is not None
        if self._size.isEmpty():
            return
        r = theme.roles()
        painter.setPen(QPen(QColor(r.quiet), 2, Qt.PenStyle.DotLine))
        for text in self.left:
            box = self.box_of(text).adjusted(-3, -2, 3, 3)
            painter.drawLine(box.bottomLeft(), box.bottomRight())
        for offer in self.offers:
            if offer not in self.taken:
                self._paint_offer(painter, offer, r)
        if self._shown is not None:
            painter.setPen(QPen(QColor(r.brass), 4))
            painter.drawRect(self.box_of(self._shown).adjusted(-8, -7, 8, 7))
        self._paint_points(painter)
        painter.save()
        painter.resetTransform()
        painter.setFont(theme.narrow(12 if self._balloon() > 11 else 10, theme.QFont.Weight.DemiBold))
        for mark in self.marks:
            self._paint(painter, mark)
        painter.restore()

    def _paint_offer(self, painter: QPainter, offer: NoteCandidate, r: theme.Roles) -> None:
        """Tinted; one that its own line contradicts is struck, one without a line has a broken outline."""
        against = offer.sure == "contradicted"
        tint = QColor(r.out_line if against else r.brass)
        pen = QPen(tint, 3 if against else 0)
        if offer.sure == "doubtful":
            pen = QPen(tint, 2, Qt.PenStyle.DashLine)
        painter.setPen(pen)
        tint = QColor(tint)
        tint.setAlpha(46)
        painter.setBrush(QBrush(tint))
        box = self.box_of(offer).adjusted(-3, -2, 3, 2)
        painter.drawRect(box)
        if against:
            painter.drawLine(box.bottomLeft(), box.topRight())

    def _paint_points(self, painter: QPainter) -> None:
        """The points clicked, or the box dragged, so far."""
        if not self._points:
            return
        painter.setPen(QPen(QColor(theme.roles().brass), 3))
        if self.mode == "crop" and len(self._points) == 2:
            painter.drawRect(QRectF(*self._points).normalized())
        elif self.mode == "points":
            reach = 10 / max(self._scale(), LINEAR)
            for p in self._points:
                painter.drawLine(QPointF(p.x() - reach, p.y()), QPointF(p.x() + reach, p.y()))
                painter.drawLine(QPointF(p.x(), p.y() - reach), QPointF(p.x(), p.y() + reach))

    def _scale(self) -> float:
        return float((self.transform().m11() ** 2 + self.transform().m12() ** 2) ** 0.5)

    def _paint(self, painter: QPainter, mark: Mark) -> None:
        r = theme.roles()
        at = self.at(mark.x, mark.y)
        chosen = mark.balloon == self.current
        alarm = mark.state in ("out", "no limit", "not found")
        line = QColor(r.out_line if alarm else r.brass if chosen else r.ink)
        style = Qt.PenStyle.DashLine if mark.state == "unused" else Qt.PenStyle.SolidLine
        painter.setPen(QPen(line, 2.4 if chosen else 1.4, style))
        painter.setBrush(QColor(r.card))
        size = self._balloon()
        painter.drawEllipse(at, size, size)
        painter.setPen(QColor(r.ink))
        box = QRectF(at.x() - size, at.y() - size, 2 * size, 2 * size)
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, str(mark.balloon))
        sign = SIGNS.get(mark.state, "")  # type: ignore[call-overload]
        if sign:
            corner = QRectF(at.x() - size * 0.55 - 16, at.y() - size * 1.5, 16, 14)
            painter.setPen(line)
            painter.drawText(corner, Qt.AlignmentFlag.AlignCenter, sign)

    def _balloon(self) -> float:
        """A balloon's radius: smaller where the whole page is seen, so that it leaves its note legible."""
        across = abs(self.at(1, 0).x() - self.at(0, 0).x()) + abs(self.at(1, 0).y() - self.at(0, 0).y())
        return min(BALLOON, max(LEAST_BALLOON, 0.011 * across))

    # pointer -----------------------------------------------------------------------------------
    def mark_at(self, p: QPointF) -> Mark | None:
        """The balloon under a pixel."""
        near = [m for m in self.marks if (self.at(m.x, m.y) - p).manhattanLength() < BALLOON * 1.3]
        return near[-1] if near else None

    def offer_at(self, p: QPointF) -> NoteCandidate | None:
        """The found note under a pixel that is not taken yet; of several the smallest."""
        q = self.mapToScene(p.toPoint())
        found = [o for o in self.offers if o not in self.taken and self.box_of(o).adjusted(-6, -6, 6, 6).contains(q)]
        return min(found, key=lambda o: self.box_of(o).width() * self.box_of(o).height()) if found else None

    def left_at(self, p: QPointF) -> LeftText | None:
        """The text under a pixel that is no note."""
        q = self.mapToScene(p.toPoint())
        return next((t for t in self.left if self.box_of(t).adjusted(-6, -6, 6, 6).contains(q)), None)

    def mousePressEvent(self, event: Any) -> None:
        self._press = event.position()
        if self.mode == "crop":
            self._points = [self.mapToScene(event.position().toPoint())] * 2
            return
        if self.mode == "notes":
            self.setDragMode(QGraphicsView.DragMode.ScrollHandDrag)
        super().mousePressEvent(event)

    def mouseReleaseEvent(self, event: Any) -> None:
        super().mouseReleaseEvent(event)
        self.setDragMode(QGraphicsView.DragMode.NoDrag)
        p, pressed = event.position(), self._press
        self._press = None
        if self.mode != "notes":
            self._point_or_crop(self.mapToScene(p.toPoint()))
            return
        if pressed is None or (p - pressed).manhattanLength() > CLICK_REACH or self._size.isEmpty():
            return
        mark, offer = self.mark_at(p), self.offer_at(p)
        place = self.mapToScene(p.toPoint())
        x, y = place.x() / self._size.width(), place.y() / self._size.height()
        if mark is not None:
            self.chosen.emit(mark.balloon)
        elif offer is not None:
            self.offered.emit(offer)
        elif (left := self.left_at(p)) is not None:
            self.unread.emit(left)
        elif 0 <= x <= 1 and 0 <= y <= 1:
            self.pointed.emit(x, y)

    def _point_or_crop(self, at: QPointF) -> None:
        """The release of a press in one of the other modes."""
        if self._size.isEmpty():
            return
        if self.mode == "points":
            self._points = [*self._points, at]
            self._update()
            if len(self._points) == 2:
                d = self._points[1] - self._points[0]
                self.measured.emit(math.hypot(d.x(), d.y()) / self._size.width())
                self.set_mode("notes")
            return
        box = QRectF(self._points[0], at).normalized().intersected(self._size).toAlignedRect()
        self.set_mode("notes")
        if min(box.width(), box.height()) >= LEAST_CROP:
            self.cropped.emit(self._pixmap.copy(box), box.width() / self._size.width())

    def mouseMoveEvent(self, event: Any) -> None:
        if self.mode == "crop" and self._press is not None and self._points:
            self._points = [self._points[0], self.mapToScene(event.position().toPoint())]
            self._update()
            return
        super().mouseMoveEvent(event)
        mark, offer = self.mark_at(event.position()), self.offer_at(event.position())
        if mark is not None:
            self.setToolTip(spoken(f"balloon {mark.balloon}, zone {self.zone(mark.x, mark.y)}: {mark.words}"))
        elif offer is None and (left := self.left_at(event.position())) is not None:
            self.setToolTip(spoken(f"{left.text}\nno callout: {left.why}; a click mends it"))
        else:
            self.setToolTip(spoken(_told(offer) if offer else ""))

    def wheelEvent(self, event: Any) -> None:
        factor = 1.2 ** (event.angleDelta().y() / 120)
        if self._scale() > 0.14 or factor > 1:
            self._fitted = False
            self.scale(factor, factor)

    @property
    def page_size(self) -> QSizeF:
        """Of the picture at full size, in its own pixels."""
        return self._size.size()

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        if self._fitted:
            self.fit()


def _told(offer: NoteCandidate) -> str:
    """What pointing at a found note says of it."""
    why = f" ({offer.sure}: {offer.why})" if offer.why else ""
    return f"{offer.text} — {offer.plain}{why}: click to take it as a callout"
