"""Pages one behind the other, of which the one that is seen alone decides how much room is needed."""

from __future__ import annotations

from PyQt6.QtCore import QSize
from PyQt6.QtWidgets import QStackedWidget


class OneAtATime(QStackedWidget):
    """Needs no more room than the page that is shown."""

    def minimumSizeHint(self) -> QSize:
        """That of the page shown."""
        shown = self.currentWidget()
        return shown.minimumSizeHint() if shown is not None else super().minimumSizeHint()
