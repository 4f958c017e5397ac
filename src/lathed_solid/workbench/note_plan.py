"""A note read once between the key and the ledger: what it says, what it would make, and what Enter takes over.

The grammar is imported with the first note: a window that only shows a part needs none.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from lathed_solid.errors import LathedError
from lathed_solid.ledger import SheetPlace, Span, plain_meaning
from lathed_solid.part import Document, edits
from lathed_solid.part.note_picks import Picks
from lathed_solid.quantity import LengthUnit

if TYPE_CHECKING:
    from lathed_solid.notation import Meaning

#: balloons of one note stand beneath one another, shares of the page's height
BENEATH = 0.035


@dataclass(frozen=True)
class Understanding:
    """How a text is understood: the words under the note line, whether they are an objection, and where in the text
    the words stand (from 0, and how long) that were not read.
    """

    words: str
    bad: bool = False
    marks: tuple[tuple[int, int], ...] = ()


@dataclass(frozen=True)
class NotePlan:
    """A text with its meaning (None, and why, when it has none) and what is picked for its step."""

    text: str
    meaning: Meaning | None
    problem: str
    picks: Picks

    @cached_property
    def makes(self) -> str:
        """The step that Enter makes beside the callouts; empty for none."""
        from lathed_solid.part.from_note import step_words

        return step_words(self.meaning, self.picks) if self.meaning is not None else ""

    @cached_property
    def taken(self) -> str:
        """What becomes of a note that states no size; empty for others."""
        from lathed_solid.part.instructions import takes

        return takes(self.meaning) if self.meaning is not None else ""

    @property
    def understanding(self) -> Understanding:
        """The chip's words."""
        if self.meaning is None:
            return Understanding(self.problem, True)
        if self.meaning.unread:
            near = dict(self.meaning.nearest)
            words = (f"{w} ({near[w]}?)" if w in near else w for w in self.meaning.unread)
            read = f"{self.meaning.plain} — " if self.meaning.plain else ""
            marks = tuple((column - 1, length) for column, length in self.meaning.unread_at)
            return Understanding(f"{read}not understood: {', '.join(words)}", True, marks)
        hole = any(c.kind == "hole" for c in self.meaning.clauses)
        if self.taken:
            where = f" — {self.taken} ⏎"
        elif self.makes:
            where = f" — {self.makes} ⏎"
        else:
            where = " — pick a face for the step, or ⏎ for the callouts" if hole else " ⏎"
        return Understanding(plain_meaning(self.meaning) + where)

    def applied(self, document: Document, after: int | None = None) -> Document:
        """The document with the note's callouts, and its step after step ``after`` (None: at the end).

        Raises LathedError for what cannot be taken.
        """
        from lathed_solid.part.from_note import add_meaning_with_step
        from lathed_solid.part.instructions import put_meaning

        if self.meaning is None:
            raise edits.DocumentError(self.problem)
        if self.makes:
            return add_meaning_with_step(document, self.meaning, self.picks, after)
        return put_meaning(document, self.meaning)


def plan_note(text: str, unit: LengthUnit, picks: Picks, known: NotePlan | None = None) -> NotePlan:
    """Read a note; ``known`` is an earlier plan, whose reading serves again for the same text."""
    if known is not None and known.text == text and (known.meaning is None or known.meaning.unit == unit):
        return known if known.picks == picks else NotePlan(text, known.meaning, known.problem, picks)
    from lathed_solid.notation import read_note

    try:
        return NotePlan(text, read_note(text, unit), "", picks)
    except LathedError as exc:
        return NotePlan(text, None, exc.message, picks)


def placed(before: Document, after: Document, place: SheetPlace | None, span: Span | None = None) -> Document:
    """The callouts that an edit added, with their place on the sheet; the first with its span."""
    if place is None:
        return after
    old = {c.balloon for c in before.callouts}
    out, n = [], 0
    for callout in after.callouts:
        if callout.balloon not in old:
            at = place.model_copy(update={"y": min(place.y + n * BENEATH, 1.0)})
            told = span if n == 0 else None
            callout = callout.model_copy(update={"place": at, "source": "sheet", "span": told})
            n += 1
        out.append(callout)
    return edits.with_callouts(after, out)
