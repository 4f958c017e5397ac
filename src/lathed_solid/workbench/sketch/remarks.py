"""What there is to say of a sketch, said: its state, the check's findings, proposals, other shapes; and done."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, TypeVar

from lathed_solid.sketch.check import findings as check
from lathed_solid.sketch.edits.settle import Values
from lathed_solid.sketch.model import Sketch
from lathed_solid.workbench.signal import Signal
from lathed_solid.workbench.sketch import findings
from lathed_solid.workbench.sketch.board import DrawingBoard

T = TypeVar("T")
Edit = Callable[[str, Callable[[Sketch, Values], Sketch]], bool]
Beside = Callable[[Callable[[], Any], Callable[[Any], None]], None]


class Remarks:
    """Signals: rows to be said; words."""

    def __init__(self, board: DrawingBoard, edit: Edit) -> None:
        self._board, self._edit = board, edit
        self.said: Signal[list[findings.Remark]] = Signal()
        self.told: Signal[str, bool] = Signal()
        #: does a long work and then something with its result; the window has it done beside
        self.beside: Beside = lambda work, done: done(work())

    def apply(self, row: findings.Remark) -> None:
        """Do what a row offers."""
        if row.apply is not None:
            offered = row.apply
            self._edit(row.label, lambda _s, _v: offered())

    def say(self, first: Sequence[findings.Remark] = ()) -> None:
        """What there is to say of the sketch as it is, after what is to be said ``first``."""
        self.said.emit([*first, *findings.rows(self._board.state, self._board.outline)])

    def check(self) -> None:
        """Gaps, overlaps, loose ends."""
        self.said.emit(findings.check_rows(check(self._board.state.sketch)))

    def complete(self) -> None:
        """Propose the dimensions that make the figure held; each is shown, one row takes them all."""
        from lathed_solid.sketch.complete import completed, propose

        state = self._board.state
        if state.seen is None or state.seen.state != "loose":
            self.told.emit("only a loose sketch can be completed", True)
            return
        sketch, values, offers, show = state.sketch, state.values, state.offers(), state.show
        self._beside(
            "looking for dimensions that hold it",
            lambda: propose(sketch, values, offers, show),
            lambda found: findings.proposal_rows(state, found, lambda: completed(sketch, found)),
        )

    def others(self) -> None:
        """Other shapes of the same dimensions."""
        from lathed_solid.sketch.alternatives import alternatives

        state = self._board.state
        if state.seen is None or not state.seen.ok:
            self.told.emit("a sketch that fights has no other shapes to offer", True)
            return
        sketch, values = state.sketch, state.values
        self._beside("looking for other shapes", lambda: alternatives(sketch, values), findings.alternative_rows)

    def _beside(self, words: str, work: Callable[[], T], rows: Callable[[T], list[findings.Remark]]) -> None:
        """Say what comes of a long work, unless the figure is another one by then."""
        sketch = self._board.state.sketch
        self.said.emit([findings.Remark(f"{words} …", head=True)])

        def done(found: T) -> None:
            if self._board.state.sketch is sketch:
                self.said.emit(rows(found))

        self.beside(work, done)
