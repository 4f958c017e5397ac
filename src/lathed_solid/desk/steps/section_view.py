"""The section of a step above its form: drawn to scale, its dimensions lead to the fields, usual sizes fill them."""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QSizePolicy, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.workbench.step_forms.section import SectionSize, StepSection

HEIGHT = 210
#: room about the figure for its dimensions, and between two lines of them, pixels
SIDE, TOP, FOOT, ROW = 74.0, 40.0, 26.0, 26.0


class SectionView(QWidget):
    """Emits the path of a dimension that was clicked."""

    asked = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.section: StepSection | None = None
        self._boxes: list[tuple[QRectF, str]] = []
        self._lit = ""
        self.setFixedHeight(HEIGHT)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(spoken("Section"))

    def show_section(self, section: StepSection | None) -> None:
        """Draw this one; None hides the view."""
        self.section = section
        self.setVisible(section is not None)
        self.setAccessibleDescription(spoken(", ".join(s.text for s in section.sizes) if section is not None else ""))
        self.update()

    def place_of(self, path: str) -> QPointF | None:
        """Where the dimension of a field stands; None before it is drawn."""
        return next((box.center() for box, p in self._boxes if p == path), None)

    # painting --------------------------------------------------------------------------------------
    def paintEvent(self, _event: QPaintEvent | None) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._boxes = []
        if self.section is not None:
            self._paint(p, self.section)
        p.end()

    def _paint(self, p: QPainter, s: StepSection) -> None:
        r = theme.roles()
        xs, ys = zip(*s.outline, strict=True)
        left, right = (min(xs), max(xs)) if s.along else (-max(xs), max(xs))
        low, high = min(ys), max(ys)
        width, height = self.width() - 2 * SIDE, self.height() - TOP - FOOT
        self._scale = min(width / (right - left), height / (high - low))
        self._x = self.width() / 2 - (left + right) / 2 * self._scale
        self._y = TOP - low * self._scale + (height - (high - low) * self._scale) / 2
        for sign in (1,) if s.along else (1, -1):
            path = QPainterPath()
            for k, (x, y) in enumerate(s.outline):
                (path.lineTo if k else path.moveTo)(self._at(sign * x, y))
            path.closeSubpath()
            p.fillPath(path, QColor(r.card))
            p.save()
            p.setClipPath(path)
            p.setPen(QPen(QColor(r.hatch), 1))
            for k in range(-self.height(), self.width(), 9):
                p.drawLine(QPointF(k, self.height()), QPointF(k + self.height(), 0))
            p.restore()
            p.setPen(QPen(QColor(r.ink), 1.6, join=Qt.PenJoinStyle.MiterJoin))
            # the outer sides are broken off: the part goes on there
            edge = [i for i, (x, _) in enumerate(s.outline) if x == max(xs)] if not s.along else []
            for i, (x, y) in enumerate(s.outline):
                j = (i + 1) % len(s.outline)
                if not (i in edge and j in edge) and not (x == 0 == s.outline[j][0] and not s.along):
                    p.drawLine(self._at(sign * x, y), self._at(sign * s.outline[j][0], s.outline[j][1]))
            p.setPen(QPen(QColor(r.ink), 0.8))
            for x, a, b in s.thin:
                ends = ((a, x), (b, x)) if s.along else ((sign * x, a), (sign * x, b))
                p.drawLine(self._at(*ends[0]), self._at(*ends[1]))
        axis = QPen(QColor(r.brass), 1.1)
        axis.setDashPattern([12, 4, 3, 4])
        p.setPen(axis)
        line = ((left, 0.0), (right, 0.0)) if s.along else ((0.0, low), (0.0, high))
        first, last = (self._at(*e) for e in line)
        off = QPointF(10, 0) if s.along else QPointF(0, 8)
        p.drawLine(first - off, last + off)
        p.setFont(theme.drawing(14))
        for size in s.sizes:
            self._size(p, s, size, low, right)

    def _at(self, x: float, y: float) -> QPointF:
        return QPointF(self._x + x * self._scale, self._y + y * self._scale)

    def _size(self, p: QPainter, s: StepSection, size: SectionSize, low: float, right: float) -> None:
        r = theme.roles()
        p.setPen(QPen(QColor(r.brass if size.path == self._lit else r.quiet), 1.0))
        metrics = p.fontMetrics()
        wide, tall = metrics.horizontalAdvance(size.text) + 10, metrics.height()
        if size.way == "across":
            # at a level within the section, or on a line above it
            y = self._at(0, size.at).y() if size.at > 0 else self._at(0, low).y() + size.at * ROW + 12
            a, b = QPointF(self._at(size.start, 0).x(), y), QPointF(self._at(size.end, 0).x(), y)
            if size.at <= 0:
                for q in (a, b):
                    p.drawLine(q + QPointF(0, -3), QPointF(q.x(), self._at(0, low).y()))
            p.drawLine(a, b)
            outside = abs(b.x() - a.x()) < wide + 8
            box = QRectF(max(a.x(), b.x()) + 4 if outside else (a.x() + b.x() - wide) / 2, y - tall / 2, wide, tall)
            if outside:
                p.drawLine(QPointF(max(a.x(), b.x()), y), QPointF(box.left() + 2, y))
        elif size.way == "down":
            x = self._at(right, 0).x() + size.at * 22 - (0 if size.at > 0 else 2 * right * self._scale)
            a, b = QPointF(x, self._at(0, size.start).y()), QPointF(x, self._at(0, size.end).y())
            p.drawLine(a, b)
            for q in (a, b):
                p.drawLine(q - QPointF(4, 0), q + QPointF(4, 0))
            box = QRectF(x + 4 if size.at > 0 else x - wide - 2, (a.y() + b.y() - tall) / 2, wide, tall)
        else:
            x = self._at(0, 0).x() + (self._at(right, 0).x() - self._at(0, 0).x()) * 0.5
            box = QRectF(x - wide / 2, self._at(0, size.at).y() - tall / 2, wide, tall)
            if not s.along and size.path in ("point", "depth"):
                box.moveTop(min(self._at(0, size.at).y() + 4, self.height() - tall - 2.0))
                box.moveLeft(self._at(0, 0).x() + 8)
        box.moveLeft(min(max(box.left(), 2.0), self.width() - box.width() - 2.0))
        p.fillRect(box, QColor(r.tint if size.path == self._lit else r.paper))
        p.setPen(QColor(r.ink))
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, size.text)
        self._boxes.append((box, size.path))

    # pointer ---------------------------------------------------------------------------------------
    def _under(self, at: QPointF) -> str:
        return next((path for box, path in self._boxes if box.contains(at)), "")

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        path = self._under(event.position()) if event is not None else ""
        if path != self._lit:
            self._lit = path
            self.setCursor(Qt.CursorShape.PointingHandCursor if path else Qt.CursorShape.ArrowCursor)
            self.update()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        path = self._under(event.position()) if event is not None else ""
        if path:
            self.asked.emit(path)
