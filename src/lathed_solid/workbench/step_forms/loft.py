"""The editor of lofts."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, sketches
from lathed_solid.workbench.step_forms.extrude import MODE, ON
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    MODE,
    FormRow("sketches", "through sketches", "numbers", empty="such as 10; 20"),
    FormRow("ruled", "skin", "flag", empty="ruled from one to the next"),
    ON,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"sketches": tuple(sketches(d)[-2:])},)
