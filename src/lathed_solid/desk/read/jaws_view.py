"""How the caliper is held, drawn: the part cut (hatched), the jaws or the rod, and an arrow where the size shows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QBrush, QColor, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.ledger import Way

Outline = Sequence[tuple[float, float]]

#: in a field of 150 x 96: the part's outlines, the caliper's, and the size's arrow from, to
FIGURES: dict[str, tuple[tuple[Outline, ...], tuple[Outline, ...], tuple[float, float, float, float]]] = {
    "outside": (
        (((50, 46), (100, 46), (100, 90), (50, 90)),),
        (
            ((14, 8), (146, 8), (146, 20), (14, 20)),
            ((36, 20), (50, 20), (50, 78), (44, 78), (36, 52)),
            ((100, 20), (122, 20), (114, 52), (106, 78), (100, 78)),
        ),
        (50, 62, 100, 62),
    ),
    "inside": (
        (((10, 46), (44, 46), (44, 90), (10, 90)), ((106, 46), (140, 46), (140, 90), (106, 90))),
        (
            ((14, 8), (146, 8), (146, 20), (14, 20)),
            ((52, 20), (60, 20), (56, 52), (50, 80), (44, 80), (44, 52)),
            ((90, 20), (98, 20), (106, 52), (106, 80), (100, 80), (94, 52)),
        ),
        (44, 66, 106, 66),
    ),
    "depth": (
        (((18, 40), (62, 40), (62, 82), (88, 82), (88, 40), (132, 40), (132, 92), (18, 92)),),
        (((50, 6), (100, 6), (100, 40), (50, 40)), ((71, 40), (79, 40), (79, 82), (71, 82))),
        (84, 40, 84, 82),
    ),
    "step": (
        (((14, 84), (14, 62), (74, 62), (74, 34), (136, 34), (136, 84)),),
        (
            ((40, 4), (118, 4), (118, 14), (40, 14)),
            ((92, 14), (118, 14), (118, 34), (92, 34)),
            ((48, 14), (66, 14), (66, 62), (48, 62)),
        ),
        (84, 34, 84, 62),
    ),
}
FIELD = QSize(150, 100)


class JawsView(QWidget):
    """Shows one of the four ways."""

    def __init__(self) -> None:
        super().__init__()
        self.way: Way = "outside"
        self.setFixedSize(FIELD)

    def show_way(self, way: Way) -> None:
        """Draw how the caliper is held for a way of measuring."""
        self.way = way
        self.setAccessibleName(spoken(f"how to hold the caliper: {way}"))
        self.update()

    def paintEvent(self, event: Any) -> None:
        r = theme.roles()
        part, caliper, (x0, y0, x1, y1) = FIGURES[self.way]
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for outline in part:
            polygon = QPolygonF([QPointF(x, y) for x, y in outline])
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QBrush(QColor(r.quiet), Qt.BrushStyle.BDiagPattern))
            painter.drawPolygon(polygon)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(QColor(r.ink), 1.6))
            painter.drawPolygon(polygon)
        painter.setPen(QPen(QColor(r.brass), 1.4))
        painter.setBrush(QColor(r.tint))
        for outline in caliper:
            painter.drawPolygon(QPolygonF([QPointF(x, y) for x, y in outline]))
        painter.setPen(QPen(QColor(r.ink), 1.2))
        painter.setBrush(QColor(r.ink))
        level = y0 == y1
        painter.fillRect(QRectF(x0, y0 - 2, x1 - x0, 4) if level else QRectF(x0 - 2, y0, 4, y1 - y0), QColor(r.paper))
        painter.drawLine(QPointF(x0, y0), QPointF(x1, y1))
        for x, y, s in ((x0, y0, 1), (x1, y1, -1)):
            tip = [(0.0, 0.0), (6.0 * s, 2.4), (6.0 * s, -2.4)]
            painter.drawPolygon(QPolygonF([QPointF(x + u, y + v) if level else QPointF(x + v, y + u) for u, v in tip]))
        painter.end()
