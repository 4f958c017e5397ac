"""The drawing's own frame: millimetres to pixels, y up; zoom at the pointer, fit.

Pixels are complex numbers too, x + i y with y down, so that the paper needs no toolkit:

    pixel = origin + scale * conj(place)
"""

from __future__ import annotations

from lathed_solid.quantity.tolerances import LINEAR

LEAST, MOST = 1e-3, 1e4
MARGIN = 100


class Paper:
    """``scale`` pixels a mm; ``origin``: pixel of (0, 0); ``size`` of the pane in pixels."""

    def __init__(self) -> None:
        self.scale = 4.0
        self.origin = 200 + 200j
        self.size = (400, 400)
        #: whether it shows all, and is to do so again when the pane changes
        self.fitted = True

    def pixel(self, place: complex) -> complex:
        """Where a place (mm) is drawn."""
        return self.origin + self.scale * place.conjugate()

    def place(self, pixel: complex) -> complex:
        """What place (mm) a pixel shows."""
        return ((pixel - self.origin) / self.scale).conjugate()

    def mm(self, pixels: float) -> float:
        """A length of so many pixels, mm."""
        return pixels / self.scale

    def pan(self, by: complex) -> None:
        """Move the paper by pixels."""
        self.fitted = False
        self.origin += by

    def zoom(self, at: complex, factor: float) -> None:
        """Zoom so that the place under the pixel ``at`` stays."""
        self.fitted = False
        place = self.place(at)
        self.scale = min(MOST, max(LEAST, self.scale * factor))
        self.origin += at - self.pixel(place)

    def fit(self, low: complex, high: complex, margin: int = MARGIN) -> None:
        """Show a box (mm) with a margin in pixels."""
        self.fitted = True
        size = max(high.real - low.real, LINEAR), max(high.imag - low.imag, LINEAR)
        room = [max(s - 2 * margin, 24) for s in self.size]
        self.scale = min(MOST, max(LEAST, min(room[0] / size[0], room[1] / size[1])))
        middle = complex(*self.size) / 2
        self.origin = middle - self.scale * ((low + high) / 2).conjugate()
