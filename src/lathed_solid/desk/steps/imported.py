"""The editor of imported bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (Row("file", "from the file", "text"),)
