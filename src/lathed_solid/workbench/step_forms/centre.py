"""The editor of centre holes."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, main_axis, picked_face
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("face", "in the end face", "name", picks=("plane",)),
    FormRow("about", "on the axis", "name", picks=("axis",)),
    FormRow("pilot", "pilot ⌀"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"face": picked_face(p), "about": main_axis(d)},)
