"""A tolerance stack as a bar diagram: at the left the sizes one after another, at the right what each may stray.

The scale of the right half is its own: a tenth beside a hundred would not be seen. Beneath stand the sums, worst case
and root of squares.
"""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import paint_balloon
from lathed_solid.ledger.chains import Stack
from lathed_solid.quantity import LengthUnit
from lathed_solid.quantity.formatting import angle, length
from lathed_solid.quantity.tolerances import NOTHING

ROW, HEAD = 22, 20
SIGNS, NUMBER = 40, 62


class StackView(QWidget):
    """Paints one stack; nothing when there is none."""

    def __init__(self) -> None:
        super().__init__()
        self.stack: Stack | None = None
        self.unit: LengthUnit = "mm"
        self.turning = False
        self.setAccessibleName(spoken("tolerance stack"))

    def show_stack(self, stack: Stack | None, unit: LengthUnit, *, turning: bool = False) -> None:
        """Draw a stack of tolerances; None hides it. ``turning``: in rad."""
        self.stack, self.unit, self.turning = stack, unit, turning
        self.setVisible(stack is not None)
        self.setFixedHeight(self.sizeHint().height())
        self.update()

    def sizeHint(self) -> QSize:
        rows = len(self.stack.bars) + 3 if self.stack is not None else 0
        return QSize(400, HEAD + rows * ROW + 6 if rows else 0)

    def _show(self, value: float) -> str:
        return angle(value, 3) if self.turning else length(value, self.unit)

    def paintEvent(self, event: Any) -> None:
        s = self.stack
        if s is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        r = theme.roles()
        half = (self.width() - SIGNS) / 2
        run = QRectF(SIGNS, HEAD, half - NUMBER, ROW)
        stray = QRectF(SIGNS + half, HEAD, half - NUMBER, ROW)
        painter.setFont(theme.narrow(11))
        painter.setPen(QColor(r.quiet))
        painter.drawText(QRectF(run.left(), 0, half, HEAD), Qt.AlignmentFlag.AlignVCenter, "one after another")
        painter.drawText(QRectF(stray.left(), 0, half, HEAD), Qt.AlignmentFlag.AlignVCenter, "what each may stray")
        ends = [0.0]
        for bar in s.bars:
            ends.append(ends[-1] + bar.nominal)
        low, high = min(ends), max(ends)
        wide = max((s.high - s.low) / 2, NOTHING)
        for n, bar in enumerate(s.bars):
            y = HEAD + n * ROW
            paint_balloon(painter, QRectF(2, y, SIGNS, ROW), str(bar.balloon))
            self._bar(
                painter, run.translated(0, n * ROW), (low, high), min(ends[n : n + 2]), max(ends[n : n + 2]), r.brass
            )
            sign = "" if bar.nominal >= 0 else "− "
            self._number(painter, run.right(), y, sign + self._show(abs(bar.nominal)))
            self._bar(painter, stray.translated(0, n * ROW), (-wide, wide), bar.low - (bar.low + bar.high) / 2,
                      bar.high - (bar.low + bar.high) / 2, r.quiet)  # fmt: skip
            self._number(painter, stray.right(), y, f"± {self._show((bar.high - bar.low) / 2)}")
        n = len(s.bars)
        painter.setPen(QPen(QColor(r.ink), 1.0))
        painter.drawLine(round(run.left()), HEAD + n * ROW, self.width() - 4, HEAD + n * ROW)
        self._bar(painter, run.translated(0, n * ROW), (low, high), min(0.0, s.nominal), max(0.0, s.nominal), r.ink)
        self._number(painter, run.right(), HEAD + n * ROW, self._show(s.nominal), strong=True)
        rows = (("worst case", (s.high - s.low) / 2, s.low, s.high),
                ("root of squares", s.root, s.middle - s.root, s.middle + s.root))  # fmt: skip
        for k, (words, reach, least, most) in enumerate(rows, n + 1):
            y = HEAD + k * ROW
            self._bar(painter, stray.translated(0, k * ROW), (-wide, wide), -reach, reach, r.ink)
            self._number(painter, stray.right(), y, f"± {self._show(reach)}", strong=True)
            painter.setPen(QColor(r.ink))
            text = QRectF(2, y, half + SIGNS, ROW)
            painter.setFont(theme.narrow(12))
            painter.drawText(text, Qt.AlignmentFlag.AlignVCenter, f"{words}: {self._show(least)} to {self._show(most)}")
        painter.end()

    @staticmethod
    def _bar(painter: QPainter, box: QRectF, reach: tuple[float, float], low: float, high: float, colour: str) -> None:
        whole = max(reach[1] - reach[0], NOTHING)
        left = box.left() + (low - reach[0]) / whole * box.width()
        width = max((high - low) / whole * box.width(), 1.5)
        painter.fillRect(QRectF(left, box.top() + 6, width, ROW - 12), QColor(colour))

    @staticmethod
    def _number(painter: QPainter, left: float, top: float, text: str, *, strong: bool = False) -> None:
        painter.setFont(theme.font(12, theme.QFont.Weight.DemiBold if strong else theme.QFont.Weight.Normal))
        painter.setPen(QColor(theme.roles().ink))
        painter.drawText(
            QRectF(left, top, NUMBER - 4, ROW), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text
        )
