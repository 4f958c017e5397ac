"""Parts of known closed form: every kind of step against a volume worked out by hand."""

from __future__ import annotations

import math
from collections.abc import Callable

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import DatumPlane, Document, EdgePick, Grid, Table
from lathed_solid.part.steps.pattern_layout import CurveLayout, GridLayout, ListLayout, RingLayout, RowLayout

from .parts import at, block, built, bush, circle, near, polygon, rectangle, shaft, volume

PI = math.pi
BLOCK = 60.0 * 40 * 20
ON_TOP = "20/end"


def boss(**values: object) -> Document:
    """A circle of radius 8 on the block's top at its middle, extruded."""
    distance = values.pop("distance", "10")
    return ls.extrude(circle(block(), ON_TOP, 30, 20, 8), 30, distance, **values)  # type: ignore[arg-type]


def frustum(r: float, s: float, h: float) -> float:
    return PI * h / 3 * (r * r + r * s + s * s)


def segment(r: float, a: float) -> float:
    """Area of a circle's part beyond a chord at distance a."""
    return r * r * math.acos(a / r) - a * math.sqrt(r * r - a * a)


def prismatoid(area: Callable[[float], float], h: float) -> float:
    """Simpson's rule, exact for a section that is a quadratic of the height."""
    return h / 6 * (area(0) + 4 * area(h / 2) + area(h))


TAN5 = math.tan(math.radians(5))
TUNNEL = rectangle(block(), "XZ", (20, 5), (40, 15))
TUNNELLED = ls.extrude(TUNNEL, 30, None, mode="cut", side="both")
STEPPED = ls.extrude(
    polygon(ls.new_part("stepped"), "XZ", [(0, 0), (100, 0), (100, 30), (50, 30), (50, 20), (0, 20)]), 10, "40",
    side="back",
)  # fmt: skip
STEPPED_V = 40.0 * (100 * 20 + 50 * 10)
BOLT = ls.extrude(circle(STEPPED, at(50), 20, 20, 5), 30, "1", side="back", until="next")
TOOTH = ls.extrude(rectangle(shaft((100, 10)), DatumPlane(plane="YZ"), (-4, 42), (4, 60)), 20, None, mode="cut",
                   side="both")  # fmt: skip
# a tooth 8 wide from 42 to the rim: the rim's part above y = 42 within x = +-4
TOOTH_V = 10 * 2 * (0.5 * (4 * math.sqrt(2500 - 16) + 2500 * math.asin(4 / 50)) - 42 * 4)
TWO = boss(mode="new", start="-5")
PLATE = block(200, 100, "10")
ONE_HOLE = PI * (4 * 7 + 3.5**2 * 3)
DRILLED = ls.hole(PLATE, ON_TOP, "4", cbore_diameter="7", cbore_depth="3", places=Table(rows=(("5", "5"),)))
L_BRACKET = ls.extrude(
    polygon(ls.new_part("L"), "XZ", [(0, 0), (60, 0), (60, 5), (5, 5), (5, 60), (0, 60)]), 10, "40", side="both"
)


def ribbed() -> Document:
    d = ls.Draft()
    d.segment((45, 5), (5, 45))
    return ls.step(ls.sketch(L_BRACKET, d, "XZ"), "rib", sketch=30, thickness="4")


def pipe_path() -> ls.Draft:
    path = ls.Draft()
    line = path.segment((0, 0), (0, 50))
    ls.shapes.tangent_arc(path, path.entities[line].points[1], line, (20, 70))
    return path


def swept() -> Document:
    return ls.step(ls.sketch(circle(ls.new_part("rod"), "XY", 0, 0, 5), pipe_path(), "XZ"), "sweep", sketch=10, path=20)


def swept_pipe() -> Document:
    d = ls.Draft()
    d.circle(d.point(0, 0), 5)
    d.circle(d.point(0, 0), 3)
    return ls.step(ls.sketch(ls.sketch(ls.new_part("pipe"), d), pipe_path(), "XZ"), "sweep", sketch=10, path=20)


