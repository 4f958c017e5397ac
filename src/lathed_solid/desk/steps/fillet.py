"""The editor of rounded edges."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_edges, small
from lathed_solid.desk.steps.form import Row

RULES = (
    ("", "none"),
    ("all others", "every edge not broken elsewhere"),
    ("outside", "every outside edge"),
    ("inside", "every inside edge"),
    ("upright outside", "every upright outside edge"),
    ("upright inside", "every upright inside edge"),
)
EDGES = (
    Row("pick.edges", "edges", "names", picks=("edge",)),
    Row("pick.faces", "all edges of faces", "names", picks=("face",)),
    Row("pick.steps", "all edges of steps", "numbers"),
    Row("pick.rule", "and by rule", "choice", choices=RULES),
    Row("pick.but", "but not", "names", picks=("edge",)),
)

ROWS = (
    Row("radius", "radius"),
    Row("end_radius", "radius at the far end", empty="the same", optional=True),
    *EDGES,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"pick": picked_edges(d, p), "radius": small(d, "1", "0.06")},)
