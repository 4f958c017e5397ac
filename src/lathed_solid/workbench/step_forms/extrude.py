"""The editor of straight extrusions."""

from __future__ import annotations

from dataclasses import replace

from lathed_solid.workbench.step_forms.begin import Make, last_sketch, small
from lathed_solid.workbench.step_forms.form_row import FormRow

MODE = FormRow(
    "mode", "does", "choice",
    choices=(("add", "add material"), ("cut", "cut material away"), ("common", "keep only what lies within"),
             ("new", "make a separate body")),
)  # fmt: skip
SIDE = FormRow(
    "side", "side", "choice",
    choices=(("front", "in front of the plane"), ("back", "behind the plane"), ("both", "half to each side")),
)  # fmt: skip
REGIONS = FormRow("regions", "regions", "names", empty="all that is material")
ON = FormRow("on", "bodies of steps", "numbers", empty="those that are met")

ROWS = (
    MODE,
    FormRow("outside", "where", "flag", empty="around the regions, not within", when=lambda s: s.mode == "cut"),
    FormRow("distance", "distance", empty="through all", optional=True, when=lambda s: not s.until),
    FormRow("second", "to the other side", empty="nothing", optional=True,
        when=lambda s: not s.until and s.distance is not None and s.side != "both"),
    replace(SIDE, choices=(*SIDE.choices, ("into", "into the material"))),
    FormRow("until", "or to", "name", empty="next, a face, a plane", picks=("face", "plane")),
    FormRow("until_offset", "past it", empty="0", when=lambda s: bool(s.until) and s.until != "next"),
    FormRow("start", "starts off the plane", empty="0"),
    FormRow("from_face", "starts at the face", "name", empty="the sketch's plane", picks=("plane",)),
    FormRow("taper", "taper", "angle", empty="straight", optional=True),
    FormRow("wall", "wall", empty="solid", optional=True),
    REGIONS,
    ON,
)  # fmt: skip

#: how one is begun, for each entry of the catalogue
BEGIN: tuple[Make, ...] = (
    lambda d, _p: {"sketch": last_sketch(d), "mode": "add", "distance": small(d, "10", "0.5")},
    lambda d, _p: {"sketch": last_sketch(d), "mode": "cut", "distance": None, "side": "into"},
)
