"""The editor of hollow bodies."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_face, small
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("wall", "wall"),
    FormRow("open_faces", "open at", "names", picks=("face",)),
    FormRow("outwards", "wall", "flag", empty="outside the faces"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"open_faces": (picked_face(p),), "wall": small(d, "2", "0.1")},)
