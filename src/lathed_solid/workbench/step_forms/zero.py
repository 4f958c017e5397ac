"""The editor of the part datum."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("origin", "zero is at", "name", picks=("point",)),
    FormRow("along_x", "X runs along", "name", picks=("axis", "edge", "plane")),
    FormRow("flip_x", "X", "flag", empty="the other way"),
    FormRow("along_z", "Z runs along", "name", picks=("axis", "edge", "plane")),
    FormRow("flip_z", "Z", "flag", empty="the other way"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"origin": p.get("point", "O")},)
