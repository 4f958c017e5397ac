"""Parts of the sluice winch that are drawn for the fit alone: bush, rope drum, distance ring, taper sleeve, gland body.

All names and sizes are made up.
"""

from __future__ import annotations

from lathed_solid import scripting as ls
from lathed_solid.part import Document

SOURCE = "drawing P-1"


def _part(name: str, material: str, *notes: str) -> Document:
    part = ls.new_part(name, material=material)
    for text in notes:
        part = ls.note(part, text, source=SOURCE)
    for c in part.callouts:
        bounds = part.limits(c)
        if bounds.low is not None and bounds.high is not None and not bounds.low <= c.nominal <= bounds.high:
            part = ls.change_callout(part, c.balloon, drive="middle")
    return part


def bush() -> Document:
    """The bearing bush in the pedestal. Its bore is drawn P7 where F7 was meant: the spindle could not turn in it."""
    part = _part("Bearing bush", "CuSn8", "Ø31.75 +0.05/+0.03", "38.1 -0.1/-0.2", "Ø25 P7", "1x45°")
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="#3"),), mouth=ls.edge("1.2x45°"))]
    return ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2", left=ls.edge("#4x45°"))], bores=bores)


def rope_drum() -> Document:
    """Two flanges and the barrel, bored for the spindle; four tapped holes, drilled 11.5 deep where 15 was meant."""
    part = _part("Rope drum", "S235 steel", "Ø112", "6", "Ø78", "46", "Ø32.2 +0.1/0", "58 ±0.1", "Ø52", "9")
    stations = [
        ls.Station(key="A", diameter="#1", length="#2"),
        ls.Station(key="B", diameter="#3", length="#4"),
        ls.Station(key="C", diameter="#1", to="#6"),
    ]
    part = ls.turned(part, stations, bores=[ls.Bore(end="right", steps=(ls.BoreStep(diameter="#5"),))])
    ring = ls.OnCircle(bolt_circle="#7", count=4, start_angle="45°")
    return ls.hole(part, "10/face.right", "", thread="M6", depth="11.5", thread_depth="#8", places=ring)


def distance_ring() -> Document:
    """Between the spindle's flange and the ratchet wheel; its chamfer clears the rounding at the flange."""
    part = _part("Distance ring", "C45 steel", "Ø40", "17.8 ±0.05", "Ø25 F8", "0.5x45°")
    bores = [ls.Bore(end="left", steps=(ls.BoreStep(diameter="#3"),), mouth=ls.edge("1.2x45°"))]
    both = ls.edge("#4x45°")
    return ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2", left=both, right=both)], bores=bores)


def taper_sleeve() -> Document:
    """Brings the spindle's end up to the crank hub's taper; a pin goes through both."""
    part = _part("Taper sleeve", "C45 steel", "Ø30", "24", "Ø24", "Ø20", "48", "Ø18 H9", "Ø6 H9 THRU", "18")
    stations = [
        ls.Station(key="A", diameter="#1", length="#2"),
        ls.Station(key="B", diameter="#3", length="#5", taper=ls.taper("to #4")),
    ]
    part = ls.turned(part, stations, bores=[ls.Bore(end="right", steps=(ls.BoreStep(diameter="#6"),))])
    return ls.hole(part, "10/sA", "#7", depth=None, places=ls.Radial(at="#8", datum="10/face.left"))


def gland_body() -> Document:
    """What the gland nut is screwed into: a ring with a real thread."""
    part = _part("Gland body", "CuSn8", "Ø64", "20", "Ø38.376")
    bores = [ls.Bore(end="right", steps=(ls.BoreStep(diameter="#3"),))]
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2")], bores=bores)
    part = ls.step(part, "thread", face="10/bore.right.1", designation="M40x1.5", real=True, start="10/face.left")
    return ls.measured_by(part, 3, "diameter", "20/ring.helix.crest")
