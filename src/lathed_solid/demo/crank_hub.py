"""The crank hub of the sluice winch: a taper bore for the spindle's end, a grub screw, all outside edges broken."""

from __future__ import annotations

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import on_its_sheet
from lathed_solid.part import Document

NOTES = (
    (1, "Ø50"),
    (2, "30"),
    (3, "Ø38"),
    (4, "18"),
    (5, "Ø24"),
    (6, "Ø20"),
    (7, "15"),
    (8, "0.8 X 45°"),
    (9, "R3"),
)


def crank_hub() -> Document:
    """The finished demo document."""
    part = ls.new_part("Crank hub", material="C45 steel")
    for balloon, text in NOTES:
        part = ls.note(part, text, balloon, source="drawing P-05")
    body = [ls.Station(key="A", diameter="#1", length="#2"), ls.Station(key="B", diameter="#3", length="#4")]
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="#5", end_diameter="#6", depth=None),))]
    part = ls.turned(part, body, bores=bores)
    grub = ls.Radial(at="#7", datum="10/face.left")
    part = ls.hole(part, "10/sA", "", thread="M6", depth="20", point=None, places=grub)
    part = ls.step(part, "fillet", radius="#9", pick=ls.EdgePick(edges=("10/sB|10/shoulder.A",)))
    part = ls.measured_by(part, 5, "diameter_at", "10/bore.right.1", "10/face.right")
    part = ls.measured_by(part, 6, "diameter_at", "10/bore.right.1", "10/face.left")
    part = ls.step(
        part, "chamfer", leg="#8",
        pick=ls.EdgePick(edges=("10/face.left|10/sA", "10/sA|10/shoulder.A", "10/face.right|10/sB")),
    )  # fmt: skip
    return on_its_sheet(part, "crank-hub", "P-05 Crank hub")
