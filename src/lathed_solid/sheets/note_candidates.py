"""Which of the texts on a page read as notes from end to end, and what they mean. Only the worker asks."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

from lathed_solid.notation import NoteError, read_note
from lathed_solid.notation.instructions import told_of
from lathed_solid.quantity import LengthUnit

#: longer texts are no dimensions
LONGEST = 160
#: what may be followed by a unit of its own
BARE = re.compile(r"[⌀R□]?\s*\d*[.,]?\d+|\d*[.,]?\d+°")


def offers(
    notes: Sequence[dict[str, Any]], unit: LengthUnit, drawn: str
) -> tuple[list[dict[str, Any]], list[dict[str, Any]]]:
    """The notes (text, box, angle, span) that can be callouts, with their plain meaning; and those that are left, with
    why. On a drawing in the other unit (``drawn``) a bare size says its own.
    """
    named = "" if drawn == unit else f" {drawn}"
    taken, left = [], []
    for note in notes:
        read, why = _read(note["text"], unit, named)
        if read is None:
            left.append({"text": note["text"], "box": note["box"], "why": why})
        else:
            taken.append({**note, **read})
    return taken, left


def _read(text: str, unit: LengthUnit, named: str) -> tuple[dict[str, str] | None, str]:
    """The text as a note, and its meaning, when all of it reads as one; else why not."""
    if len(text) > LONGEST:
        return None, f"longer than {LONGEST} characters"
    if not any(c.isdigit() for c in text) and told_of(text, unit) is None:
        return None, "no number"
    if named and not BARE.fullmatch(text) and told_of(text, unit) is None:
        return None, f"drawn in{named}, and not one bare size"
    text += named if BARE.fullmatch(text) and not text.endswith("°") else ""
    try:
        meaning = read_note(text, unit)
    except NoteError as exc:
        return None, exc.what
    if meaning.unread or not meaning.clauses:
        return None, f"not read: {' '.join(meaning.unread)}" if meaning.unread else "states nothing"
    if all(c.kind == "instruction" for c in meaning.clauses):
        return None, meaning.plain.partition(":")[0]
    return {"text": text, "plain": meaning.plain}, ""
