"""The pane's own frame: millimetres to pixels, y up; zoom at the pointer, fit."""

from __future__ import annotations

from PyQt6.QtCore import QPointF

LEAST, MOST = 1e-3, 1e4


class Frame:
    """``scale`` pixels a mm; ``origin``: pixel of (0, 0)."""

    def __init__(self) -> None:
        self.scale = 4.0
        self.origin = QPointF(200.0, 200.0)

    def pixel(self, z: complex) -> QPointF:
        return QPointF(self.origin.x() + z.real * self.scale, self.origin.y() - z.imag * self.scale)

    def place(self, p: QPointF) -> complex:
        return complex((p.x() - self.origin.x()) / self.scale, (self.origin.y() - p.y()) / self.scale)

    def mm(self, pixels: float) -> float:
        return pixels / self.scale

    def zoom(self, at: QPointF, factor: float) -> None:
        """Zoom so that the place under ``at`` stays."""
        place = self.place(at)
        self.scale = min(MOST, max(LEAST, self.scale * factor))
        moved = self.pixel(place)
        self.origin += at - moved

    def fit(self, low: complex, high: complex, width: int, height: int, margin: int = 84) -> None:
        """Show a box with a margin in pixels."""
        size = max(high.real - low.real, 1e-6), max(high.imag - low.imag, 1e-6)
        room = max(width - 2 * margin, 24), max(height - 2 * margin, 24)
        self.scale = min(MOST, max(LEAST, min(room[0] / size[0], room[1] / size[1])))
        middle = (low + high) / 2
        self.origin = QPointF(width / 2 - middle.real * self.scale, height / 2 + middle.imag * self.scale)
