"""Metric threads, first part: coarse pitches (ISO 261) and basic diameters (ISO 68-1, ISO 724)."""

from __future__ import annotations

from lathed_solid.standards.tables import StandardError, rows


def coarse_pitch(major_mm: float) -> float:
    """The coarse pitch in mm of a metric thread; StandardError when the size has none."""
    for row in rows("metric_coarse"):
        if float(row["major_mm"]) == major_mm:
            return float(row["pitch_mm"])
    raise StandardError(f"M{major_mm:g} has no coarse pitch in ISO 261", hint=f"write the pitch: M{major_mm:g}x1.5")
