"""The editor of bodies left out."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, first_body
from lathed_solid.desk.steps.form import Row

ROWS = (Row("others", "bodies of steps", "numbers"),)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"others": (first_body(d),)},)
