"""Drawing with a tool: its places one after another, tied to what the clicks fell on, a figure with the last one."""

from __future__ import annotations

from dataclasses import replace

from lathed_solid.errors import LathedError
from lathed_solid.quantity.tolerances import ROUNDING
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.holds import drop_unused, parted
from lathed_solid.sketch.infer import Snap, smooth_ends, square_sides, tied
from lathed_solid.sketch.model import Arc, Line, Sketch
from lathed_solid.sketch.outside import AXES
from lathed_solid.sketch.stops import spare
from lathed_solid.workbench.sketch.board import REACH, DrawingBoard
from lathed_solid.workbench.sketch.mode import ANGLE, Mode, begins_value
from lathed_solid.workbench.sketch.ordinates import MARK
from lathed_solid.workbench.sketch.tools import Drawing, Tool

#: said of a new curve by itself; what its ends are tied to is said by the place under the pointer
INFERRED_WAYS = frozenset({"horizontal", "vertical", "tangent", "perpendicular", "parallel"})
#: in larger sketches what is inferred is not tested for what is said already
INFERENCE_UP_TO = 400
#: sine of the least angle at which a line meets an ordinate
ACROSS = 0.1


class Draw(Mode):
    """Draws with a tool: its places one after another, a figure with the last one."""

    mode = "draw"

    def __init__(self, board: DrawingBoard, tool: Tool) -> None:
        super().__init__(board)
        self.tool = tool
        self.snaps: list[Snap] = []
        #: where the chain began, and the ends of its pieces so far
        self.trail: list[Snap] = []

    def refresh(self) -> None:
        """An undo took away what the tool goes on from: it goes on from the last end that is still there."""
        known = self.board.state.sketch.by_id
        self.trail = [s for s in self.trail if not s.entity or s.entity in known]
        if not all(not s.entity or s.entity in known for s in self.snaps):
            self.snaps = self.trail[-1:] if self.tool.chain else []
            self.board.hinted.emit(self.hint)

    @property
    def hint(self) -> str:
        n = min(len(self.snaps), len(self.tool.hints) - 1)
        return f"{self.tool.title}: {self.tool.hints[n]}"

    def move(self, at: complex, held: bool) -> None:
        self.board.hover = None

    def press(self, at: complex) -> None:
        self.take(self.board.snap(at))

    def double(self, at: complex) -> None:
        """Two places in quick succession; a curve through points ends with it."""
        if self.tool.id == "spline":
            self.finish()
        else:
            self.press(at)

    def release(self, at: complex, add: bool) -> None:
        """A place is taken when the button goes down."""

    def take(self, place: Snap) -> None:
        """Place the next point of the tool; the figure is made with the last one."""
        self.snaps.append(place)
        if len(self.snaps) == 1:
            self.trail = [place]
        if self.tool.id != "spline" and len(self.snaps) >= self.tool.clicks:
            self.finish()
        self.board.hinted.emit(self.hint)

    def on_line(self, place: Snap) -> Snap:
        """A place by one ordinate lies on the line under the pointer, where that has the ordinate."""
        board = self.board
        if not board.settings.infer or board.cursor is None or all(place.texts):
            return place
        under = board.snap(board.cursor)
        ends = self._line(under.entity) if under.kind == "on" else None
        if ends is None:
            return place
        a, b = ends
        (at, start, end) = ((z.real if place.texts[0] else z.imag) for z in (place.place, a, b))
        if abs(end - start) < ACROSS * abs(b - a):
            return place
        return replace(place, place=a + (b - a) * (at - start) / (end - start), entity=under.entity)

    def _line(self, name: str) -> tuple[complex, complex] | None:
        """Two places of a line of the sketch, an axis or a straight edge; None for something else."""
        sketch = self.board.state.sketch
        if isinstance(line := sketch.by_id.get(name), Line):
            a, b = (complex(*sketch.at(p)) for p in line.points)
            return a, b
        edge = next((e for e in (*AXES, *self.board.outline) if e.name == name and e.kind == "line"), None)
        return (complex(*edge.points[0]), complex(*edge.points[-1])) if edge is not None else None

    @property
    def here(self) -> complex:
        """Where the pointer is, mm, level with the last place or upright over it when it nearly is; else the last."""
        board, last = self.board, self.snaps[-1].place if self.snaps else None
        if board.last is None:
            return last or 0j
        at = board.paper.place(board.last)
        if last is None:
            return at
        near, off = board.paper.mm(REACH), at - last
        return complex(last.real if abs(off.real) < near else at.real, last.imag if abs(off.imag) < near else at.imag)

    def finish_here(self) -> None:
        """Enter in a size field: the next place is where the pointer is, and so are all that are missing once every
        size is typed.
        """
        if not self.snaps:
            return
        board = self.board
        here = board.snap(board.cursor) if board.cursor is not None else Snap(self.snaps[-1].place + 10 + 10j)
        all_typed = all(label in board.settings.texts for label, _ in self.tool.fields)
        more = self.tool.clicks - len(self.snaps)
        placed = list(self.snaps)
        self.snaps += [Snap(here.place)] * (more if all_typed else min(more, 1))
        if len(self.snaps) >= self.tool.clicks and not self.finish():
            self.snaps = placed
        board.hinted.emit(self.hint)

    def finish(self) -> bool:
        """Make the figure from the clicked places; a tool that goes on starts at its end.

        False when it is refused, with the reason told: the places before the last stay, to go on from.
        """
        snaps, board = self.snaps, self.board
        if len(snaps) < 2 and self.tool.clicks > 1:
            return False
        self.snaps = []
        draft = SketchBuilder(board.state.sketch)
        met = snaps[-1].kind == "coincident" and _ends_at(board.state.sketch, snaps[-1].place)
        try:
            points = self._build(draft, snaps)
            sketch = self._without_spare(draft)
        except LathedError as exc:
            board.told.emit(exc.message, True)
            self.snaps = snaps[:-1]
            return False
        board.settings.texts, board.settings.values = {}, {}
        board.drawn.emit(f"draw a {self.tool.title}", sketch)
        end = points[-1] if points else None
        now = board.state.sketch
        if self.tool.chain and end is not None and not met and end in now.by_id:
            self.snaps = [Snap(complex(*now.at(end)), "coincident", end)]
            self.trail += self.snaps
        board.hinted.emit(self.hint)
        return True

    def _build(self, draft: SketchBuilder, snaps: list[Snap]) -> list[str | None]:
        """Draw into a draft, tied to what the clicks fell on; the points at the clicks."""
        before, infer = set(draft.entities), self.board.settings.infer
        points = self.tool.build(draft, self._drawing(snaps))
        made = [n for n in draft.entities if n not in before]
        for s, point in zip(snaps, points, strict=False):
            said = s.kind == "ordinates" or s.entity in draft.entities
            if s.kind and point is not None and (infer or said):
                tied(draft, point, s, self.board.outline)
        if infer:
            smooth_ends(draft, made)
            if self.tool.chain:
                square_sides(draft, made)
        return points

    def _without_spare(self, draft: SketchBuilder) -> Sketch:
        """The sketch without what was inferred and says again what is said already, where that can be told at once."""
        sketch, state = draft.done(), self.board.state
        old = state.sketch.constraints
        fresh = [c for c in sketch.constraints[len(old) :] if c.inferred]
        held = state.seen is not None and state.seen.ok
        if len(fresh) < 2 or not held or len(sketch.constraints) > INFERENCE_UP_TO:
            return sketch
        for n in spare(sketch, state.values, [c.id for c in fresh if c.kind != "coincident"]):
            draft.remove(n)
        drop_unused(draft, after=set(state.sketch.by_id))
        return draft.done()

    def preview(self) -> tuple[Sketch | None, Snap, str]:
        """What a click at the pointer would make (None: not enough yet), where, and what would be inferred."""
        board = self.board
        assert board.cursor is not None
        here = board.snap(board.cursor)
        said = here.words if board.settings.infer else "nothing inferred"
        snaps = [*self.snaps, here]
        if len(snaps) < self.tool.clicks:
            return None, here, said
        standing = board.state.sketch
        draft = SketchBuilder(standing)
        try:
            self._build(draft, snaps)
        except LathedError:
            return None, here, said
        made = Sketch.model_construct(
            entities=tuple(e for n, e in draft.entities.items() if n not in standing.by_id or e.kind == "point"),
            constraints=tuple(c for n, c in draft.constraints.items() if standing.constraint(n) is None),
        )
        ways = [c.kind for c in made.constraints if c.inferred and c.kind in INFERRED_WAYS]
        return made, here, " · ".join([*ways, *([said] if said else [])])

    def _drawing(self, snaps: list[Snap]) -> Drawing:
        s = self.board.settings
        along, centred = s.along, False
        if self.tool.id == "text" and snaps[0].kind == "midpoint":
            # begun at the middle of a line, lettering stands centred on it
            line = parted(snaps[0].entity)[1]
            if isinstance(self.board.state.sketch.by_id.get(line), Line):
                along, centred = line, True
        places = [p.place for p in snaps]
        return Drawing(places, dict(s.texts), dict(s.values), s.infer, s.sides, s.text, along, centred)

    def cancel(self) -> bool:
        some, self.snaps, self.trail = bool(self.snaps), [], []
        return some

    def accept(self) -> bool:
        if self.tool.id == "spline":
            self.finish()
        else:
            self.snaps = []
        return True

    def typed(self, text: str) -> bool:
        """N infers nothing; a digit begins the place by numbers, and then a size; < begins an angle."""
        if text.lower() == "n":
            self.board.settings.infer = not self.board.settings.infer
            return True
        if self.snaps and text in ANGLE and any(kind == "angle" for _, kind in self.tool.fields):
            self.board.value_typed.emit(text)
            return True
        if begins_value(text) or text in ("-", MARK):
            self.board.value_typed.emit(text)
            return True
        return False


def _ends_at(sketch: Sketch, place: complex) -> bool:
    """Whether a curve that was drawn ends at a place: there a chain is done; past the origin or a corner it goes on."""
    drawn = (c for c in sketch.curves if not c.construction and isinstance(c, Line | Arc))
    return any(abs(complex(*sketch.at(p)) - place) < ROUNDING for c in drawn for p in c.points[-2:])
