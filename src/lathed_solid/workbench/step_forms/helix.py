"""The editor of helical sweeps."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, last_sketch, main_axis, turned
from lathed_solid.workbench.step_forms.extrude import MODE, ON, REGIONS
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    MODE,
    FormRow("axis", "about", "name", picks=("axis", "edge")),
    FormRow("pitch", "pitch"),
    FormRow("turns", "turns", "number"),
    FormRow("left", "hand", "flag", empty="left"),
    FormRow("start_angle", "start angle", "angle", empty="0"),
    FormRow("run_out", "run-out", "angle", empty="0", when=lambda s: s.mode == "cut"),
    REGIONS,
    ON,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {"sketch": last_sketch(d), "axis": p.get("axis", main_axis(d)), "mode": "cut" if turned(d) else "add"},
)