def lofted(**values: object) -> Document:
    base = rectangle(rectangle(ls.new_part("hood"), "XY", (-10, -10), (10, 10)), at(30), (-5, -5), (5, 5))
    return ls.step(base, "loft", sketches=(10, 20), **values)


def edge(name: str, kind: str, **values: object) -> Document:
    return ls.step(block(), kind, pick=EdgePick(edges=(name,)), **values)


def split() -> Document:
    cut_at = ls.step(block(), "plane", way="offset", names=("YZ",), distance="20")
    return ls.step(cut_at, "split", body=20, plane="30/plane")


def swung(side: str) -> Document:
    part = ls.new_part("arc")
    d = ls.Draft()
    ls.shapes.rectangle(d, (10, 0), (20, 10))
    axis = d.segment((0, 0), (0, 10), construction=True)
    return ls.revolve(ls.sketch(part, d, "XZ"), 10, axis, angle="90 deg", side=side)


HEX = shaft((25, 60), (30, 20))
HEX_V = PI * (12.5**2 * 60 + 15**2 * 20)
COUNTERSINK = frustum(5, 2.5, 2.5) + PI * 2.5**2 * 17.5
COUNTERDRILL_CONE = 2 / math.tan(math.radians(59))
CURVED = ls.sketch(block(), (lambda d: (d.segment((0, 0), (50, 0)), d)[1])(ls.Draft()), ON_TOP)
STUD = ls.extrude(circle(CURVED, ON_TOP, 5, 20, 2), 40, "3")

