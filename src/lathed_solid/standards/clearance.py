"""Screws: clearance holes (ISO 273:1979; ASME B18.2.8 for inch screws, whose close, normal and loose are called fine,
medium and coarse here too), and the counterbores of their heads.

A socket head (ISO 4762) is as high as its thread is wide; its counterbore is by DIN 974-1 row 1, deeper than the head
by 0.4 mm up to M6, 0.6 mm up to M20, 0.8 mm up to M27, then 1 mm (0.2 mm up to M1.4). It replaced DIN 74 row K. That
of an inch screw (ASME B18.3) is as deep as the head is high.
"""

from __future__ import annotations

import math

from lathed_solid.quantity.units import MM_PER_INCH
from lathed_solid.standards.csv_tables import StandardError, rows
from lathed_solid.standards.machine import fastener

#: by how much a counterbore is deeper than its head, up to a thread's diameter, mm
DEEPER = ((1.4, 0.2), (6.0, 0.4), (20.0, 0.6), (27.0, 0.8), (math.inf, 1.0))


def screw_row(thread: str) -> dict[str, str] | None:
    """What the table of screws says of ``thread`` (``M8``): None for one that is not in it."""
    return next((r for r in rows("screws") if r["thread"] == thread), None)


def inch_screw_row(thread: str) -> dict[str, str] | None:
    """What the table of inch screws says of ``thread`` (``1/4``, ``#10``): None for one that is not in it."""
    return next((r for r in rows("screws_inch") if r["thread"] == thread), None)


def socket_counterbore(thread: str) -> tuple[float, float]:
    """Diameter and depth, mm, of the counterbore for the socket head of ``thread`` (``M8``), DIN 974-1 row 1.

    Raises StandardError.
    """
    row = screw_row(thread)
    if row is None or not row["counterbore_974_mm"]:
        raise StandardError(f"no counterbore for {thread} is in the table", rule="DIN 974-1 row 1, M1.6 to M36")
    head = float(thread.removeprefix("M"))
    return float(row["counterbore_974_mm"]), head + next(more for to, more in DEEPER if head <= to)


def head_room(thread: str) -> tuple[float, float, str]:
    """Diameter and depth, mm, of the usual counterbore for the socket head of ``thread``, and the table it is by:
    that of DIN 74, else DIN 974-1; ASME B18.3 for an inch screw. Raises StandardError.
    """
    if (inch := inch_screw_row(thread)) is not None:
        head = fastener("socket head screw", thread)
        return float(inch["counterbore_in"]) * MM_PER_INCH, float(head["height_mm"]), "ASME B18.3"
    row = screw_row(thread)
    if row is not None and row["counterbore_mm"]:
        return float(row["counterbore_mm"]), float(row["counterbore_depth_mm"]), "DIN 74 row K"
    return *socket_counterbore(thread), "DIN 974-1"


def clearance_hole(thread: str, series: str = "medium") -> float:
    """Diameter, mm, of the hole that a screw of ``thread`` (``M8``, ``1/4``, ``#10``) goes through. Raises
    StandardError.
    """
    if (inch := inch_screw_row(thread)) is not None:
        return float(inch[f"clearance_{series}_in"]) * MM_PER_INCH
    row = screw_row(thread)
    if row is None:
        raise StandardError(
            f"no clearance hole for {thread} is in the table", rule="ISO 273, M1.6 to M36; ASME B18.2.8, #4 to 1",
            hint="give its diameter",
        )  # fmt: skip
    return float(row[f"clearance_{series}_mm"])


def clearance_standard(thread: str) -> str:
    """Which standard the clearance hole of ``thread`` is by."""
    return "ISO 273" if inch_screw_row(thread) is None else "ASME B18.2.8"
