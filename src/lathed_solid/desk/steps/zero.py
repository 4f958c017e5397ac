"""The editor of the part datum."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("origin", "zero is at", "name", picks=("point",)),
    Row("along_x", "X runs along", "name", picks=("axis", "edge", "plane")),
    Row("flip_x", "X", "flag", empty="the other way"),
    Row("along_z", "Z runs along", "name", picks=("axis", "edge", "plane")),
    Row("flip_z", "Z", "flag", empty="the other way"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"origin": p.get("point", "O")},)
