"""The editor of rounded edges."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, picked_edges, small
from lathed_solid.workbench.step_forms.form_row import FormRow

RULES = (
    ("", "none"),
    ("all others", "every edge not broken elsewhere"),
    ("outside", "every outside edge"),
    ("inside", "every inside edge"),
    ("upright outside", "every upright outside edge"),
    ("upright inside", "every upright inside edge"),
)
EDGES = (
    FormRow("pick.edges", "edges", "names", picks=("edge",)),
    FormRow("pick.faces", "all edges of faces", "names", picks=("face",)),
    FormRow("pick.steps", "all edges of steps", "numbers"),
    FormRow("pick.rule", "and by rule", "choice", choices=RULES),
    FormRow("pick.but", "but not", "names", picks=("edge",)),
)

ROWS = (
    FormRow("radius", "radius"),
    FormRow("end_radius", "radius at the far end", empty="the same", optional=True),
    *EDGES,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"pick": picked_edges(d, p), "radius": small(d, "1", "0.06")},)
