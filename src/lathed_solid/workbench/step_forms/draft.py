"""The editor of drafts."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_face
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("angle", "angle", "angle"),
    FormRow("neutral", "neutral plane", "name", picks=("plane",)),
    FormRow("faces", "faces", "names", picks=("face",)),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"faces": (picked_face(p),)},)
