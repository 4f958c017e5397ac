"""What the pointer does on the drawing board, one class a mode; a drag between press and release is a gesture.

| mode      | click                                       | drag                          | Enter          |
|-----------|---------------------------------------------|-------------------------------|----------------|
| pick      | picks; Shift adds; double: a chain, a value | moves what is loose; a window |                |
| draw      | the tool's next place                       |                               | ends the chain |
| regions   | takes a region, or leaves it out            |                               |                |
| dimension | picks, then places                          |                               |                |
| trim      | takes a piece away                          |                               |                |
| take      | takes an edge of the body                   |                               |                |

Escape lets go of what is half done, then of the mode, then of what is picked.
"""

from __future__ import annotations

from typing import Protocol

from lathed_solid.errors import LathedError
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.infer import Snap
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.solve import Drag, moved
from lathed_solid.workbench.sketch.board import STILL, DrawingBoard, Interaction
from lathed_solid.workbench.sketch.tools import Drawing, Tool


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
class _Mode:
    """What most modes share: the pointer lights up what lies under it, a press that stays still is a click."""

    mode = ""
    words = ""

    def __init__(self, board: DrawingBoard) -> None:
        self.board = board
        self.start: complex | None = None

    @property
    def hint(self) -> str:
        """What the next click does."""
        return self.words

    def find(self, at: complex) -> str | None:
        """What would be meant by a click."""
        return self.board.under(at)

    def press(self, at: complex) -> None:
        self.start = at

    def move(self, at: complex, held: bool) -> None:
        if not held:
            self.board.hover = self.find(at)

    def release(self, at: complex, add: bool) -> None:
        start, self.start = self.start, None
        if start is None or abs((at - start).real) + abs((at - start).imag) > STILL:
            return
        name = self.find(at)
        if name is not None:
            self.board.clicked(name, self.board.paper.place(at))
        self.click(name, at, add)

    def click(self, name: str | None, at: complex, add: bool) -> None:
        """A click on what was found there, or on paper."""

    def double(self, at: complex) -> None:
        """A double click."""

    def cancel(self) -> bool:
        """Whether there was something half done."""
        return False

    def accept(self) -> bool:
        """Whether Enter meant something."""
        return False

    def typed(self, text: str) -> bool:
        """Whether a character meant something."""
        return False


class Pick(_Mode):
    """Picks, drags what is loose, opens windows, chains and dimensions."""

    mode = "pick"

    def __init__(self, board: DrawingBoard) -> None:
        super().__init__(board)
        self.gesture: Gesture | None = None

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
            return Window(board, at) if under is None else None
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
        elif state.sketch.by_id[name].kind != "point":
            self.board.choose(tuple(state.chain(name)))

    def cancel(self) -> bool:
        gesture, self.gesture = self.gesture, None
        if gesture is not None:
            gesture.cancel()
            self.start = None
        return gesture is not None


class PickRegions(_Mode):
    """Takes the regions to build on."""

    mode = "regions"
    words = "click the regions to build on; again to leave one out"

    def find(self, at: complex) -> str | None:
        region = self.board.state.region_at(self.board.paper.place(at))
        return region.name if region else None

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None:
            self.board.region_clicked.emit(name)


class TakeEdges(_Mode):
    """Takes edges of the body as construction."""

    mode = "take"
    words = "click an edge of the body to take it as construction"

    def find(self, at: complex) -> str | None:
        return self.board.edge_under(at)

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None:
            self.board.edge_clicked.emit(name)


class Trim(_Mode):
    """Takes pieces away up to the next crossing."""

    mode = "trim"
    words = "click the part to take away"

    def click(self, name: str | None, at: complex, add: bool) -> None:
        if name is not None and name in self.board.state.sketch.by_id:
            self.board.cut_at.emit(name, self.board.paper.place(at))


class PlaceDimension(_Mode):
    """Picks one or two things, then places their dimension; where it stands says which one is meant."""

    mode = "dimension"
    words = "pick what to dimension, then click where it shall stand"

    def click(self, name: str | None, at: complex, add: bool) -> None:
        board, chosen = self.board, self.board.chosen
        is_entity = name is not None and name in board.state.sketch.by_id
        if chosen and (not is_entity or len(chosen) >= 2):
            c = board.state.dimension_for(chosen, board.paper.place(at))
            if c is not None:
                board.placed.emit(c)
                return
            board.told.emit("nothing can be dimensioned between these", True)
        if name is None:
            board.choose(())
        elif add or (len(chosen) < 2 and is_entity):
            rest = tuple(n for n in chosen if n != name)
            board.choose(rest if name in chosen and add else (*rest, name))
        else:
            board.choose((name,))


