"""The Hand over desk's page: five panes of what can leave the bench."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QStackedWidget, QWidget

from lathed_solid.desk.hand_over.drawing_pane import DrawingPane
from lathed_solid.desk.hand_over.files_pane import FilesPane
from lathed_solid.desk.hand_over.machinist_pane import MachinistPane
from lathed_solid.desk.hand_over.picture_pane import PicturePane
from lathed_solid.desk.hand_over.ways_pane import WaysPane
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import page_caution, page_layout, page_state
from lathed_solid.desk.tab_row import tab_row

TABS = (
    ("drawing", "the drawing, drawn back from the proven solid"),
    ("machinist", "what it takes to cut the part"),
    ("files", "the solid in each format, a face, a section, everything in one package"),
    ("picture", "the part rendered"),
    ("ways", "what the part cost in work, step by step"),
)
#: tabs whose work is shown on paper
ON_PAPER = (0, 1, 3)


class HandOverPage(QWidget):
    """It knows where its panes stand and nothing of a session. Emits the tab that was turned to."""

    turned = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        layout = page_layout(self)
        self.state = page_state()
        layout.addWidget(self.state)
        tabs, self.tabs = tab_row(self, TABS, self.show_tab)
        layout.addLayout(tabs)
        self.drawing, self.machinist, self.files = DrawingPane(), MachinistPane(), FilesPane()
        self.picture, self.ways = PicturePane(), WaysPane()
        self.stack = QStackedWidget()
        for pane in (self.drawing, self.machinist, self.files, self.picture, self.ways):
            self.stack.addWidget(pane)
        layout.addWidget(self.stack, 1)
        self.caution = page_caution(
            spoken(
                "A model from worn parts is no release for pressure, lifting or life-safety use; "
                "local codes and licensed "
                "practice decide."
            )
        )
        layout.addWidget(self.caution)

    @property
    def tab(self) -> int:
        """Which pane is in view."""
        return self.stack.currentIndex()

    def show_tab(self, index: int) -> None:
        """Turn to the drawing, the machinist's sheet, files, picture or ways."""
        self.tabs[index].setChecked(True)
        self.stack.setCurrentIndex(index)
        self.turned.emit(index)
