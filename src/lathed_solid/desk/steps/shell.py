"""The editor of hollow bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_face, small
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("wall", "wall"),
    Row("open_faces", "open at", "names", picks=("face",)),
    Row("outwards", "wall", "flag", empty="outside the faces"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"open_faces": (picked_face(p),), "wall": small(d, "2", "0.1")},)
