"""The editor of bevelled edges."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_edges, small
from lathed_solid.workbench.step_forms.fillet import EDGES
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("leg", "leg"),
    FormRow("second", "second leg", empty="the same", optional=True, when=lambda s: s.angle is None),
    FormRow("angle", "angle from the first face", "angle", empty="45°", optional=True, when=lambda s: s.second is None),
    FormRow("on", "first leg on the face", "name", empty="the first of the edge's name", picks=("face",),
        when=lambda s: s.second is not None or s.angle is not None),
    *EDGES,
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"pick": picked_edges(d, p), "leg": small(d, "1", "0.06")},)
