"""The editor of bodies left out."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, first_body
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (FormRow("others", "bodies of steps", "numbers"),)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"others": (first_body(d),)},)
