"""What can be done to a sketch: each an edit of the figure, committed as one value of its step.

What works on something works on what is chosen on the board. Sizes are asked for as expressions.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, Protocol

from lathed_solid.errors import LathedError
from lathed_solid.part import Scope, SketchStep, scope
from lathed_solid.sketch import edits
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.model import Line, Sketch
from lathed_solid.sketch.outside import take
from lathed_solid.sketch.regions import Region
from lathed_solid.sketch.watch import turned_over
from lathed_solid.workbench.asked_sizes import AskedSize, GivenSizes
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.sketch import findings
from lathed_solid.workbench.sketch.board import DrawingBoard
from lathed_solid.workbench.sketch.dimensions import Dimensions, declare_centreline
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.interactions import begin
from lathed_solid.workbench.sketch.ordinates import read_place
from lathed_solid.workbench.sketch.relations import OfferedRelation
from lathed_solid.workbench.sketch.remarks import Remarks
from lathed_solid.workbench.sketch.tools import BY_ID
from lathed_solid.workbench.step_forms.begin import small


class SketchPrompts(Protocol):
    """What work on a sketch asks of a person; None when given up."""

    def sizes(self, title: str, sizes: Sequence[AskedSize], scope: Callable[[], Scope]) -> GivenSizes | None:
        """A few sizes at once, asked until all are understood."""

    def count(self, title: str, label: str, start: int, low: int, high: int) -> int | None:
        """A whole number."""

    def text(self, title: str, label: str, start: str) -> str | None:
        """Some words."""

    def picture(self) -> Path | None:
        """A picture's file."""


