"""The editor of datum axes."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("way", "made", "choice",
        choices=(("of", "of a round face or an edge"), ("planes", "where two planes meet"),
                 ("points", "through two points"))),
    Row("names", "from", "names", picks=("axis", "plane", "edge", "point")),
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"names": (p.get("axis", "X"),)},)
