"""The gland nut of the sluice winch: a hexagon to turn it by, a thread outside and one inside, both real."""

from __future__ import annotations

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import on_its_sheet
from lathed_solid.part import Document

NOTES = (
    (1, "46"),
    (2, "14"),
    (3, "Ø40"),
    (4, "26"),
    (5, "Ø25.376"),
)


def gland_nut() -> Document:
    """The finished demo document."""
    part = ls.new_part("Gland nut", material="CuSn8")
    for balloon, text in NOTES:
        part = ls.note(part, text, balloon, source="drawing P-04")
    blank = [
        ls.Station(key="A", diameter="53", length="#2", left=ls.edge("2x30°")),
        ls.Station(key="B", diameter="#3", length="#4"),
    ]
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="#5", depth=None),))]
    part = ls.turned(part, blank, bores=bores)
    part = ls.step(part, "flats", face="10/sA", from_face="10/shoulder.A", across="#1", length=None, sides=6)
    part = ls.step(part, "thread", face="10/sB", designation="M40x1.5", length="22", real=True)
    part = ls.step(part, "thread", face="10/bore.right.1", designation="M27x1.5", real=True, start="10/face.left")
    part = ls.measured_by(part, 5, "diameter", "40/ring.helix.crest")
    return on_its_sheet(part, "gland-nut", "P-04 Gland nut")
