"""The editor of imported bodies."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (FormRow("file", "called after the file", "text"),)
