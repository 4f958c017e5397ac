"""The sluice winch put together: the demo of the Fit desk. All names and sizes are made up.

Two slips are in it to be found: the drum's tapped holes are drilled too shallow, so that its four screws stand on the
ground; and the bush's bore is drawn with the wrong class, so that the spindle cannot be sure to turn in it.
"""

from __future__ import annotations

import numpy as np

from lathed_solid import scripting as ls
from lathed_solid.demo.crank_hub import crank_hub
from lathed_solid.demo.gland_nut import gland_nut
from lathed_solid.demo.pedestal import pedestal
from lathed_solid.demo.ratchet_wheel import ratchet_wheel
from lathed_solid.demo.winch_parts import bush, distance_ring, gland_body, rope_drum, taper_sleeve
from lathed_solid.demo.winch_spindle import winch_spindle
from lathed_solid.fit.document import Fit, Kind

Way = tuple[float, float, float]
#: mm: the height of the bore above the floor, half of the column
AXIS, HALF = 76.2, 19.05


def _turned(x: Way, y: Way, at: Way) -> np.ndarray:
    """The placement (4, 4) of a member whose X and Y run these ways."""
    out = np.eye(4)
    out[:3, 0], out[:3, 1], out[:3, 2], out[:3, 3] = x, y, np.cross(x, y), at
    return out


def _along(y: float) -> np.ndarray:
    """X turned to run along Y, at a place on the winch's axis."""
    return _turned((0.0, 1.0, 0.0), (-1.0, 0.0, 0.0), (0.0, y, AXIS))


#: where pin, hub and screws are put before their relations draw them in
DOWN_PIN = _turned((0.0, 0.0, -1.0), (0.0, 1.0, 0.0), (0.0, HALF + 134.0, AXIS + 15.0))
BACK_HUB = _turned((0.0, -1.0, 0.0), (1.0, 0.0, 0.0), (0.0, HALF + 190.0, AXIS))
BACK_SCREW = _turned((0.0, -1.0, 0.0), (1.0, 0.0, 0.0), (-18.0, HALF + 80.0, AXIS + 18.0))
DOWN_SCREW = _turned((0.0, 0.0, -1.0), (0.0, 1.0, 0.0), (-60.0, -35.0, 40.0))
#: relations: what joins, the first, the second, the directions against each other, a size
Said = tuple[Kind, str, str, str, str, bool, str]


def winch() -> Fit:
    """The finished demo fit, members where they belong."""
    fit = ls.new_fit("Sluice winch")
    for part, name, at in (
        (pedestal(), "pedestal", None), (bush(), "bush", -HALF), (winch_spindle(), "spindle", HALF - 52.0),
        (rope_drum(), "drum", HALF + 4.0), (ratchet_wheel(), "ratchet wheel", HALF + 93.8),
        (distance_ring(), "distance ring", HALF + 76.0), ("ring 25", "retaining ring", HALF + 110.0),
        (taper_sleeve(), "taper sleeve", HALF + 116.0), ("parallel pin 6x30", "cross pin", DOWN_PIN),
        (crank_hub(), "crank hub", BACK_HUB), (gland_body(), "gland body", -HALF - 20.0),
        (gland_nut(), "gland nut", -HALF - 50.0), ("socket head screw M6x20", "drum screw", BACK_SCREW),
        ("socket head screw M12x40", "foot screw", DOWN_SCREW),
    ):  # fmt: skip
        where = _along(at) if isinstance(at, float) else at
        fit = ls.member(fit, part, name, held=name == "pedestal", placement=where)
    for kind, a, on_a, b, on_b, flip, size in (*HOUSED, *ON_THE_SPINDLE, *SCREWS):
        fit = ls.relate(fit, kind, (a, on_a), (b, on_b), flip=flip, size=size)
    fit = ls.copies(fit, "drum screw", "every place")
    fit = ls.copies(fit, "foot screw", "every place")
    return ls.solve(fit).fit


#: in and on the pedestal
HOUSED: tuple[Said, ...] = (
    ("share an axis", "bush", "10/sA", "pedestal", "40/c1", False, ""),
    ("level", "bush", "10/face.right", "pedestal", "40/start", False, ""),
    ("parallel", "bush", "XY plane", "pedestal", "20/end", False, ""),
    ("share an axis", "gland body", "10/sA", "pedestal", "40/c1", False, ""),
    ("touch", "gland body", "10/face.right", "pedestal", "40/end", False, ""),
    ("parallel", "gland body", "XY plane", "pedestal", "20/end", False, ""),
    ("screwed", "gland nut", "30/ring.helix.crest", "gland body", "20/ring.helix.crest", False, ""),
)
#: along the spindle from the bush to the crank
ON_THE_SPINDLE: tuple[Said, ...] = (
    ("share an axis", "spindle", "10/sB", "bush", "10/bore.right.1", False, ""),
    ("touch", "spindle", "10/shoulder.B", "bush", "10/face.right", False, ""),
    ("share an axis", "drum", "10/bore.right.1", "spindle", "10/sC", False, ""),
    ("touch", "drum", "10/face.right", "spindle", "10/shoulder.C", False, ""),
    ("share an axis", "drum", "20/h0.wall", "spindle", "20/h0.wall", False, ""),
    ("share an axis", "ratchet wheel", "10/bore.right.1", "spindle", "10/sE", False, ""),
    ("touch", "ratchet wheel", "10/face.left", "distance ring", "10/face.right", False, ""),
    ("parallel", "ratchet wheel", "60/bottom", "spindle", "XY plane", True, ""),
    ("share an axis", "distance ring", "10/bore.left.1", "spindle", "10/sE", False, ""),
    ("touch", "distance ring", "10/face.left", "spindle", "10/shoulder.D", False, ""),
    ("share an axis", "retaining ring", "10/bore.right.1", "spindle", "10/g1.bottom", False, ""),
    ("touch", "retaining ring", "10/face.right", "spindle", "10/g1.far", False, ""),
    ("share an axis", "taper sleeve", "10/bore.right.1", "spindle", "10/sF", False, ""),
    ("touch", "taper sleeve", "10/face.left", "spindle", "10/shoulder.E", False, ""),
    ("share an axis", "taper sleeve", "20/h0.wall", "spindle", "30/h0.wall", False, ""),
    ("share an axis", "cross pin", "10/sA", "taper sleeve", "20/h0.wall", True, ""),
    ("share an axis", "cross pin", "10/sA", "spindle", "30/h0.wall", True, ""),
    ("gap", "cross pin", "origin", "spindle", "XY plane", False, "15"),
    ("parallel", "cross pin", "XY plane", "taper sleeve", "ZX plane", True, ""),
    ("in its taper", "crank hub", "10/bore.right.1", "taper sleeve", "10/sB", False, ""),
    ("parallel", "crank hub", "XY plane", "taper sleeve", "XY plane", False, ""),
)
#: one of each; the others follow the holes
SCREWS: tuple[Said, ...] = (
    ("share an axis", "drum screw", "10/sB", "spindle", "20/h0.wall", True, ""),
    ("touch", "drum screw", "10/shoulder.A", "spindle", "20/h0.cbore_floor", False, ""),
    ("screwed", "drum screw", "10/sB", "drum", "20/h0.wall", True, ""),
    ("share an axis", "foot screw", "10/sB", "pedestal", "70/h0.wall", True, ""),
    ("touch", "foot screw", "10/shoulder.A", "pedestal", "70/h0.floor", False, ""),
    ("parallel", "foot screw", "XY plane", "pedestal", "20/l2", False, ""),
)
