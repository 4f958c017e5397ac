"""A travel as a curve: clearance over the driven number, and where something overlaps on the way."""

from __future__ import annotations

import math
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.quantity.formatting import trim

LEFT, RIGHT, TOP, BOTTOM = 46, 10, 10, 22


class Curve(QWidget):
    """``values`` are the driven number as it is shown; emits the index of the moment that is pointed at."""

    moment = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.values: tuple[float, ...] = ()
        self.clearances: tuple[float, ...] = ()
        self.overlaps: tuple[float, ...] = ()
        self.unit = "°"
        self.at: int | None = None
        self.setMouseTracking(True)
        self.setAccessibleName(spoken("clearance over the travel"))
        self.setMinimumHeight(130)

    def show_travel(self, values: tuple[float, ...], clearances: tuple[float, ...], overlaps: tuple[float, ...],
                    unit: str) -> None:  # fmt: skip
        """``clearances`` (mm) of the chosen pair, none when none was asked for; ``overlaps`` (mm3) of all together."""
        self.values, self.clearances, self.overlaps, self.unit = values, clearances, overlaps, unit
        self.at = None
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, 150)

    def _x(self, i: int) -> float:
        width = self.width() - LEFT - RIGHT
        low, high = min(self.values), max(self.values)
        return LEFT + width * (self.values[i] - low) / max(high - low, 1e-12)

    def paintEvent(self, event: Any) -> None:
        r = theme.roles()
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(LEFT, TOP, self.width() - LEFT - RIGHT, self.height() - TOP - BOTTOM)
        painter.setFont(theme.narrow(11))
        painter.setPen(QPen(QColor(r.line), 1))
        painter.drawRect(area)
        if len(self.values) < 2:
            painter.setPen(QColor(r.quiet))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "no travel yet")
            return
        if not self.clearances:
            painter.setPen(QColor(r.quiet))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "choose two members above for their clearance")
        finite = [c for c in self.clearances if math.isfinite(c)]
        top = max(finite, default=0.0) or 1.0
        wide = area.width() / max(len(self.values) - 1, 1)
        for i, volume in enumerate(self.overlaps):
            if volume > 0:
                strip = QRectF(self._x(i) - wide / 2, area.top(), wide, area.height())
                painter.fillRect(strip & area, QColor(r.out))
        if finite:
            line = [QPointF(self._x(i), area.bottom() - area.height() * c / top) for i, c in enumerate(self.clearances)]
            painter.setPen(QPen(QColor(r.ink), 1.6))
            painter.drawPolyline(QPolygonF(line))
            painter.setPen(QColor(r.quiet))
            for level, text in ((area.top(), trim(top, 3)), (area.bottom(), "0")):
                box = QRectF(0, level - 8, LEFT - 6, 16)
                painter.drawText(box, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)
        painter.setPen(QColor(r.quiet))
        for i, side in ((0, Qt.AlignmentFlag.AlignLeft), (len(self.values) - 1, Qt.AlignmentFlag.AlignRight)):
            painter.drawText(QRectF(LEFT, area.bottom() + 2, area.width(), 18), side,
                             f"{trim(self.values[i], 2)}{self.unit}")  # fmt: skip
        if self.at is not None:
            painter.setPen(QPen(QColor(r.brass), 1.4))
            painter.drawLine(QPointF(self._x(self.at), area.top()), QPointF(self._x(self.at), area.bottom()))
            painter.setPen(QColor(r.ink))
            painter.drawText(QRectF(LEFT, area.bottom() + 2, area.width(), 18), Qt.AlignmentFlag.AlignHCenter,
                             self._told(self.at))  # fmt: skip
        painter.end()

    def _told(self, i: int) -> str:
        said = [f"{trim(self.values[i], 2)}{self.unit}"]
        if self.clearances:
            said.append(f"clearance {trim(self.clearances[i], 3)}")
        if self.overlaps and self.overlaps[i] > 0:
            said.append(f"overlap {trim(self.overlaps[i], 1)} mm³")
        return " · ".join(said)

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or len(self.values) < 2:
            return
        x = event.position().x()
        self.at = min(range(len(self.values)), key=lambda i: abs(self._x(i) - x))
        self.moment.emit(self.at)
        self.update()
