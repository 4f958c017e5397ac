"""References as chips: what a field holds stands there by name, lit in the solid when pointed at, with a cross each.

A pick in the solid adds; the keyboard walks the chips (← →), leaves one out (Delete), or types a name, for scripts'
sake. A field that waits for a pick has a brass rim.
"""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFocusEvent, QFontMetricsF, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QLineEdit, QSizePolicy, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken

HEIGHT, GAP, PAD, CROSS = 22.0, 4.0, 6.0, 16.0
#: a longer name is cut in its middle, pixels
WIDEST = 210.0


class ChipField(QWidget):
    """Emits the name left out, the names pointed at (empty: none), and a name that was typed."""

    dropped = pyqtSignal(str)
    pointed = pyqtSignal(object)
    typed = pyqtSignal(str)

    def __init__(self, what: str, empty: str) -> None:
        super().__init__()
        #: what a pick gives ("edge or face"), and what an empty field means
        self.what, self.empty = what, empty
        self.names: tuple[str, ...] = ()
        self._boxes: list[QRectF] = []
        self._at = -1
        self._lit = -1
        self._waits = False
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setFont(theme.narrow(13))
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        self.line = QLineEdit(self)
        self.line.hide()
        self.line.returnPressed.connect(self._take_typed)

    # what it holds ---------------------------------------------------------------------------------
    def set_names(self, names: tuple[str, ...]) -> None:
        """Show these names."""
        self.names, self._at, self._lit = names, -1, -1
        self.setAccessibleDescription(spoken(", ".join(names) or self.empty))
        self._lay()
        self.updateGeometry()
        self.update()

    def set_waiting(self, waits: bool) -> None:
        """Whether the next pick in the solid is for this field."""
        self._waits = waits
        self.update()

    def heightForWidth(self, width: int) -> int:
        """Rows of chips."""
        boxes = self._places(width)
        return round((boxes[-1].bottom() if boxes else HEIGHT + PAD) + PAD)

    def sizeHint(self) -> QSize:
        """As high as its chips need at the present width."""
        return QSize(180, self.heightForWidth(max(self.width(), 120)))

    def minimumSizeHint(self) -> QSize:
        """One short chip wide."""
        return QSize(110, self.heightForWidth(max(self.width(), 110)))

    def _places(self, width: int) -> list[QRectF]:
        metrics, x, y, out = QFontMetricsF(self.font()), PAD, PAD, []
        for name in self.names:
            wide = min(metrics.horizontalAdvance(name), WIDEST, width - 3 * PAD - CROSS) + 2 * PAD + CROSS
            if x > PAD and x + wide > width - PAD:
                x, y = PAD, y + HEIGHT + GAP
            out.append(QRectF(x, y, wide, HEIGHT))
            x += wide + GAP
        return out

    def _lay(self) -> None:
        self._boxes = self._places(self.width())
        self.setMinimumHeight(self.heightForWidth(max(self.width(), 110)))

    # painting --------------------------------------------------------------------------------------
    def paintEvent(self, _event: QPaintEvent | None) -> None:
        r, p = theme.roles(), QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        rim = r.brass if self._waits or self.hasFocus() else r.line
        p.setPen(QPen(QColor(rim), 1.6 if self._waits else 1.0))
        p.setBrush(QColor(r.card))
        p.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
        if not self.names:
            p.setPen(QColor(r.quiet))
            words = f"click the {self.what} in the solid" if self._waits else self.empty or f"no {self.what} yet"
            p.drawText(QRectF(self.rect()).adjusted(10, 0, -8, 0), Qt.AlignmentFlag.AlignVCenter, spoken(words))
        for i, (name, box) in enumerate(zip(self.names, self._boxes, strict=True)):
            lit = i in (self._at, self._lit)
            p.setPen(QPen(QColor(r.brass if lit else r.line), 1.2))
            p.setBrush(QColor(r.tint if lit else r.paper))
            p.drawRoundedRect(box, 4, 4)
            p.setPen(QColor(r.ink))
            room = box.adjusted(PAD, 0, -CROSS - 2, 0)
            words = p.fontMetrics().elidedText(name, Qt.TextElideMode.ElideMiddle, int(room.width()))
            p.drawText(room, Qt.AlignmentFlag.AlignVCenter, spoken(words))
            p.setPen(QPen(QColor(r.quiet), 1.4))
            c = box.right() - CROSS / 2 - 2
            for dy in (-3.5, 3.5):
                p.drawLine(QPointF(c - 3.5, box.center().y() - dy), QPointF(c + 3.5, box.center().y() + dy))
        p.end()

    def resizeEvent(self, _event: object) -> None:
        self._lay()
        self.line.setGeometry(self.rect())

    # pointer ---------------------------------------------------------------------------------------
    def _chip(self, at: QPointF) -> int:
        return next((i for i, box in enumerate(self._boxes) if box.contains(at)), -1)

    def _point(self, chip: int) -> None:
        if chip != self._lit:
            self._lit = chip
            self.setToolTip(spoken(self.names[chip] if chip >= 0 else f"Click the {self.what} in the solid"))
            self.pointed.emit((self.names[chip],) if chip >= 0 else ())
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is not None:
            self._point(self._chip(event.position()))

    def leaveEvent(self, _event: QEvent | None) -> None:
        self._point(-1)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        chip = self._chip(event.position()) if event is not None else -1
        if event is not None and chip >= 0 and event.position().x() > self._boxes[chip].right() - CROSS - 2:
            self.dropped.emit(self.names[chip])
        else:
            self._at = chip
            self.update()

    # keyboard --------------------------------------------------------------------------------------
    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        key, many = event.key(), len(self.names)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and many:
            step = 1 if key == Qt.Key.Key_Right else -1
            self._at = (self._at + step) % many if self._at >= 0 else (0 if step > 0 else many - 1)
            self.pointed.emit((self.names[self._at],))
            self.update()
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and many:
            self.dropped.emit(self.names[self._at])
        elif event.text().strip() and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            self.line.setText(event.text())
            self.line.show()
            self.line.setFocus()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        self._at = -1
        self.pointed.emit(())
        super().focusOutEvent(event)

    def _take_typed(self) -> None:
        text = self.line.text().strip()
        self.line.hide()
        self.setFocus()
        if text:
            self.typed.emit(text)
