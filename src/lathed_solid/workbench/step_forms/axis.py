"""The editor of datum axes."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("way", "made", "choice",
        choices=(("of", "of a round face or an edge"), ("planes", "where two planes meet"),
                 ("points", "through two points"))),
    FormRow("names", "from", "names", picks=("axis", "plane", "edge", "point")),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"names": (p.get("axis", "X"),)},)
