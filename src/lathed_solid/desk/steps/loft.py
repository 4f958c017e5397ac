"""The editor of lofts."""

from __future__ import annotations

from lathed_solid.desk.steps.extrude import MODE, ON
from lathed_solid.desk.steps.form import Row

ROWS = (
    MODE,
    Row("sketches", "through sketches", "numbers", empty="such as 10; 20"),
    Row("ruled", "skin", "flag", empty="ruled from one to the next"),
    ON,
)
