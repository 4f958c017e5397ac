"""The parts of the exercises as they are when nothing slipped: the sheave pin, the bearing plate, the fairlead bush.

Made up for the sluice winch like the demo parts. Their drawings are drawn back from them
(``tools/exercise_sheets.py``). Each is made once: a learner's part is marked against it after every build.
"""

from __future__ import annotations

from functools import cache

from lathed_solid import scripting as ls
from lathed_solid.ledger import InchBlock
from lathed_solid.part import Document


def _noted(part: Document, number: str, *texts: str) -> Document:
    for text in texts:
        part = ls.note(part, text, source=f"drawing {number}")
    return part


@cache
def sheave_pin() -> Document:
    """Turned: a head, a shank for the sheave, a groove for its ring, a cross hole for the split pin."""
    part = _noted(
        ls.new_part("Sheave pin"), "E-01",
        "Ø28", "6", "Ø20 h9", "60 ±0.2", "1x45°", "Ø4 THRU", "7", "R0.8",
    )  # fmt: skip
    shank = ls.Station(key="B", diameter="#3", length="#4 - #2", left=ls.edge("R#8"), right=ls.edge("#5 x 45°"))
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2", carries="head"), shank])
    return ls.hole(part, "10/sB", "#6", places=ls.Radial(at="#7", datum="10/face.right"))


@cache
def bearing_plate() -> Document:
    """Milled: rounded corners, a bore for the bush, four counterbored holes, a broken rim."""
    part = _noted(
        ls.new_part("Bearing plate", material="S235 steel"), "E-02",
        "90", "70", "12", "4X R10", "Ø35 H7 THRU", "4X Ø6.6 THRU ⌴ Ø11 ↧6.8", "70", "50", "1x45°",
    )  # fmt: skip
    draft = ls.Draft()
    origin = draft.point(0, 0)
    draft.add("fixed", origin)
    sides = ls.shapes.centre_rectangle(draft, origin, (45, 35))
    values = {draft.add("distance", sides[0], value="#1"): 90.0, draft.add("distance", sides[1], value="#2"): 70.0}
    figure = draft.done()
    for one, two in zip(sides, sides[1:] + sides[:1], strict=True):
        figure = ls.sketch_edits.fillet(figure, values, one, two, 10.0, "#4")
    part = ls.extrude(ls.sketch(part, figure), 10, "#3")
    middle = ls.Grid(nx=1, ny=1)
    part = ls.hole(part, "20/end", "#5", places=middle)
    screws = ls.Grid(x="-#9 / 2", dx="#9", nx=2, y="-#10 / 2", dy="#10", ny=2)
    part = ls.hole(part, "20/end", "#6", cbore_diameter="#7", cbore_depth="#8", places=screws)
    return ls.step(part, "chamfer", leg="#11", pick=ls.EdgePick(edges=("20/end|30/h0.wall",)))


@cache
def fairlead_bush() -> Document:
    """Turned, in inches: a flange, a body, a bore that opens wider, three counterbored holes on a bolt circle."""
    part = ls.new_part("Fairlead bush", unit="in", material="CuSn8").model_copy(update={"general": InchBlock()})
    part = _noted(
        part, "E-03",
        "Ø2.500", ".375", "Ø1.500 +.000 -.002", "1.750", "Ø1.000 +.001 -.000 THRU", "Ø1.250 ↧ .50", ".06 X 45°",
        "3X Ø.266 THRU ⌴ Ø.438 ↧.188 ON Ø2.000 BC",
    )  # fmt: skip
    body = ls.Station(key="B", diameter="#3", length="#4 - #2", right=ls.edge("#8 x 45°"))
    bore = ls.Bore(end="right", steps=(ls.BoreStep(diameter="#6", depth="#7"), ls.BoreStep(diameter="#5")))
    part = ls.turned(part, [ls.Station(key="A", diameter="#1", length="#2", carries="flange"), body], bores=[bore])
    return ls.hole(
        part, "10/face.left", "#9", cbore_diameter="#10", cbore_depth="#11",
        places=ls.OnCircle(bolt_circle="#12", count=3),
    )  # fmt: skip
