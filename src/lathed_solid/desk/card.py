"""What the cards at the right edge have in common: their head, their list, their words while they are empty."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QAbstractItemView, QHBoxLayout, QLabel, QListWidget, QPushButton, QStyledItemDelegate

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken


def card_head(caption: str, add: str, tip: str, asked: Callable[[Any], None]
              ) -> tuple[QHBoxLayout, QLabel, QPushButton]:  # fmt: skip
    """The head of a card, its caption, and the button that adds; ``asked`` takes the place for its menu."""
    title = QLabel(spoken(caption))
    title.setObjectName("caption")
    title.setFont(theme.narrow(12, theme.QFont.Weight.Medium))
    title.setContentsMargins(12, 10, 12, 6)
    button = QPushButton(spoken(add))
    button.setFont(theme.narrow(12))
    button.setFixedHeight(24)
    button.setStyleSheet("padding: 0 8px;")
    button.setToolTip(spoken(tip))
    button.clicked.connect(lambda: asked(button.mapToGlobal(button.rect().bottomLeft())))
    head = QHBoxLayout()
    head.setContentsMargins(0, 0, 8, 0)
    head.addWidget(title, 1)
    head.addWidget(button)
    return head, title, button


def card_empty(words: str) -> QLabel:
    """What a card says while it has no rows."""
    label = QLabel(spoken(words))
    label.setObjectName("quiet")
    label.setContentsMargins(12, 12, 12, 12)
    label.setAlignment(Qt.AlignmentFlag.AlignTop)
    return label


class CardList(QListWidget):
    """Rows painted by a delegate. Emits the Delete key, and the place where a menu is asked for."""

    deleted = pyqtSignal()
    menu_asked = pyqtSignal(object)

    def __init__(self, delegate: type[QStyledItemDelegate], name: str) -> None:
        super().__init__()
        self.setAccessibleName(spoken(name))
        self.setItemDelegate(delegate(self))
        self.setFrameShape(QListWidget.Shape.NoFrame)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.customContextMenuRequested.connect(self._ask_menu)

    def _ask_menu(self, at: Any) -> None:
        port = self.viewport()
        if port is not None:
            self.menu_asked.emit(port.mapToGlobal(at))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        if event.key() == Qt.Key.Key_Delete:
            self.deleted.emit()
        else:
            super().keyPressEvent(event)
