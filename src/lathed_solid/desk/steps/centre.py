"""The editor of centre holes."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, main_axis, picked_face
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("face", "in the end face", "name", picks=("plane",)),
    Row("about", "on the axis", "name", picks=("axis",)),
    Row("pilot", "pilot ⌀"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"face": picked_face(p), "about": main_axis(d)},)
