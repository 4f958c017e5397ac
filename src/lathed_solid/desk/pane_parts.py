"""What pages and their panes are begun with: the layout, the line that says how it stands, the caution at the foot."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QBoxLayout, QLabel, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.choice import Choice
from lathed_solid.desk.language import spoken


def page_layout(page: QWidget) -> QVBoxLayout:
    """The layout of a desk's page, edge to edge."""
    page.setObjectName("page")
    page.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    layout = QVBoxLayout(page)
    layout.setContentsMargins(0, 0, 0, 0)
    layout.setSpacing(0)
    return layout


def page_state() -> QLabel:
    """The line at a page's head."""
    state = QLabel()
    state.setFont(theme.font(15, theme.QFont.Weight.DemiBold))
    state.setWordWrap(True)
    state.setContentsMargins(12, 10, 12, 8)
    state.setMinimumHeight(40)
    return state


def page_caution(words: str) -> QLabel:
    """The caution at a page's foot."""
    caution = QLabel(words)
    caution.setObjectName("caution")
    caution.setWordWrap(True)
    caution.setFont(theme.narrow(12))
    return caution


def pane_layout(pane: QWidget, spacing: int = 6) -> QVBoxLayout:
    """The layout of a pane beneath its tabs."""
    layout = QVBoxLayout(pane)
    layout.setContentsMargins(12, 4, 12, 8)
    layout.setSpacing(spacing)
    return layout


def labelled(words: str, field: QWidget, row: QBoxLayout) -> None:
    """A field with quiet words before it, put into a row."""
    label = QLabel(spoken(words))
    label.setObjectName("quiet")
    label.setFont(theme.narrow(12))
    row.addWidget(label)
    row.addWidget(field)


def choice_box(words: str, choices: Sequence[str], row: QBoxLayout) -> Choice:
    """A choice with quiet words before it, put into a row."""
    box = Choice()
    box.addItems(list(choices))
    box.setAccessibleName(spoken(words))
    labelled(words, box, row)
    return box


def narrow_choice(choices: Sequence[str], name: str, tip: str) -> Choice:
    """A choice in small lettering, without words before it."""
    box = Choice()
    box.setFont(theme.narrow(12))
    box.setAccessibleName(spoken(name))
    box.setToolTip(spoken(tip))
    box.addItems(choices)
    return box


def pane_head() -> QLabel:
    """The line at a pane's head."""
    head = QLabel()
    head.setWordWrap(True)
    head.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
    return head
