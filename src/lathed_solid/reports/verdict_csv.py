"""The verdict table as CSV, in the sheet's unit."""

from __future__ import annotations

import csv
import io
import math
from pathlib import Path

from lathed_solid.files.atomic import write_atomic
from lathed_solid.proof import Report, VerdictRow
from lathed_solid.quantity import LengthUnit, unit_factor

COLUMNS = (
    "balloon",
    "note",
    "meaning",
    "unit",
    "nominal",
    "low",
    "high",
    "measured",
    "deviation",
    "verdict",
    "reason",
    "duties",
    "decided",
)


def verdict_csv(report: Report, unit: LengthUnit) -> str:
    """One line for each callout, decimal points, comma separated (RFC 4180)."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for row in report.rows:
        writer.writerow(verdict_cells(row, unit))
    return out.getvalue()


def verdict_cells(row: VerdictRow, unit: LengthUnit) -> list[str]:
    """The cells of one callout, in the order of ``COLUMNS``."""
    angle, taper = row.kind == "angle", row.kind == "taper"

    def show(x: float | None) -> str:
        if x is None:
            return ""
        return f"{math.degrees(x):.4f}" if angle else f"{x / (1.0 if taper else unit_factor(unit)):.5f}"

    # a leading = + - @ would be run as a formula by spreadsheet programs
    note = "'" + row.note if row.note[:1] in ("=", "+", "-", "@") else row.note
    shown = [show(x) for x in (row.nominal, row.low, row.high, row.measured, row.deviation)]
    return [
        str(row.balloon),
        note,
        row.meaning,
        "deg" if angle else "1:n" if taper else unit,
        *shown,
        row.verdict,
        row.reason,
        row.detail,
        row.redress,
    ]


def write_verdict_csv(path: Path, report: Report, unit: LengthUnit) -> None:
    """Write the table atomically. Raises FileError."""
    write_atomic(path, verdict_csv(report, unit).encode("utf-8"))
