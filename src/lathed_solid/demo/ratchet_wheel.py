"""The ratchet wheel of the sluice winch: a turned disc, one tooth gap cut and repeated, a bore with its keyway."""

from __future__ import annotations

import math

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import on_its_sheet
from lathed_solid.part import Document

TEETH = 12
NOTES = (
    (1, "Ø120"),
    (2, "16"),
    (3, "Ø25 H7"),
    (4, "8"),
    (5, "15.8 +0.2/-0"),
    (6, "1 X 45°"),
)


def ratchet_wheel() -> Document:
    """The finished demo document."""
    part = ls.new_part("Ratchet wheel", material="42CrMo4 steel")
    for balloon, text in NOTES:
        part = ls.note(part, text, balloon, source="drawing P-03")
    part = ls.parameter(part, "teeth", str(TEETH))
    part = ls.parameter(part, "root", "50")
    part = ls.parameter(part, "land", "5 deg")
    disc = [ls.Station(key="A", diameter="#1", length="#2")]
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="#3", depth=None),))]
    part = ls.turned(part, disc, bores=bores)
    part = ls.step(part, "chamfer", leg="#6", pick=ls.EdgePick(edges=("10/face.left|10/sA", "10/face.right|10/sA")))
    part = ls.sketch(part, gap(), ls.DatumPlane(plane="YZ"))
    part = ls.extrude(part, 30, None, mode="cut", side="both")
    part = ls.step(part, "pattern", steps=(40,), layout={"kind": "ring", "about": "X", "count": TEETH})
    part = ls.step(
        part, "keyway", face="10/bore.right.1", from_face="10/face.left", width="#4", depth="#5 - #3 / 2", length=None
    )
    part = ls.measured_by(part, 5, "position", "60/bottom", "10/bore.right.1")
    return on_its_sheet(part, "ratchet-wheel", "P-03 Ratchet wheel")


def gap() -> ls.Draft:
    """The space between two teeth: a radial flank, a straight slope up to the next tip's land, and past the rim."""
    d = ls.Draft()
    root, tip, step = 50.0, 60.0, 2 * math.pi / TEETH - math.radians(5)
    corners = [(0.0, root), (tip * math.sin(step), tip * math.cos(step)), (45.0, 75.0), (0.0, 75.0)]
    slope, _out, over, flank = ls.shapes.polyline(d, corners, closed=True)
    origin = d.point(0, 0)
    d.add("fixed", origin)
    e = d.entities
    bottom, peak = e[slope].points
    d.add("vertical", flank)
    d.add("horizontal", over)
    d.add("vertical", origin, bottom)
    d.add("across_y", origin, bottom, value="root")
    d.add("across_x", origin, peak, value="#1 / 2 * sin(360 deg / teeth - land)")
    d.add("across_y", origin, peak, value="#1 / 2 * cos(360 deg / teeth - land)")
    d.add("across_x", over, value="45")
    d.add("across_y", origin, e[over].points[0], value="75")
    return d