class SketchCommands:
    """Signals: a new value of the step; a step wanted on regions; words."""

    def __init__(self, board: DrawingBoard, ask: SketchPrompts) -> None:
        self.board, self.ask = board, ask
        self.changed: Signal[str, SketchStep] = Signal()
        self.step_wanted: Signal[str, dict[str, Any]] = Signal()
        self.in_hand_changed: Signal[()] = Signal()
        self.told: Signal[str, bool] = Signal()
        board.told.connect(self.told.emit)
        board.drawn.connect(self.commit)
        board.cut_at.connect(lambda name, at: self.mend(f"trim {name}", lambda s, v: edits.trim(s, v, name, at)))
        board.edge_clicked.connect(self.take_edge)
        board.region_clicked.connect(self.toggle_region)
        self.remarks = Remarks(board, self.edit)
        self.remarks.told.connect(self.told.emit)
        self.dimensions = Dimensions(board, self.edit)
        self.dimensions.told.connect(self.told.emit)
        board.placed.connect(self.dimensions.begin)
        board.let_go.connect(lambda: self.set_mode("pick"))

    # the board ---------------------------------------------------------------------------------
    @property
    def scope(self) -> Callable[[], Scope]:
        """Values of expressions, by the document as it is when asked."""
        return lambda: scope(self.board.state.document)

    def set_mode(self, mode: str, tool: str = "") -> None:
        """Turn to picking, a tool, dimensioning, trimming, taking edges or regions."""
        self.board.pending = None
        begin(self.board, mode, BY_ID.get(tool))
        self.in_hand_changed.emit()

    def start_tool(self, name: str) -> None:
        """Turn to a drawing tool; a polygon asks for its sides, lettering for its words."""
        board, settings = self.board, self.board.settings
        if name == "polygon":
            sides = self.ask.count("Polygon", "sides", settings.sides, 3, 120)
            if sides is None:
                return
            settings.sides = sides
        if name == "text":
            text = self.ask.text("Lettering", "text", settings.text)
            if not text:
                return
            settings.text = text
            picked = board.state.sketch.by_id.get(board.chosen[0]) if len(board.chosen) == 1 else None
            settings.along = picked.id if isinstance(picked, Line) else ""
        self.set_mode("draw", name)

    def take_sizes(self, texts: dict[str, str], values: Values) -> None:
        """Sizes typed while drawing."""
        self.board.settings.texts, self.board.settings.values = texts, values
        self.board.changed.emit()

    def place_by_numbers(self, text: str) -> bool:
        """The next place of the tool in hand by its ordinates; False, told, when they are none."""
        draw = self.board.interaction
        if not isinstance(draw, Draw):
            return False
        try:
            draw.take(draw.on_line(read_place(text, self.scope, draw.here)))
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        self.board.changed.emit()
        return True

    def finish_here(self) -> None:
        """Enter in a size field: what is missing is where the pointer is."""
        if isinstance(self.board.interaction, Draw):
            self.board.interaction.finish_here()

    # edits -------------------------------------------------------------------------------------
    def commit(self, label: str, sketch: Sketch) -> None:
        """Another figure of the step, stored as solved when it can be."""
        step = self.board.state.step
        if step is None:
            return
        try:
            new = self.board.state.with_sketch(sketch)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        if new != step:
            self.changed.emit(f"step {step.number}: {label}", new)

    def edit(self, label: str, change: Callable[[Sketch, Values], Sketch]) -> bool:
        """One edit of the figure; a refusal is told, and False."""
        try:
            sketch = change(self.board.state.sketch, self.board.state.values)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        before = self.board.state.sketch
        self.commit(label, sketch)
        self._watch(before)
        return True

    def mend(self, label: str, change: Callable[[Sketch, Values], Sketch]) -> bool:
        """An edit of the figure that may make untrue what was said of it; what is lost is told."""
        before = self.board.state.sketch
        if not self.edit(label, change):
            return False
        lost = findings.lost_rows(before, self.board.state)
        if lost:
            self.told.emit(f"{lost[0].text}: Ctrl+Z takes it back", True)
            self.remarks.say(lost)
        return True

    def _watch(self, before: Sketch) -> None:
        """Tell what the edit turned over, with the way back."""
        state = self.board.state
        found = turned_over(before, state.sketch) if state.seen is not None and state.seen.ok else ()
        if found:
            self.told.emit(f"{found[0].words}: Ctrl+Z takes it back", True)
            self.remarks.say(findings.turned_rows(found, before))

    def take_edge(self, name: str) -> None:
        """An edge of the body as construction."""
        edge = next(e for e in self.board.outline if e.name == name)
        self.edit(f"take the edge {name}", lambda s, _v: take(s, edge))

    def remove_chosen(self) -> None:
        """Take out what is chosen."""
        names = self.board.chosen
        if names and self.edit(f"remove {', '.join(names[:3])}", lambda s, _v: edits.remove(s, names)):
            self.board.choose(())

    def relate(self, offer: OfferedRelation) -> None:
        """Put a relation on what it is offered for, all at once."""

        def change(_s: Sketch, _v: Values) -> Sketch:
            draft = SketchBuilder(self.board.holding()[0].sketch)
            for of in offer.groups:
                draft.add(offer.kind, *of)
            return draft.done()

        self.edit(offer.words, change)

    def toggle_construction(self) -> None:
        """What is chosen bounds nothing, or bounds again."""

        def change(sketch: Sketch, _v: Values) -> Sketch:
            draft = SketchBuilder(sketch)
            for n in self.board.chosen:
                if n in draft.entities:
                    e = draft.entities[n]
                    draft.entities[n] = e.model_copy(update={"construction": not e.construction})
            return draft.done()

        self.edit("construction", change)

    def toggle_centreline(self) -> None:
        """The chosen lines are what the figure is turned about, or are no longer."""
        sketch = self.board.state.sketch
        lines = [e for n in self.board.chosen if isinstance(e := sketch.by_id.get(n), Line)]
        if not lines:
            self.told.emit("centreline: pick a line first", True)
            return
        on = not all(line.centreline for line in lines)

        def change(sketch: Sketch, _v: Values) -> Sketch:
            draft = SketchBuilder(sketch)
            for line in lines:
                declare_centreline(draft, line.id, on=on)
            return draft.done()

        self.edit("centreline", change)

    # regions -----------------------------------------------------------------------------------
    def toggle_region(self, name: str) -> None:
        """Take a region, or leave it out."""
        now = self.board.regions
        self.board.regions = tuple(n for n in now if n != name) if name in now else (*now, name)
        self.board.changed.emit()
        self.in_hand_changed.emit()

    def build_on(self, kind: str) -> None:
        """A step on the taken regions; what turns needs a line to turn about."""
        state = self.board.state
        if state.step is None:
            return
        values: dict[str, Any] = {"sketch": state.step.number, "regions": self.board.regions}
        if kind.startswith("revolve"):
            chosen = [c for n in self.board.chosen if isinstance(c := state.sketch.by_id.get(n), Line)]
            drawn = [c for c in state.sketch.curves if isinstance(c, Line) and c.construction]
            # a centreline that is picked, else the drawn one, else any line that is picked
            drawn.sort(key=lambda c: not c.centreline)
            lines = [*(c for c in chosen if c.construction), *drawn, *chosen]
            if not lines:
                self.told.emit("pick the line to revolve about first, or draw a construction line", True)
                return
            values["axis"] = lines[0].id
        self.step_wanted.emit(kind, values)
        # the next build begins with regions of its own
        self.board.regions = ()

    # work on what is chosen --------------------------------------------------------------------
    def ask_sizes(self, title: str, *sizes: AskedSize) -> GivenSizes | None:
        """Sizes as expressions of the document; None when given up."""
        return self.ask.sizes(title, sizes, self.scope)

    def _ask(self, title: str, label: str, start: str) -> tuple[str, float] | None:
        given = self.ask_sizes(title, AskedSize(label, start))
        return None if given is None else (given.texts[label], given.values[label])

    def small(self, mm: str, inch: str) -> str:
        """A size to begin with, by the unit of the sheet."""
        return small(self.board.state.document, mm, inch)

    def chosen(self, what: str, least: int = 1) -> tuple[str, ...]:
        """What is chosen, when it is enough; else it is told, and nothing."""
        if len(self.board.chosen) >= least:
            return self.board.chosen
        things = "something" if least == 1 else f"{least} things"
        self.told.emit(f"{what}: pick {things} first (Shift adds)", True)
        return ()

    def corner(self) -> None:
        """Two lines meet in their corner."""
        if len(self.board.chosen) != 2:
            self.told.emit("corner: pick two lines first (Shift adds)", True)
            return
        a, b = self.board.chosen
        self.mend("corner", lambda s, v: edits.corner(s, v, a, b))

    def _corners(self, what: str) -> list[tuple[str, str, str]]:
        sketch, region = self.board.state.sketch, self._pointed_region()
        found = edits.corners_of(sketch, self.board.chosen or self._pointed())
        if region is not None and not found:
            found = edits.corners_round(sketch, region)
        if not found:
            words = "pick corner points, or lines and arcs that end in one point (Shift adds), or point into a region"
            self.told.emit(f"{what}: {words}", True)
        return found

    def _pointed(self) -> tuple[str, ...]:
        """The thing under the pointer."""
        at = self.board.cursor
        return tuple(self.board.all_under(at)[:1]) if at is not None else ()

    def _pointed_region(self) -> Region | None:
        """The region under the pointer, when nothing is picked."""
        board = self.board
        if board.chosen or board.cursor is None:
            return None
        return board.state.region_at(board.paper.place(board.cursor))

    def round(self) -> None:
        """Rounds between lines and arcs, as many as are picked."""
        if (pairs := self._corners("round")) and (
            size := self._ask("Round a corner", "radius", self.small("5", "0.2"))
        ):
            self.mend(f"round R{size[0]}", lambda s, v: edits.fillets(s, v, pairs, size[1], size[0]))

    def bevel(self) -> None:
        """Bevels between lines and arcs, as many as are picked."""
        if (pairs := self._corners("bevel")) and (size := self._ask("Bevel a corner", "legs", self.small("2", "0.06"))):
            legs, texts = (size[1], size[1]), (size[0], size[0])

            def cut(sketch: Sketch, values: Values) -> Sketch:
                for a, b, end in pairs:
                    sketch = edits.chamfer(sketch, values, a, b, legs, texts, end)
                return sketch

            self.mend(f"bevel {size[0]}", cut)

    def offset(self) -> None:
        """Curves beside the chosen ones; with nothing chosen, within the region under the pointer."""
        names, region = self.board.chosen, self._pointed_region()
        if region is not None:
            if size := self._ask(
                "Offset the region's outline", "distance inwards (negative: outwards)", self.small("3", "0.125")
            ):
                text, value = size
                self.edit(f"offset {text}", lambda s, v: edits.inset(s, v, region, value, text))
        elif not names:
            words = "pick the curves first (a double click takes a whole chain), or press Y over a region"
            self.told.emit(f"offset: {words}", True)
        elif size := self._ask("Offset", "distance to the left (negative: right)", self.small("3", "0.125")):
            text = size[0].removeprefix("-") if size[1] < 0 else size[0]
            self.edit(f"offset {size[0]}", lambda s, v: edits.offset(s, v, names, size[1], text))

    def mirror(self) -> None:
        """What is chosen, about the line chosen last."""
        *names, axis = self.board.chosen or ("",)
        if not names:
            self.told.emit("mirror: pick what to mirror, and last the line to mirror about", True)
        else:
            self.edit("mirror", lambda s, v: edits.mirror(s, v, names, axis))

    def ring(self) -> None:
        """Copies of what is chosen, about the point chosen last."""
        *names, centre = self.board.chosen or ("",)
        if not names:
            self.told.emit("ring: pick what to copy, and last the centre point", True)
            return
        count = self.ask.count("Ring of copies", "how many in all", 6, 2, 500)
        if count is not None:
            self.edit(f"ring of {count}", lambda s, v: edits.circular(s, v, names, centre, count, 2 * math.pi))

    def close_gaps(self) -> None:
        """Ends that nearly meet become one."""
        if size := self._ask("Close gaps", "largest gap to close", self.small("0.1", "0.005")):
            closed: list[int] = []

            def close(sketch: Sketch, values: Values) -> Sketch:
                made, count = edits.close_gaps(sketch, values, size[1])
                closed.append(count)
                return made

            if self.edit(f"close gaps up to {size[0]}", close):
                self.told.emit(f"{closed[0]} gap{'s' if closed[0] > 1 else ''} closed", False)
