"""The winch spindle of the sluice gate, from a caliper log. All names and sizes are made up.

Turned from C45; the seat beside the flange (callout 9) is worn and modelled as measured, so that it proves
out of its h6. Everything else is modelled at the drawing's nominal and proves in.
"""

from __future__ import annotations

from collections.abc import Iterator

from lathed_solid import scripting as ls
from lathed_solid.part import Document

NOTES = (
    (1, "M20x1.5-6g x 18"),
    (3, "Ø25 h6"),
    (4, "52 ±0.1"),
    (5, "Ø32"),
    (6, "114 ±0.2"),
    (7, "Ø72"),
    (8, "14 ±0.05"),
    (9, "Ø25 h6"),
    (10, "40"),
    (11, "Ø18 h9"),
    (12, "30"),
    (13, "(198)"),
    (14, "1.5x45°"),
    (15, "1x45°"),
    (16, "2X 1x45°"),
    (17, "2X R1"),
    (18, "Ø23.9 0/-0.21"),
    (19, "1.3 H13"),
    (20, "162 ±0.1"),
    (21, "4X Ø6.6 THRU ⌴ Ø11 ↧6.8 ON Ø52 BC"),
    (25, "Ø6 H9 THRU"),
    (26, "12 ±0.1"),
    (27, "Ø8 ↧22"),
    (29, "118°±2°"),
    (30, "0.5x45°"),
)

CALIPER = ls.Instrument(name="digital caliper 150", resolution=0.01, permissible_error=0.02)
LONG_CALIPER = ls.Instrument(name="vernier caliper 300", resolution=0.02, permissible_error=0.04)

#: balloon, way, repeats in mm, instrument
LOG = (
    (1, "outside", (19.87, 19.86, 19.88), CALIPER),
    (2, "step", (18.02, 17.98, 18.01), CALIPER),
    (3, "outside", (25.00, 24.99, 24.99), CALIPER),
    (4, "depth", (52.03, 52.01), CALIPER),
    (5, "outside", (32.04, 32.02, 32.03), CALIPER),
    (6, "depth", (114.05, 114.02), CALIPER),
    (7, "outside", (71.96, 71.97, 71.95), CALIPER),
    (8, "outside", (14.02, 14.01, 14.02), CALIPER),
    (9, "outside", (24.94, 24.95, 24.94, 24.93), CALIPER),
    (10, "step", (40.04, 39.99), CALIPER),
    (11, "outside", (17.98, 17.98, 17.99), CALIPER),
    (12, "step", (30.06, 30.03), CALIPER),
    (13, "outside", (198.06, 198.04), LONG_CALIPER),
    (18, "outside", (23.84, 23.86, 23.85), CALIPER),
    (19, "inside", (1.34, 1.35), CALIPER),
    (20, "depth", (162.02, 162.06), LONG_CALIPER),
    (21, "inside", (6.55, 6.57, 6.56), CALIPER),
    (22, "inside", (10.97, 10.98), CALIPER),
    (23, "depth", (6.84, 6.79), CALIPER),
    (25, "inside", (5.97, 5.98), CALIPER),
    (26, "step", (12.04, 11.98), CALIPER),
    (27, "inside", (7.95,), CALIPER),
    (28, "depth", (22.1, 22.05), CALIPER),
)

STATIONS = (
    ls.Station(
        key="A", diameter="#1", length="#2", left=ls.edge("#14 x 45°"),
        thread=ls.ThreadStretch(designation="M20×1.5-6g", length="#2"), carries="handwheel nut",
    ),
    ls.Station(key="B", diameter="#3", to="#4", right=ls.edge("R #17"), carries="bearing seat"),
    ls.Station(key="C", diameter="#5", to="#6", carries="rope drum"),
    ls.Station(
        key="D", diameter="#7", length="#8", left=ls.edge("#16 x 45°"), right=ls.edge("#16 x 45°"),
        carries="ratchet flange",
    ),
    ls.Station(key="E", diameter="#9", length="#10", left=ls.edge("R #17"), carries="bearing seat, worn"),
    ls.Station(key="F", diameter="#11", length="#12", right=ls.edge("#15 x 45°"), carries="crank"),
)  # fmt: skip


def winch_spindle() -> Document:
    """The finished demo document."""
    *_, last = stages()
    return last


def stages() -> Iterator[Document]:
    """The document after each piece of work: callouts, log, steps, weighing."""
    part = ls.new_part("Winch spindle", material="C45 steel")
    for balloon, text in NOTES:
        part = ls.note(part, text, balloon, source="caliper log")
    yield part
    for balloon, way, repeats, instrument in LOG:
        part = ls.reading(part, balloon, way, repeats, instrument)  # type: ignore[arg-type]
    part = ls.as_measured(part, 9)
    yield part
    part = ls.turned(
        part,
        STATIONS,
        grooves=[ls.Groove(key="g1", at="#20", width="#19", diameter="#18", carries="ring 25")],
        bores=[
            ls.Bore(
                end="left",
                steps=(ls.BoreStep(diameter="#27", depth="#28"),),
                point="#29",
                mouth=ls.edge("#30 x 45°"),
            )
        ],
    )
    part = ls.measured_between(part, 13, "10/face.left", "10/face.right")
    yield part
    part = ls.hole(
        part, "10/shoulder.D", "#21", cbore_diameter="#22", cbore_depth="#23",
        places=ls.OnCircle(bolt_circle="#24", count=4, start_angle="45°"),
    )  # fmt: skip
    yield part
    part = ls.hole(part, "10/sF", "#25", places=ls.Radial(at="#26", datum="10/face.right"))
    yield part
    yield ls.weighed(part, 1182.0, resolution=1.0)
