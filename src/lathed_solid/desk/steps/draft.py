"""The editor of drafts."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_face
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("angle", "angle", "angle"),
    Row("neutral", "neutral plane", "name", picks=("plane",)),
    Row("faces", "faces", "names", picks=("face",)),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"faces": (picked_face(p),)},)
