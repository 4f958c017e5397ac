"""The editor of ribs."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, last_sketch, small
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("sketch", "sketch at step", "number of a step"),
    FormRow("thickness", "thickness"),
    FormRow("flip", "grows", "flag", empty="to the other side of its line"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"sketch": last_sketch(d), "thickness": small(d, "5", "0.25")},)
