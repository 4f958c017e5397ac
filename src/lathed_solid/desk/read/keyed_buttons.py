"""A row of buttons that answer, each with its keys."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from PyQt6.QtWidgets import QHBoxLayout, QPushButton

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken


def keyed_buttons(buttons: Iterable[tuple[QPushButton, Callable[[], object], str]]) -> QHBoxLayout:
    """The buttons from the left, each with what it does and its keys (empty for none)."""
    row = QHBoxLayout()
    row.setSpacing(6)
    for button, run, keys in buttons:
        button.setFont(theme.narrow(12))
        button.setToolTip(spoken(keys))
        if keys:
            button.setShortcut(keys)
        button.clicked.connect(lambda _=False, run=run: run())
        row.addWidget(button)
    row.addStretch(1)
    return row
