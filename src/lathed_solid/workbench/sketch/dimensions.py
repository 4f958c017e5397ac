"""Dimensions under the hand: begun, given their value, turned to the other side, put on another footing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from lathed_solid.quantity.formatting import angle, length
from lathed_solid.sketch import edits
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.constraints import KINDS
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.measure import measured
from lathed_solid.sketch.model import Constraint, Sketch
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.dimensioning import other_meanings

Edit = Callable[[str, Callable[[Sketch, Values], Sketch]], bool]


class Dimensions:
    """What is done to the dimension that waits for its value, else to the chosen one.

    Signals: a dimension begun, with the text that its value starts with; words.
    """

    def __init__(self, board: DrawingBoard, edit: Edit) -> None:
        self._board, self._edit = board, edit
        self.begun: Signal[Constraint, str] = Signal()
        self.told: Signal[str, bool] = Signal()

    @property
    def pending(self) -> Constraint | None:
        """A dimension that stands and waits for its value."""
        return self._board.pending

    @property
    def chosen(self) -> Constraint | None:
        """The one constraint among what is chosen."""
        found = [c for n in self._board.chosen if (c := self._board.state.sketch.constraint(n)) is not None]
        return found[0] if len(found) == 1 else None

    def begin(self, c: Constraint) -> None:
        """A dimension stands: its value is asked for, starting with what it measures."""
        board = self._board
        value, unit = measured(board.holding()[0].sketch, c.model_copy(update={"side": 0})), board.state.document.unit
        text = angle(value) if KINDS[c.kind].dimension == "angle" else length(abs(value), unit)
        board.pending = c.model_copy(update={"value": text})
        board.changed.emit()
        self.begun.emit(board.pending, text)

    def other_meanings(self) -> list[Constraint]:
        """What else the dimension that waits for its value could mean."""
        return other_meanings(self._board.holding()[0].sketch, self.pending) if self.pending is not None else []

    def give_value(self, text: str) -> None:
        """The value of the dimension that waits for one, else of the chosen one."""
        board = self._board
        figure, pending, board.pending = board.holding()[0].sketch, self.pending, None
        if pending is not None:

            def add(_s: Sketch, _v: Values) -> Sketch:
                draft = SketchBuilder(figure)
                kept: dict[str, Any] = {k: getattr(pending, k) for k in ("side", "label", "supplement")}
                draft.add(pending.kind, *pending.of, value=text, **kept)
                if pending.kind == "across_axis":
                    declare_centreline(draft, pending.of[0])
                return draft.done()

            self._edit(f"dimension {text}", add)
            board.choose(())
        elif (k := self.chosen) is not None:
            name = k.id
            self._edit(f"dimension {text}", lambda s, _v: edits.set_value(s, name, text))

    def toggle_reference(self, on: bool) -> None:
        """The chosen dimension drives, or only tells."""
        if (k := self.chosen) is not None:
            self._edit("reference", lambda s, _v: edits.set_value(s, k.id, k.value, reference=on))

    def to_other_side(self) -> None:
        """What waits for its value, or is chosen, is meant on the other side."""
        pending, k = self.pending, self.chosen
        if pending is not None and edits.has_other_side(pending):
            self.begin(pending.model_copy(update={"side": -pending.side}))
        elif pending is None and k is not None:
            self._edit("other side", lambda s, v: edits.other_side(s, v, k.id))
        else:
            self.told.emit("other side: pick a distance from a line, an angle or a tangency first", True)

    def footings(self) -> list[tuple[str, str]]:
        """Where the chosen dimension could stand instead: pairs of what it stands on and what is chosen beside it."""
        k = self.chosen
        if k is None:
            return []
        state, names = self._board.holding()
        return [(old, new) for new in names for old in edits.footings(state.sketch, k.id, new)]

    def refoot(self, old: str, new: str) -> None:
        """The chosen dimension from something else that is chosen with it."""
        k = self.chosen
        if k is not None:
            figure = self._board.holding()[0].sketch
            self._edit(f"dimension from {new}", lambda _s, _v: edits.refoot(figure, k.id, old, new))
            self._board.choose((k.id,))


def declare_centreline(draft: SketchBuilder, line: str, *, on: bool = True) -> None:
    """A line becomes a centreline, which bounds nothing; or stays construction alone."""
    update = {"centreline": True, "construction": True} if on else {"centreline": False}
    draft.entities[line] = draft.entities[line].model_copy(update=update)
