"""Which of the texts on a page read as notes from end to end, and what they mean. Only the worker asks."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

from lathed_solid.notation import NoteError, read_note
from lathed_solid.quantity import LengthUnit

#: longer texts are no dimensions
LONGEST = 160
#: what may be followed by a unit of its own
BARE = re.compile(r"[⌀R□]?\s*\d*[.,]?\d+|\d*[.,]?\d+°")


def offers(notes: Sequence[dict[str, Any]], unit: LengthUnit, drawn: str) -> list[dict[str, Any]]:
    """The notes (text, box, angle, span) that can be callouts, with their plain meaning. On a drawing in the other unit
    (``drawn``) a bare size says its own.
    """
    named = "" if drawn == unit else f" {drawn}"
    return [{**n, **read} for n in notes if (read := _read(n["text"], unit, named)) is not None]


def _read(text: str, unit: LengthUnit, named: str) -> dict[str, str] | None:
    """The text as a note, and its meaning, when all of it reads as one."""
    if named and not BARE.fullmatch(text):
        return None
    text += named if not text.endswith("°") else ""
    if len(text) > LONGEST or not any(c.isdigit() for c in text):
        return None
    try:
        meaning = read_note(text, unit)
    except NoteError:
        return None
    if meaning.unread or not meaning.clauses:
        return None
    return {"text": text, "plain": meaning.plain}
