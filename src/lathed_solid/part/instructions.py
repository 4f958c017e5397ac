"""What a note says beside sizes, put where it belongs: the part's material, its general tolerance, the unit of its
sheet; words of work (DEBURR, HARDEN TO 58 HRC) stand among the part's instructions, which its drawing and its
machinist's sheet print. Words behind a size stay with that size's note.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from lathed_solid.ledger import callouts_from_meaning
from lathed_solid.ledger.general_told import general_of
from lathed_solid.part.document import Document, DocumentError
from lathed_solid.part.edits import changed, next_balloon, put_note
from lathed_solid.standards.materials import material_named

if TYPE_CHECKING:
    from lathed_solid.notation import Instruction, Meaning


def put_meaning(document: Document, meaning: Meaning, balloon: int | None = None, source: str = "sheet") -> Document:
    """The document with all that a note states: its callouts from ``balloon``, and its instructions.

    Raises LedgerError for a note that is not understood or deviations that cannot be, DocumentError for instructions
    that change nothing.
    """
    told = _told(meaning)
    if meaning.unread or len(told) < len(meaning.clauses):
        callouts = callouts_from_meaning(meaning, next_balloon(document) if balloon is None else balloon, source)
        document = put_note(document, callouts)
        return changed(document, **_properties(document, [i for i in told if i.what != "work"]))
    new = _properties(document, told)
    if not new:
        of_the_sheet = all(i.what == "sheet" for i in told)
        raise DocumentError(OF_THE_SHEET if of_the_sheet else "the part says so already", received=meaning.note)
    return changed(document, **new)


def _told(meaning: Meaning) -> list[Instruction]:
    return [c.instruction for c in meaning.clauses if c.instruction is not None]


def takes(meaning: Meaning) -> str:
    """What becomes of a note that states no size, in words; empty for others."""
    told = _told(meaning)
    if not told or meaning.unread or len(told) < len(meaning.clauses):
        return ""
    words = dict.fromkeys(_WORDS[i.what] for i in told if i.what != "sheet")
    return ", ".join(words) or OF_THE_SHEET


OF_THE_SHEET = "of the sheet itself: nothing is taken"
_WORDS = {"material": "the part's material", "general tolerance": "the part's general tolerance",
          "unit": "the part's unit", "work": "kept for the drawing and the shop"}  # fmt: skip


def _properties(document: Document, told: list[Instruction]) -> dict[str, Any]:
    """The fields that change. Raises DocumentError for another unit than a part in work has."""
    new: dict[str, Any] = {}
    words = list(document.instructions)
    for i in told:
        if i.what == "material":
            key = material_named(i.material or "")
            if key is None:
                words.append(i.text)  # the table has no density of it: said, not weighed
            else:
                new["material"] = key
        elif i.what == "general tolerance":
            new["general"] = general_of(i, document.unit, new.get("general", document.general))
        elif i.what == "unit":
            if i.unit != document.unit and (document.notes or document.steps):
                raise DocumentError(f"the part is in {document.unit} already", received=i.text,
                                    hint="sizes in the other unit say so: 1 in, 25.4 mm")  # fmt: skip
            new["unit"] = i.unit
        elif i.what == "work":
            words.append(i.text)
    new["instructions"] = tuple(dict.fromkeys(words))
    return {key: value for key, value in new.items() if value != getattr(document, key)}
