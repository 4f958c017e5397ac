"""What a title block says: material, general tolerance, unit, scale; from the texts in the ruled tables of a page.

Only what is beyond doubt is taken: a material by the name that the table of materials has, a class of ISO 2768-1 or
deviations by decimal places (``.XX ±.01``), the word for the unit alone or behind *in*, a ratio behind *scale*. What
two texts say differently is left out.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import TypeAdapter, ValidationError

from lathed_solid.ledger.limits import General, InchBlock
from lathed_solid.quantity import LengthUnit
from lathed_solid.standards.materials import materials

CLASS = re.compile(r"\bISO\s*2768(?:-1)?\s*[-–: ]\s*(?P<letter>[fmcv])(?:[HKL])?\b")
PLACES = re.compile(r"(?<![\w.])\.(?P<places>[Xx]{1,4})\s*(?:=\s*)?[±]\s*(?P<by>\d*\.\d+)")
UNIT = re.compile(
    r"^(?:(?:all\s+)?dimensions\s+(?:are\s+)?in\s+|units?\s*:?\s*)?(?P<unit>mm|millimet(?:re|er)s?|in|inch(?:es)?)\.?$",
    re.I,
)
SCALE = re.compile(r"\bscale\b\s*:?\s*(?P<up>\d+(?:\.\d+)?)\s*[:/]\s*(?P<down>\d+(?:\.\d+)?)", re.I)
NAMES = {1: "one", 2: "two", 3: "three", 4: "four"}


@dataclass(frozen=True, slots=True)
class Title:
    """What the title block says; None where it does not. ``scale`` is page per part."""

    material: str | None = None
    general: General | None = None
    unit: LengthUnit | None = None
    scale: float | None = None

    @property
    def words(self) -> str:
        """What it says, in one line."""
        said = (self.material, str(self.general) if self.general is not None else None, self.unit)
        return " · ".join(s for s in said if s)


def title_of(texts: Sequence[str]) -> dict[str, Any]:
    """What the texts of a page's tables say, as JSON; empty without a title block."""
    out: dict[str, Any] = {}
    for name, read in _READ.items():
        said = {repr(v): v for text in texts if (v := read(text)) is not None}
        if len(said) == 1:
            out[name] = next(iter(said.values()))
    return out


def title(told: Any) -> Title:
    """From JSON. What is not as it should be is left out."""
    if not isinstance(told, dict):
        return Title()
    try:
        general = TypeAdapter(General).validate_python(told["general"]) if "general" in told else None
    except ValidationError:
        general = None
    scale = told.get("scale")
    unit: LengthUnit | None = "in" if told.get("unit") == "in" else "mm" if told.get("unit") == "mm" else None
    return Title(
        told["material"] if told.get("material") in materials() else None, general, unit,
        float(scale) if isinstance(scale, (int, float)) and 1e-4 < scale < 1e4 else None,
    )  # fmt: skip


def _material(text: str) -> str | None:
    plain = _bare(text)
    found = [k for k in materials() if _bare(k) == plain]
    found = found or [k for k, m in materials().items() if _bare(m.name) == plain]
    return found[0] if len(found) == 1 else None


#: what follows a steel's designation: its impact class and its condition as delivered (EN 10027-1)
CONDITION = re.compile(r"(?<=\d)(?:J[R02]|K2)?(?:\+[A-Z]+)*$")


def _bare(name: str) -> str:
    """Without spaces, dashes, the word steel, and what says how it is delivered."""
    return re.sub(r"[\s-]", "", CONDITION.sub("", name.strip().removesuffix(" steel"))).casefold()


def _general(text: str) -> dict[str, Any] | None:
    if found := CLASS.search(text):
        return {"kind": "iso2768", "letter": found["letter"]}
    places = {NAMES[len(m["places"])]: float(m["by"]) for m in PLACES.finditer(text)}
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
    "material": _material, "general": _general, "unit": _unit, "scale": _scale,
}  # fmt: skip
