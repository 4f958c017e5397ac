"""The editor of mirror images."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("plane", "at the plane", "name", picks=("plane",)),
    FormRow("steps", "steps", "numbers", empty="the whole body"),
    FormRow("rebuilt", "image", "flag", empty="rebuilt to its own end", when=lambda s: bool(s.steps)),
    FormRow("bodies", "bodies of steps", "numbers", empty="all", when=lambda s: not s.steps),
    FormRow("separate", "image", "flag", empty="a body of its own", when=lambda s: not s.steps),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"plane": p.get("plane", "YZ")},)
