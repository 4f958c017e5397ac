"""The editor of split bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("body", "body of step", "number of a step"),
    Row("plane", "at the plane", "name", picks=("plane",)),
    Row("keep", "keep", "choice",
        choices=(("both", "both pieces"), ("front", "the piece in front"), ("back", "the piece behind"))),
)  # fmt: skip
