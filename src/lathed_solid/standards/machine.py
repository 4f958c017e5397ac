"""Details of turned parts from the tables: keys (ISO 773), ring grooves (DIN 471), centre holes (ISO 866 form A)."""

from __future__ import annotations

from dataclasses import dataclass

from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.standards.csv_tables import StandardError, rows


@dataclass(frozen=True, slots=True)
class KeySize:
    """mm; depths of the seat in the shaft and in the hub."""

    width: float
    height: float
    shaft_depth: float
    hub_depth: float


def key_for(shaft_mm: float) -> KeySize:
    """The parallel key for a shaft. Raises StandardError past the table."""
    for r in rows("keys"):
        if float(r["over_mm"]) < shaft_mm <= float(r["to_mm"]):
            return KeySize(*(float(r[n]) for n in ("width_mm", "height_mm", "shaft_depth_mm", "hub_depth_mm")))
    raise StandardError(f"ISO 773 as shipped has no key for ⌀{shaft_mm:g}", hint="give width and depth")


def ring_groove(shaft_mm: float, *, inside: bool = False) -> tuple[float, float]:
    """Diameter and width in mm of the groove for a shaft ring. Raises StandardError for a size between those."""
    for r in rows("ring_grooves"):
        if abs(float(r["shaft_mm"]) - shaft_mm) < 0.05:
            return float(r["groove_mm"]), float(r["width_mm"])
    raise StandardError(f"DIN 471 as shipped has no ring for ⌀{shaft_mm:g}", hint="give width and diameter")


def centre_hole(pilot_mm: float) -> tuple[float, float]:
    """Countersink diameter and least depth in mm of a form A centre hole. Raises StandardError."""
    for r in rows("centre_holes"):
        if abs(float(r["pilot_mm"]) - pilot_mm) < LINEAR:
            return float(r["countersink_mm"]), float(r["depth_mm"])
    known = ", ".join(r["pilot_mm"] for r in rows("centre_holes"))
    raise StandardError(f"there is no centre hole A{pilot_mm:g}", hint=known)
