"""What a sheet says beside sizes: material, general tolerance, unit, scale; from the texts in the ruled tables of a
page and from its notes, which also have the words for the shop.

Only what is beyond doubt is taken: a material by the name that the table of materials has, a class of ISO 2768-1 or
deviations by decimal places (``.XX ±.01``), the word for the unit alone or behind *in*, a ratio behind *scale*. What
two texts say differently is left out.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from typing import Any

from lathed_solid.ledger.callouts import LedgerError
from lathed_solid.ledger.general_told import beside, general_of
from lathed_solid.ledger.limits import AnyGeneral
from lathed_solid.notation import Instruction
from lathed_solid.notation.general_tolerances import CLASS, places_told
from lathed_solid.notation.instructions import without_instructions
from lathed_solid.notation.interpret import MAX_NOTE
from lathed_solid.notation.letters import plain_letters
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets.texts import TextLine
from lathed_solid.sheets.title import MOST_WORDS
from lathed_solid.sheets.title_labels import labelled
from lathed_solid.standards.materials import material_named

UNIT = re.compile(
    r"^(?:(?:all\s+)?dimensions\s+(?:are\s+)?in\s+|units?\s*:?\s*)?(?P<unit>mm|millimet(?:re|er)s?|in|inch(?:es)?)\.?$",
    re.I,
)
SCALE = re.compile(r"\bscale\b\s*:?\s*(?P<up>\d+(?:\.\d+)?)\s*[:/]\s*(?P<down>\d+(?:\.\d+)?)", re.I)


def title_of(texts: Sequence[str], notes: Sequence[str] = (), unit: LengthUnit = "mm") -> dict[str, Any]:
    """What the texts of a page's tables say, and its notes in ``unit`` beside sizes, as JSON; empty where nothing is
    said.
    """
    said: dict[str, dict[str, Any]] = {}
    generals: list[Instruction] = []
    for text in texts:
        for name, read in _READ.items():
            if (value := read(text)) is not None:
                said.setdefault(name, {})[repr(value)] = value
    named = said.get("unit")
    for text in texts:
        generals += _general(text, unit if named is None else next(iter(named.values())), named=named is not None)
    words: dict[str, None] = {}
    for told in _instructions(notes, unit):
        if told.what == "work":
            words[told.text] = None
        if told.what == "general tolerance":
            generals.append(told)
        for name, value in _beside(told):
            said.setdefault(name, {})[repr(value)] = value
    if (general := _together(generals, unit)) is not None:
        said["general"] = {"": general.model_dump(exclude_none=True)}
    out = {name: next(iter(found.values())) for name, found in said.items() if len(found) == 1}
    return out | ({"instructions": list(words)[:MOST_WORDS]} if words else {})


def page_title(furniture: Sequence[TextLine], notes: Sequence[str], unit: LengthUnit) -> dict[str, Any]:
    """The same, of the lines in a page's tables, with what their labels say."""
    told, said = title_of([line.text for line in furniture], notes, unit), labelled(furniture)
    scale = _scale(f"scale {said.pop('scale', '')}")
    return {**({} if scale is None else {"scale": scale}), **told, **said}


def _instructions(notes: Sequence[str], unit: LengthUnit) -> Iterator[Instruction]:
    """Of notes that say nothing else."""
    for text in notes:
        if len(text) > MAX_NOTE or not re.search("[A-Za-z]{3}", text):
            continue
        left, clauses = without_instructions(plain_letters(text), unit)
        if not re.sub("NOTES?|[^A-Za-z0-9]", "", left.text, flags=re.I):
            yield from (c.instruction for c in clauses if c.instruction is not None)


def _beside(told: Instruction) -> Iterator[tuple[str, Any]]:
    if told.what == "material" and (key := material_named(told.material or "")) is not None:
        yield "material", key
    elif told.what == "unit":
        yield "unit", told.unit


def _together(tolds: Sequence[Instruction], unit: LengthUnit) -> AnyGeneral | None:
    """The general tolerance of lines that each say a part of it; None where two say different things."""
    found: AnyGeneral | None = None
    places: dict[int, float] = {}
    for told in sorted(tolds, key=beside):
        blocks = not beside(told) and told.by_places is not None
        if blocks and any(places.get(n, by) != by for n, by in told.by_places or ()):
            return None
        try:
            if blocks:
                places |= dict(told.by_places or ())
                told = told.model_copy(update={"by_places": tuple(places.items())})
            one = general_of(told, unit, found)
        except LedgerError:
            return None
        if found is not None and one != found and not blocks and not beside(told):
            return None
        found = one
    return found


def _general(text: str, unit: LengthUnit, *, named: bool) -> Iterator[Instruction]:
    """``named``: whether the sheet names its unit; where it does not, ``.XX ±.01`` is as sheets in inches write it."""
    if not named and re.search(r"±\s*\.\d", text):
        unit = "in"
    if found := CLASS.search(text):
        yield Instruction(what="general tolerance", text=text, letter=found["letter"])
    elif places := places_told(text, unit):
        yield Instruction(what="general tolerance", text=text, by_places=places, unit=unit)


def _unit(text: str) -> str | None:
    found = UNIT.match(text.strip())
    return None if found is None else "in" if found["unit"].lower().startswith("in") else "mm"


def _scale(text: str) -> float | None:
    found = SCALE.search(text)
    return float(found["up"]) / float(found["down"]) if found and float(found["down"]) > 0 else None


_READ: dict[str, Callable[[str], Any]] = {
    "material": material_named, "unit": _unit, "scale": _scale,
}  # fmt: skip
