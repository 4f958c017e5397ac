"""The editor of hollow bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("wall", "wall"),
    Row("open_faces", "open at", "names", picks=("face",)),
    Row("outwards", "wall", "flag", empty="outside the faces"),
)
