"""Limits of the threads that move things: trapezoidal (ISO 2903) and ACME, general purpose (ASME B1.5).

Trapezoidal, classes 7e and 7H: screw major d to d - Td (grade 4), pitch diameter d2 + es less Td2, minor at most
d - P - 2 ac and 1.25 Td2 + |es| below that; nut pitch diameter D2 to D2 + TD2, minor D1 to D1 + TD1, major at least
d + 2 ac.

ACME, in inches, n threads an inch, P = 1/n, D the major diameter, clearance c = 0.020 (0.010 above 10 an inch):

    allowance on the pitch diameter        2G 0.008 sqrt(D)   3G 0.006 sqrt(D)   4G 0.004 sqrt(D)
    its tolerance T                        2G 0.006 sqrt(D) + 0.030 sqrt(P), 3G 0.467 and 4G 0.333 of it
    screw: major D less 0.05 P (at least 0.005), minor at most D - P - c less 1.5 T
    nut: major D + c plus c, minor D - P plus 0.05 P (at least 0.005)

each rounded to four places, as the standard's tables are.
"""

from __future__ import annotations

import math

from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows
from lathed_solid.standards.threads import ThreadForm

Side = tuple[float | None, float | None]
Sides = tuple[Side, Side, Side]

ALLOWANCE = {"2": 0.008, "3": 0.006, "4": 0.004}
SHARE = {"2": 1.0, "3": 0.467, "4": 0.333}


def trapezoidal(form: ThreadForm, thread_class: str) -> tuple[Sides, str]:
    """Major, pitch and minor diameter (mm) of class 7e or 7H. Raises StandardError for another class or size."""
    if thread_class not in ("7e", "7H"):
        raise StandardError("of trapezoidal threads the classes 7e and 7H are shipped", received=thread_class)
    d, p = form.major, form.pitch
    row = next((r for r in rows("trapezoidal") if float(r["pitch_mm"]) == p), None)
    middle = next((r for r in rows("trapezoidal_pitch_diameter") if float(r["pitch_mm"]) == p
                   and float(r["over_mm"]) < d <= float(r["up_to_mm"])), None)  # fmt: skip
    if row is None or middle is None:
        raise StandardError(f"ISO 2903 has no tolerance for ⌀{d:g} with a pitch of {p:g}", hint="Tr20x4, Tr36x6")
    basic, clearance = d - p / 2, form.screw_depth - p / 2
    if thread_class == "7e":
        es, t2 = float(row["deviation_e_um"]) / 1000, float(middle["screw_um"]) / 1000
        low = d - p - 2 * clearance
        sides: Sides = ((d - float(row["major_tolerance_um"]) / 1000, d), (basic + es - t2, basic + es),
                        (low - 1.25 * t2 + es, low))  # fmt: skip
    else:
        t2, t1 = float(middle["nut_um"]) / 1000, float(row["minor_nut_tolerance_um"]) / 1000
        sides = ((d + 2 * clearance, None), (basic, basic + t2), (d - p, d - p + t1))
    return sides, str(row["source"])


def acme(form: ThreadForm, thread_class: str) -> tuple[Sides, str]:
    """Major, pitch and minor diameter (mm) of class 2G, 3G or 4G; the suffix ``e`` a screw, ``i`` a nut."""
    number, nut = thread_class[0], thread_class.endswith("i")
    if thread_class[1:2].upper() != "G" or number not in ALLOWANCE:
        raise StandardError("of ACME threads the classes 2G, 3G and 4G are shipped", received=thread_class)
    d, p = form.major / MM_PER_INCH, form.pitch / MM_PER_INCH
    clearance = 0.020 if round(1 / p) <= 10 else 0.010
    basic = round(d - p / 2, 4)
    tolerance = round(SHARE[number] * (0.006 * math.sqrt(d) + 0.030 * math.sqrt(p)), 4)
    edge = round(max(0.05 * p, 0.005), 4)
    if nut:
        low = round(d - p, 4)
        inches: Sides = ((d + clearance, d + 2 * clearance), (basic, basic + tolerance), (low, low + edge))
    else:
        top = basic - round(ALLOWANCE[number] * math.sqrt(d), 4)
        root = round(d - p - clearance, 4)
        inches = ((d - edge, d), (top - tolerance, top), (root - round(1.5 * tolerance, 4), root))
    major, pitch, minor = ((_mm(a), _mm(b)) for a, b in inches)
    return (major, pitch, minor), "ASME B1.5"


def _mm(inches: float | None) -> float | None:
    return None if inches is None else inches * MM_PER_INCH
