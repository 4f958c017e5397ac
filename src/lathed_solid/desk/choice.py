"""A choice among words: shown in the interface's language, told in English."""

from __future__ import annotations

from collections.abc import Iterable

from PyQt6.QtWidgets import QComboBox

from lathed_solid.desk.language import spoken


class Choice(QComboBox):
    """Takes and gives the English words; what is typed into an editable one is given as it is. ``about``: of what the
    words are, where they mean several things.
    """

    def __init__(self, about: str = "") -> None:
        super().__init__()
        self._about = about

    def addItems(self, texts: Iterable[str | None]) -> None:
        for text in texts:
            self.addItem(spoken(text or "", self._about), text)

    def currentText(self) -> str:
        shown, index = super().currentText(), self.currentIndex()
        own = self.itemData(index)
        return str(own) if own is not None and shown == self.itemText(index) else shown

    def setCurrentText(self, text: str | None) -> None:
        index = self.findData(text)
        if index >= 0:
            self.setCurrentIndex(index)
        else:
            super().setCurrentText(text)
