"""The route card at the right edge: one row a step, as on a shop route card; rows can be dragged."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QModelIndex, QPointF, QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPen
from PyQt6.QtWidgets import (
    QAbstractItemView,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.card import CardList, card_empty, card_head
from lathed_solid.desk.language import spoken
from lathed_solid.desk.row_table import paint_balloon
from lathed_solid.workbench.tables.route_rows import RouteRow

ROW = Qt.ItemDataRole.UserRole
#: width, and width while something else needs the room, pixels
OPEN, FOLDED = 256, 46


class RouteCard(QWidget):
    """Emits step numbers: chosen, to be edited, to be moved to a row."""

    chosen = pyqtSignal(int)
    edit_asked = pyqtSignal(int)
    moved = pyqtSignal(int, int)
    menu_asked = pyqtSignal(object)
    add_asked = pyqtSignal(object)
    removal_asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("route")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(OPEN)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(1, 0, 0, 0)
        layout.setSpacing(0)
        self.list = _RouteList(_RouteDelegate, "Route")
        self.list.currentItemChanged.connect(self._choose)
        self.list.itemActivated.connect(lambda item: self.edit_asked.emit(item.data(ROW).number))
        self.list.dropped.connect(self.moved)
        self.list.deleted.connect(self.removal_asked)
        self.list.menu_asked.connect(self.menu_asked)
        self.empty = card_empty("No steps yet.\n\nCtrl+T adds a turned table;\nCtrl+K a sketch.")
        tip = "Every kind of step, after the row where work stands (Ctrl+J)"
        head, self.title, self.add = card_head("ROUTE", "add a step ▾", tip, self.add_asked.emit)
        self.add.setAccessibleName(spoken("add a step"))
        layout.addLayout(head)
        layout.addWidget(self.list, 1)
        layout.addWidget(self.empty, 1)
        self._quiet = False

    def fold(self, on: bool) -> None:
        """To the numbers of the steps alone, or open again."""
        self.setFixedWidth(FOLDED if on else OPEN)
        self.title.setVisible(not on)
        self.add.setText(spoken("▾" if on else "add a step ▾"))
        self.list.scheduleDelayedItemsLayout()

    def set_rows(self, rows: list[RouteRow], current: int | None) -> None:
        """Show these steps, ``current`` chosen."""
        self._quiet = True
        if [self.list.item(i).data(ROW).number for i in range(self.list.count())] == [r.number for r in rows]:  # type: ignore[union-attr]
            for i, row in enumerate(rows):
                self._fill(self.list.item(i), row)
        else:
            self.list.clear()
            for row in rows:
                item = QListWidgetItem()
                self._fill(item, row)
                self.list.addItem(item)
        self._quiet = False
        if current is not None:
            self.choose(current)
        self.list.setVisible(bool(rows))
        self.empty.setVisible(not rows)

    def _fill(self, item: QListWidgetItem | None, row: RouteRow) -> None:
        assert item is not None
        item.setData(ROW, row)
        item.setToolTip(spoken("\n".join(x for x in (row.message or f"step {row.number}: {row.state}", row.ties) if x)))
        words = f"step {row.number}, {row.title}, {row.detail}, {row.state}. {row.message}"
        item.setData(Qt.ItemDataRole.AccessibleTextRole, words)

    def current(self) -> int | None:
        """Number of the chosen row's step."""
        item = self.list.currentItem()
        return item.data(ROW).number if item is not None else None

    def choose(self, number: int) -> None:
        """Show a step as the chosen one; nothing is emitted."""
        self._quiet = True
        for i in range(self.list.count()):
            item = self.list.item(i)
            if item is not None and item.data(ROW).number == number:
                self.list.setCurrentItem(item)
        self._quiet = False

    def _choose(self, item: QListWidgetItem | None) -> None:
        if item is not None and not self._quiet:
            self.chosen.emit(item.data(ROW).number)


class _RouteList(CardList):
    dropped = pyqtSignal(int, int)

    def __init__(self, delegate: type[QStyledItemDelegate], name: str) -> None:
        super().__init__(delegate, name)
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)

    def dropEvent(self, event: Any) -> None:
        """Ask for the move; the rows follow when the document says so."""
        item = self.currentItem()
        target = self.indexAt(event.position().toPoint())
        row = target.row() if target.isValid() else self.count() - 1
        event.ignore()
        if item is not None and row != self.currentRow():
            self.dropped.emit(item.data(ROW).number, row)


