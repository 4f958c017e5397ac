"""A tip under the route or the members, and who shows it when."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QVBoxLayout

from lathed_solid.desk import theme
from lathed_solid.desk.language import spoken
from lathed_solid.desk.route_card import OPEN
from lathed_solid.workbench.session import Session
from lathed_solid.workbench.tips import Tip, due


class TipCard(QFrame):
    """One tip. Emits that it was understood, or that more is wanted."""

    understood = pyqtSignal()
    more_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("tip")
        self.setAccessibleName(spoken("tip"))
        self.setFixedWidth(OPEN)
        self.tip: Tip | None = None
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setFont(theme.font(13))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 10, 12, 10)
        layout.addWidget(self.words)
        row = QHBoxLayout()
        self.took, self.more = QPushButton(spoken("got it")), QPushButton(spoken("more in the guide"))
        for button, signal in ((self.took, self.understood), (self.more, self.more_wanted)):
            button.setFont(theme.narrow(12))
            button.clicked.connect(signal)
            row.addWidget(button)
        row.addStretch(1)
        layout.addLayout(row)
        self.hide()

    def show_tip(self, tip: Tip | None) -> None:
        """This tip, or none."""
        self.tip = tip
        self.setVisible(tip is not None)
        if tip is not None:
            self.words.setText(spoken(tip.words))
            self.setAccessibleDescription(spoken(tip.words))


class Tips(QObject):
    """Shows the tip that is due where the user is; what was understood, or looked up, is not shown again."""

    def __init__(self, card: TipCard, session: Session, place: Callable[[], str], parent: QObject) -> None:
        super().__init__(parent)
        self.card, self._session, self._place = card, session, place
        card.understood.connect(self._seen)
        card.more_wanted.connect(self._seen)

    def refresh(self, *_told: object) -> None:
        """Something else is in view."""
        settings = self._session.settings
        self.card.show_tip(due(self._place(), settings.tips_seen) if settings.tips else None)

    def _seen(self) -> None:
        if self.card.tip is not None:
            settings = self._session.settings
            seen = (*settings.tips_seen, self.card.tip.id)
            self._session.set_settings(settings.model_copy(update={"tips_seen": seen}))
        self.refresh()
