"""The editor of datum points."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("way", "made", "choice",
        choices=(("at", "at coordinates"), ("of", "at a corner or the centre of a round edge"),
                 ("meet", "where an axis meets a plane"))),
    FormRow("names", "from", "names", picks=("point", "edge", "axis", "plane"), when=lambda s: s.way != "at"),
    FormRow("x", "x", when=lambda s: s.way == "at"),
    FormRow("y", "y", when=lambda s: s.way == "at"),
    FormRow("z", "z", when=lambda s: s.way == "at"),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"way": "of", "names": (p["point"],)} if p.get("point") else {},)
