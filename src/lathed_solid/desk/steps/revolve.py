"""The editor of revolves."""

from __future__ import annotations

from lathed_solid.desk.steps.extrude import MODE, ON, REGIONS, SIDE
from lathed_solid.desk.steps.form import Row

ROWS = (
    MODE,
    Row("angle", "angle", "angle", empty="360 deg"),
    SIDE,
    Row("axis", "about the line", "text"),
    REGIONS,
    ON,
)
