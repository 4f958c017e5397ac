"""What a sheet says beside sizes: material, general tolerance, unit, scale; from the texts in the ruled tables of a
page and from its notes, which also have the words for the shop.

Only what is beyond doubt is taken: a material by the name that the table of materials has, a class of ISO 2768-1 or
deviations by decimal places (``.XX ±.01``), the word for the unit alone or behind *in*, a ratio behind *scale*. What
two texts say differently is left out.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter, ValidationError

from lathed_solid.ledger.callouts import LedgerError
from lathed_solid.ledger.general_told import PLACES as NAMES
from lathed_solid.ledger.general_told import general_of
from lathed_solid.ledger.limits import General, InchBlock
from lathed_solid.notation import Instruction
from lathed_solid.notation.general_tolerances import CLASS, PLACES
from lathed_solid.notation.instructions import without_instructions
from lathed_solid.notation.interpret import MAX_NOTE
from lathed_solid.notation.letters import plain_letters
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets.texts import TextLine
from lathed_solid.sheets.title_labels import MOST, labelled
from lathed_solid.standards.materials import material_named, materials

UNIT = re.compile(
    r"^(?:(?:all\s+)?dimensions\s+(?:are\s+)?in\s+|units?\s*:?\s*)?(?P<unit>mm|millimet(?:re|er)s?|in|inch(?:es)?)\.?$",
    re.I,
)
SCALE = re.compile(r"\bscale\b\s*:?\s*(?P<up>\d+(?:\.\d+)?)\s*[:/]\s*(?P<down>\d+(?:\.\d+)?)", re.I)
#: most words for the shop of a page
MOST_WORDS = 100


@dataclass(frozen=True, slots=True)
class Title:
    """What the title block says; None where it does not. ``scale`` is page per part."""

    material: str | None = None
    general: General | None = None
    unit: LengthUnit | None = None
    scale: float | None = None
    #: words for the shop
    instructions: tuple[str, ...] = ()
    name: str = ""
    number: str = ""
    revision: str = ""

    @property
    def words(self) -> str:
        """What it says, in one line."""
        drawing = " ".join(w for w in (self.number, self.revision) if w)
        general = None if self.general is None else str(self.general)
        said = (self.name, drawing, self.material, general, self.unit, *self.instructions)
        return " · ".join(s for s in said if s)


def title_of(texts: Sequence[str], notes: Sequence[str] = (), unit: LengthUnit = "mm") -> dict[str, Any]:
    """What the texts of a page's tables say, and its notes in ``unit`` beside sizes, as JSON; empty where nothing is
    said.
    """
    said: dict[str, dict[str, Any]] = {}
    for text in texts:
        for name, read in _READ.items():
            if (value := read(text)) is not None:
                said.setdefault(name, {})[repr(value)] = value
    words: dict[str, None] = {}
    for told in _instructions(notes, unit):
        if told.what == "work":
            words[told.text] = None
        for name, value in _beside(told, unit):
            said.setdefault(name, {})[repr(value)] = value
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


def _beside(told: Instruction, unit: LengthUnit) -> Iterator[tuple[str, Any]]:
    if told.what == "material" and (key := material_named(told.material or "")) is not None:
        yield "material", key
    elif told.what == "unit":
        yield "unit", told.unit
    elif told.what == "general tolerance":
        with suppress(LedgerError):
            yield "general", general_of(told, unit).model_dump()


def title(told: Any) -> Title:
    """From JSON. What is not as it should be is left out."""
    if not isinstance(told, dict):
        return Title()
    try:
        general = TypeAdapter(General).validate_python(told["general"]) if "general" in told else None
    except ValidationError:
        general = None
    scale, words = told.get("scale"), told.get("instructions")
    unit: LengthUnit | None = "in" if told.get("unit") == "in" else "mm" if told.get("unit") == "mm" else None
    return Title(
        told["material"] if told.get("material") in materials() else None, general, unit,
        float(scale) if isinstance(scale, (int, float)) and 1e-4 < scale < 1e4 else None,
        tuple(str(w)[:MAX_NOTE] for w in words[:MOST_WORDS] if w) if isinstance(words, list) else (),
        *(str(told.get(k, ""))[:MOST] for k in ("name", "number", "revision")),
    )  # fmt: skip


def _general(text: str) -> dict[str, Any] | None:
    if found := CLASS.search(text):
        return {"kind": "iso2768", "letter": found["letter"]}
    places = {NAMES[len(x)]: float(by) for x, by in PLACES.findall(text)}
    if not places:
        return None
    try:
        return InchBlock(**places).model_dump()
    except ValidationError:
        return None


def _unit(text: str) -> str | None:
    found = UNIT.match(text.strip())
    return None if found is None else "in" if found["unit"].lower().startswith("in") else "mm"


def _scale(text: str) -> float | None:
    found = SCALE.search(text)
    return float(found["up"]) / float(found["down"]) if found and float(found["down"]) > 0 else None


_READ: dict[str, Callable[[str], Any]] = {
    "material": material_named, "general": _general, "unit": _unit, "scale": _scale,
}  # fmt: skip
