"""The editor of keyways."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, end_beside, picked_cylinder
from lathed_solid.workbench.step_forms.form_row import FormRow

FACE = FormRow("face", "on the cylinder", "name", picks=("face",))
FROM = FormRow("from_face", "counted from the face", "name", picks=("plane",))

ROWS = (
    FACE,
    FROM,
    FormRow("at", "begins at", empty="0"),
    FormRow("length", "length", empty="all along", optional=True),
    FormRow("width", "width", empty="ISO 773, by the diameter", optional=True),
    FormRow("depth", "depth", empty="ISO 773, by the diameter", optional=True),
    FormRow("angle", "angle", "angle", empty="0"),
    FormRow("ends", "ends", "choice", choices=(("round", "round"), ("square", "square"))),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"])},)
