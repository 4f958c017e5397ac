"""The editor of lofts."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, sketches
from lathed_solid.desk.steps.extrude import MODE, ON
from lathed_solid.desk.steps.form import Row

ROWS = (
    MODE,
    Row("sketches", "through sketches", "numbers", empty="such as 10; 20"),
    Row("ruled", "skin", "flag", empty="ruled from one to the next"),
    ON,
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, _p: {"sketches": tuple(sketches(d)[-2:])},)
