"""The editor of datum planes."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, small
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("way", "made", "choice",
        choices=(("offset", "offset from a plane or face"), ("midway", "midway between two faces"),
                 ("angle", "through an edge or axis, at an angle to a plane"), ("points", "through three points"),
                 ("tangent", "tangent to a cylinder, at an angle"), ("square", "square to an edge, at a point"))),
    Row("names", "from", "names", picks=("plane", "edge", "axis", "point", "face")),
    Row("distance", "distance", when=lambda s: s.way == "offset"),
    Row("angle", "angle", "angle", when=lambda s: s.way in ("angle", "tangent")),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"names": (p.get("plane", "XY"),), "distance": small(d, "10", "0.5")},)
