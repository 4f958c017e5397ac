"""What a title block says, as a value: written as JSON by the process that reads sheets (``title_words``)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter, ValidationError

from lathed_solid.ledger.limits import General
from lathed_solid.quantity import LengthUnit
from lathed_solid.sheets.title_labels import MOST
from lathed_solid.standards.materials import materials

#: so many words for the shop, none longer than a note may be
MOST_WORDS, LONGEST_WORDS = 100, 500


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
        tuple(str(w)[:LONGEST_WORDS] for w in words[:MOST_WORDS] if w) if isinstance(words, list) else (),
        *(str(told.get(k, ""))[:MOST] for k in ("name", "number", "revision")),
    )  # fmt: skip
