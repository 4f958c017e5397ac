"""Clearance holes for screws (ISO 273:1979): the fine, medium and coarse series."""

from __future__ import annotations

from lathed_solid.standards.csv_tables import StandardError, rows


def clearance_hole(thread: str, series: str = "medium") -> float:
    """Diameter, mm, of the hole that a screw of ``thread`` (``M8``) goes through. Raises StandardError."""
    row = next((r for r in rows("screws") if r["thread"] == thread), None)
    if row is None:
        raise StandardError(
            f"no clearance hole for {thread} is in the table", rule="ISO 273, M3 to M36", hint="give its diameter"
        )
    return float(row[f"clearance_{series}_mm"])
