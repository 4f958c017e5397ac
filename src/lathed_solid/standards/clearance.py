"""Screws: their clearance holes (ISO 273:1979) in the fine, medium and coarse series, and the row of their heads."""

from __future__ import annotations

from lathed_solid.standards.csv_tables import StandardError, rows


def screw_row(thread: str) -> dict[str, str] | None:
    """What the table of screws says of ``thread`` (``M8``): None for one that is not in it."""
    return next((r for r in rows("screws") if r["thread"] == thread), None)


def clearance_hole(thread: str, series: str = "medium") -> float:
    """Diameter, mm, of the hole that a screw of ``thread`` (``M8``) goes through. Raises StandardError."""
    row = screw_row(thread)
    if row is None:
        raise StandardError(
            f"no clearance hole for {thread} is in the table", rule="ISO 273, M3 to M36", hint="give its diameter"
        )
    return float(row[f"clearance_{series}_mm"])
