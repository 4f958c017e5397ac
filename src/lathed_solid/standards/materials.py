"""Materials: density and its spread, with source."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cache

from lathed_solid.errors import of_length
from lathed_solid.quantity.units import decimal
from lathed_solid.standards.csv_tables import StandardError, rows

#: half width of an own density that tells none, relative
OWN_SPREAD = 0.01
MAX_NAME = 120
_OWN = re.compile(
    r"(?P<name>.*?)\s*(?P<density>\d+(?:[.,]\d+)?)\s*(?P<unit>g/cm|kg/m)(?:\^?3|³)(?:\s*±\s*(?P<spread>\d+(?:[.,]\d+)?)\s*%)?",
    re.I,
)


@dataclass(frozen=True, slots=True)
class Material:
    """``density`` in g/mm3; ``spread`` the half width of its range, relative."""

    key: str
    name: str
    density: float
    spread: float
    source: str
    #: of the bare metal or plastic as it comes from the machine, #RRGGBB
    finish_colour: str = "#B4BABC"


@cache
def materials() -> dict[str, Material]:
    """All shipped materials by key."""
    return {
        r["key"]: Material(
            r["key"],
            r["name"],
            float(r["density_g_cm3"]) / 1000,
            float(r["spread_percent"]) / 100,
            r["source"],
            r["finish_colour"],
        )
        for r in rows("materials")
    }


#: what follows a steel's designation: its impact class and its condition as delivered (EN 10027-1)
CONDITION = re.compile(r"(?<=\d)(?:J[R02]|K2)?(?:\+[A-Z]+)*$")


def material_named(text: str) -> str | None:
    """The key of the shipped material that a text names, beyond doubt; else None."""
    plain = _bare(text)
    found = next((keys for names in _named() if (keys := names.get(plain))), ())
    return found[0] if len(found) == 1 else None


@cache
def _named() -> tuple[dict[str, tuple[str, ...]], ...]:
    """Which materials have a name: by their keys, by their whole names."""
    keys: dict[str, tuple[str, ...]] = {}
    names: dict[str, tuple[str, ...]] = {}
    for key, m in materials().items():
        keys[_bare(key)] = (*keys.get(_bare(key), ()), key)
        names[_bare(m.name)] = (*names.get(_bare(m.name), ()), key)
    return keys, names


def _bare(name: str) -> str:
    """Without spaces, dashes, case, the word steel, and what says how it is delivered."""
    plain = re.sub(r"\s+STEEL$", "", name.strip(), flags=re.I)
    return re.sub(r"[\s-]", "", CONDITION.sub("", plain)).casefold()


def material(key: str) -> Material:
    """The material of that key, or one of a person's own with its density: ``oak 0.70 g/cm3 ±8 %``.

    Raises StandardError, which lists the known ones.
    """
    found = materials().get(key)
    if found is not None:
        return found
    own = _OWN.fullmatch(of_length(key, MAX_NAME, "the material", StandardError).strip())
    if own is None:
        known = ", ".join(list(materials())[:3])
        raise StandardError(f"the material {key!r} is not in the table", hint=f"{known} ..., or: oak 0.70 g/cm3 ±8 %")
    density = decimal(own["density"]) / (1000 if own["unit"].lower() == "g/cm" else 1e6)
    spread = decimal(own["spread"]) / 100 if own["spread"] else OWN_SPREAD
    if not 1e-5 < density < 0.03 or not 0 <= spread < 1:
        raise StandardError(f"the density of {key!r} is impossible", rule="0.01 to 30 g/cm3")
    return Material(key, own["name"].strip(" :,") or "own material", density, spread, "as entered")
