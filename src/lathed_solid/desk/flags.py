"""Flags over the solid: a callout's number, note and verdict, each with a leader to its face.

Flags with words are moved down until none covers another; bare balloons look for the nearest free place about their
face, away from the middle of the view, and always face the reader.
"""

from __future__ import annotations

import math
from typing import Any, Protocol

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.workbench.flags import Flag, Measure

MOST = 120
#: radius of a bare balloon, and the rings about its face on which a place is looked for, pixels
BALLOON, RINGS = 9.5, (24, 40, 58, 80, 104)


class Solid(Protocol):
    """The view beneath: its scene, once it stands, and what is cut away."""

    scene: Any

    @property
    def waiting(self) -> bool: ...

    def cut_away(self, point: tuple[float, float, float]) -> bool: ...


class Flags(QWidget):
    """Labels over the view, each with a leader to its face; moved apart so that none covers another."""

    def __init__(self, pane: QWidget, view: Solid) -> None:
        super().__init__(pane)
        self.view = view
        self.flags: list[Flag] = []
        self.measures: list[Measure] = []
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)

    def paintEvent(self, event: Any) -> None:
        scene = self.view.scene
        if scene is None:
            self._say_none()
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(13))
        ratio = self.devicePixelRatioF()
        taken: list[QRectF] = []
        for m in self.measures:
            ends = [QPointF(*(v / ratio for v in scene.project(p))) for p in (m.start, m.end)]
            taken.append(self._measure(painter, ends[0], ends[1], m.text))
        # words first: balloons give way to them
        for flag in sorted(self.flags, key=lambda f: not f.text)[:MOST]:
            anchor = flag.at or scene.anchor(flag.face)
            if anchor is None or (not flag.text and self.view.cut_away(anchor)):
                continue
            x, y = scene.project(anchor)
            at = QPointF(x / ratio, y / ratio)
            if flag.text:
                self._paint(painter, flag, at, taken)
            else:
                self._balloon(painter, flag.head, at, taken)
        painter.end()

    @staticmethod
    def _measure(painter: QPainter, a: QPointF, b: QPointF, text: str) -> QRectF:
        """A dimension line with its arrowheads, and its size on it; the rectangle of the size."""
        r = theme.roles()
        painter.setPen(QPen(QColor(r.ink), 1.2))
        painter.setBrush(QColor(r.ink))
        painter.drawLine(a, b)
        turn = math.atan2(b.y() - a.y(), b.x() - a.x())
        for at, way in ((a, turn), (b, turn + math.pi)):
            wings = [QPointF(9 * math.cos(way + w), 9 * math.sin(way + w)) for w in (-0.18, 0.18)]
            painter.drawPolygon(QPolygonF([at, at + wings[0], at + wings[1]]))
        box = QRectF(0, 0, painter.fontMetrics().horizontalAdvance(text) + 10, 20)
        box.moveCenter((a + b) / 2)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(QColor(r.card))
        painter.drawRect(box)
        painter.setPen(QColor(r.ink))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, text)
        return box

    def _balloon(self, painter: QPainter, number: str, at: QPointF, taken: list[QRectF]) -> None:
        middle = QPointF(self.width() / 2, self.height() / 2)
        box = free_place(at, middle, QRectF(self.rect()), taken)
        if box is None:
            return
        taken.append(box)
        r = theme.roles()
        away = box.center() - at
        reach = math.hypot(away.x(), away.y())
        painter.setPen(QPen(QColor(r.quiet), 0.9))
        painter.drawLine(at, box.center() - away * (BALLOON / max(reach, LINEAR)))
        painter.setBrush(QColor(r.quiet))
        painter.drawEllipse(at, 1.6, 1.6)
        painter.setBrush(QColor(r.card))
        painter.setPen(QPen(QColor(r.ink), 1.1))
        painter.drawEllipse(box.center(), BALLOON, BALLOON)
        painter.setFont(theme.narrow(11, theme.QFont.Weight.Medium))
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, number)
        painter.setFont(theme.font(13))

    def _paint(self, painter: QPainter, flag: Flag, at: QPointF, taken: list[QRectF]) -> None:
        r = theme.roles()
        metrics = painter.fontMetrics()
        number, words = spoken(flag.head), spoken(flag.text)
        head = metrics.horizontalAdvance(number) + 12
        width, height = head + metrics.horizontalAdvance(words) + 18, 28.0
        left = min(max(8.0, at.x() + 24), self.width() - width - 8)
        top = min(max(8.0, at.y() + 72), self.height() - height - 8)
        box = QRectF(left, top, width, height)
        while any(box.intersects(t) for t in taken) and box.bottom() + height + 6 < self.height():
            box.translate(0, height + 6)
        taken.append(box)
        colour = QColor(r.out_line if flag.alarm else r.quiet)
        painter.setPen(QPen(colour, 1.2))
        painter.drawLine(at, QPointF(box.left() + 12, box.top()))
        painter.setBrush(colour)
        painter.drawEllipse(at, 2.5, 2.5)
        painter.setBrush(QColor(r.card))
        painter.drawRect(box)
        if flag.alarm:
            painter.fillRect(QRectF(box.left(), box.top(), 4, height), colour)
        painter.setPen(QColor(r.ink))
        bold = painter.font()
        bold.setBold(True)
        plain = painter.font()
        painter.setFont(bold)
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(box.adjusted(12, 0, 0, 0), middle, number)
        painter.setFont(plain)
        painter.drawText(box.adjusted(head + 8, 0, 0, 0), middle, words)

    def _say_none(self) -> None:
        painter = QPainter(self)
        painter.setPen(QColor(theme.roles().quiet))
        words = "The 3D view is coming." if self.view.waiting else "No 3D view here; tables and proof work."
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, spoken(words))
        painter.end()


def free_place(at: QPointF, middle: QPointF, room: QRectF, taken: list[QRectF]) -> QRectF | None:
    """The first free box for a balloon about ``at``: on widening rings, away from ``middle`` first; None when full."""
    out = math.atan2(at.y() - middle.y(), at.x() - middle.x())
    for ring in RINGS:
        for k in range(12):
            turn = out + (k + 1) // 2 * (1 if k % 2 else -1) * math.pi / 6
            box = QRectF(0, 0, 2 * BALLOON + 2, 2 * BALLOON + 2)
            box.moveCenter(at + QPointF(ring * math.cos(turn), ring * math.sin(turn)))
            if room.contains(box) and not any(box.intersects(t) for t in taken):
                return box
    return None
