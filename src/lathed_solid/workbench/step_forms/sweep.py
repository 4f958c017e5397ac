"""The editor of sweeps."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, last_sketch, sketches
from lathed_solid.workbench.step_forms.extrude import MODE, ON, REGIONS
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    MODE,
    FormRow("path", "along the sketch at step", "number of a step", empty="edges", optional=True),
    FormRow("edges", "or along edges", "names", picks=("edge",), when=lambda s: s.path is None),
    REGIONS,
    ON,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {"sketch": last_sketch(d), "edges": (p["edge"],)} if p.get("edge") else (
        {"path": last_sketch(d), "sketch": sketches(d)[0]}
    ),
)  # fmt: skip
