"""The drawing's paper (``workbench.sketch.paper``) in the toolkit's points."""

from __future__ import annotations

from PyQt6.QtCore import QPointF

from lathed_solid.workbench.sketch.paper import Paper


class PaperFrame:
    """Paints with a paper; what the paper shows is the board's business."""

    def __init__(self, paper: Paper | None = None) -> None:
        self.paper = paper or Paper()

    @property
    def scale(self) -> float:
        """Pixels a mm."""
        return self.paper.scale

    @property
    def origin(self) -> QPointF:
        """The pixel of (0, 0)."""
        return QPointF(self.paper.origin.real, self.paper.origin.imag)

    def pixel(self, z: complex) -> QPointF:
        """Where a place (mm) is drawn."""
        p = self.paper.pixel(z)
        return QPointF(p.real, p.imag)

    def mm(self, pixels: float) -> float:
        """A length of so many pixels, mm."""
        return self.paper.mm(pixels)


def z_of(p: QPointF) -> complex:
    """A pixel as the board takes it."""
    return complex(p.x(), p.y())
