"""What can be done to a sketch from its pane: each an edit of the figure, committed as one step value."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QInputDialog, QWidget

from lathed_solid.desk.sketch.canvas import Canvas
from lathed_solid.desk.sketch.strip import Strip
from lathed_solid.errors import LathedError
from lathed_solid.part import scope
from lathed_solid.quantity.formatting import angle, length
from lathed_solid.sketch import edits
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.check import findings as check
from lathed_solid.sketch.constraints import KINDS
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.model import Constraint, Line, Sketch
from lathed_solid.sketch.outside import take
from lathed_solid.workbench.sketch import findings
from lathed_solid.workbench.sketch.view_model import SketchState


class SketchWork(QWidget):
    """The base of the sketch's editor: knows the figure, the drawing and the strip, and nothing of the layout."""

    changed = pyqtSignal(str, object)
    told = pyqtSignal(str, bool)
    faces_hovered = pyqtSignal(object)
    step_wanted = pyqtSignal(str, object)

    state: SketchState
    canvas: Canvas
    strip: Strip
    _pending: Constraint | None

    def _say(self, rows: list[findings.Row]) -> None:
        """Show rows of what there is to say; the editor does."""

    def _show_strip(self) -> None:
        """Show what is in hand; the editor does."""

    # edits ---------------------------------------------------------------------------------------
    def _commit(self, label: str, sketch: Sketch) -> None:
        if self.state.step is None:
            return
        try:
            step = self.state.with_sketch(sketch)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return
        if step != self.state.step:
            self.changed.emit(f"step {step.number}: {label}", step)

    def _edit(self, label: str, change: Callable[[Sketch, Values], Sketch]) -> bool:
        """One edit of the figure; a refusal is told."""
        try:
            sketch = change(self.state.sketch, self.state.values)
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return False
        self._commit(label, sketch)
        return True

    def _take_edge(self, name: str) -> None:
        edge = next(e for e in self.canvas.outline if e.name == name)
        self._edit(f"take the edge {name}", lambda s, _v: take(s, edge))

    def remove_chosen(self) -> None:
        """Take out what is picked."""
        names = self.canvas.chosen
        if names and self._edit(f"remove {', '.join(names[:3])}", lambda s, _v: edits.remove(s, names)):
            self.canvas.choose(())

    def _relate(self, kind: str, of: tuple[str, ...]) -> None:
        def change(sketch: Sketch, _v: Values) -> Sketch:
            draft = SketchBuilder(sketch)
            draft.add(kind, *of)  # type: ignore[arg-type]
            return draft.done()

        self._edit(KINDS[kind].words, change)

    def _toggle_construction(self) -> None:
        def change(sketch: Sketch, _v: Values) -> Sketch:
            draft = SketchBuilder(sketch)
            for n in self.canvas.chosen:
                if n in draft.entities:
                    e = draft.entities[n]
                    draft.entities[n] = e.model_copy(update={"construction": not e.construction})
            return draft.done()

        self._edit("construction", change)

    def _toggle_region(self, name: str) -> None:
        now = self.canvas.regions
        self.canvas.regions = tuple(n for n in now if n != name) if name in now else (*now, name)
        self.canvas.update()
        self._show_strip()

    def _build_on(self, kind: str) -> None:
        if self.state.step is None:
            return
        values: dict[str, Any] = {"sketch": self.state.step.number, "regions": self.canvas.regions}
        if kind.startswith("revolve"):
            chosen = [c for n in self.canvas.chosen if isinstance(c := self.state.sketch.by_id.get(n), Line)]
            drawn = [c for c in self.state.sketch.curves if isinstance(c, Line) and c.construction]
            # a centreline that is picked, else the drawn one, else any line that is picked
            lines = [*(c for c in chosen if c.construction), *drawn, *chosen]
            axis = lines[0].id if lines else None
            if axis is None:
                self.told.emit("pick the line to revolve about first, or draw a construction line", True)
                return
            values["axis"] = axis
        self.step_wanted.emit(kind, values)

    # dimensions ----------------------------------------------------------------------------------
    def _open_new_dimension(self, c: Constraint) -> None:
        from lathed_solid.sketch.measure import measured

        self._pending = c
        value = measured(self.state.sketch, c)
        angular = KINDS[c.kind].dimension == "angle"
        text = angle(value) if angular else length(abs(value), self.state.document.unit)
        self.strip.show_dimension(
            c.model_copy(update={"value": text}), text, lambda: scope(self.state.document), new=True
        )

    def _open_dimension(self, name: str) -> None:
        self.canvas.choose((name,))
        self.strip.focus_value()

    def _give_value(self, text: str) -> None:
        pending, self._pending = self._pending, None
        if pending is not None:

            def add(sketch: Sketch, _v: Values) -> Sketch:
                draft = SketchBuilder(sketch)
                more = {"side": pending.side, "label": pending.label}
                draft.add(pending.kind, *pending.of, value=text, **more)
                return draft.done()

            self._edit(f"dimension {text}", add)
            self.canvas.choose(())
        elif len(self.canvas.chosen) == 1:
            name = self.canvas.chosen[0]
            self._edit(f"dimension {text}", lambda s, _v: edits.set_value(s, name, text))
        self.canvas.setFocus()

    def _toggle_reference(self, on: bool) -> None:
        if len(self.canvas.chosen) == 1:
            name = self.canvas.chosen[0]
            k = self.state.sketch.constraint(name)
            if k is not None:
                self._edit("reference", lambda s, _v: edits.set_value(s, name, k.value, reference=on))

    def _take_sizes(self, texts: dict[str, str], values: Values) -> None:
        self.canvas.texts, self.canvas.values = texts, values
        self.canvas.update()

    # work on what is picked ----------------------------------------------------------------------
    def _ask(self, title: str, label: str, start: str) -> tuple[str, float] | None:
        """An expression and its value in mm; None when given up or not understood (which is told)."""
        text, ok = QInputDialog.getText(self, title, label, text=start)
        if not ok or not text.strip():
            return None
        try:
            return text.strip(), scope(self.state.document)(text.strip(), "length")
        except LathedError as exc:
            self.told.emit(exc.message, True)
            return None

    def _two(self, what: str) -> tuple[str, str] | None:
        if len(self.canvas.chosen) != 2:
            self.told.emit(f"{what}: pick two lines first (Shift adds)", True)
            return None
        return self.canvas.chosen[0], self.canvas.chosen[1]

    def _corner(self) -> None:
        if (pair := self._two("corner")) is not None:
            self._edit("corner", lambda s, v: edits.corner(s, v, *pair))

    def _round(self) -> None:
        if (pair := self._two("round")) is not None and (
            size := self._ask("Round a corner", "radius", "5")
        ) is not None:
            self._edit(f"round R{size[0]}", lambda s, v: edits.fillet(s, v, *pair, size[1], size[0]))

    def _bevel(self) -> None:
        if (pair := self._two("bevel")) is not None and (size := self._ask("Bevel a corner", "legs", "2")) is not None:
            legs, texts = (size[1], size[1]), (size[0], size[0])
            self._edit(f"bevel {size[0]}", lambda s, v: edits.chamfer(s, v, *pair, legs, texts))

    def _offset(self) -> None:
        names = self.canvas.chosen
        if not names:
            self.told.emit("offset: pick the curves first (a double click takes a whole chain)", True)
        elif (size := self._ask("Offset", "distance to the left (negative: right)", "3")) is not None:
            text = size[0].removeprefix("-") if size[1] < 0 else size[0]
            self._edit(f"offset {size[0]}", lambda s, v: edits.offset(s, v, names, size[1], text))

    def _mirror(self) -> None:
        *names, axis = self.canvas.chosen or ("",)
        if not names:
            self.told.emit("mirror: pick what to mirror, and last the line to mirror about", True)
        else:
            self._edit("mirror", lambda s, v: edits.mirror(s, v, names, axis))

    def _ring(self) -> None:
        *names, centre = self.canvas.chosen or ("",)
        if not names:
            self.told.emit("ring: pick what to copy, and last the centre point", True)
            return
        count, ok = QInputDialog.getInt(self, "Ring of copies", "how many in all", 6, 2, 500)
        if ok:
            self._edit(f"ring of {count}", lambda s, v: edits.circular(s, v, names, centre, count, 2 * math.pi))

    def _close_gaps(self) -> None:
        size = self._ask("Close gaps", "largest gap to close", "0.1")
        if size is not None:
            self._edit(f"close gaps up to {size[0]}", lambda s, v: edits.close_gaps(s, v, size[1])[0])

    def _check(self) -> None:
        self._say(findings.check_rows(check(self.state.sketch)))

    def _complete(self) -> None:
        """Propose the dimensions that make the figure held; each is shown, one double click takes them all."""
        from lathed_solid.sketch.complete import completed, propose

        seen = self.state.seen
        if seen is None or seen.state != "loose":
            self.told.emit("only a loose sketch can be completed", True)
            return
        proposed = propose(self.state.sketch, self.state.values, self.state.offers(), self.state.show)
        self._say(findings.proposal_rows(self.state, proposed, lambda: completed(self.state.sketch, proposed)))

    def _others(self) -> None:
        from lathed_solid.sketch.alternatives import alternatives

        if self.state.seen is None or not self.state.seen.ok:
            self.told.emit("a sketch that fights has no other shapes to offer", True)
            return
        self._say(findings.alternative_rows(alternatives(self.state.sketch, self.state.values)))
