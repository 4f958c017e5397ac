"""A page of a sheet to look at: its picture, the notes found on it, and the balloons.

Wheel zooms at the pointer, a drag moves, a click on a found note offers it as a callout, a click elsewhere asks for
one to be typed there, a click on a balloon chooses its callout. A balloon says by shape and word whether its callout
is unused (dashed), used (solid) or proven (with its verdict's sign).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen, QPixmap
from PyQt6.QtWidgets import QGraphicsScene, QGraphicsView

from lathed_solid.desk import theme
from lathed_solid.proof import SIGNS
from lathed_solid.sheets.client import Offer

BALLOON, LEAST_BALLOON = 15.0, 8.5
CLICK_REACH = 4


@dataclass(frozen=True, slots=True)
class Mark:
    """A balloon on the page: where (shares of the page), and how its callout stands."""

    balloon: int
    x: float
    y: float
    state: str  # unused, used, in, near, out, not found

    @property
    def words(self) -> str:
        return {"unused": "not used yet", "used": "used, not measured yet"}.get(self.state, f"proven: {self.state}")


class SheetView(QGraphicsView):
    """Shows one page; places are shares of its width and height from the top left."""

    offered = pyqtSignal(object)  # Offer
    pointed = pyqtSignal(float, float)
    chosen = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setScene(QGraphicsScene(self))
        self.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.AnchorUnderMouse)
        self.setResizeAnchor(QGraphicsView.ViewportAnchor.AnchorViewCenter)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setMouseTracking(True)
        self.setAccessibleName("Sheet")
        self.offers: tuple[Offer, ...] = ()
        self.marks: tuple[Mark, ...] = ()
        self.taken: frozenset[Offer] = frozenset()
        self.current: int | None = None
        self._size = QRectF()
        self._press: QPointF | None = None

    def show_page(self, pixmap: QPixmap, offers: Sequence[Offer]) -> None:
        """A page's picture and what was found on it; the view is fitted anew."""
        scene = self._scene()
        scene.clear()
        scene.addPixmap(pixmap).setTransformationMode(Qt.TransformationMode.SmoothTransformation)  # type: ignore[union-attr]
        self._size = QRectF(pixmap.rect())
        scene.setSceneRect(self._size.adjusted(-200, -200, 200, 200))
        self.offers = tuple(offers)
        self.fit()

    def _scene(self) -> QGraphicsScene:
        scene = self.scene()
        assert scene is not None
        return scene

    def set_marks(self, marks: Sequence[Mark], current: int | None) -> None:
        self.marks, self.current = tuple(marks), current
        self._update()

    def _update(self) -> None:
        port = self.viewport()
        if port is not None:
            port.update()

    def fit(self) -> None:
        if not self._size.isEmpty():
            self.fitInView(self._size, Qt.AspectRatioMode.KeepAspectRatio)

    def at(self, x: float, y: float) -> QPointF:
        """A place of the page, in the view."""
        return QPointF(self.mapFromScene(QPointF(x * self._size.width(), y * self._size.height())))

    def box_of(self, offer: Offer) -> QRectF:
        left, top, right, bottom = offer.box
        w, h = self._size.width(), self._size.height()
        return QRectF(QPointF(left * w, top * h), QPointF(right * w, bottom * h))

    # painting ----------------------------------------------------------------------------------
    def drawForeground(self, painter: QPainter | None, rect: QRectF) -> None:
        """Found notes that are not taken yet, tinted; balloons at one size whatever the zoom."""
        assert painter is not None
        if self._size.isEmpty():
            return
        r = theme.roles()
        tint = QColor(r.brass)
        tint.setAlpha(46)
        painter.setPen(QPen(QColor(r.brass), 0))
        painter.setBrush(QBrush(tint))
        for offer in self.offers:
            if offer not in self.taken:
                painter.drawRect(self.box_of(offer).adjusted(-3, -2, 3, 2))
        painter.save()
        painter.resetTransform()
        painter.setFont(theme.narrow(12 if self._balloon() > 11 else 10, theme.QFont.Weight.DemiBold))
        for mark in self.marks:
            self._paint(painter, mark)
        painter.restore()

    def _paint(self, painter: QPainter, mark: Mark) -> None:
        r = theme.roles()
        at = self.at(mark.x, mark.y)
        chosen = mark.balloon == self.current
        alarm = mark.state in ("out", "not found")
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
        near = [m for m in self.marks if (self.at(m.x, m.y) - p).manhattanLength() < BALLOON * 1.3]
        return near[-1] if near else None

    def offer_at(self, p: QPointF) -> Offer | None:
        q = self.mapToScene(p.toPoint())
        found = [o for o in self.offers if o not in self.taken and self.box_of(o).adjusted(-6, -6, 6, 6).contains(q)]
        return min(found, key=lambda o: self.box_of(o).width() * self.box_of(o).height()) if found else None

    def mousePressEvent(self, event: Any) -> None:
        self._press = event.position()
        self.setDragMode(QGraphicsView.DragMode.ScrollHandDrag)
        super().mousePressEvent(event)

    def mouseReleaseEvent(self, event: Any) -> None:
        super().mouseReleaseEvent(event)
        self.setDragMode(QGraphicsView.DragMode.NoDrag)
        p, pressed = event.position(), self._press
        self._press = None
        if pressed is None or (p - pressed).manhattanLength() > CLICK_REACH or self._size.isEmpty():
            return
        mark, offer = self.mark_at(p), self.offer_at(p)
        place = self.mapToScene(p.toPoint())
        x, y = place.x() / self._size.width(), place.y() / self._size.height()
        if mark is not None:
            self.chosen.emit(mark.balloon)
        elif offer is not None:
            self.offered.emit(offer)
        elif 0 <= x <= 1 and 0 <= y <= 1:
            self.pointed.emit(x, y)

    def mouseMoveEvent(self, event: Any) -> None:
        super().mouseMoveEvent(event)
        mark, offer = self.mark_at(event.position()), self.offer_at(event.position())
        if mark is not None:
            self.setToolTip(f"balloon {mark.balloon}: {mark.words}")
        else:
            self.setToolTip(f"{offer.text} — {offer.plain}: click to take it as a callout" if offer else "")

    def wheelEvent(self, event: Any) -> None:
        factor = 1.2 ** (event.angleDelta().y() / 120)
        if self.transform().m11() ** 2 + self.transform().m12() ** 2 > 0.02 or factor > 1:
            self.scale(factor, factor)

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        if not self._size.isEmpty():
            self.fit()
