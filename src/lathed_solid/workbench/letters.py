"""Letters that name the sizes of a part on its photograph: A to Z, then AA, AB, by the callouts' numbers."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.part import Document


@dataclass(frozen=True)
class Letter:
    """A size on the photograph; the place in shares of its width and height from the top left."""

    text: str
    balloon: int
    x: float
    y: float


def letter_of(balloon: int) -> str:
    """``A`` for callout 1, ``Z`` for 26, ``AA`` for 27."""
    out = ""
    while balloon > 0:
        balloon, rest = divmod(balloon - 1, 26)
        out = chr(ord("A") + rest) + out
    return out


def photograph_of(document: Document) -> int | None:
    """The number of the last photograph among a document's sheets; None for none."""
    found = [n for n, sheet in enumerate(document.sheets, 1) if sheet.photograph]
    return found[-1] if found else None


def letters_on(document: Document, sheet: int) -> list[Letter]:
    """The sizes that stand on a photograph."""
    return [
        Letter(letter_of(c.balloon), c.balloon, c.place.x, c.place.y)
        for c in document.callouts
        if c.place is not None and c.place.sheet == sheet
    ]
