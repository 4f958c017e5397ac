"""The editor of centre holes."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("face", "in the end face", "name", picks=("plane",)),
    Row("about", "on the axis", "name", picks=("axis",)),
    Row("pilot", "pilot ⌀"),
)
