"""The editor of flats, squares and hexagons."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, end_beside, picked_cylinder
from lathed_solid.desk.steps.form import Row
from lathed_solid.desk.steps.keyway import FACE, FROM

ROWS = (
    Row("sides", "shape", "choice", choices=((6, "hexagon"), (4, "square"), (2, "two flats"), (8, "octagon"))),
    FACE,
    FROM,
    Row("across", "across flats"),
    Row("length", "length", empty="all of the cylinder", optional=True),
    Row("angle", "angle", "angle", empty="0"),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"])},)
