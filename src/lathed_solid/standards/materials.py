"""Materials: density and its spread, with source."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from lathed_solid.standards.tables import StandardError, rows


@dataclass(frozen=True, slots=True)
class Material:
    """``density`` in g/mm3; ``spread`` the half width of its range, relative."""

    key: str
    name: str
    density: float
    spread: float
    source: str


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
        )
        for r in rows("materials")
    }


def material(key: str) -> Material:
    """The material of that key; StandardError lists the known ones."""
    try:
        return materials()[key]
    except KeyError:
        raise StandardError(
            f"the material {key!r} is not in the table", hint=", ".join(list(materials())[:4]) + " ..."
        ) from None
