"""The editor of ring grooves and undercuts."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, end_beside, picked_cylinder, small
from lathed_solid.desk.steps.form import Row
from lathed_solid.desk.steps.keyway import FACE, FROM

ROWS = (
    FACE,
    FROM,
    Row("at", "near wall at", empty="0"),
    Row("width", "width", empty="DIN 471, by the diameter", optional=True),
    Row("diameter", "groove ⌀", empty="DIN 471, by the diameter", optional=True),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"]), "at": small(d, "5", "0.2")},
)
