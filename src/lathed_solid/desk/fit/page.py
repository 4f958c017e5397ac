"""The Fit desk's page: how the fit stands, what is picked and what it allows, and beneath it five panes."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from lathed_solid.desk.fit.joining_box import JoiningBox
from lathed_solid.desk.fit.judged_panes import FitsPane, OverlapsPane, PartsPane
from lathed_solid.desk.fit.movement_pane import MovementPane
from lathed_solid.desk.fit.relations_pane import RelationsPane
from lathed_solid.desk.language import spoken
from lathed_solid.desk.pane_parts import page_caution, page_layout, page_state
from lathed_solid.desk.tab_row import tab_row

TABS = (
    ("relations", "what joins the members"),
    ("movements", "what is loose: driven by a number, swept through a travel"),
    ("overlaps", "members that have material in common"),
    ("fits", "clearances by both ledgers, and tolerance stacks across parts"),
    ("parts list", "counts, materials, masses"),
)


class FitPage(QWidget):
    """It knows where its panes stand and nothing of a session."""

    def __init__(self) -> None:
        super().__init__()
        layout = page_layout(self)
        self.state = page_state()
        layout.addWidget(self.state)
        self.joining = JoiningBox()
        holder = QWidget()
        inner = QVBoxLayout(holder)
        inner.setContentsMargins(12, 0, 12, 8)
        inner.addWidget(self.joining)
        layout.addWidget(holder)
        self.relations, self.movements = RelationsPane(), MovementPane()
        self.overlaps, self.fits, self.parts = OverlapsPane(), FitsPane(), PartsPane()
        tabs, self.tabs = tab_row(self, TABS, self.show_tab, style="padding: 4px 8px;")
        layout.addLayout(tabs)
        self.stack = QStackedWidget()
        for pane in (self.relations, self.movements, self.overlaps, self.fits, self.parts):
            self.stack.addWidget(pane)
        layout.addWidget(self.stack, 1)
        self.caution = page_caution(
            spoken(
                "A model is no release: lifting, pressure and rotating parts are proven by "
                "whoever answers for them. Keep "
                "hands out of a mechanism while it is tried."
            )
        )
        layout.addWidget(self.caution)

    def show_tab(self, index: int) -> None:
        """Turn to relations, movements, overlaps, fits or the parts list."""
        self.tabs[index].setChecked(True)
        self.stack.setCurrentIndex(index)

    def set_count(self, index: int, count: int) -> None:
        """How much there is to look at behind a tab; 0 shows nothing."""
        name = TABS[index][0]
        self.tabs[index].setText(spoken(f"{name} {count}" if count else name))

    def take_focus(self) -> None:
        """The keyboard to the offers while there are any, else to the shown table."""
        (self.joining if self.joining.flow.isVisible() else self.stack.currentWidget() or self).setFocus()
