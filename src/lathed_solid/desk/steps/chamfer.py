"""The editor of bevelled edges."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_edges, small
from lathed_solid.desk.steps.fillet import EDGES
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("leg", "leg"),
    Row("second", "second leg", empty="the same", optional=True, when=lambda s: s.angle is None),
    Row("angle", "angle from the first face", "angle", empty="45°", optional=True, when=lambda s: s.second is None),
    Row("on", "first leg on the face", "name", empty="the first of the edge's name", picks=("face",),
        when=lambda s: s.second is not None or s.angle is not None),
    *EDGES,
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"pick": picked_edges(d, p), "leg": small(d, "1", "0.06")},)
