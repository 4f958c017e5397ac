"""Mass from the exact volume and the material, against a stated or weighed mass.

The band about the stated mass: its tolerance, plus the expanded uncertainty (k = 2) of the comparison,
from the scale's resolution a and the density's relative half width w, both rectangular:

    U = 2 sqrt(a^2 / 12 + s^2 / n + (w m)^2 / 3)

with s the standard deviation of n weighings.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from lathed_solid.part import Document, StatedMass
from lathed_solid.standards import StandardError, material
from lathed_solid.standards.materials import Material


class MassVerdict(BaseModel):
    """Grams. ``verdict`` is 'not stated' when there is nothing to compare with."""

    model_config = ConfigDict(frozen=True)

    material: str
    density_source: str
    density_g_mm3: float
    model: float
    low: float
    high: float
    stated: float | None
    source: str
    band: float | None
    verdict: Literal["in", "out", "not stated"]

    @property
    def deviation(self) -> float | None:
        """Model less stated, g; None where nothing is stated."""
        return None if self.stated is None else self.model - self.stated

    def as_json(self) -> dict[str, Any]:
        """As ``prove --json`` prints it; g and g/cm3."""
        return {
            "material": self.material,
            "density_g_cm3": self.density_g_mm3 * 1000,
            "density_source": self.density_source,
            "model_g": self.model,
            "model_low_g": self.low,
            "model_high_g": self.high,
            "stated_g": self.stated,
            "stated_source": self.source,
            "band_g": self.band,
            "deviation_g": self.deviation,
            "verdict": self.verdict,
        }


def density(document: Document) -> float:
    """g/mm3 of the document's material. Raises StandardError."""
    return material(document.material).density


def judge_mass(document: Document, volumes: Mapping[int, float]) -> MassVerdict | None:
    """The mass verdict, or None when a material is not in the table. ``volumes``: mm3 of each body, by its first step.

    Of bodies of several materials the density is that of the whole, and the spreads add up by mass: they may be off the
    same way.
    """
    try:
        found = [(material(document.material_of(n)), v) for n, v in volumes.items()]
    except StandardError:
        return None
    if not found:
        return None
    m, grams = _mixed(found)
    stated = document.stated_mass
    band = None if stated is None else mass_band(stated, grams, m.spread)
    verdict: Literal["in", "out", "not stated"] = "not stated"
    if stated is not None and band is not None:
        verdict = "in" if abs(grams - stated.grams) <= band else "out"
    return MassVerdict(
        material=m.key,
        density_source=m.source,
        density_g_mm3=m.density,
        model=grams,
        low=grams * (1 - m.spread),
        high=grams * (1 + m.spread),
        stated=None if stated is None else stated.grams,
        source="" if stated is None else stated.source,
        band=band,
        verdict=verdict,
    )


def _mixed(found: Sequence[tuple[Material, float]]) -> tuple[Material, float]:
    """The materials of all bodies as one, and the mass, g."""
    grams = math.fsum(m.density * v for m, v in found)
    kinds = {m.key: m for m, _ in found}
    if len(kinds) == 1:
        return next(iter(kinds.values())), grams
    spread = math.fsum(m.spread * m.density * v for m, v in found) / grams
    density_of_all = grams / math.fsum(v for _, v in found)
    return Material(", ".join(kinds), "several", density_of_all, spread, "several"), grams


def mass_band(stated: StatedMass, grams: float, spread: float) -> float:
    """The band about the stated mass by the formula in the module's docstring, g."""
    return stated.tolerance + 2 * math.sqrt(stated.resolution**2 / 12 + stated.scatter**2 + (spread * grams) ** 2 / 3)
