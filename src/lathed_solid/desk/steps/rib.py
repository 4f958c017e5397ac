"""The editor of ribs."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, last_sketch, small
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("sketch", "sketch at step", "number of a step"),
    Row("thickness", "thickness"),
    Row("flip", "grows", "flag", empty="to the other side of its line"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"sketch": last_sketch(d), "thickness": small(d, "5", "0.25")},)