CASES: dict[str, tuple[Callable[[], Document] | Document, float]] = {
    "extrude": (boss(), BLOCK + PI * 640),
    "extrude two lengths": (boss(second="3"), BLOCK + PI * 640),
    "extrude tapered": (boss(taper="5 deg"), BLOCK + frustum(8, 8 - 10 * TAN5, 10)),
    "extrude walled": (boss(wall="2"), BLOCK + PI * (64 - 36) * 10),
    "cut through": (boss(distance=None, mode="cut", side="both"), BLOCK - PI * 64 * 20),
    "cut around": (boss(distance="5", mode="cut", side="back", outside=True), 2400 * 15 + PI * 64 * 5),
    "keep common": (boss(distance="5", mode="common", side="back"), PI * 64 * 5),
    "separate body": (boss(distance="5", mode="new", start="10"), BLOCK + PI * 64 * 5),
    "start at a face": (boss(from_face="20/start", distance="30", mode="new"), BLOCK + PI * 64 * 30),
    "cut to the next face": (
        ls.extrude(circle(TUNNELLED, ON_TOP, 30, 20, 8), 50, "1", mode="cut", side="back", until="next"),
        BLOCK - 8000 - PI * 64 * 5,
    ),
    "cut to a face": (
        ls.extrude(circle(TUNNELLED, ON_TOP, 30, 20, 8), 50, "1", mode="cut", side="back", until="40/l3",
                   until_offset="1"),
        BLOCK - 8000 - PI * 64 * 5,
    ),
    "add to the next face": (
        ls.extrude(circle(TUNNELLED, at(40), 30, 20, 8), 50, "1", side="back", until="next"),
        BLOCK - 8000 + PI * 64 * 20,
    ),
    "revolve in front": (swung("front"), PI * 300 * 10 / 4),
    "revolve to both sides": (swung("both"), PI * 300 * 10 / 4),
    "fillet": (edge("20/l1|20/l2", "fillet", radius="5"), BLOCK - (1 - PI / 4) * 25 * 20),
    "fillet all upright": (
        ls.step(block(), "fillet", radius="5", pick=EdgePick(rule="upright outside")), BLOCK - (4 - PI) * 25 * 20,
    ),
    "fillet inside": (
        ls.step(L_BRACKET, "fillet", radius="3", pick=EdgePick(rule="inside")),
        (60 * 5 + 5 * 55) * 40 + (1 - PI / 4) * 9 * 40,
    ),
    "chamfer": (edge("20/l1|20/l2", "chamfer", leg="4"), BLOCK - 8 * 20),
    "chamfer two legs": (edge("20/l1|20/l2", "chamfer", leg="4", second="2"), BLOCK - 4 * 20),
    "chamfer leg and angle": (
        edge("20/l1|20/l2", "chamfer", leg="4", angle="30 deg"), BLOCK - 8 * math.tan(math.radians(30)) * 20,
    ),
    "holes in a grid, counterbored": (
        ls.hole(block(), ON_TOP, "6.6", cbore_diameter="11", cbore_depth="6.8",
                places=Grid(x="10", y="10", dx="40", nx=2, dy="20", ny=2)),
        BLOCK - 4 * PI * (3.3**2 * 13.2 + 5.5**2 * 6.8),
    ),
    "countersunk": (
        ls.hole(block(), ON_TOP, "5", csk_diameter="10", places=Table(rows=(("30", "20"),))), BLOCK - COUNTERSINK,
    ),
    "counterdrilled to a face": (
        ls.hole(block(), ON_TOP, "4", cdrill_diameter="8", cdrill_depth="3", until="20/start",
                places=Table(rows=(("30", "20"),))),
        BLOCK - PI * 16 * 3 - frustum(4, 2, COUNTERDRILL_CONE) - PI * 4 * (17 - COUNTERDRILL_CONE),
    ),
    "tapped, drawn": (
        ls.hole(block(), ON_TOP, "", thread="M8", places=Table(rows=(("30", "20"),))), BLOCK - PI * 3.4**2 * 20,
    ),
    "pattern grid": (
        ls.step(DRILLED, "pattern", steps=(30,), layout=GridLayout(spacing="10", count=19, spacing2="10", count2=9)),
        200000 - 171 * ONE_HOLE,
    ),
    "pattern row, one left out": (
        ls.step(DRILLED, "pattern", steps=(30,), layout=RowLayout(spacing="100", count=5, total=True), skip=(2,)),
        200000 - 4 * ONE_HOLE,
    ),
    "pattern ring": (
        ls.step(TOOTH, "pattern", steps=(30,), layout=RingLayout(about="X", count=12)), PI * 25000 - 12 * TOOTH_V,
    ),
    "pattern along a curve": (
        ls.step(STUD, "pattern", steps=(50,), layout=CurveLayout(sketch=30, count=6)), BLOCK + 6 * PI * 12,
    ),
    "pattern of listed places": (
        ls.step(STUD, "pattern", steps=(50,), layout=ListLayout(rows=(("10", "0", "0"), ("20", "5", "0")))),
        BLOCK + 3 * PI * 12,
    ),
    "pattern rebuilt to its own end": (
        ls.step(BOLT, "pattern", steps=(40,), layout=RowLayout(spacing="60"), rebuilt=True),
        STEPPED_V + PI * 25 * (30 + 20),
    ),
    "mirror a step": (ls.step(TOOTH, "mirror", steps=(30,), plane="XY"), PI * 25000 - 2 * TOOTH_V),
    "mirror the body": (ls.step(DRILLED, "mirror", plane="20/l1"), 2 * (200000 - ONE_HOLE)),
    "sweep": (swept, PI * 25 * (50 + PI / 2 * 20)),
    "sweep a pipe": (swept_pipe, PI * 16 * (50 + PI / 2 * 20)),
    "loft ruled": (lambda: lofted(ruled=True), 30 / 3 * (400 + 200 + 100)),
    "loft of circles": (
        lambda: ls.step(circle(circle(ls.new_part("cone"), "XY", 0, 0, 10), at(30), 0, 0, 5), "loft",
                        sketches=(10, 20), ruled=True),
        frustum(10, 5, 30),
    ),
    "shell": (ls.step(block(), "shell", wall="2", open_faces=(ON_TOP,)), BLOCK - 56 * 36 * 18),
    "shell outwards": (
        ls.step(block(), "shell", wall="2", open_faces=(ON_TOP,), outwards=True), 64 * 44 * 22 - BLOCK,
    ),
    "draft": (
        ls.step(block(), "draft", faces=("20/l1", "20/l2", "20/l3", "20/l4"), angle="5 deg"),
        prismatoid(lambda z: (60 - 2 * z * TAN5) * (40 - 2 * z * TAN5), 20),
    ),
    "rib": (ribbed, (60 * 5 + 5 * 55) * 40 + 40 * 40 / 2 * 4),
    "join bodies": (ls.step(TWO, "combine", body=20, others=(40,)), BLOCK + 320 * PI),
    "cut bodies": (ls.step(TWO, "combine", body=20, others=(40,), mode="cut"), BLOCK - 320 * PI),
    "common of bodies": (ls.step(TWO, "combine", body=20, others=(40,), mode="common"), 320 * PI),
    "split": (split, BLOCK),
    "split, one piece left out": (lambda: ls.step(split(), "drop", others=(20,)), 32000.0),
    "copy a body": (ls.step(block(), "move", body=20, x="100", as_copy=True), 2 * BLOCK),
    "hexagon": (
        ls.step(HEX, "flats", face="10/sA", from_face="10/face.left", across="22", length="10"),
        HEX_V - 6 * segment(12.5, 11) * 10,
    ),
    "ring groove by its standard": (
        ls.step(HEX, "groove", face="10/sA", from_face="10/face.left", at="5"),
        HEX_V - PI / 4 * (25**2 - 23.9**2) * 1.3,
    ),
    "undercut": (
        ls.step(HEX, "groove", face="10/sA", from_face="10/shoulder.A", width="2", diameter="24"),
        HEX_V - PI / 4 * (25**2 - 24**2) * 2,
    ),
    "centre hole": (
        ls.step(HEX, "centre", face="10/face.left", pilot="2.5"),
        HEX_V - frustum(2.65, 1.25, 1.4 * math.sqrt(3)) - PI * 1.25**2 * 2.2 - PI * 1.25**3 / math.tan(
            math.radians(59)) / 3,
    ),
    "keyway right through a bore": (
        ls.step(bush(50, 20, 30), "keyway", face="10/bore.right.1", from_face="10/face.left", length=None),
        (PI * (25**2 - 10**2) - (6 * 12.8 - 2 * (0.5 * (3 * math.sqrt(91) + 100 * math.asin(0.3))))) * 30,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", CASES)
def test_volume(name: str) -> None:
    part, expected = CASES[name]
    assert volume(part() if callable(part) else part) == near(expected, 1e-6)


def test_a_spring_against_pappus() -> None:
    part = ls.step(circle(ls.new_part("spring"), "XZ", 20, 0, 2), "helix", sketch=10, pitch="8", turns="5")
    # the section is square to the turn, not to the wire, so the volume is that of a ring, times the turns
    assert volume(part) == near(PI * 4 * 2 * PI * 20 * 5, 1e-6)
    left = ls.step(circle(ls.new_part("spring"), "XZ", 20, 0, 2), "helix", sketch=10, pitch="8", turns="5", left=True)
    assert volume(left) == near(PI * 4 * 2 * PI * 20 * 5, 1e-6)


def test_a_groove_that_is_led_out_ends_in_no_wall() -> None:
    groove = polygon(shaft((20, 80)), "XZ", [(20, 8.5), (22, 8.5), (23, 10.5), (19, 10.5)])

    def cut(**values: object) -> ls.Solid:
        return built(ls.step(groove, "helix", sketch=20, axis="X", pitch="6", turns="2", mode="cut", **values))

    blunt, led = cut(), cut(run_out="120 deg")
    assert "30/end" in blunt.built.body.by_atom and "30/end" not in led.built.body.by_atom
    # the groove's section, half of its own length on: what the run-out adds, at most a third of a turn
    added, section = blunt.volume - led.volume, (2 + 3.5) / 2 * 1.5
    assert 0 < added < section * 2 * PI * 10 / 3
    # Pappus on what lies within the rod: a trapezium 2 wide at 8.5 and 3.5 wide at 10
    moment = 1.5 / 6 * (2 * 8.5 + 4 * 2.75 * 9.25 + 3.5 * 10)
    assert PI * 100 * 80 - blunt.volume == near(moment * 2 * PI * 2, 1e-3)


def test_knurls_are_carried_and_change_nothing() -> None:
    solid = ls.build(ls.step(HEX, "knurl", face="10/sB", form="RGE", pitch="0.8"))
    assert solid.ok and solid.volume == near(HEX_V) and "10/sB" in solid.built.parts.threads
