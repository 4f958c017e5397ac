"""The drawing-note language: text in, clauses out; no geometry."""

from lathed_solid.notation.clauses import (
    BOTH_SIDES,
    DRILL_POINT_DEG,
    FLAT_DEG,
    Clause,
    Entry,
    Instruction,
    Meaning,
    Thread,
)
from lathed_solid.notation.interpret import read_note
from lathed_solid.notation.items import NoteError
from lathed_solid.notation.write import write_clause, write_note

__all__ = [
    "BOTH_SIDES",
    "DRILL_POINT_DEG",
    "FLAT_DEG",
    "Clause",
    "Entry",
    "Instruction",
    "Meaning",
    "NoteError",
    "Thread",
    "read_note",
    "write_clause",
    "write_note",
]
