"""The editor of keyways."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, end_beside, picked_cylinder
from lathed_solid.desk.steps.form import Row

FACE = Row("face", "on the cylinder", "name", picks=("face",))
FROM = Row("from_face", "counted from the face", "name", picks=("plane",))

ROWS = (
    FACE,
    FROM,
    Row("at", "begins at", empty="0"),
    Row("length", "length", empty="all along", optional=True),
    Row("width", "width", empty="ISO 773, by the diameter", optional=True),
    Row("depth", "depth", empty="ISO 773, by the diameter", optional=True),
    Row("angle", "angle", "angle", empty="0"),
    Row("ends", "ends", "choice", choices=(("round", "round"), ("square", "square"))),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"face": picked_cylinder(p), "from_face": end_beside(d, p["face"])},)
