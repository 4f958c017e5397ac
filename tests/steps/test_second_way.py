"""Every builder against a second way of making the same solid: same volume, area and centre, and no difference
between them.
"""

from __future__ import annotations

from collections.abc import Callable

import pytest
from OCP.BRepAlgoAPI import BRepAlgoAPI_Cut

from lathed_solid import scripting as ls
from lathed_solid.kernel.properties import quick_volume
from lathed_solid.part import DatumPlane, Document, EdgePick, Grid, Table
from lathed_solid.part.steps.pattern_layout import GridLayout, RingLayout, RowLayout

from .parts import at, block, built, bush, circle, near, polygon, rectangle, shaft

TOP = "20/end"
Pair = tuple[Callable[[], Document], Callable[[], Document]]


def rounded_sketch(radius: float) -> Document:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (60, 40))
    d.add("fixed", d.entities[sides[0]].points[0])
    values = {d.add("distance", sides[0], value="60"): 60.0, d.add("distance", sides[1], value="40"): 40.0}
    figure = ls.sketch_edits.fillet(d.done(), values, sides[0], sides[1], radius, str(radius))
    return ls.extrude(ls.sketch(ls.new_part("rounded"), figure), 10, "20")


def drilled(part: Document, x: float, y: float, r: float, depth: str | None) -> Document:
    """A hole as a cut circle."""
    part = circle(part, TOP, x, y, r)
    side = "both" if depth is None else "back"
    return ls.extrude(part, part.steps[-1].number, depth, mode="cut", side=side)


def holes(*places: tuple[str, str], **values: object) -> Document:
    return ls.hole(block(), TOP, "6", places=Table(rows=places), **values)


def teeth(count: int) -> Document:
    part = shaft((100, 10))
    d = ls.Draft()
    ls.shapes.rectangle(d, (-4, 42), (4, 60))
    figures = [d.done()]
    for k in range(1, count):
        names = [c.id for c in figures[0].curves]
        turn = 2 * 3.141592653589793 * k / count
        figures.append(ls.sketch_edits.rotate(_bare(figures[0]), {}, names, 0j, turn))
    for figure in figures:
        part = ls.sketch(part, figure, DatumPlane(plane="YZ"))
        part = ls.extrude(part, part.steps[-1].number, None, mode="cut", side="both")
    return part


def _bare(figure: ls.Sketch) -> ls.Sketch:
    """Without what keeps it level, so that it can be turned."""
    kept = tuple(k for k in figure.constraints if k.kind == "coincident")
    return type(figure)(entities=figure.entities, constraints=kept)


def tooth_ring(count: int) -> Document:
    part = rectangle(shaft((100, 10)), DatumPlane(plane="YZ"), (-4, 42), (4, 60))
    part = ls.extrude(part, 20, None, mode="cut", side="both")
    return ls.step(part, "pattern", steps=(30,), layout=RingLayout(about="X", count=count))


def straight_sweep() -> Document:
    path = ls.Draft()
    path.segment((0, 0), (0, 30))
    part = rectangle(ls.new_part("bar"), "XY", (-5, -4), (5, 4))
    return ls.step(ls.sketch(part, path, "XZ"), "sweep", sketch=10, path=20)


def l_bracket(corners: list[tuple[float, float]]) -> Document:
    return ls.extrude(polygon(ls.new_part("L"), "XZ", corners), 10, "40", side="both")


L = [(0.0, 0.0), (60.0, 0.0), (60.0, 5.0), (5.0, 5.0), (5.0, 60.0), (0.0, 60.0)]


def ribbed() -> Document:
    d = ls.Draft()
    d.segment((45, 5), (5, 45))
    return ls.step(ls.sketch(l_bracket(L), d, "XZ"), "rib", sketch=30, thickness="4")


def ribbed_by_hand() -> Document:
    part = polygon(l_bracket(L), "XZ", [(5, 5), (45, 5), (5, 45)])
    return ls.extrude(part, 30, "4", side="both")


def keyed() -> Document:
    return ls.step(shaft((40, 60)), "keyway", face="10/sA", from_face="10/face.left", at="10", length="30", width="12",
                   depth="5", ends="square")  # fmt: skip


