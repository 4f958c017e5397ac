"""The pedestal of the sluice winch: milled, from an inch drawing, begun with sketches.

A base plate with rounded corners, four counterbored bolt holes and two tapped ones; a column on it with the bore for
the spindle's bearing, rounded over concentric with the bore; a drain groove cut across the base; edges broken.
"""

from __future__ import annotations

from collections.abc import Iterator

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import on_its_sheet
from lathed_solid.ledger import InchBlock
from lathed_solid.part import Document

NOTES = (
    (1, "6.00"),
    (2, "4.00"),
    (3, ".75"),
    (4, "R.50"),
    (5, "4X Ø.531"),
    (6, "4.75"),
    (7, "2.75"),
    (8, "1.50"),
    (9, "2.25"),
    (10, "R1.00"),
    (11, "Ø1.250 +.001 -.000"),
    (12, ".375"),
    (13, ".25"),
    (14, "1.56"),
    (15, "4X Ø.812 ↧ .31"),
    (17, ".62"),
    (18, "3.80"),
    (19, "R.12"),
    (20, ".03 X 45°"),
    (21, "(3.00)"),
    (22, "1.25"),
)
#: revision A of the drawing leaves out where the column stands
ON_B_ONLY = 22

IN = 25.4


def blank(name: str) -> Document:
    """What the drawing's title block says."""
    part = ls.new_part(name, unit="in", material="EN-GJL-250")
    return part.model_copy(update={"general": InchBlock()})


def pedestal() -> Document:
    """The finished demo document."""
    *_, last = stages()
    return on_its_sheet(last, "pedestal", "P-02 Pedestal")


def pedestal_as_drawn() -> Document:
    """Before anything is modelled: the callouts of the drawing's revision A, which has a contradiction (21 against 3
    and 9) and leaves something open (where the column stands front to back).
    """
    part = blank("Pedestal as drawn")
    mistaken = {6: "4.70", 11: "Ø1.250 +.002 -.000", 21: "3.02"}
    for balloon, text in NOTES:
        if balloon != ON_B_ONLY:
            part = ls.note(part, mistaken.get(balloon, text), balloon, source="drawing P-02 A")
    return on_its_sheet(part, "pedestal-a", "P-02 Pedestal A")


def stages() -> Iterator[Document]:
    """The document after each piece of work."""
    part = blank("Pedestal")
    for balloon, text in NOTES:
        part = ls.note(part, text, balloon, source="drawing P-02")
    yield part
    part = ls.sketch(part, base_plate())
    part = ls.extrude(part, 10, "#3")
    yield part
    part = ls.sketch(part, column(), ls.DatumPlane(plane="XZ", offset="#8 / 2"))
    part = ls.extrude(part, 30, "#8", side="back")
    yield part
    part = ls.sketch(part, groove(), ls.DatumPlane(plane="XZ", offset="#2 / 2"))
    part = ls.extrude(part, 50, None, side="back", mode="cut")
    # dimensions from faces that other steps made
    part = ls.measured_by(part, 9, "position", "20/end", "40/c1")
    part = ls.measured_by(part, 13, "distance", "20/start", "60/l3")
    part = ls.measured_by(part, 14, "distance", "20/l4", "60/l4")
    part = ls.measured_by(part, 21, "position", "20/start", "40/c1")
    part = ls.measured_by(part, 22, "distance", "20/l1", "40/end")
    yield part
    rims = tuple(f"20/c{k}|20/end" for k in (1, 2, 3, 4))
    part = ls.hole(part, "20/end", "#15", depth="#16", point=None, places=ls.OnEdges(edges=rims))
    tapped = ls.Grid(x="-#18 / 2", dx="#18", nx=2)
    part = ls.hole(part, "20/end", "", thread="1/4-20 UNC", depth="#17", thread_depth=".50", places=tapped)
    yield part
    foot = tuple(f"20/end|40/{side}" for side in ("l2", "l3", "start", "end"))
    part = ls.step(part, "fillet", radius="#19", pick=ls.EdgePick(edges=foot))
    yield ls.step(part, "chamfer", leg="#20", pick=ls.EdgePick(edges=("20/end|20/l1",)))


