"""What stands on everything that is handed over of a part that is not proven."""

from __future__ import annotations

from lathed_solid.proof import Report


def status_of(report: Report) -> str:
    """What has to stand on every sheet of a part that is not proven; empty for one that is."""
    return "" if report.ok else f"NOT PROVEN: {', '.join(report.faults)}"
