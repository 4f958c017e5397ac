"""The editor of moved and copied bodies."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, first_body, small
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("body", "body of step", "number of a step"),
    Row("x", "by x", empty="0"),
    Row("y", "by y", empty="0"),
    Row("z", "by z", empty="0"),
    Row("about", "then turned about", "name", picks=("axis", "edge")),
    Row("angle", "by", "angle", empty="0"),
    Row("as_copy", "makes", "flag", empty="a copy"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"body": first_body(d), "x": small(d, "50", "2"), "as_copy": True},)
