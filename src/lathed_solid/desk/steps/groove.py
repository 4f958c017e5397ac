"""The editor of ring grooves and undercuts."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row
from lathed_solid.desk.steps.keyway import FACE, FROM

ROWS = (
    FACE,
    FROM,
    Row("at", "near wall at", empty="0"),
    Row("width", "width", empty="DIN 471, by the diameter", optional=True),
    Row("diameter", "groove ⌀", empty="DIN 471, by the diameter", optional=True),
)