class _RouteDelegate(QStyledItemDelegate):
    def sizeHint(self, option: Any, index: QModelIndex) -> QSize:
        row: RouteRow = index.data(ROW)
        lines = -(-len(row.balloons) // 7)
        if option.widget is not None and option.widget.width() <= FOLDED:
            return QSize(FOLDED, 48)
        return QSize(240, 48 + 20 * lines + (18 if row.message else 0))

    def paint(self, painter: QPainter | None, option: Any, index: QModelIndex) -> None:
        assert painter is not None
        r = theme.roles()
        row: RouteRow = index.data(ROW)
        area = QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(area, QColor(r.tint))
        elif option.state & QStyle.StateFlag.State_MouseOver:
            painter.fillRect(area, QColor(r.paper))
        faint = row.state in ("suspended", "later")
        painter.setPen(QColor(r.quiet if faint else r.brass_ink))
        painter.setFont(theme.narrow(16, theme.QFont.Weight.DemiBold))
        painter.drawText(area.adjusted(10, 8, 0, 0), Qt.AlignmentFlag.AlignTop, str(row.number))
        painter.setPen(QColor(r.quiet if faint else r.ink))
        title = theme.font(13, theme.QFont.Weight.DemiBold)
        title.setStrikeOut(row.state == "suspended")
        painter.setFont(title)
        if area.width() <= FOLDED:
            self._state(painter, row.state, area.translated(-8, 24))
            painter.setPen(QColor(r.line))
            painter.drawLine(area.bottomLeft(), area.bottomRight())
            painter.restore()
            return
        words = painter.fontMetrics().elidedText(spoken(row.title), Qt.TextElideMode.ElideRight, int(area.width()) - 84)
        painter.drawText(area.adjusted(48, 8, -28, 0), Qt.AlignmentFlag.AlignTop, words)
        painter.setPen(QColor(r.quiet))
        painter.setFont(theme.narrow(12))
        detail = painter.fontMetrics().elidedText(
            spoken(row.detail), Qt.TextElideMode.ElideRight, int(area.width()) - 58
        )
        painter.drawText(area.adjusted(48, 26, -8, 0), Qt.AlignmentFlag.AlignTop, detail)
        top = area.top() + 44
        if row.message:
            painter.setPen(QColor(r.out_line if row.state == "failed" else r.quiet))
            message = spoken(row.message)
            text = painter.fontMetrics().elidedText(message, Qt.TextElideMode.ElideRight, int(area.width()) - 58)
            painter.drawText(QRectF(area.left() + 48, top, area.width() - 56, 18), Qt.AlignmentFlag.AlignTop, text)
            top += 18
        self._balloons(painter, row, area, top)
        self._state(painter, row.state, area)
        painter.setPen(QColor(r.line))
        painter.drawLine(area.bottomLeft(), area.bottomRight())
        painter.restore()

    def _balloons(self, painter: QPainter, row: RouteRow, area: QRectF, top: float) -> None:
        x, y = area.left() + 48, top
        for i, balloon in enumerate(row.balloons):
            if i and i % 7 == 0:
                x, y = area.left() + 48, y + 20
            box = paint_balloon(painter, QRectF(x, y, 40, 18), str(balloon))
            x = box.right() + 4

    def _state(self, painter: QPainter, state: str, area: QRectF) -> None:
        """Built: a full disc; waiting: a ring; failed: a square with a bar; suspended: a dash."""
        r = theme.roles()
        box = QRectF(area.right() - 22, area.top() + 11, 9, 9)
        painter.setPen(QPen(QColor(r.out_line if state == "failed" else r.ink), 1.3))
        painter.setBrush(QColor(r.ink) if state == "built" else Qt.BrushStyle.NoBrush)
        if state == "failed":
            painter.drawRect(box)
            painter.drawLine(box.topLeft(), box.bottomRight())
        elif state == "suspended":
            painter.drawLine(QPointF(box.left(), box.center().y()), QPointF(box.right(), box.center().y()))
        else:
            painter.drawEllipse(box)
