"""What the pointer does on the drawing board, one class a mode; a drag between press and release is a gesture.

| mode      | click                                       | drag                          | Enter          |
|-----------|---------------------------------------------|-------------------------------|----------------|
| pick      | picks; Shift adds; double: a chain, a value | moves what is loose; a window |                |
| draw      | the tool's next place                       |                               | ends the chain |
| regions   | takes a region, or leaves it out            |                               |                |
| dimension | picks, then places; so does a typed digit   |                               |                |
| trim      | takes a piece away                          |                               |                |
| take      | takes an edge of the body                   |                               |                |

Escape lets go of what is half done, then of the mode, then of what is picked.
"""

from __future__ import annotations

import math
from typing import Protocol

from lathed_solid.sketch.solve import Drag, moved
from lathed_solid.workbench.sketch.board import RIGHT_THERE, STILL, DrawingBoard, Interaction
from lathed_solid.workbench.sketch.dimensioning import dimension_for
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.mode import Mode, begins_value
from lathed_solid.workbench.sketch.tools import Tool


# gestures --------------------------------------------------------------------------------------
class Gesture(Protocol):
    """What goes on between press and release."""

    def move(self, at: complex) -> None: ...
    def end(self, at: complex) -> None: ...
    def cancel(self) -> None: ...


class MoveFigure:
    """A loose entity under the hand: the rest follows as its constraints say, and the least possible moves."""

    def __init__(self, board: DrawingBoard, start: complex, points: tuple[str, ...], moving: frozenset[str]) -> None:
        self.board, self.start = board, board.paper.place(start)
        seen = board.state.seen
        assert seen is not None
        self.drag = Drag(board.state.sketch, seen.values, points)
        board.moving = moving

    def move(self, at: complex) -> None:
        """The figure follows to a pixel."""
        d = self.board.paper.place(at) - self.start
        self.board.dragged = self.drag.to(d.real, d.imag)

    def end(self, at: complex) -> None:
        """The figure stays where it was dragged."""
        x, self.board.dragged = self.board.dragged, None
        if x is not None:
            self.board.drawn.emit("drag", moved(self.board.state.sketch, x))

    def cancel(self) -> None:
        """The figure stays as it was."""
        self.board.dragged = None


class Window:
    """A window over the paper picks what lies wholly within."""

    def __init__(self, board: DrawingBoard, start: complex) -> None:
        self.board, self.start, self.at = board, start, start

    def move(self, at: complex) -> None:
        """Open the window to a pixel."""
        self.at = at

    def end(self, at: complex) -> None:
        """Pick what lies within."""
        place = self.board.paper.place
        self.board.choose(self.board.within(place(self.start), place(at)))

    def cancel(self) -> None:
        """Pick nothing."""
        self.at = self.start


# modes -----------------------------------------------------------------------------------------
class Pick(Mode):
    """Picks, drags what is loose, opens windows, chains and dimensions."""

    mode = "pick"

    def __init__(self, board: DrawingBoard) -> None:
        super().__init__(board)
        self.gesture: Gesture | None = None
        self._clicked_at: complex | None = None

    def _same_place(self, at: complex) -> bool:
        return self._clicked_at is not None and abs(at - self._clicked_at) <= STILL

    def move(self, at: complex, held: bool) -> None:
        super().move(at, held)
        if not held or self.start is None:
            return
        off = at - self.start
        if self.gesture is None and abs(off.real) + abs(off.imag) > STILL:
            self.gesture = self._begin(self.start)
            if self.gesture is None:
                self.start = None
        if self.gesture is not None:
            self.gesture.move(at)

    def _begin(self, at: complex) -> Gesture | None:
        """A window on paper, a drag on what is loose; nothing, with words, on what is held."""
        board, under = self.board, self.board.under(at)
        e = board.state.sketch.by_id.get(under or "")
        if e is None:
            return Window(board, at) if board.state.sketch.constraint(under or "") is None else None
        seen = board.state.seen
        if seen is None or not seen.ok:
            board.told.emit("a fighting sketch cannot be dragged: end the fight first", True)
            return None
        if e.id not in seen.freedoms.loose:
            board.told.emit(f"{e.id} is held: nothing to drag", False)
            return None
        points = e.points[:1] if e.kind in ("circle", "arc", "ellipse") else e.points
        return MoveFigure(board, at, points, frozenset({e.id, *points}))

    def release(self, at: complex, add: bool) -> None:
        gesture, self.gesture = self.gesture, None
        if gesture is not None:
            self.start = None
            gesture.end(at)
        else:
            super().release(at, add)

    def click(self, name: str | None, at: complex, add: bool) -> None:
        chosen = self.board.chosen
        beneath = self.board.all_under(at)
        if not add and len(chosen) == 1 and chosen[0] in beneath and self._same_place(at):
            name = beneath[(beneath.index(chosen[0]) + 1) % len(beneath)]  # a second click takes what lies beneath
        self._clicked_at = at
        if name is None:
            self.board.choose(())
        elif add:
            rest = tuple(n for n in chosen if n != name)
            self.board.choose(rest if name in chosen else (*rest, name))
        else:
            self.board.choose((name,))

    def double(self, at: complex) -> None:
        state, name = self.board.state, self.board.under(at)
        if name is None:
            return
        if state.sketch.constraint(name) is not None:
            self.board.dimension_opened.emit(name)
        elif name in state.sketch.by_id and state.sketch.by_id[name].kind != "point":
            self.board.choose(tuple(state.chain(name)))

    def cancel(self) -> bool:
        gesture, self.gesture = self.gesture, None
        if gesture is not None:
            gesture.cancel()
            self.start = None
        return gesture is not None


