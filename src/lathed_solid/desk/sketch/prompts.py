"""What work on a sketch asks, as dialogs."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QInputDialog, QWidget

from lathed_solid.desk.ask import ask_sizes
from lathed_solid.part import Scope
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes


class QtSketchPrompts:
    """Dialogs over the sketch's editor."""

    def __init__(self, parent: QWidget) -> None:
        self.parent = parent

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        """A few sizes at once, asked until all are understood."""
        return ask_sizes(self.parent, title, sizes, scope)

    def count(self, title: str, label: str, start: int, low: int, high: int) -> int | None:
        """A whole number."""
        count, ok = QInputDialog.getInt(self.parent, title, label, start, low, high)
        return count if ok else None

    def text(self, title: str, label: str, start: str) -> str | None:
        """Some words."""
        text, ok = QInputDialog.getText(self.parent, title, label, text=start)
        return text.strip() if ok else None

    def picture(self) -> Path | None:
        """A picture's file."""
        name, _ = QFileDialog.getOpenFileName(
            self.parent, "Picture beneath the sketch", "", "Pictures (*.png *.jpg *.jpeg)"
        )
        return Path(name) if name else None
