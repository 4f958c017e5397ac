"""Mass from the exact volume and the material, against a stated or weighed mass.

The band about the stated mass: its tolerance, plus the expanded uncertainty (k = 2) of the comparison,
from the scale's resolution a and the density's relative half width w, both rectangular:

    U = 2 sqrt(a^2 / 12 + s^2 / n + (w m)^2 / 3)

with s the standard deviation of n weighings.
"""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

from lathed_solid.part import Document, StatedMass
from lathed_solid.standards import StandardError, material


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
        return None if self.stated is None else self.model - self.stated

    def as_json(self) -> dict[str, Any]:
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


def judge_mass(document: Document, volume_mm3: float) -> MassVerdict | None:
    """The mass verdict, or None when the material is not in the table."""
    try:
        m = material(document.material)
    except StandardError:
        return None
    grams = volume_mm3 * m.density
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


def mass_band(stated: StatedMass, grams: float, spread: float) -> float:
    """The band about the stated mass by the formula in the module's docstring, g."""
    return stated.tolerance + 2 * math.sqrt(stated.resolution**2 / 12 + stated.scatter**2 + (spread * grams) ** 2 / 3)
