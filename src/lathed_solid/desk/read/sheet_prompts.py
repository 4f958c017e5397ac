"""What work on sheets asks, as dialogs."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

from lathed_solid.desk.ask import ask_sizes
from lathed_solid.part import Scope
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes
from lathed_solid.workbench.sheet_commands import SHEET_FILES


class QtSheetPrompts:
    """What work on sheets asks, as dialogs."""

    def __init__(self, parent: QWidget) -> None:
        self.parent = parent

    def sheet(self, title: str) -> Path | None:
        """A sheet's file."""
        name, _ = QFileDialog.getOpenFileName(self.parent, title, "", SHEET_FILES)
        return Path(name) if name else None

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        """Sizes, asked until they are understood."""
        return ask_sizes(self.parent, title, sizes, scope)
