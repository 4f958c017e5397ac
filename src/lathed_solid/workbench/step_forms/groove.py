"""The editor of ring grooves and undercuts."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, end_beside, picked_cylinder, small
from lathed_solid.workbench.step_forms.form_row import FormRow
from lathed_solid.workbench.step_forms.keyway import FACE, FROM

ROWS = (
    FACE,
    FROM,
    FormRow("at", "near wall at", empty="0"),
    FormRow("width", "width", empty="DIN 471, by the diameter", optional=True),
    FormRow("diameter", "groove ⌀", empty="DIN 471, by the diameter", optional=True),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"]), "at": small(d, "5", "0.2")},
)
