"""The editor of flats, squares and hexagons."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, end_beside, picked_cylinder
from lathed_solid.workbench.step_forms.form_row import FormRow
from lathed_solid.workbench.step_forms.keyway import FACE, FROM

ROWS = (
    FormRow("sides", "shape", "choice", choices=((6, "hexagon"), (4, "square"), (2, "two flats"), (8, "octagon"))),
    FACE,
    FROM,
    FormRow("across", "across flats"),
    FormRow("length", "length", empty="all of the cylinder", optional=True),
    FormRow("angle", "angle", "angle", empty="0"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"]), "length": None},
)
