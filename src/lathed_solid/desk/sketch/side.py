"""Beside the drawing: what is worked on, its state, words to draw and work with, and what there is to say."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QSize, Qt
from PyQt6.QtGui import QIcon
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
)

from lathed_solid.desk import theme
from lathed_solid.desk.flow import Flow
from lathed_solid.desk.language import spoken
from lathed_solid.desk.sketch.beside import Beside
from lathed_solid.desk.sketch.paint import THUMBNAIL, thumbnail
from lathed_solid.part import SketchStep
from lathed_solid.workbench.sketch import findings, more, plane
from lathed_solid.workbench.sketch.commands import SketchCommands
from lathed_solid.workbench.sketch.keys import OF_WORD
from lathed_solid.workbench.sketch.tools import BY_ID, TOOLS
from lathed_solid.workbench.sketch.view_model import SketchState

#: name, title, what it does
Word = tuple[str, str, Callable[[], object]]
#: words that stay down while what they began is in hand
_MODES = ("dimension", "trim", "regions", "take")
MARGIN = 10


class Side(Beside):
    """The words begin work on the board; what is said is pointed at, and done by Enter or a double click."""

    def __init__(self, commands: SketchCommands) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.commands, self.board = commands, commands.board
        self.tool_buttons: dict[str, QPushButton] = {}
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 6, 0, 0)
        outer.setSpacing(5)
        outer.addLayout(self._caption())
        outer.addLayout(self._words(self._plane_work()))
        outer.addLayout(self._words([self._tool_word(t.id) for t in TOOLS if t.id not in more.TOOL_IDS]))
        outer.addLayout(self._words(self._work()))
        self.more = QMenu(self)
        self._fill_more()
        outer.addWidget(self._list(), 1)
        commands.remarks.said.connect(self._say)

    def _caption(self) -> QVBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(MARGIN, 0, MARGIN, 0)
        row.setSpacing(6)
        self.title = QLabel(spoken("SKETCH"))
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.plane = QComboBox()
        self.plane.setAccessibleName(spoken("plane of the sketch"))
        self.plane.setFont(theme.narrow(12))
        self.plane.setFixedHeight(24)
        self.plane.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.plane.setMinimumContentsLength(6)
        self.plane.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.plane.setToolTip(spoken("The plane that the sketch lies on"))
        self.plane.activated.connect(lambda i: plane.set_plane(self.commands, self.plane.itemText(i)))
        row.addWidget(self.title)
        row.addWidget(self.plane, 1)
        self.headline = QLabel("")
        self.headline.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        self.headline.setContentsMargins(MARGIN, 0, MARGIN, 0)
        self.headline.setWordWrap(True)
        both = QVBoxLayout()
        both.setSpacing(4)
        both.addLayout(row)
        both.addWidget(self.headline)
        return both

    def _words(self, entries: list[Word]) -> Flow:
        flow = Flow()
        flow.setContentsMargins(MARGIN, 0, MARGIN, 0)
        for entry in entries:
            flow.addWidget(self._word(*entry))
        return flow

    def _word(self, name: str, title: str, run: Callable[[], object]) -> QPushButton:
        button, key = QPushButton(spoken(title, "sketch")), OF_WORD.get(name, "")
        button.setFont(theme.narrow(12))
        button.setFixedHeight(23)
        button.setToolTip(spoken(_TIPS.get(name, title) + (f" ({key})" if key else "")))
        button.setCheckable(name in BY_ID or name in _MODES)
        button.setStyleSheet("padding: 0 6px;")
        button.clicked.connect(lambda _=False: self._begin(run))
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.tool_buttons[name] = button
        return button

    def _begin(self, run: Callable[[], object]) -> None:
        """The pointer is on a word, and nowhere on the drawing."""
        self.board.leave()
        run()

    def _tool_word(self, name: str) -> Word:
        return name, BY_ID[name].title, lambda: self.commands.start_tool(name)

    def _plane_work(self) -> list[Word]:
        c = self.commands
        return [
            ("turn", "turn", lambda: plane.turn_plane(c)),
            ("flip", "flip", lambda: plane.flip_plane(c)),
            ("take", "edges", lambda: c.set_mode("take")),
            ("check", "check", c.remarks.check),
            ("regions", "build on…", lambda: c.set_mode("regions")),
        ]

    def _work(self) -> list[Word]:
        c = self.commands
        return [
            ("dimension", "dimension", lambda: c.set_mode("dimension")),
            ("trim", "trim", lambda: c.set_mode("trim")),
            ("corner", "corner", c.corner),
            ("round", "round…", c.round),
            ("bevel", "bevel…", c.bevel),
            ("offset", "offset…", c.offset),
            ("mirror", "mirror", c.mirror),
            ("ring", "ring…", c.ring),
            ("close", "close gaps…", c.close_gaps),
            ("complete", "complete", c.remarks.complete),
            ("others", "other shapes", c.remarks.others),
            ("more", "more…", self._open_more),
        ]

    def _fill_more(self) -> None:
        """The less frequent work, each with what it wants picked."""
        for group in more.GROUPS:
            for word, wants, run in group:
                action = self.more.addAction(f"{word}\t{wants}" if wants else word)
                if action is not None:
                    action.triggered.connect(lambda _=False, r=run: r(self.commands))
            self.more.addSeparator()

    def _open_more(self) -> None:
        button = self.tool_buttons["more"]
        self.more.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def _list(self) -> QListWidget:
        self.said = QListWidget()
        self.said.setAccessibleName(spoken("What there is to say about the sketch"))
        self.said.setMouseTracking(True)
        self.said.setIconSize(QSize(*THUMBNAIL))
        self.said.itemEntered.connect(self._point_at)
        self.said.currentItemChanged.connect(lambda item, _old: self._point_at(item))
        self.said.itemActivated.connect(lambda item: self.commands.remarks.apply(item.data(Qt.ItemDataRole.UserRole)))
        self.said.setWordWrap(True)
        self.said.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.said.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.said.setSpacing(2)
        self.said.setMinimumHeight(90)
        return self.said

    # showing -------------------------------------------------------------------------------------
    def show_step(self, state: SketchState, step: SketchStep, picked: str) -> None:
        """What is worked on, and how it stands."""
        self.title.setText(spoken(f"SKETCH — step {step.number} on"))
        self.plane.blockSignals(True)
        self.plane.clear()
        self.plane.addItems(plane.planes_for(state.document, step, picked))
        self.plane.setCurrentText(plane.plane_name(step))
        self.plane.blockSignals(False)
        self.headline.setText(spoken(state.headline))

    def offer_plane(self, face: str) -> None:
        """A face picked in the solid can carry the sketch."""
        if self.plane.findText(face) < 0:
            self.plane.addItem(face)

    def show_in_hand(self, name: str) -> None:
        """The word of the mode or tool in hand is down."""
        for word, button in self.tool_buttons.items():
            button.setChecked(word == name)

    def _say(self, rows: list[findings.Remark]) -> None:
        self.said.clear()
        for row in rows:
            item = QListWidgetItem(row.text)
            item.setData(Qt.ItemDataRole.UserRole, row)
            item.setToolTip(spoken(row.text))
            if row.picture and row.ghost is not None:
                item.setIcon(QIcon(thumbnail(self.board.state.sketch, row.ghost)))
            item.setFont(theme.font(13, theme.QFont.Weight.DemiBold) if row.head else theme.font(13))
            if row.apply is not None:
                item.setToolTip(spoken(f"{row.text}\n(double click or Enter does it; pointing shows what comes of it)"))
            self.said.addItem(item)
        if not rows:
            quiet = QListWidgetItem("nothing to say")
            quiet.setFlags(Qt.ItemFlag.NoItemFlags)
            self.said.addItem(quiet)

    def _point_at(self, item: QListWidgetItem | None) -> None:
        row: findings.Remark | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        self.board.ghost = row.ghost if row is not None else None
        self.board.movement = row.movement if row is not None else None
        if row is not None:
            self.board.chosen = tuple(row.entities)
        self.board.changed.emit()


_TIPS = {
    "turn": "Turn the sketch by 90° in its plane",
    "flip": "Look at the plane from behind",
    "take": "Take edges of the body beneath as construction",
}
