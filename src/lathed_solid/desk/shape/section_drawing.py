"""The half section, drawn live and dimensioned as on a sheet: hatched above the axis, dashed below.

Balloons and diameters stand over their stations, the chain of lengths below; a length that no callout
drives stands in parentheses, as a reference dimension does.
"""

from __future__ import annotations

import math
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF
from PyQt6.QtWidgets import QToolTip, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.part import Document, TurnedStep
from lathed_solid.quantity.formatting import length
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.turned import HalfSection, Segment
from lathed_solid.workbench.section_labels import Label, labels, lengths

MARGIN = 28.0
#: height of a row of length dimensions, and of a label without and with its balloon
ROW, TEXT_HEIGHT, BALLOON_HEIGHT = 19.0, 17.0, 38.0


class SectionDrawing(QWidget):
    """Emits the row (from 0) of the station clicked or hovered (-1: none)."""

    station_clicked = pyqtSignal(int)
    station_hovered = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setMinimumHeight(190)
        self.setMouseTracking(True)
        self.setAccessibleName(spoken("Half section"))
        self.section: HalfSection | None = None
        self.document: Document | None = None
        self.step: TurnedStep | None = None
        self.problem = ""
        self.current = -1
        self._hover = -1

    def show_section(self, document: Document, step: TurnedStep, section: HalfSection | None, problem: str) -> None:
        """Draw this section; with None the last good one stays, and the problem is said."""
        self.document, self.step, self.problem = document, step, problem
        if section is not None:
            self.section = section
        self.update()

    def clear(self) -> None:
        """Nothing to draw."""
        self.section = self.step = self.document = None
        self.problem = ""
        self.update()

    def set_current(self, row: int) -> None:
        """Light up the stretch of a station."""
        self.current = row
        self.update()

    # geometry ----------------------------------------------------------------------------------
    def _frame(self) -> tuple[float, float, float]:
        """(pixels a mm, x of z = 0, y of the axis)."""
        assert self.section is not None
        s = self.section
        rows = self._length_rows()
        top, bottom = 68.0, 18.0 + ROW * rows
        scale = min((self.width() - 2 * MARGIN) / s.length, (self.height() - top - bottom) / (2 * s.max_radius))
        scale = max(scale, 1e-3)
        used = 2 * s.max_radius * scale
        y = top + (self.height() - top - bottom - used) / 2 + used / 2
        return scale, (self.width() - s.length * scale) / 2, y

    def _length_rows(self) -> int:
        assert self.section is not None and self.step is not None
        return 2 + sum(1 for s in self.step.table.stations if s.to is not None)

    def _row_at(self, x: float) -> int:
        if self.section is None:
            return -1
        scale, x0, _ = self._frame()
        z = (x - x0) / scale
        for stretch in self.section.stretches:
            if stretch.z0 <= z <= stretch.z1:
                return stretch.number - 1
        return -1

    # painting ----------------------------------------------------------------------------------
    def paintEvent(self, event: Any) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.section is None or self.step is None or self.document is None:
            painter.setPen(QColor(theme.roles().quiet))
            words = spoken(self.problem or "No turned table yet: Ctrl+T adds one.")
            painter.drawText(
                self.rect().adjusted(24, 8, -24, -8),
                int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap),
                words,
            )
            painter.end()
            return
        self._paint_section(painter)
        self._paint_labels(painter)
        self._paint_lengths(painter)
        if self.problem:
            self._paint_problem(painter)
        painter.end()

    def _path(self, mirrored: bool) -> QPainterPath:
        assert self.section is not None
        scale, x0, y0 = self._frame()
        sign = 1 if mirrored else -1
        path = QPainterPath()
        for i, s in enumerate(self.section.segments):
            points = _polyline(s)
            for j, (z, r) in enumerate(points):
                p = QPointF(x0 + z * scale, y0 + sign * r * scale)
                if i == 0 and j == 0:
                    path.moveTo(p)
                else:
                    path.lineTo(p)
        path.closeSubpath()
        return path

    def _paint_section(self, painter: QPainter) -> None:
        assert self.section is not None
        r = theme.roles()
        scale, x0, y0 = self._frame()
        upper = self._path(False)
        painter.fillPath(upper, QColor(r.card))
        painter.save()
        painter.setClipPath(upper)
        for row, colour in ((self._hover, r.tint), (self.current, r.tint)):
            if 0 <= row < len(self.section.stretches):
                s = self.section.stretches[row]
                painter.fillRect(QRectF(x0 + s.z0 * scale, 0, (s.z1 - s.z0) * scale, self.height()), QColor(colour))
        painter.setPen(QPen(QColor(r.hatch), 1))
        reach = self.height()
        x = x0 - reach
        while x < x0 + self.section.length * scale + reach:
            painter.drawLine(QPointF(x, y0), QPointF(x + reach, y0 - reach))
            x += 8
        painter.restore()
        painter.setPen(QPen(QColor(r.quiet), 1, Qt.PenStyle.DashLine))
        painter.drawPath(self._path(True))
        painter.setPen(QPen(QColor(r.ink), 1.8, join=Qt.PenJoinStyle.MiterJoin))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPath(upper)
        for a, b in zip(self.section.stretches, self.section.stretches[1:], strict=False):
            low, _high = sorted((a.r1, b.r0))
            painter.setPen(QPen(QColor(r.ink), 0.8))
            painter.drawLine(QPointF(x0 + a.z1 * scale, y0), QPointF(x0 + a.z1 * scale, y0 - low * scale))
        axis = QPen(QColor(r.brass), 1.2)
        axis.setDashPattern([14, 4, 3, 4])
        painter.setPen(axis)
        painter.drawLine(QPointF(x0 - 18, y0), QPointF(x0 + self.section.length * scale + 18, y0))

    def _paint_labels(self, painter: QPainter) -> None:
        assert self.section is not None and self.document is not None and self.step is not None
        r = theme.roles()
        scale, x0, y0 = self._frame()
        painter.setFont(theme.drawing(14))
        taken = [
            QRectF(
                x0 + s.z0 * scale,
                y0 - max(s.r0, s.r1) * scale,
                (s.z1 - s.z0) * scale,
                max(s.r0, s.r1) * scale,
            )
            for s in self.section.stretches
        ]
        base = y0 - self.section.max_radius * scale
        for label in labels(self.document, self.step, self.section):
            x = x0 + label.z * scale
            top = y0 - label.r * scale
            box = self._place(painter, label, x, min(top - 8, base - 4 if label.high else top - 8), taken)
            painter.setPen(QPen(QColor(r.quiet), 0.8))
            painter.drawLine(QPointF(x, box.bottom()), QPointF(x, top))
            painter.setPen(QColor(r.ink))
            painter.drawText(
                QRectF(box.left(), box.bottom() - 18, box.width(), 18),
                Qt.AlignmentFlag.AlignCenter,
                label.text,
            )
            if label.balloon:
                self._balloon(painter, QPointF(box.center().x(), box.top() + 10), label.balloon)

    def _place(self, painter: QPainter, label: Label, x: float, bottom: float, taken: list[QRectF]) -> QRectF:
        """A free box over the place: as low as it goes, moved sideways before it is moved up."""
        width = painter.fontMetrics().horizontalAdvance(label.text) + 8.0
        height = BALLOON_HEIGHT if label.balloon else TEXT_HEIGHT
        best = QRectF()
        for lift in range(0, 120, 6):
            for shift in (0, -0.3, 0.3, -0.6, 0.6, -1.0, 1.0):
                left = min(max(2.0, x - width / 2 + shift * width), self.width() - width - 2)
                box = QRectF(left, max(2.0, bottom - height - lift), width, height)
                best = box if best.isNull() else best
                if not any(box.intersects(t) for t in taken):
                    taken.append(box)
                    return box
        taken.append(best)
        return best

    def _balloon(self, painter: QPainter, centre: QPointF, text: str) -> None:
        r = theme.roles()
        keep = painter.font()
        painter.setFont(theme.narrow(11, theme.QFont.Weight.DemiBold))
        painter.setPen(QPen(QColor(r.brass), 1.4))
        painter.setBrush(QColor(r.card))
        painter.drawEllipse(centre, 10, 10)
        painter.setPen(QColor(r.brass_ink))
        painter.drawText(QRectF(centre.x() - 12, centre.y() - 10, 24, 20), Qt.AlignmentFlag.AlignCenter, text)
        painter.setFont(keep)

    def _paint_lengths(self, painter: QPainter) -> None:
        assert self.section is not None and self.document is not None and self.step is not None
        r = theme.roles()
        scale, x0, y0 = self._frame()
        foot = y0 + self.section.max_radius * scale
        painter.setFont(theme.drawing(13))
        for dim in lengths(self.document, self.step, self.section):
            y = foot + 20 + dim.row * ROW
            a, b = x0 + dim.z0 * scale, x0 + dim.z1 * scale
            painter.setPen(QPen(QColor(r.line), 1))
            for x, z in ((a, dim.z0), (b, dim.z1)):
                painter.drawLine(QPointF(x, y0 + self._radius_at(z) * scale + 3), QPointF(x, y + 4))
            pen = QPen(QColor(r.quiet), 1)
            painter.setPen(pen)
            painter.drawLine(QPointF(a, y), QPointF(b, y))
            if b - a > 16:
                for x, way in ((a, 1), (b, -1)):
                    tip = QPolygonF([QPointF(x, y), QPointF(x + 7 * way, y - 2.2), QPointF(x + 7 * way, y + 2.2)])
                    painter.setBrush(QColor(r.quiet))
                    painter.drawPolygon(tip)
            painter.setPen(QColor(r.ink if dim.driven else r.quiet))
            painter.drawText(QRectF((a + b) / 2 - 60, y - 16, 120, 16), Qt.AlignmentFlag.AlignCenter, dim.text)

    def _radius_at(self, z: float) -> float:
        assert self.section is not None
        reach = [
            s.r0 if abs(z - s.z0) < ROUNDING else s.r1
            for s in self.section.stretches
            if abs(z - s.z0) < ROUNDING or abs(z - s.z1) < ROUNDING
        ]
        return max(reach, default=0.0)

    def _paint_problem(self, painter: QPainter) -> None:
        r = theme.roles()
        painter.setFont(theme.font(13))
        box = QRectF(12, 8, self.width() - 24, 44)
        painter.fillRect(box, QColor(r.out))
        painter.setPen(QPen(QColor(r.out_line), 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(box)
        painter.setPen(QColor(r.ink))
        flags = int(Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap)
        painter.drawText(box.adjusted(10, 2, -10, -2), flags, spoken(self.problem))

    # pointer -----------------------------------------------------------------------------------
    def mouseMoveEvent(self, event: Any) -> None:
        row = self._row_at(event.position().x())
        if row != self._hover:
            self._hover = row
            self.station_hovered.emit(row)
            self.update()
        if row >= 0 and self.section is not None and self.document is not None:
            s = self.section.stretches[row]
            unit = self.document.unit
            words = f"station {row + 1}: ⌀{length(2 * s.r0, unit)}, {length(s.z1 - s.z0, unit)} {unit} long"
            QToolTip.showText(event.globalPosition().toPoint(), words, self)

    def leaveEvent(self, event: Any) -> None:
        self._hover = -1
        self.station_hovered.emit(-1)
        self.update()

    def mousePressEvent(self, event: Any) -> None:
        row = self._row_at(event.position().x())
        if row >= 0:
            self.station_clicked.emit(row)


def _polyline(s: Segment) -> list[tuple[float, float]]:
    """Points from the start on, arcs in twelve chords, the end left to the next segment."""
    if s.centre is None:
        return [s.start]
    a0 = math.atan2(s.start[1] - s.centre[1], s.start[0] - s.centre[0])
    a1 = math.atan2(s.end[1] - s.centre[1], s.end[0] - s.centre[0])
    turn = (a1 - a0 + math.pi) % (2 * math.pi) - math.pi
    return [
        (
            s.centre[0] + s.radius * math.cos(a0 + turn * k / 12),
            s.centre[1] + s.radius * math.sin(a0 + turn * k / 12),
        )
        for k in range(12)
    ]
