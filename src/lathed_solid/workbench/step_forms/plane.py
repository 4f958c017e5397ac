"""The editor of datum planes."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, small
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("way", "made", "choice",
        choices=(("offset", "offset from a plane or face"), ("midway", "midway between two faces"),
                 ("angle", "through an edge or axis, at an angle to a plane"), ("points", "through three points"),
                 ("tangent", "tangent to a cylinder, at an angle"), ("square", "square to an edge, at a point"))),
    FormRow("names", "from", "names", picks=("plane", "edge", "axis", "point", "face")),
    FormRow("distance", "distance", when=lambda s: s.way == "offset"),
    FormRow("angle", "angle", "angle", when=lambda s: s.way in ("angle", "tangent")),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda d, p: {"names": (p.get("plane", "XY"),), "distance": small(d, "10", "0.5")},)
