"""The view net: the unfolded box of the drawing's projection; a click turns the solid.

In third-angle projection the view from the right stands at the right; in first angle at the left, and the
top view below (ISO 5456-2).
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QToolTip, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken

CELL_W, CELL_H, GAP = 40.0, 26.0, 4.0

#: name -> (column, row) in third-angle projection; the front is at (1, 1)
THIRD = {"front": (1, 1), "top": (1, 0), "bottom": (1, 2), "left": (0, 1), "right": (2, 1), "back": (3, 1)}
FIRST = {"front": (1, 1), "top": (1, 2), "bottom": (1, 0), "left": (2, 1), "right": (0, 1), "back": (3, 1)}
ISO = {"iso left": (0, 2), "iso right": (2, 2)}


class ViewNet(QWidget):
    """Emits the name of the view."""

    chosen = pyqtSignal(str)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedSize(int(4 * (CELL_W + GAP)), int(3 * (CELL_H + GAP)))
        self.setMouseTracking(True)
        self.projection = "first"
        self.current = "iso left"
        self._hover = ""
        self.setAccessibleName(spoken("View net"))

    def cells(self) -> dict[str, QRectF]:
        """Where each view stands."""
        places = {**(THIRD if self.projection == "third" else FIRST), **ISO}
        return {n: QRectF(c * (CELL_W + GAP), r * (CELL_H + GAP), CELL_W, CELL_H) for n, (c, r) in places.items()}

    def set_projection(self, projection: str) -> None:
        """First or third angle."""
        self.projection = projection
        self.update()

    def set_current(self, name: str) -> None:
        """The view that is shown."""
        self.current = name
        self.update()

    def paintEvent(self, event: Any) -> None:
        r = theme.roles()
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setFont(theme.narrow(11))
        for name, box in self.cells().items():
            plain = name in ISO
            on = name in (self.current, self._hover)
            p.setPen(Qt.PenStyle.NoPen if plain and not on else QPen(QColor(r.quiet), 1))
            p.setBrush(QColor(r.tint if on else r.card) if not plain or on else Qt.BrushStyle.NoBrush)
            p.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5))
            p.setPen(QColor(r.ink))
            words = {"iso left": "↖ iso", "iso right": "iso ↗"}.get(name, name)
            p.drawText(box, Qt.AlignmentFlag.AlignCenter, spoken(words, "view"))
        p.end()

    def _at(self, point: QPointF) -> str:
        return next((n for n, box in self.cells().items() if box.contains(point)), "")

    def mouseMoveEvent(self, event: Any) -> None:
        self._hover = self._at(event.position())
        if self._hover:
            QToolTip.showText(event.globalPosition().toPoint(), f"{self._hover} view ({self.projection} angle)", self)
        self.update()

    def leaveEvent(self, event: Any) -> None:
        self._hover = ""
        self.update()

    def mousePressEvent(self, event: Any) -> None:
        name = self._at(event.position())
        if name:
            self.set_current(name)
            self.chosen.emit(name)