class PickRegions(Mode):
    """Takes the regions to build on."""

    mode = "regions"
    words = "click the regions to build on; again to leave one out"

    def find(self, at: complex) -> str | None:
        region = self.board.state.region_at(self.board.paper.place(at))
        return region.name if region else None

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None:
            self.board.region_clicked.emit(name)


class TakeEdges(Mode):
    """Takes edges of the body as construction."""

    mode = "take"
    words = "click an edge of the body to take it as construction"

    def find(self, at: complex) -> str | None:
        return self.board.edge_under(at)

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None:
            self.board.edge_clicked.emit(name)


class Trim(Mode):
    """Takes pieces away up to the next crossing."""

    mode = "trim"
    words = "click the part to take away"

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None and name in self.board.state.sketch.by_id:
            self.board.cut_at.emit(name, self.board.paper.place(at))


class PlaceDimension(Mode):
    """Picks one or two things, then places their dimension; where it stands says which one is meant."""

    mode = "dimension"
    words = "pick what to dimension, then click where it shall stand"

    def __init__(self, board: DrawingBoard) -> None:
        super().__init__(board)
        self._clicked_at = complex(math.inf, math.inf)

    def find(self, at: complex) -> str | None:
        """What is drawn, and what it can be held on to: the texts of other dimensions are paper.

        When what is picked can be dimensioned alone, its text may stand beside an edge or an axis: only right on it
        that is meant.
        """
        board = self.board
        sketch = board.state.sketch
        found = [n for n in board.all_under(at) if sketch.constraint(n) is None]
        if len(board.chosen) == 1 and found and found[0] not in sketch.by_id:
            near = board.near.curves_under(sketch, board.paper.place(at), board.paper.mm(RIGHT_THERE))
            found = [n for n in found if board.near.shape_of(n) is None or n in near]
        return self._beneath(found, at)

    def _beneath(self, found: list[str], at: complex) -> str | None:
        """The first found; what lies beneath it when it is picked already and clicked at the same place again."""
        chosen = self.board.chosen
        if len(chosen) == 1 and chosen[0] in found and abs(at - self._clicked_at) <= STILL:
            return found[(found.index(chosen[0]) + 1) % len(found)]
        return found[0] if found else None

    def click(self, name: str | None, at: complex, add: bool) -> None:
        board, chosen = self.board, self.board.chosen
        is_entity = name is not None
        again = abs(at - self._clicked_at) <= STILL and len(chosen) == 1
        self._clicked_at = at
        if again and name is not None and not add:
            board.choose((name,))
            return
        if chosen and (not is_entity or len(chosen) >= 2) and self._place(at):
            return
        if name is None:
            board.choose(())
        elif add or len(chosen) < 2:
            rest = tuple(n for n in chosen if n != name)
            board.choose(rest if name in chosen and add else (*rest, name))
        else:
            board.choose((name,))

    def _place(self, at: complex) -> bool:
        """The dimension of what is picked, its text at a pixel; False, told, when there is none between them."""
        board = self.board
        state, names = board.holding()
        c = dimension_for(state, names, board.paper.place(at), [board.pressed_at(n) for n in board.chosen])
        if c is None:
            board.told.emit("nothing can be dimensioned between these", True)
            return False
        board.placed.emit(c)
        return True

    def typed(self, text: str) -> bool:
        """A digit places the dimension of what is picked where the pointer is, and begins its value."""
        board = self.board
        if not begins_value(text) or not board.chosen or board.cursor is None:
            return False
        if self._place(board.cursor):
            board.value_typed.emit(text)
        return True


_MODES: dict[str, type[Mode]] = {m.mode: m for m in (Pick, PickRegions, TakeEdges, Trim, PlaceDimension)}


def begin(board: DrawingBoard, mode: str, tool: Tool | None = None) -> Interaction:
    """Turn the board to a mode; to drawing with a tool."""
    made: Interaction = Draw(board, tool) if tool is not None else _MODES[mode](board)
    if mode == "dimension":
        board.choose(())  # nothing that was picked before is dimensioned unseen
    board.turn_to(made)
    return made
