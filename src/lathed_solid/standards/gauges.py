"""Go and no-go gauges for metric threads: the limits of their own pitch diameters (ISO 1502:1996).

With T the tolerance of the thread's pitch diameter, Z the shift of the go gauge into it and t the gauge's tolerance:

    plug   go  D2min + Z +- t/2     no-go  D2max + t/2 +- t/2
    ring   go  d2max - Z +- t/2     no-go  d2min - t/2 +- t/2
"""

from __future__ import annotations

from lathed_solid.standards.csv_tables import StandardError, rows

Band = tuple[float, float]


def gauge_limits(low: float, high: float, *, internal: bool) -> tuple[Band, Band, str]:
    """Pitch diameters (mm) of the go and the no-go gauge of a thread whose own lies from ``low`` to ``high``, and the
    source. Raises StandardError for a tolerance outside the table.
    """
    width = round((high - low) * 1000, 3)
    row = next((r for r in rows("gauges") if float(r["over_um"]) <= width <= float(r["up_to_um"])), None)
    if row is None:
        raise StandardError(f"ISO 1502 has no gauge for a tolerance of {width:g} µm")
    kind = "plug" if internal else "ring"
    shift, half = float(row[f"{kind}_shift_um"]) / 1000, float(row[f"{kind}_tolerance_um"]) / 2000
    if internal:
        go, no_go = low + shift, high + half
    else:
        go, no_go = high - shift, low - half
    return (go - half, go + half), (no_go - half, no_go + half), row["source"]
