"""The editor of patterns."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, last_made, main_axis, small
from lathed_solid.desk.steps.form import Row, kinds
from lathed_solid.part.steps.pattern_layout import GridLayout, ListLayout, RingLayout, RowLayout

AXIS = ("axis", "edge")
_in = kinds("layout")

ROWS = (
    Row("steps", "steps to repeat", "numbers", empty="such as 20; 30"),
    Row("layout", "places", "choice",
        choices=(("row", "in a row"), ("grid", "in rows and columns"), ("ring", "around an axis"),
                 ("curve", "along the curve of a sketch"), ("list", "listed moves")),
        make={"row": RowLayout, "grid": GridLayout, "ring": RingLayout, "list": ListLayout}),
    Row("layout.along", "along", "name", picks=AXIS, when=_in("row", "grid")),
    Row("layout.spacing", "spacing", when=_in("row", "grid")),
    Row("layout.count", "how many in all", "count", most=2000, when=_in("row", "grid", "ring", "curve")),
    Row("layout.about", "about", "name", picks=AXIS, when=_in("ring")),
    Row("layout.angle", "angle", "angle", when=_in("ring")),
    Row("layout.total", "given", "flag", empty="over all, not from one to the next", when=_in("row", "ring")),
    Row("layout.along2", "and along", "name", picks=AXIS, when=_in("grid")),
    Row("layout.spacing2", "spacing", when=_in("grid")),
    Row("layout.count2", "how many", "count", most=2000, when=_in("grid")),
    Row("layout.sketch", "sketch at step", "number of a step", when=_in("curve")),
    Row("layout.follow", "turned", "flag", empty="with the curve", when=_in("curve")),
    Row("layout.rows", "x, y, z; x, y, z; …", "table", when=_in("list")),
    Row("rebuilt", "each copy", "flag", empty="rebuilt to its own end, not the same material"),
    Row("skip", "left out", "numbers", empty="none; 1 is the first copy"),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, _p: {"steps": last_made(d), "layout": {"kind": "row", "spacing": small(d, "20", "1")}},
    lambda d, p: {"steps": last_made(d), "layout": {"kind": "ring", "about": p.get("axis", main_axis(d))}},
)
