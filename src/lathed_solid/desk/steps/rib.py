"""The editor of ribs."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("sketch", "sketch at step", "number of a step"),
    Row("thickness", "thickness"),
    Row("flip", "grows", "flag", empty="to the other side of its line"),
)
