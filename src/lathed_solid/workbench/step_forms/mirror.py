"""The editor of mirror images."""

from __future__ import annotations

from lathed_solid.workbench.step_forms.begin import Make, halving_plane, just_made, last_made, makers
from lathed_solid.workbench.step_forms.form_row import FormRow

ROWS = (
    FormRow("plane", "at the plane", "name", picks=("plane",)),
    FormRow("steps", "steps", "numbers", empty="the whole body"),
    FormRow("rebuilt", "image", "flag", empty="rebuilt to its own end", when=lambda s: bool(s.steps)),
    FormRow("bodies", "bodies of steps", "numbers", empty="all", when=lambda s: not s.steps),
    FormRow("separate", "image", "flag", empty="a body of its own", when=lambda s: not s.steps),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, p: {
        "plane": p.get("plane") or just_made(d, "plane") or halving_plane(d),
        # a part of one step is mirrored whole, later ones by what was made last
        "steps": last_made(d) if len(makers(d)) > 1 else (),
    },
)
