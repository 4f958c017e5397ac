"""The editor of threads."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_cylinder
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("face", "on the face", "name", picks=("face",)),
    FormRow("designation", "thread", "text", empty="M18x1.5, 5/16-18 UNC, G1/4, Tr20x4; empty: a free profile"),
    FormRow("length", "length", empty="all of the cylinder", optional=True),
    FormRow("start", "starts at the face", "name", empty="the end that is free", picks=("plane",)),
    FormRow("real", "made", "flag", empty="as a real helix"),
    FormRow("left", "hand", "flag", empty="left"),
    FormRow("starts", "starts", "count", most=12),
    FormRow("lead_in", "lead-in", "flag", empty="chamfered", when=lambda s: s.real),
    FormRow("run_out", "run-out", "flag", empty="led out of the material", when=lambda s: s.real),
    FormRow("pitch", "pitch", empty="by the designation", optional=True, when=lambda s: not s.designation),
    FormRow("profile", "z, depth, round; z, depth; …", "table", when=lambda s: not s.designation),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"face": picked_cylinder(p)},)
