"""The editor of helical sweeps."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, last_sketch
from lathed_solid.desk.steps.extrude import MODE, ON, REGIONS
from lathed_solid.desk.steps.form import Row

ROWS = (
    MODE,
    Row("axis", "about", "name", picks=("axis", "edge")),
    Row("pitch", "pitch"),
    Row("turns", "turns", "number"),
    Row("left", "hand", "flag", empty="left"),
    Row("start_angle", "start angle", "angle", empty="0"),
    Row("run_out", "run-out", "angle", empty="0", when=lambda s: s.mode == "cut"),
    REGIONS,
    ON,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"sketch": last_sketch(d), "axis": p.get("axis", "Z")},)
