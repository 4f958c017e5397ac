"""The editor of mirror images."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("plane", "at the plane", "name", picks=("plane",)),
    Row("steps", "steps", "numbers", empty="the whole body"),
    Row("rebuilt", "image", "flag", empty="rebuilt to its own end", when=lambda s: bool(s.steps)),
    Row("bodies", "bodies of steps", "numbers", empty="all", when=lambda s: not s.steps),
    Row("separate", "image", "flag", empty="a body of its own", when=lambda s: not s.steps),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"plane": p.get("plane", "YZ")},)
