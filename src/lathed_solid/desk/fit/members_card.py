"""The card of members at the right edge: one row a member, as the route has its steps."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen, QPolygonF
from PyQt6.QtWidgets import (
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.card import CardList, card_empty, card_head
from lathed_solid.desk.language import spoken
from lathed_solid.workbench.fit.rows import MemberRow

ROW = Qt.ItemDataRole.UserRole
WIDTH = 256
#: what a state is called, for the tip and for screen readers
STATES = {
    "fast": "held fast in the room", "held": "held by its relations", "loose": "loose",
    "fighting": "its relations fight",
    "waiting": "not built yet", "failed": "its part is not whole", "copy": "a copy: it follows the first",
}  # fmt: skip


class MembersCard(QWidget):
    """Emits the name of the member that was chosen; asks for the menus."""

    chosen = pyqtSignal(str)
    menu_asked = pyqtSignal(object)
    add_asked = pyqtSignal(object)
    removal_asked = pyqtSignal()
    hovered = pyqtSignal(object)  # a name, or None

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("route")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(WIDTH)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(1, 0, 0, 0)
        layout.setSpacing(0)
        head, _, self.add = card_head(
            "MEMBERS",
            "add a member ▾",
            "A part's file, the part in hand, or a standard part (Ctrl+J)",
            self.add_asked.emit,
        )
        layout.addLayout(head)
        self.list = _List(_Delegate, "Members")
        self.list.setMouseTracking(True)
        self.list.currentItemChanged.connect(self._choose)
        self.list.itemEntered.connect(lambda item: self.hovered.emit(item.data(ROW).name))
        self.list.left.connect(lambda: self.hovered.emit(None))
        self.list.deleted.connect(self.removal_asked)
        self.list.menu_asked.connect(self.menu_asked)
        self.empty = card_empty(
            "No members yet.\n\nAdd a part's file, the part in hand,\nor a standard part. The first stands fast;\n"
            "then pick a face of one and a face\nof another: the page says how they\ncan be joined."
        )
        layout.addWidget(self.list, 1)
        layout.addWidget(self.empty, 1)
        self._quiet = False

    def set_rows(self, rows: list[MemberRow], current: str | None) -> None:
        """Show these members, ``current`` chosen."""
        self._quiet = True
        names = [self.list.item(i).data(ROW).name for i in range(self.list.count())]  # type: ignore[union-attr]
        if names != [r.name for r in rows]:
            self.list.clear()
            for _ in rows:
                self.list.addItem(QListWidgetItem())
        for i, row in enumerate(rows):
            item = self.list.item(i)
            assert item is not None
            item.setData(ROW, row)
            item.setToolTip(spoken("\n".join(x for x in (f"{row.name}: {STATES[row.state]}", row.message) if x)))
            words = f"{row.name}, {row.detail}, {STATES[row.state]}. {row.message}"
            item.setData(Qt.ItemDataRole.AccessibleTextRole, words)
        self.list.setVisible(bool(rows))
        self.empty.setVisible(not rows)
        self._quiet = False
        self.choose(current)

    def choose(self, name: str | None) -> None:
        """Show a member as the chosen one; nothing is emitted."""
        self._quiet = True
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item is not None and item.data(ROW).name == name:
                self.list.setCurrentItem(item)
        if name is None:
            self.list.setCurrentItem(None)
        self._quiet = False

    def _choose(self, item: QListWidgetItem | None) -> None:
        if item is not None and not self._quiet:
            self.chosen.emit(item.data(ROW).name)


class _List(CardList):
    left = pyqtSignal()

    def leaveEvent(self, event: Any) -> None:
        self.left.emit()
        super().leaveEvent(event)


class _Delegate(QStyledItemDelegate):
    def sizeHint(self, option: Any, index: QModelIndex) -> QSize:
        return QSize(240, 46)

    def paint(self, painter: QPainter | None, option: Any, index: QModelIndex) -> None:
        assert painter is not None
        r = theme.roles()
        row: MemberRow = index.data(ROW)
        area = QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(area, QColor(r.tint))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(area, QColor(r.paper))
        title = theme.font(13, theme.QFont.Weight.DemiBold)
        title.setStrikeOut(row.hidden)
        painter.setFont(title)
        painter.setPen(QColor(r.quiet if row.hidden or row.state == "copy" else r.ink))
        indent = 26.0 if row.state == "copy" else 12.0
        width = int(area.width() - indent - 34)
        words = painter.fontMetrics().elidedText(row.name, Qt.TextElideMode.ElideRight, width)
        painter.drawText(area.adjusted(indent, 7, -30, 0), Qt.AlignmentFlag.AlignTop, words)
        painter.setFont(theme.narrow(12))
        alarming = row.state in ("failed", "fighting")
        painter.setPen(QColor(r.out_line if alarming else r.quiet))
        told = row.message if row.message and row.state != "copy" else row.detail
        detail = painter.fontMetrics().elidedText(spoken(told), Qt.TextElideMode.ElideRight, width + 20)
        painter.drawText(area.adjusted(indent, 25, -8, 0), Qt.AlignmentFlag.AlignTop, detail)
        self._state(painter, row.state, QRectF(area.right() - 22, area.top() + 11, 9, 9))
        painter.setPen(QColor(r.line))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        painter.restore()

    @staticmethod
    def _state(painter: QPainter, state: str, box: QRectF) -> None:
        """Fast: a full square; held: a full disc; loose: a dashed ring; fighting: a zigzag; failed: a barred square."""
        r = theme.roles()
        pen = QPen(QColor(r.out_line if state in ("failed", "fighting") else r.ink), 1.4)
        painter.setPen(pen)
        painter.setBrush(QColor(r.ink) if state in ("fast", "held") else Qt.BrushStyle.NoBrush)
        if state == "fast":
            painter.drawRect(box)
        elif state == "held":
            painter.drawEllipse(box)
        elif state == "loose":
            pen.setDashPattern([2.0, 1.6])
            painter.setPen(pen)
            painter.drawEllipse(box)
        elif state == "fighting":
            xs = [box.left() + box.width() * k / 4 for k in range(5)]
            painter.drawPolyline(
                QPolygonF([QPointF(x, box.bottom() if i % 2 else box.top()) for i, x in enumerate(xs)])
            )
        elif state == "failed":
            painter.drawRect(box)
            painter.drawLine(box.topLeft(), box.bottomRight())