def keyed_by_hand() -> Document:
    part = rectangle(shaft((40, 60)), DatumPlane(offset="15"), (10, -6), (40, 6))
    return ls.extrude(part, 20, "20", mode="cut")


def hexagon_by_hand() -> Document:
    d = ls.Draft()
    ls.shapes.polygon(d, (0, 0), (0, 11), 6, across_flats=True)
    part = ls.sketch(shaft((30, 20), (25, 30)), d, DatumPlane(plane="YZ", offset="40"))
    return ls.extrude(part, 20, "10", mode="cut", outside=True)


def turned_with(groove: ls.Groove) -> Document:
    rows = [ls.Station(key="A", diameter="25", length="60"), ls.Station(key="B", diameter="30", length="20")]
    return ls.turned(ls.new_part("shaft"), rows, grooves=[groove])


PAIRS: dict[str, Pair] = {
    "extrude and combine": (
        lambda: ls.extrude(circle(block(), TOP, 30, 20, 8), 30, "5", mode="cut", side="back"),
        lambda: ls.step(ls.extrude(circle(block(), TOP, 30, 20, 8), 30, "5", mode="new", side="back"), "combine",
                        body=20, others=(40,), mode="cut"),
    ),
    "cut around and keep within": (
        lambda: ls.extrude(circle(block(), TOP, 30, 20, 8), 30, None, mode="cut", side="both", outside=True),
        lambda: ls.extrude(circle(block(), TOP, 30, 20, 8), 30, None, mode="common", side="both"),
    ),
    "two lengths and two steps": (
        lambda: ls.extrude(circle(block(), TOP, 30, 20, 8), 30, "6", second="3"),
        lambda: ls.extrude(circle(block(), TOP, 30, 20, 8), 30, "6"),
    ),
    "taper and loft": (
        lambda: ls.extrude(rectangle(ls.new_part("f"), "XY", (-20, -20), (20, 20)), 10, "20",
                           taper="atan(0.25)"),
        lambda: ls.step(rectangle(rectangle(ls.new_part("f"), "XY", (-20, -20), (20, 20)), at(20), (-15, -15),
                                  (15, 15)), "loft", sketches=(10, 20), ruled=True),
    ),
    "draft and taper": (
        lambda: ls.step(block(), "draft", faces=("20/l1", "20/l2", "20/l3", "20/l4"), angle="5 deg"),
        lambda: ls.extrude(rectangle(ls.new_part("b"), "XY", (0, 0), (60, 40)), 10, "20", taper="5 deg"),
    ),
    "revolve and turned table": (
        lambda: ls.revolve(
            ls.sketch(ls.new_part("r"), (lambda d: (ls.shapes.polyline(d, [(0, 0), (50, 0), (50, 15), (0, 15)],
                                                                       closed=True), d)[1])(ls.Draft()), "XZ"),
            10, "l1"),
        lambda: shaft((30, 50)),
    ),
    "wall and shell": (
        lambda: ls.extrude(rectangle(ls.new_part("w"), "XY", (0, 0), (60, 40)), 10, "20", wall="3"),
        lambda: ls.step(block(), "shell", wall="3", open_faces=("20/start", "20/end")),
    ),
    "shell and pocket": (
        lambda: ls.step(block(), "shell", wall="2", open_faces=(TOP,)),
        lambda: ls.extrude(rectangle(block(), TOP, (2, 2), (58, 38)), 30, "18", mode="cut", side="back"),
    ),
    "fillet and rounded sketch": (
        lambda: ls.step(block(), "fillet", radius="7", pick=EdgePick(edges=("20/l1|20/l2",))),
        lambda: rounded_sketch(7.0),
    ),
    "chamfer and cut corner": (
        lambda: ls.step(block(), "chamfer", leg="6", second="3", on="20/l1", pick=EdgePick(edges=("20/l1|20/l2",))),
        lambda: ls.extrude(polygon(ls.new_part("c"), "XY", [(0, 0), (54, 0), (60, 3), (60, 40), (0, 40)]), 10, "20"),
    ),
    "hole and cut circle": (
        lambda: holes(("30", "20"), depth="9", point=None), lambda: drilled(block(), 30, 20, 3, "9"),
    ),
    "counterbore and two cuts": (
        lambda: holes(("30", "20"), cbore_diameter="11", cbore_depth="5"),
        lambda: drilled(drilled(block(), 30, 20, 3, None), 30, 20, 5.5, "5"),
    ),
    "countersink and turned cut": (
        lambda: holes(("30", "20"), csk_diameter="12"),
        lambda: ls.step(drilled(block(), 30, 20, 3, None), "chamfer", leg="3",
                        pick=EdgePick(edges=("20/end|40/c1",))),
    ),
    "grid of holes and single ones": (
        lambda: ls.hole(block(), TOP, "6", places=Grid(x="10", y="10", dx="20", nx=3, dy="15", ny=2)),
        lambda: ls.step(holes(("10", "10")), "pattern", steps=(30,),
                        layout=GridLayout(spacing="20", count=3, spacing2="15", count2=2)),
    ),
    "pattern copied and rebuilt": (
        lambda: ls.step(drilled(block(), 10, 20, 3, "9"), "pattern", steps=(40,),
                        layout=RowLayout(spacing="15", count=3)),
        lambda: ls.step(drilled(block(), 10, 20, 3, "9"), "pattern", steps=(40,),
                        layout=RowLayout(spacing="15", count=3), rebuilt=True),
    ),
    "ring and drawn one by one": (lambda: tooth_ring(7), lambda: teeth(7)),
    "mirror and the other place": (
        lambda: ls.step(ls.step(drilled(block(), 10, 20, 3, "9"), "plane", way="midway", names=("20/l2", "20/l4")),
                        "mirror", steps=(40,), plane="50/plane"),
        lambda: drilled(drilled(block(), 10, 20, 3, "9"), 50, 20, 3, "9"),
    ),
    "mirror rebuilt and the other place": (
        lambda: ls.step(ls.step(drilled(block(), 10, 20, 3, "9"), "plane", way="midway", names=("20/l2", "20/l4")),
                        "mirror", steps=(40,), plane="50/plane", rebuilt=True),
        lambda: drilled(drilled(block(), 10, 20, 3, "9"), 50, 20, 3, "9"),
    ),
    "half and mirror": (
        lambda: ls.step(block(), "mirror", plane="20/l2"),
        lambda: block(120),
    ),
    "sweep and extrude": (
        straight_sweep, lambda: ls.extrude(rectangle(ls.new_part("bar"), "XY", (-5, -4), (5, 4)), 10, "30"),
    ),
    "rib and drawn triangle": (ribbed, ribbed_by_hand),
    "keyway and pocket": (keyed, keyed_by_hand),
    "hexagon and cut around": (
        lambda: ls.step(shaft((30, 20), (25, 30)), "flats", face="10/sB", from_face="10/face.right", across="22",
                        length="10"),
        hexagon_by_hand,
    ),
    "groove and turned groove": (
        lambda: ls.step(shaft((25, 60), (30, 20)), "groove", face="10/sA", from_face="10/face.left", at="12",
                        width="3", diameter="21"),
        lambda: turned_with(ls.Groove(key="g1", at="12", width="3", diameter="21")),
    ),
    "split and dropped, and a shorter block": (
        lambda: ls.step(ls.step(ls.step(block(), "plane", names=("YZ",), distance="20"), "split", body=20,
                                plane="30/plane"), "drop", others=(40,)),
        lambda: block(20),
    ),
    "moved and drawn elsewhere": (
        lambda: ls.step(block(), "move", body=20, x="5", y="-7"),
        lambda: ls.extrude(rectangle(ls.new_part("b"), "XY", (5, -7), (65, 33)), 10, "20"),
    ),
    "bush and bored shaft": (
        lambda: bush(40, 20, 30),
        lambda: ls.hole(shaft((40, 30)), "10/face.left", "20"),
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", PAIRS)
def test_two_ways_to_one_solid(name: str) -> None:
    first, second = (built(make()) for make in PAIRS[name])

    assert first.volume == near(second.volume)
    assert first.area == near(second.area, 1e-8)
    assert first.centre == pytest.approx(second.centre, abs=1e-7)
    for a, b in ((first, second), (second, first)):
        rest = BRepAlgoAPI_Cut(a.built.body.shape, b.built.body.shape).Shape()  # type: ignore[union-attr]
        assert abs(quick_volume(rest)) < 1e-6 * first.volume
