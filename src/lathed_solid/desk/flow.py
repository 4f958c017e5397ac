"""A layout that sets widgets in rows as words are set in lines, and breaks where the width ends."""

from __future__ import annotations

from PyQt6.QtCore import QPoint, QRect, QSize, Qt
from PyQt6.QtWidgets import QLayout, QLayoutItem


class Flow(QLayout):
    """Left to right, then on the next row; as high as the width asks for."""

    def __init__(self, gap: int = 3) -> None:
        super().__init__()
        self._items: list[QLayoutItem] = []
        self._gap = gap

    def addItem(self, item: QLayoutItem | None) -> None:
        if item is not None:
            self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._set(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        super().setGeometry(rect)
        self._set(rect, move=True)

    def sizeHint(self) -> QSize:
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        size = QSize()
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        left, top, right, bottom = self.getContentsMargins()
        return size + QSize((left or 0) + (right or 0), (top or 0) + (bottom or 0))

    def _set(self, rect: QRect, *, move: bool) -> int:
        """The height that all items take; with ``move`` they are put there."""
        left, top, right, bottom = (m or 0 for m in self.getContentsMargins())
        room = rect.adjusted(left, top, -right, -bottom)
        x, y, row = room.x(), room.y(), 0
        for item in self._items:
            hint = item.sizeHint()
            if x > room.x() and x + hint.width() > room.right() + 1:
                x, y, row = room.x(), y + row + self._gap, 0
            if move:
                item.setGeometry(QRect(QPoint(x, y), hint))
            x += hint.width() + self._gap
            row = max(row, hint.height())
        return y + row - rect.y() + bottom
