"""The editor of drafts."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("angle", "angle", "angle"),
    Row("neutral", "neutral plane", "name", picks=("plane",)),
    Row("faces", "faces", "names", picks=("face",)),
)
