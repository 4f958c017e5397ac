"""The editor of combined bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, first_body
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("mode", "does", "choice",
        choices=(("add", "join"), ("cut", "cut the others away"), ("common", "keep what is common"))),
    Row("body", "body of step", "number of a step"),
    Row("others", "with bodies of steps", "numbers"),
    Row("keep", "the others", "flag", empty="stay as they are"),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"body": first_body(d)},)
