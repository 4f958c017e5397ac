"""From the flat run of items to clauses, by the order in which draughtsmen write.

What each item does to the clause under construction stands in the families (``families/``): sizes, holes, threads,
turned parts, general notes. Words that were not understood are kept, with the nearest that could be, and never guessed.
"""

from __future__ import annotations

from lathed_solid.notation.clauses import Meaning
from lathed_solid.notation.families import COMPLETES, TAKES, Run
from lathed_solid.notation.items import Item, NoteError, read_items
from lathed_solid.notation.plain import describe
from lathed_solid.notation.spelling import nearest_words
from lathed_solid.quantity import LengthUnit


def read_note(text: str, unit: LengthUnit = "mm") -> Meaning:
    """The meaning of one drawing note. Raises NoteError (with a column) when it cannot be read at all."""
    run = Run(unit, COMPLETES)
    items = read_items(text, unit)
    for index, item in enumerate(items):
        _take(run, item, items[index + 1] if index + 1 < len(items) else None)
    run.close()
    if run.elsewhere:
        run.unread.append("unless stated")
    unread = tuple(run.unread)
    nearest = nearest_words(unread)
    if not run.done and not unread:
        raise NoteError("nothing in this note could be read", hint="Ø12, 4X Ø6.6 THRU, R2, 1x45°")
    meaning = Meaning(
        note=text, unit=unit, clauses=tuple(run.done), assumed=tuple(dict.fromkeys(run.assumed)), unread=unread,
        nearest=nearest,
    )  # fmt: skip
    return meaning.model_copy(update={"plain": describe(meaning)})


def _take(run: Run, item: Item, following: Item | None) -> None:
    take = TAKES.get(item.kind)
    if take is None:
        run.unread.append(item.text)
    else:
        take(run, item, following)
    if item.kind not in ("cross", "separator", "operation"):
        run.crossed = False
