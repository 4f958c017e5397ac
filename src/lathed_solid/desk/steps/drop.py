"""The editor of bodies left out."""

from __future__ import annotations

from lathed_solid.desk.steps.form import Row

ROWS = (Row("others", "bodies of steps", "numbers"),)
