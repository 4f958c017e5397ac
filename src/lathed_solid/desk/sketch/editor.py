"""The sketch's editor: words to draw with, the drawing, a strip for what is in hand, what there is to say."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from PyQt6.QtCore import QSize, Qt, pyqtSignal
from PyQt6.QtGui import QHideEvent, QIcon, QKeyEvent, QShowEvent
from PyQt6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from lathed_solid.desk import theme
from lathed_solid.desk.sketch.canvas import Canvas
from lathed_solid.desk.sketch.paint import thumbnail
from lathed_solid.desk.sketch.prompts import QtSketchPrompts
from lathed_solid.desk.sketch.strip import Strip
from lathed_solid.desk.sketch.underlay import read_picture
from lathed_solid.part import Document, FacePlane, SketchStep
from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.edits import has_other_side
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Constraint
from lathed_solid.store import stored
from lathed_solid.workbench.sketch import findings, more, plane, underlay
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.commands import SketchCommands
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.keys import OF_WORD, pressed
from lathed_solid.workbench.sketch.mode import ANGLE
from lathed_solid.workbench.sketch.relations import offered
from lathed_solid.workbench.sketch.tools import BY_ID, TOOLS, Tool
from lathed_solid.workbench.sketch.view_model import SketchState

_NAMED: dict[int, str] = {Qt.Key.Key_Delete.value: "Delete", Qt.Key.Key_Backspace.value: "Backspace"}
#: name, title, what it does
Word = tuple[str, str, Callable[[], object]]


class SketchEditor(QWidget):
    """Emits (label, new step) for every edit; (kind, values) for a step to be built on picked regions."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)
    step_wanted = pyqtSignal(str, object)
    #: whether a sketch is being worked on
    in_view = pyqtSignal(bool)

    def __init__(self) -> None:
        super().__init__()
        self.state = SketchState()
        self.board = DrawingBoard(self.state)
        self.commands = SketchCommands(self.board, QtSketchPrompts(self))
        self.picked = ""
        self.underlay_name = ""
        self._shown: int | None = None
        self._outlines: Mapping[int, tuple[Edge, ...]] = {}
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.tool_buttons: dict[str, QPushButton] = {}
        outer.addLayout(self._caption())
        outer.addLayout(self._words([self._tool_word(t) for t in TOOLS if t.id not in more.TOOL_IDS]))
        outer.addLayout(self._words(self._work()))
        self.more = QMenu(self)
        self._fill_more()
        self.canvas = Canvas(self.board)
        outer.addWidget(self.canvas, 1)
        self.strip = Strip()
        outer.addWidget(self.strip)
        self.said = QListWidget()
        self.said.setAccessibleName("What there is to say about the sketch")
        self.said.setMouseTracking(True)
        self.said.setIconSize(QSize(56, 38))
        self.said.itemEntered.connect(self._point_at)
        self.said.currentItemChanged.connect(lambda item, _old: self._point_at(item))
        self.said.itemActivated.connect(self._apply_row)
        self.said.setWordWrap(True)
        self.said.setResizeMode(QListWidget.ResizeMode.Adjust)
        self.said.setTextElideMode(Qt.TextElideMode.ElideNone)
        self.said.setSpacing(2)
        self.said.hide()  # it stands beside the drawing, where the window puts it
        self._connect()

    def _caption(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 8, 12, 4)
        row.setSpacing(6)
        self.title = QLabel("SKETCH")
        self.title.setObjectName("caption")
        self.title.setFont(theme.narrow(13, theme.QFont.Weight.Medium))
        self.plane = QComboBox()
        self.plane.setFont(theme.narrow(12))
        self.plane.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToContents)
        self.plane.setToolTip("The plane that the sketch lies on")
        self.plane.activated.connect(lambda i: plane.set_plane(self.commands, self.plane.itemText(i)))
        self.turn = QPushButton("turn")
        self.turn.setToolTip("Turn the sketch by 90° in its plane")
        self.turn.clicked.connect(lambda: plane.turn_plane(self.commands))
        self.flip = QPushButton("flip")
        self.flip.setToolTip("Look at the plane from behind")
        self.flip.clicked.connect(lambda: plane.flip_plane(self.commands))
        self.headline = QLabel("")
        self.headline.setFont(theme.font(13, theme.QFont.Weight.DemiBold))
        row.addWidget(self.title)
        for w in (self.plane, self.turn, self.flip):
            w.setFixedHeight(24)
            w.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            row.addWidget(w)
        self._add_word(row, "take", "edges", lambda: self.commands.set_mode("take"))
        self.tool_buttons["take"].setToolTip("Take edges of the body beneath as construction")
        self._add_word(row, "check", "check", self.commands.check)
        self._add_word(row, "regions", "build on…", lambda: self.commands.set_mode("regions"))
        row.addStretch(1)
        row.addWidget(self.headline)
        return row

    def _words(self, entries: list[Word]) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(12, 2, 12, 2)
        row.setSpacing(3)
        for entry in entries:
            self._add_word(row, *entry)
        row.addStretch(1)
        return row

    def _add_word(self, row: QHBoxLayout, name: str, title: str, run: Callable[[], object]) -> None:
        button, key = QPushButton(title), OF_WORD.get(name, "")
        button.setFont(theme.narrow(12))
        button.setFixedHeight(24)
        button.setToolTip(f"{title} ({key})" if key else title)
        button.setCheckable(name in BY_ID or name in ("dimension", "trim", "regions", "take"))
        button.setStyleSheet("padding: 0 6px;")
        button.clicked.connect(lambda _=False: run())
        button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.tool_buttons[name] = button
        row.addWidget(button)

    def _tool_word(self, tool: Tool) -> Word:
        return tool.id, tool.title, lambda: self.commands.start_tool(tool.id)

    def _work(self) -> list[Word]:
        return [
            ("dimension", "dimension", lambda: self.commands.set_mode("dimension")),
            ("trim", "trim", lambda: self.commands.set_mode("trim")),
            ("corner", "corner", self.commands.corner),
            ("round", "round…", self.commands.round),
            ("bevel", "bevel…", self.commands.bevel),
            ("offset", "offset…", self.commands.offset),
            ("mirror", "mirror", self.commands.mirror),
            ("ring", "ring…", self.commands.ring),
            ("close", "close gaps…", self.commands.close_gaps),
            ("complete", "complete", self.commands.complete),
            ("others", "other shapes", self.commands.others),
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

    def _connect(self) -> None:
        board, commands, strip = self.board, self.commands, self.strip
        board.picked.connect(lambda _names: self._show_strip())
        board.dimension_opened.connect(self._open_dimension)
        board.value_typed.connect(self._begin_typing)
        board.hinted.connect(strip.set_hint)
        commands.changed.connect(self.changed.emit)
        commands.step_wanted.connect(self.step_wanted.emit)
        commands.told.connect(self.told.emit)
        commands.said.connect(self._say)
        commands.in_hand_changed.connect(self._show_hand)
        commands.dimensions.begun.connect(self._show_new_dimension)
        strip.sizes_changed.connect(commands.take_sizes)
        strip.entered.connect(self._enter_sizes)
        strip.relation_wanted.connect(commands.relate)
        strip.removed.connect(commands.remove_chosen)
        strip.construction_toggled.connect(commands.toggle_construction)
        strip.centreline_toggled.connect(commands.toggle_centreline)
        strip.meaning_wanted.connect(commands.dimensions.begin)
        strip.value_given.connect(self._give_value)
        strip.reference_toggled.connect(commands.dimensions.toggle_reference)
        strip.other_side_wanted.connect(commands.dimensions.to_other_side)
        strip.footing_wanted.connect(commands.dimensions.refoot)
        strip.build_wanted.connect(commands.build_on)
        strip.left.connect(lambda: self.canvas.setFocus())

    def _show_hand(self) -> None:
        """Another mode or tool: its word is down, the strip and the keyboard are for it."""
        interaction = self.board.interaction
        name = interaction.tool.id if isinstance(interaction, Draw) else self.board.mode
        for word, button in self.tool_buttons.items():
            button.setChecked(word == name)
        self._show_strip()
        self.canvas.setFocus()

    def _open_dimension(self, name: str) -> None:
        self.board.choose((name,))
        self.strip.focus_value()

    def _begin_typing(self, text: str) -> None:
        """A character typed over the drawing goes to the size that the next place leaves open, or to the value."""
        draw = self.board.interaction
        if not isinstance(draw, Draw):
            self.strip.type_value(text)
        elif text in ANGLE:
            self.strip.begin_typing("angle", "")
        else:
            self.strip.begin_typing(draw.tool.next_size(len(draw.snaps)), text)

    def _enter_sizes(self) -> None:
        self.commands.finish_here()
        if not self.board.settings.texts:  # the figure is made: its sizes are its own
            self.strip.clear_sizes()

    def _show_new_dimension(self, c: Constraint, text: str) -> None:
        meanings = self.commands.dimensions.other_meanings()
        self.strip.show_dimension(c, text, self.commands.scope, new=True, meanings=meanings)

    def _give_value(self, text: str) -> None:
        self.commands.dimensions.give_value(text)
        self.canvas.setFocus()

    # showing -------------------------------------------------------------------------------------
    def show_step(self, document: Document, step: SketchStep) -> None:
        """Show a sketch step; the view is fitted when it is another one than before."""
        self.state.load(document, step)
        self.title.setText(f"SKETCH — step {step.number} on")
        names = list(plane.PLANES) + ([step.plane.face] if isinstance(step.plane, FacePlane) else [])
        if self.picked and self.picked not in names:
            names.append(self.picked)
        self.plane.blockSignals(True)
        self.plane.clear()
        self.plane.addItems(names)
        self.plane.setCurrentText(step.plane.face if isinstance(step.plane, FacePlane) else step.plane.plane)
        self.plane.blockSignals(False)
        self.headline.setText(self.state.headline)
        fresh = step.number != self._shown
        self._shown = step.number
        self.board.refresh()
        if fresh:
            self.board.regions = ()
            self.commands.set_mode("pick")
            self.board.fit()
        self._show_underlay()
        self._take_outline()
        self.commands.say()
        self._show_strip()

    def set_outlines(self, outlines: Mapping[int, tuple[Edge, ...]]) -> None:
        """The body beneath each sketch, by step number, as the last build had it."""
        self._outlines = outlines
        if self._take_outline():  # else what stands in the list, say the check's findings, stays
            self.commands.say()

    def _take_outline(self) -> bool:
        """Lay the body beneath this sketch under the drawing; whether it is another one than before."""
        before, self.board.outline = self.board.outline, self._outlines.get(self._shown or 0, ())
        if self.board.outline == before:
            return False
        self.board.fit_if_untouched()
        self.board.changed.emit()
        return True

    def _show_underlay(self) -> None:
        """Lay the step's picture under the drawing; a missing one is told once."""
        step, lies = self.state.step, underlay.laid(self.commands)
        if step is None or step.underlay is None or lies is None:
            self.canvas.underlay, self.underlay_name = None, ""
            return
        self.canvas.underlay_at = lies
        if self.underlay_name != step.underlay.picture:
            self.underlay_name = step.underlay.picture
            self.canvas.underlay = read_picture(stored(self.underlay_name))
            if self.canvas.underlay is None:
                self.told.emit("the picture beneath the sketch is not here: choose it again", True)
        self.canvas.update()

    def take_picked(self, face: str) -> None:
        """A face picked in the solid can carry the sketch."""
        self.picked = face
        if face and self.plane.findText(face) < 0:
            self.plane.addItem(face)

    def _show_strip(self) -> None:
        board, state, strip = self.board, self.state, self.strip
        if isinstance(board.interaction, Draw):
            strip.show_sizes(board.interaction.tool, self.commands.scope)
        elif board.mode == "regions":
            strip.show_regions(len(board.regions), len(state.regions))
        elif self.commands.dimensions.pending is not None:
            return
        elif (k := self.commands.dimensions.chosen) is not None and k.kind in DIMENSIONS:
            footings = self.commands.dimensions.footings()
            strip.show_dimension(k, state.dimension_text(k), self.commands.scope, footings=footings)
        elif board.chosen:
            figure, names = board.holding()
            turns = k is not None and len(board.chosen) == 1 and has_other_side(k)
            strip.show_chosen(board.chosen, offered(figure.sketch, names), state.relations_on(names), turns=turns)
        else:
            strip.show_nothing(len(state.sketch.entities), len(state.sketch.constraints))

    # what there is to say ------------------------------------------------------------------------
    def _say(self, rows: list[findings.Remark]) -> None:
        self.said.clear()
        for row in rows:
            item = QListWidgetItem(row.text)
            item.setData(Qt.ItemDataRole.UserRole, row)
            item.setToolTip(row.text)
            if row.picture and row.ghost is not None:
                item.setIcon(QIcon(thumbnail(self.state.sketch, row.ghost)))
            font = theme.font(13, theme.QFont.Weight.DemiBold) if row.head else theme.font(13)
            item.setFont(font)
            if row.apply is not None:
                item.setToolTip(f"{row.text}\n(double click or Enter does it; pointing shows what comes of it)")
            self.said.addItem(item)
        if not rows:
            quiet = QListWidgetItem("nothing to say")
            quiet.setFlags(Qt.ItemFlag.NoItemFlags)
            self.said.addItem(quiet)

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.said.show()
        self.in_view.emit(True)

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.said.hide()
        self.in_view.emit(False)

    def _point_at(self, item: QListWidgetItem | None) -> None:
        row: findings.Remark | None = item.data(Qt.ItemDataRole.UserRole) if item is not None else None
        self.board.ghost = row.ghost if row is not None else None
        self.board.movement = row.movement if row is not None else None
        if row is not None:
            self.board.chosen = tuple(row.entities)
        self.board.changed.emit()

    def _apply_row(self, item: QListWidgetItem) -> None:
        self.commands.apply(item.data(Qt.ItemDataRole.UserRole))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        typing = isinstance(self.focusWidget(), QLineEdit)
        shift = "Shift+" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else ""
        name = f"{shift}{chr(event.key())}" if 64 < event.key() < 91 else ""
        name = _NAMED.get(event.key(), name or event.text())
        if typing or event.modifiers() & Qt.KeyboardModifier.ControlModifier or not pressed(self.commands, name):
            super().keyPressEvent(event)
