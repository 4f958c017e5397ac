"""The Hand over desk's page: four panes of what can leave the bench."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QLabel, QStackedWidget, QVBoxLayout, QWidget

from lathed_solid.desk import theme
from lathed_solid.desk.hand_over.drawing_pane import DrawingPane
from lathed_solid.desk.hand_over.files_pane import FilesPane
from lathed_solid.desk.hand_over.machinist_pane import MachinistPane
from lathed_solid.desk.hand_over.ways_pane import WaysPane
from lathed_solid.desk.tab_row import tab_row

TABS = (
    ("drawing", "the drawing, drawn back from the proven solid"),
    ("machinist", "what it takes to cut the part"),
    ("files", "the solid in each format, a face, a section, everything in one package"),
    ("ways", "what the part cost in work, step by step"),
)
#: tabs whose work is shown on paper
ON_PAPER = (0, 1)


class HandOverPage(QWidget):
    """It knows where its panes stand and nothing of a session. Emits the tab that was turned to."""

    turned = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.state = QLabel()
        self.state.setFont(theme.font(15, theme.QFont.Weight.DemiBold))
        self.state.setWordWrap(True)
        self.state.setContentsMargins(12, 10, 12, 8)
        self.state.setMinimumHeight(40)
        layout.addWidget(self.state)
        tabs, self.tabs = tab_row(self, TABS, self.show_tab)
        layout.addLayout(tabs)
        self.drawing, self.machinist, self.files, self.ways = DrawingPane(), MachinistPane(), FilesPane(), WaysPane()
        self.stack = QStackedWidget()
        for pane in (self.drawing, self.machinist, self.files, self.ways):
            self.stack.addWidget(pane)
        layout.addWidget(self.stack, 1)
        self.caution = QLabel(
            "A model from worn parts is no release for pressure, lifting or life-safety use; local codes and licensed "
            "practice decide."
        )
        self.caution.setObjectName("caution")
        self.caution.setWordWrap(True)
        self.caution.setFont(theme.narrow(12))
        layout.addWidget(self.caution)

    @property
    def tab(self) -> int:
        """Which pane is in view."""
        return self.stack.currentIndex()

    def show_tab(self, index: int) -> None:
        """Turn to the drawing, the machinist's sheet, files or ways."""
        self.tabs[index].setChecked(True)
        self.stack.setCurrentIndex(index)
        self.turned.emit(index)
