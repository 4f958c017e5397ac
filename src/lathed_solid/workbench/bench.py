"""The workbench: one session, what is chosen in it, and where work stands. No widgets.

What is chosen is one thing for all desks: picks in the solid, the step of the route, the callout. Views show it and
tell it; commands read it.
"""

from __future__ import annotations

from typing import Literal

from lathed_solid.kernel.figures import Picked
from lathed_solid.part import Document, StepBase
from lathed_solid.quantity.formatting import Spoken, as_it_is
from lathed_solid.workbench.picks import MAX_PICKS, served_by
from lathed_solid.workbench.session import Session
from lathed_solid.workbench.signal import Signal

Desk = Literal["read", "shape", "prove", "fit", "hand over"]
DESKS: tuple[Desk, ...] = ("read", "shape", "prove", "fit", "hand over")


class Workbench:
    """Signals: words for the user; another desk; another step (None: none) or callout chosen; picks changed."""

    def __init__(self, session: Session, spoken: Spoken = as_it_is) -> None:
        """``spoken``: how words are shown, and printed on reports."""
        self.session, self.spoken = session, spoken
        self.desk: Desk = "shape"
        self.picks: tuple[Picked, ...] = ()
        #: what the last pick can serve as: face, plane, edge, axis, point -> name
        self.served: dict[str, str] = {}
        self.step: int | None = None
        self.balloon: int | None = None
        self.told: Signal[str, bool] = Signal()
        self.desk_changed: Signal[Desk] = Signal()
        self.step_chosen: Signal[int | None] = Signal()
        self.balloon_chosen: Signal[int | None] = Signal()
        self.picked: Signal[Picked | None] = Signal()
        session.told.connect(self.told.emit)
        session.document_changed.connect(self._keep_choice)

    def tell(self, words: str, bad: bool = False) -> None:
        """Words for the user; ``bad`` ones are an objection."""
        self.told.emit(words, bad)

    @property
    def document(self) -> Document:
        """Of the session."""
        return self.session.document

    @property
    def chosen_step(self) -> StepBase | None:
        """The step that is chosen in the route."""
        return self.document.step(self.step) if self.step is not None else None

    def show_desk(self, desk: Desk) -> None:
        """Turn to a desk."""
        self.desk = desk
        self.desk_changed.emit(desk)

    def choose_step(self, number: int | None) -> None:
        """Choose a step of the route; a preview of what was typed in another one ends."""
        if number == self.step:
            return
        self.step = number
        self.step_chosen.emit(number)
        self.session.end_preview()

    def choose_balloon(self, balloon: int | None) -> None:
        """Choose a callout, in whatever table or on the sheet."""
        self.balloon = balloon
        self.balloon_chosen.emit(balloon)

    def _keep_choice(self, document: Document) -> None:
        """What is gone is no longer chosen; a route always has a chosen step."""
        if self.balloon is not None and document.callout(self.balloon) is None:
            self.balloon = None
        if self.step is None or document.step(self.step) is None:
            self.step = document.steps[0].number if document.steps else None

    def pick(self, picked: Picked | None) -> None:
        """Something was clicked in the solid; None lets all picks go. The step that is worked on stays."""
        self.picks = () if picked is None else (*self.picks, picked)[-MAX_PICKS:]
        self.served = served_by(picked)
        self.picked.emit(picked)
        if picked is None:
            return
        self.tell(f"picked {picked.kind}: {' and '.join(picked.names) or 'no name'}")

    def use_picks(self) -> None:
        """What was picked went into a step: the next one takes only what is picked from now on."""
        self.picks = ()

    def open_maker(self, picked: Picked | None) -> None:
        """Turn to the step that made a face: a double click on it."""
        if picked is None:
            return
        head = picked.names[0].partition("/")[0] if picked.names else ""
        if picked.kind == "face" and head.isdigit() and self.document.step(int(head)) is not None:
            self.choose_step(int(head))
