"""The editor of split bodies."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, first_body
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("body", "body of step", "number of a step"),
    FormRow("plane", "at the plane", "name", picks=("plane",)),
    FormRow("keep", "keep", "choice",
        choices=(("both", "both pieces"), ("front", "the piece in front"), ("back", "the piece behind"))),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"body": first_body(d), "plane": p.get("plane", "YZ")},)
