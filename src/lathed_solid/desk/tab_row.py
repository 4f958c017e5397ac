"""A row of buttons of which one is down: which pane of a page is shown."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken


def tab_row(owner: QWidget, tabs: Sequence[tuple[str, str]], show: Callable[[int], None], *, style: str = "",
            margins: tuple[int, int, int, int] = (12, 0, 12, 8)) -> tuple[QHBoxLayout, list[QPushButton]]:  # fmt: skip
    """The row and its buttons, the first down; ``tabs``: their names and tips."""
    row = QHBoxLayout()
    row.setContentsMargins(*margins)
    row.setSpacing(6)
    group = QButtonGroup(owner)
    buttons = []
    for i, (name, tip) in enumerate(tabs):
        button = QPushButton(spoken(name))
        button.setCheckable(True)
        button.setChecked(i == 0)
        button.setFont(theme.narrow(12))
        button.setToolTip(spoken(tip))
        button.setStyleSheet(style)
        button.clicked.connect(lambda _=False, i=i: show(i))
        group.addButton(button)
        buttons.append(button)
        row.addWidget(button)
    row.addStretch(1)
    return row, buttons
