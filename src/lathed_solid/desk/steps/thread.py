"""The editor of threads."""

from __future__ import annotations

from lathed_solid.desk.steps.begin import Make, picked_cylinder
from lathed_solid.desk.steps.form import Row

ROWS = (
    Row("face", "on the face", "name", picks=("face",)),
    Row("designation", "thread", "text", empty="M18x1.5, 5/16-18 UNC, G1/4, Tr20x4; empty: a free profile"),
    Row("length", "length", empty="all of the cylinder", optional=True),
    Row("start", "starts at the face", "name", empty="the end that is free", picks=("plane",)),
    Row("real", "made", "flag", empty="as a real helix"),
    Row("left", "hand", "flag", empty="left"),
    Row("starts", "starts", "count", most=12),
    Row("lead_in", "lead-in", "flag", empty="chamfered", when=lambda s: s.real),
    Row("run_out", "run-out", "flag", empty="led out of the material", when=lambda s: s.real),
    Row("pitch", "pitch", empty="by the designation", optional=True, when=lambda s: not s.designation),
    Row("profile", "z, depth, round; z, depth; …", "table", when=lambda s: not s.designation),
)

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (lambda _d, p: {"face": picked_cylinder(p)},)
