"""The sketch's editor: the drawing and a strip for what is in hand; words and what there is to say stand beside it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QHideEvent, QKeyEvent, QShowEvent
from PyQt6.QtWidgets import QLineEdit, QVBoxLayout, QWidget

from lathed_solid.desk.background import Background
from lathed_solid.desk.language import spoken
from lathed_solid.desk.sketch.canvas import Canvas
from lathed_solid.desk.sketch.prompts import QtSketchPrompts
from lathed_solid.desk.sketch.side import Side
from lathed_solid.desk.sketch.strip import Strip
from lathed_solid.desk.sketch.underlay import read_picture
from lathed_solid.part import Document, SketchStep
from lathed_solid.sketch.constraints import DIMENSIONS
from lathed_solid.sketch.edits import has_other_side
from lathed_solid.sketch.examine import Examination
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Constraint
from lathed_solid.store import stored
from lathed_solid.workbench.sketch import underlay
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.commands import SketchCommands
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.keys import pressed
from lathed_solid.workbench.sketch.mode import ANGLE
from lathed_solid.workbench.sketch.ordinates import MARK
from lathed_solid.workbench.sketch.relations import offered
from lathed_solid.workbench.sketch.view_model import SketchState

_NAMED: dict[int, str] = {Qt.Key.Key_Delete.value: "Delete", Qt.Key.Key_Backspace.value: "Backspace"}


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
        self.state = SketchState(hasty=True)
        self.background = Background(self)
        self._looking = 0
        self.board = DrawingBoard(self.state)
        self.commands = SketchCommands(self.board, QtSketchPrompts(self))
        self.picked = ""
        self.underlay_name = ""
        self._shown: int | None = None
        self._outlines: Mapping[int, tuple[Edge, ...]] = {}
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.canvas = Canvas(self.board)
        outer.addWidget(self.canvas, 1)
        self.strip = Strip()
        outer.addWidget(self.strip)
        self.commands.remarks.beside = self._work_beside
        #: it stands beside the drawing, where the window puts it
        self.side = Side(self.commands)
        self.side.hide()
        self._connect()

    def _connect(self) -> None:
        board, commands, strip = self.board, self.commands, self.strip
        board.picked.connect(lambda _names: self._show_strip())
        board.dimension_opened.connect(self._open_dimension)
        board.value_typed.connect(self._begin_typing)
        board.hinted.connect(strip.set_hint)
        commands.changed.connect(self.changed.emit)
        commands.step_wanted.connect(self.step_wanted.emit)
        commands.told.connect(self.told.emit)
        commands.in_hand_changed.connect(self._show_hand)
        commands.dimensions.begun.connect(self._show_new_dimension)
        strip.sizes_changed.connect(commands.take_sizes)
        strip.entered.connect(self._enter_sizes)
        strip.place_given.connect(self._place)
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
        self.side.left.connect(lambda: self.canvas.setFocus())

    def _show_hand(self) -> None:
        """Another mode or tool: its word is down, the strip and the keyboard are for it."""
        interaction = self.board.interaction
        self.side.show_in_hand(interaction.tool.id if isinstance(interaction, Draw) else self.board.mode)
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
        elif not draw.snaps or text in ("-", MARK):
            self.strip.begin_place(text)
        elif text in ANGLE:
            self.strip.begin_typing("angle", "")
        else:
            self.strip.begin_typing(draw.tool.next_size(len(draw.snaps)), text)

    def _place(self, text: str) -> None:
        if self.commands.place_by_numbers(text):
            self.strip.clear_sizes()
            self.canvas.setFocus()

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
        self.side.show_step(self.state, step, self.picked)
        fresh = step.number != self._shown
        self._shown = step.number
        self.board.refresh()
        if fresh:
            self.board.regions = ()
            self.commands.set_mode("pick")
            self.board.fit()
        self._look_for_fights()
        self._show_underlay()
        self._take_outline()
        self.commands.remarks.say()
        self._show_strip()

    def _work_beside(self, work: Callable[[], Any], done: Callable[[Any], None]) -> None:
        self.background.run(work, done, lambda why: self.told.emit(why, True))

    def _look_for_fights(self) -> None:
        """Contradictions take many trial solves: they are looked for beside, and said when they are found."""
        self.background.drop(self._looking)
        work = self.state.look_for_fights()
        if work is not None:
            self._looking = self.background.run(work, self._take_fights, lambda why: self.told.emit(why, True))

    def _take_fights(self, found: Examination) -> None:
        if self.state.take_fights(found):
            self.side.headline.setText(spoken(self.state.headline))
            self.commands.remarks.say()
            self.canvas.update()

    def set_outlines(self, outlines: Mapping[int, tuple[Edge, ...]]) -> None:
        """The body beneath each sketch, by step number, as the last build had it."""
        self._outlines = outlines
        if self._take_outline():  # else what stands in the list, say the check's findings, stays
            self.commands.remarks.say()

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
        if face:
            self.side.offer_plane(face)

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

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self.side.show()
        self.in_view.emit(True)

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self.side.hide()
        self.in_view.emit(False)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        self.canvas.find_pointer()
        typing = isinstance(self.focusWidget(), QLineEdit)
        shift = "Shift+" if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else ""
        name = f"{shift}{chr(event.key())}" if 64 < event.key() < 91 else ""
        name = _NAMED.get(event.key(), name or event.text())
        if self.board.mode == "regions" and not typing and self.strip.build(name):
            return
        if typing or event.modifiers() & Qt.KeyboardModifier.ControlModifier or not pressed(self.commands, name):
            super().keyPressEvent(event)
