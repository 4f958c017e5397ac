"""The editor of patterns."""

from __future__ import annotations

from lathed_solid.part.steps.pattern_layout import GridLayout, ListLayout, RingLayout, RowLayout
from lathed_solid.workbench.step_forms.begin import Make, last_made, main_axis, small
from lathed_solid.workbench.step_forms.form_row import FormRow, kinds

AXIS = ("axis", "edge")
_in = kinds("layout")

ROWS = (
    FormRow("steps", "steps to repeat", "numbers", empty="such as 20; 30"),
    FormRow("layout", "places", "choice",
        choices=(("row", "in a row"), ("grid", "in rows and columns"), ("ring", "around an axis"),
                 ("curve", "along the curve of a sketch"), ("list", "listed moves")),
        make={"row": RowLayout, "grid": GridLayout, "ring": RingLayout, "list": ListLayout}),
    FormRow("layout.along", "along", "name", picks=AXIS, when=_in("row", "grid")),
    FormRow("layout.spacing", "spacing", when=_in("row", "grid")),
    FormRow("layout.count", "how many in all", "count", most=2000, when=_in("row", "grid", "ring", "curve")),
    FormRow("layout.about", "about", "name", picks=AXIS, when=_in("ring")),
    FormRow("layout.angle", "angle", "angle", when=_in("ring")),
    FormRow("layout.total", "given", "flag", empty="over all, not from one to the next", when=_in("row", "ring")),
    FormRow("layout.along2", "and along", "name", picks=AXIS, when=_in("grid")),
    FormRow("layout.spacing2", "spacing", when=_in("grid")),
    FormRow("layout.count2", "how many", "count", most=2000, when=_in("grid")),
    FormRow("layout.sketch", "sketch at step", "number of a step", when=_in("curve")),
    FormRow("layout.follow", "turned", "flag", empty="with the curve", when=_in("curve")),
    FormRow("layout.rows", "x, y, z; x, y, z; …", "table", when=_in("list")),
    FormRow("rebuilt", "each copy", "flag", empty="rebuilt to its own end, not the same material"),
    FormRow("skip", "left out", "numbers", empty="none; 1 is the first copy"),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, _p: {"steps": last_made(d), "layout": {"kind": "row", "spacing": small(d, "20", "1")}},
    lambda d, p: {"steps": last_made(d), "layout": {"kind": "ring", "about": p.get("axis", main_axis(d))}},
)
