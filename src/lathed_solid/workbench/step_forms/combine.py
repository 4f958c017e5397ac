"""The editor of combined bodies."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, first_body
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("mode", "does", "choice",
        choices=(("add", "join"), ("cut", "cut the others away"), ("common", "keep what is common"))),
    FormRow("body", "body of step", "number of a step"),
    FormRow("others", "with bodies of steps", "numbers"),
    FormRow("keep", "the others", "flag", empty="stay as they are"),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"body": first_body(d)},)
