"""The editor of revolves."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.extrude import MODE, ON, REGIONS, SIDE
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    MODE,
    FormRow("angle", "angle", "angle", empty="360 deg"),
    SIDE,
    FormRow("axis", "about the line", "text"),
    REGIONS,
    ON,
)
