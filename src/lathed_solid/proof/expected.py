"""What the part's volume should be: stated on the drawing, or from its mass and the material's density.

With a mass m, its tolerance t, the scale's resolution a and the density's relative half width w (both rectangular), the
band about m / rho is (t + 2 sqrt(a^2 / 12 + (w m)^2 / 3)) / rho, as in ``mass``.
"""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.part import Document
from lathed_solid.proof.mass import mass_band
from lathed_solid.standards import StandardError, material

#: a stated volume is not believed further than this, relative
FINEST = 1e-6


@dataclass(frozen=True, slots=True)
class Expected:
    """``volume`` within ``band``, mm3; ``density`` (g/mm3) where it comes from a mass, else None."""

    volume: float
    band: float
    source: str
    density: float | None = None

    def fits(self, volume: float) -> bool:
        """Whether a volume (mm3) lies within the band."""
        return abs(volume - self.volume) <= self.band


def expected(document: Document) -> Expected | None:
    """The stated volume, else that of the stated mass; None when neither is stated or the material is unknown."""
    volume, mass = document.stated_volume, document.stated_mass
    if volume is not None:
        return Expected(volume.mm3, max(volume.tolerance, FINEST * volume.mm3), "the volume stated")
    if mass is None or document.body_materials:
        return None  # of several materials a mass says nothing of the volume
    try:
        m = material(document.material)
    except StandardError:
        return None
    band = mass_band(mass, mass.grams, m.spread) / m.density
    return Expected(mass.grams / m.density, max(band, FINEST * mass.grams / m.density), f"the mass ({mass.source})",
                    m.density)  # fmt: skip
