"""The editor of moved and copied bodies."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, first_body, small
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("body", "body of step", "number of a step"),
    FormRow("x", "by x", empty="0"),
    FormRow("y", "by y", empty="0"),
    FormRow("z", "by z", empty="0"),
    FormRow("about", "then turned about", "name", picks=("axis", "edge")),
    FormRow("angle", "by", "angle", empty="0"),
    FormRow("as_copy", "makes", "flag", empty="a copy"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"body": first_body(d), "x": small(d, "50", "2"), "as_copy": True},)
