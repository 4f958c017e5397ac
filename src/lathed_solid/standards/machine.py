"""Parts and details from the tables: keys (ISO/R 773, ASME B17.1), ring grooves (DIN 471, DIN 472), centre holes (ISO
866, 2540, 2541), bearings (ISO 15), fasteners, pins, O-rings (ISO 3601), thread reliefs (DIN 76-1).

Of a square key of ASME B17.1 half its height stands in the shaft, measured at its side: from the top of the shaft the
seat is H/2 + (D - sqrt(D^2 - W^2)) / 2 deep.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from lathed_solid.quantity.tolerances import LINEAR
from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows


@dataclass(frozen=True, slots=True)
class KeySize:
    """mm; depths of the seat in the shaft and in the hub."""

    width: float
    height: float
    shaft_depth: float
    hub_depth: float
    source: str = ""


@dataclass(frozen=True, slots=True)
class CentreHole:
    """mm; ``least_depth`` of the pilot before the taper, ``protected`` the wide diameter of form B; None where none."""

    form: str
    pilot: float
    countersink: float
    least_depth: float | None
    protected: float | None
    source: str


KEY = ("width_mm", "height_mm", "shaft_depth_mm", "hub_depth_mm")


def key_for(shaft_mm: float) -> KeySize:
    """The parallel key for a shaft. Raises StandardError past the table."""
    for r in rows("keys"):
        if float(r["over_mm"]) < shaft_mm <= float(r["to_mm"]):
            width, height, shaft, hub = (float(r[n]) for n in KEY)
            return KeySize(width, height, shaft, hub, r["source"])
    raise StandardError(
        f"ISO/R 773 has no key for ⌀{shaft_mm:g}", rule="shafts over 6 up to 500 mm", hint="give width and depth"
    )


def inch_key_for(shaft_in: float) -> KeySize:
    """The square key for a shaft in inches; sizes in mm. Raises StandardError past the table."""
    for r in rows("keys_inch"):
        if float(r["over_in"]) < shaft_in <= float(r["to_in"]):
            width = float(r["width_in"])
            drop = (shaft_in - math.sqrt(shaft_in**2 - width**2)) / 2
            mm, down = width * MM_PER_INCH, drop * MM_PER_INCH
            return KeySize(mm, mm, mm / 2 + down, mm / 2 - down, r["source"])
    raise StandardError(f"ASME B17.1 has no key for {shaft_in:g} in", rule="shafts over 5/16 up to 6 1/2 in")


def ring_groove(size_mm: float, *, inside: bool = False) -> tuple[float, float]:
    """Diameter and width in mm of the groove for a shaft ring, or ``inside`` a bore. Raises StandardError."""
    where, standard = ("bore", "DIN 472") if inside else ("shaft", "DIN 471")
    for r in rows("ring_grooves"):
        if r["on"] == where and abs(float(r["size_mm"]) - size_mm) < 0.05:
            return float(r["groove_mm"]), float(r["width_mm"])
    raise StandardError(f"{standard} as shipped has no ring for ⌀{size_mm:g}", hint="give width and diameter")


def centre_hole(pilot_mm: float, form: str = "A") -> CentreHole:
    """A centre hole of form A, B or R. Raises StandardError, which names the pilots of the form."""
    of_form = [r for r in rows("centre_holes") if r["form"] == form.upper()]
    for r in of_form:
        if abs(float(r["pilot_mm"]) - pilot_mm) < LINEAR:
            deep, wide = (float(r[n]) if r[n] else None for n in ("least_depth_mm", "protected_mm"))
            return CentreHole(r["form"], float(r["pilot_mm"]), float(r["countersink_mm"]), deep, wide, r["source"])
    raise StandardError(
        f"there is no centre hole {form.upper()}{pilot_mm:g}", hint=", ".join(r["pilot_mm"] for r in of_form)
    )


def bearing(designation: str) -> dict[str, str]:
    """Bore, outside and width of a ball bearing. Raises StandardError."""
    found = next((r for r in rows("bearings") if r["designation"] == designation), None)
    if found is None:
        raise StandardError(f"the bearing {designation} is not in the table", hint="608, 6004, 6204, 6304, 61804")
    return found


def fastener(kind: str, thread: str) -> dict[str, str]:
    """Head (or across flats) and height in mm of a screw, bolt or nut; a washer's outside, thickness and hole.

    Raises StandardError, which names the threads of that kind.
    """
    of_kind = [r for r in rows("fasteners") if r["kind"] == kind]
    found = next((r for r in of_kind if r["thread"] == thread), None)
    if found is None:
        raise StandardError(f"no {kind} {thread} is in the tables", hint=", ".join(r["thread"] for r in of_kind))
    return found


def o_ring(section_mm: float) -> dict[str, str]:
    """The section's tolerance and its static groove, mm. Raises StandardError."""
    for r in rows("o_rings"):
        if abs(float(r["section_mm"]) - section_mm) < LINEAR:
            return r
    raise StandardError(
        f"ISO 3601-1 has no section of {section_mm:g}", hint=", ".join(r["section_mm"] for r in rows("o_rings"))
    )


def thread_relief(pitch_mm: float) -> dict[str, str]:
    """Run-out and undercut behind an external thread, mm. Raises StandardError."""
    for r in rows("thread_reliefs"):
        if abs(float(r["pitch_mm"]) - pitch_mm) < LINEAR:
            return r
    raise StandardError(f"DIN 76-1 as shipped has no relief for a pitch of {pitch_mm:g}")