def base_plate() -> ls.Draft:
    """Outline with rounded corners, four holes symmetric about both middle lines."""
    d = ls.Draft()
    origin = d.point(0, 0)
    d.add("fixed", origin)
    sides = ls.shapes.centre_rectangle(d, origin, (3 * IN, 2 * IN))
    across = d.line(origin, d.point(1.2 * IN, 0), construction=True)
    up = d.line(origin, d.point(0, 1.2 * IN), construction=True)
    d.add("horizontal", across)
    d.add("vertical", up)
    d.add("equal", across, up)
    d.add("across_x", across, value="1.2")
    values = {d.add("distance", sides[0], value="#1"): 6 * IN, d.add("distance", sides[1], value="#2"): 4 * IN}
    holes = []
    for x, y in ((-1, -1), (1, -1), (1, 1), (-1, 1)):
        holes.append(d.circle(d.point(x * 2.375 * IN, y * 1.375 * IN), 0.531 / 2 * IN))
    centres = [d.entities[h].centre for h in holes]  # type: ignore[union-attr]
    for a, b in ((0, 1), (3, 2)):
        d.add("symmetric", centres[a], centres[b], up)
    d.add("symmetric", centres[1], centres[2], across)
    d.add("across_x", centres[0], centres[1], value="#6")
    d.add("across_y", centres[1], centres[2], value="#7")
    d.add("diameter", holes[0], value="#5")
    for other in holes[1:]:
        d.add("equal", holes[0], other)
    figure = d.done()
    for one, two in zip(sides, sides[1:] + sides[:1], strict=True):
        figure = ls.sketch_edits.fillet(figure, values, one, two, 0.5 * IN, "#4")
    return ls.Draft(figure)


def column() -> ls.Draft:
    """Seen from the front: two walls rising from the plate, rounded over about the bore."""
    d = ls.Draft()
    low, mid, r = 0.75 * IN, 3.0 * IN, 1.0 * IN
    origin = d.point(0, 0)
    d.add("fixed", origin)
    centre = d.point(0, mid)
    foot = d.segment((-r, low), (r, low))
    right = d.segment((r, low), (r, mid))
    left = d.segment((-r, mid), (-r, low))
    top = d.arc(centre, d.point(r, mid), d.point(-r, mid))
    bore = d.circle(d.point(0, mid), 0.625 * IN)
    e = d.entities
    d.add("coincident", e[foot].points[1], e[right].points[0])
    d.add("coincident", e[right].points[1], e[top].points[1])
    d.add("coincident", e[top].points[2], e[left].points[0])
    d.add("coincident", e[left].points[1], e[foot].points[0])
    d.add("horizontal", foot)
    d.add("vertical", right)
    d.add("vertical", left)
    d.add("tangent", right, top)
    d.add("tangent", left, top)
    d.add("concentric", top, bore)
    d.add("vertical", origin, centre)
    d.add("across_y", origin, e[foot].points[0], value="#3")
    d.add("across_y", e[foot].points[0], centre, value="#9")
    d.add("radius", top, value="#10")
    d.add("diameter", bore, value="#11")
    return d


def groove() -> ls.Draft:
    """A rectangular groove in the underside, off the middle."""
    d = ls.Draft()
    origin = d.point(0, 0)
    d.add("fixed", origin)
    sides = ls.shapes.rectangle(d, (-1.44 * IN, 0), (-1.065 * IN, 0.25 * IN))
    d.add("distance", sides[0], value="#12")
    d.add("distance", sides[1], value="#13")
    corner = d.entities[sides[0]].points[0]
    d.add("horizontal", origin, corner)
    d.add("across_x", corner, origin, value="#1 / 2 - #14")
    return d