class Draw(_Mode):
    """Draws with a tool: its places one after another, a figure with the last one."""

    mode = "draw"

    def __init__(self, board: DrawingBoard, tool: Tool) -> None:
        super().__init__(board)
        self.tool = tool
        self.snaps: list[Snap] = []

    @property
    def hint(self) -> str:
        n = min(len(self.snaps), len(self.tool.hints) - 1)
        return f"{self.tool.title}: {self.tool.hints[n]}"

    def move(self, at: complex, held: bool) -> None:
        self.board.hover = None

    def press(self, at: complex) -> None:
        self.take(self.board.snap(at))

    def release(self, at: complex, add: bool) -> None:
        """A place is taken when the button goes down."""

    def take(self, place: Snap) -> None:
        """Place the next point of the tool; the figure is made with the last one."""
        self.snaps.append(place)
        if self.tool.id != "spline" and len(self.snaps) >= self.tool.clicks:
            self.finish()
        self.board.hinted.emit(self.hint)

    def finish_here(self) -> None:
        """Enter in a size field: the places that are missing are where the pointer is."""
        if not self.snaps:
            return
        board = self.board
        here = board.snap(board.cursor) if board.cursor is not None else Snap(self.snaps[-1].place + 10 + 10j)
        while len(self.snaps) < self.tool.clicks:
            self.snaps.append(Snap(here.place))
        self.finish()

    def finish(self) -> None:
        """Make the figure from the clicked places; a tool that goes on starts at its end."""
        snaps, board = self.snaps, self.board
        if len(snaps) < 2 and self.tool.clicks > 1:
            return
        self.snaps = []
        draft = SketchBuilder(board.state.sketch)
        try:
            points = self.tool.build(draft, self._drawing(snaps))
            for s, made in zip(snaps, points, strict=False):
                if s.kind and made is not None:
                    draft.add(s.kind, made, s.entity, inferred=True)  # type: ignore[arg-type]
            sketch = draft.done()
        except LathedError as exc:
            board.told.emit(exc.message, True)
            return
        board.settings.texts, board.settings.values = {}, {}
        board.drawn.emit(f"draw a {self.tool.title}", sketch)
        end = points[-1] if points else None
        now = board.state.sketch
        if self.tool.chain and end is not None and snaps[-1].kind != "coincident" and end in now.by_id:
            self.snaps = [Snap(complex(*now.at(end)), "coincident", end)]
        board.hinted.emit(self.hint)

    def preview(self) -> tuple[Sketch | None, Snap, str]:
        """What a click at the pointer would make (None: not enough yet), where, and what would be inferred."""
        board = self.board
        assert board.cursor is not None
        here = board.snap(board.cursor)
        said = here.words if board.settings.infer else "nothing inferred"
        snaps = [*self.snaps, here]
        if len(snaps) < self.tool.clicks:
            return None, here, said
        draft = SketchBuilder()
        try:
            self.tool.build(draft, self._drawing(snaps))
        except LathedError:
            return None, here, said
        sketch = draft.done()
        ways = [c.kind for c in sketch.constraints if c.inferred]
        return sketch, here, " · ".join([*ways, *([said] if said else [])])

    def _drawing(self, snaps: list[Snap]) -> Drawing:
        s = self.board.settings
        return Drawing([p.place for p in snaps], dict(s.texts), dict(s.values), s.infer, s.sides, s.text, s.along)

    def cancel(self) -> bool:
        some, self.snaps = bool(self.snaps), []
        return some

    def accept(self) -> bool:
        if self.tool.id == "spline":
            self.finish()
        else:
            self.snaps = []
        return True

    def typed(self, text: str) -> bool:
        """N infers nothing; a digit begins a size."""
        if text.lower() == "n":
            self.board.settings.infer = not self.board.settings.infer
            return True
        if self.snaps and text and (text.isdigit() or text in "#.,("):
            self.board.value_typed.emit(text)
            return True
        return False


_MODES: dict[str, type[_Mode]] = {m.mode: m for m in (Pick, PickRegions, TakeEdges, Trim, PlaceDimension)}


def begin(board: DrawingBoard, mode: str, tool: Tool | None = None) -> Interaction:
    """Turn the board to a mode; to drawing with a tool."""
    made: Interaction = Draw(board, tool) if tool is not None else _MODES[mode](board)
    board.turn_to(made)
    return made
