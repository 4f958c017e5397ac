"""The drawing's own linework with what it and the model do not explain of each other, to look at and to click.

Wide lines are the outlines that were judged, thin ones the rest of the sheet. A line that the model has not is drawn
over heavily, an edge of the model that is not drawn stands as dots. The piece that was chosen has a frame about it.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPolygonF, QWheelEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken

if TYPE_CHECKING:
    from lathed_solid.sheets.strokes import Linework, Stroke
    from lathed_solid.sheets.witness import Piece, Witness

#: mm about a piece, and about it when it is looked at closely
ROOM, CLOSE = 2.0, 14.0
ZOOM, MOST = 1.25, 40.0


class Overlay(QWidget):
    """Shows one page; ``pointed`` tells which piece was clicked."""

    pointed = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumHeight(180)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(spoken("Drawing laid over the part"))
        self.setToolTip(spoken("Wheel zooms, a drag moves, a double click shows all; click a frame for its row"))
        self._sheet: Linework | None = None
        self._found: Witness | None = None
        self._wide, self._thin = QPainterPath(), QPainterPath()
        self.current: Piece | None = None
        self._scale, self._middle = 1.0, QPointF()
        self._press: QPointF | None = None

    def show_witness(self, sheet: Linework | None, found: Witness | None) -> None:
        """A sheet with what came of it; None for nothing."""
        self._sheet, self._found, self.current = sheet, found, None
        wide: Sequence[Stroke] = ()
        if sheet is not None:
            from lathed_solid.sheets.drawn_views import outlines  # too heavy for the start of a window

            wide = outlines(sheet)
        known = set(map(id, wide))
        self._wide = _path(wide)
        self._thin = _path(s for s in (sheet.strokes if sheet is not None else ()) if id(s) not in known)
        self.fit()

    def fit(self) -> None:
        """All of the page."""
        if self._sheet is not None:
            self._look_at(QRectF(0, 0, self._sheet.width, self._sheet.height))

    def look(self, piece: Piece | None) -> None:
        """One piece, closely."""
        self.current = piece
        if piece is not None:
            left, low, right, high = piece.box
            self._look_at(QRectF(left, low, right - left, high - low).adjusted(-CLOSE, -CLOSE, CLOSE, CLOSE))
        self.update()

    def _look_at(self, area: QRectF) -> None:
        self._middle = area.center()
        across, up = max(area.width(), 1.0), max(area.height(), 1.0)
        self._scale = max(min(self.width() / across, self.height() / up), 0.05) * 0.98
        self.update()

    def _at(self, x: float, y: float) -> QPointF:
        """A place of the page (mm, y up) in the widget."""
        return QPointF(self.width() / 2 + (x - self._middle.x()) * self._scale,
                       self.height() / 2 - (y - self._middle.y()) * self._scale)  # fmt: skip

    def frame(self, piece: Piece) -> QRectF:
        """Where a piece's frame stands in the widget."""
        left, low, right, high = piece.box
        return QRectF(self._at(left - ROOM, high + ROOM), self._at(right + ROOM, low - ROOM))

    def pieces(self) -> list[tuple[Piece, bool]]:
        """All pieces, and whether each is drawn (else it is the model's)."""
        views = self._found.views if self._found is not None else ()
        return [*((p, True) for v in views for p in v.drawn), *((p, False) for v in views for p in v.model)]

    # events --------------------------------------------------------------------------------------
    def paintEvent(self, _: QPaintEvent | None) -> None:
        r, pen = theme.roles(), QPainter(self)
        pen.setRenderHint(QPainter.RenderHint.Antialiasing)
        pen.fillRect(self.rect(), QColor(r.card))
        if self._sheet is None:
            pen.setPen(QColor(r.quiet))
            pen.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, spoken("No drawing is laid over yet."))
            return
        pen.save()
        pen.translate(self.width() / 2, self.height() / 2)
        pen.scale(self._scale, -self._scale)
        pen.translate(-self._middle.x(), -self._middle.y())
        for path, colour, width in ((self._thin, r.line, 1.0), (self._wide, r.ink, 1.4)):
            line = QPen(QColor(colour), width)
            line.setCosmetic(True)
            pen.strokePath(path, line)
        pen.restore()
        for piece, is_drawn in self.pieces():
            # places stand so close that heavy dots make a line; those of the model are thinned to be told apart
            heavy = max(3.0, 0.5 * self._scale) if is_drawn else 2.0
            dots = QPen(QColor(r.out_line if is_drawn else r.brass), heavy)
            dots.setCapStyle(Qt.PenCapStyle.RoundCap)
            pen.setPen(dots)
            some = piece.places if is_drawn else piece.places[:: max(1, round(6 / self._scale / 0.4))]
            pen.drawPoints(QPolygonF([self._at(x, y) for x, y in some.tolist()]))
            if piece is self.current:
                pen.setPen(QPen(QColor(r.ink), 1.2, Qt.PenStyle.DashLine))
                pen.drawRoundedRect(self.frame(piece), 4, 4)

    def resizeEvent(self, event: Any) -> None:
        super().resizeEvent(event)
        if self.current is None:
            self.fit()

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if event is None or self._sheet is None:
            return
        factor = ZOOM if event.angleDelta().y() > 0 else 1 / ZOOM
        scale = min(max(self._scale * factor, 0.05), MOST)
        off = event.position() - QPointF(self.width() / 2, self.height() / 2)
        off.setY(-off.y())
        self._middle += off / self._scale - off / scale
        self._scale = scale
        self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._press = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._press is None:
            return
        by = (event.position() - self._press) / self._scale
        self._middle += QPointF(-by.x(), by.y())
        self._press = event.position()
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._press = None
        if event is None:
            return
        hit = [(not drawn, p.length, p) for p, drawn in self.pieces() if self.frame(p).contains(event.position())]
        if hit:  # what is drawn before what is not, the smaller before the larger
            self.current = min(hit, key=lambda h: h[:2])[2]
            self.pointed.emit(self.current)
            self.update()

    def mouseDoubleClickEvent(self, _: QMouseEvent | None) -> None:
        self.current = None
        self.fit()


def _path(strokes: Any) -> QPainterPath:
    path = QPainterPath()
    for stroke in strokes:
        _add(path, stroke)
    return path


def _add(path: QPainterPath, stroke: Stroke) -> None:
    points = stroke.points.tolist()
    path.moveTo(*points[0])
    for x, y in points[1:]:
        path.lineTo(x, y)
