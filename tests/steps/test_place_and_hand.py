"""Where material is, and on which hand: asked of the solid point by point, for volume sees neither.

Every expected place is worked out by hand from the sizes, in the part's X, Y and Z.
"""

from __future__ import annotations

import math

import pytest
from effort import some
from OCP.BRepClass3d import BRepClass3d_SolidClassifier
from OCP.gp import gp_Pnt
from OCP.TopAbs import TopAbs_State

from lathed_solid import scripting as ls
from lathed_solid.kernel.exchange import in_part_datum
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import quick_volume
from lathed_solid.kernel.surfaces import one_surface
from lathed_solid.part import Document

from .parts import block, built, bush, circle, near, polygon, rectangle, shaft

Place = tuple[float, float, float]


def material(body: Body | None, *places: Place) -> list[bool]:
    """Whether there is material at each place (mm)."""
    assert body is not None
    probe = BRepClass3d_SolidClassifier(body.shape)
    out = []
    for place in places:
        probe.Perform(gp_Pnt(*place), 1e-7)
        out.append(probe.State() == TopAbs_State.TopAbs_IN)
    return out


def at(part: Document, *places: Place) -> list[bool]:
    return material(built(part).built.body, *places)


def polar(x: float, r: float, degrees: float) -> Place:
    """About X: from Z towards Y, as angles count on a shaft."""
    a = math.radians(degrees)
    return (x, r * math.sin(a), r * math.cos(a))


# hand ------------------------------------------------------------------------------------------
@pytest.mark.parametrize(("left", "hand"), [(False, 1), (True, -1)])
def test_a_spring_winds_to_its_hand(left: bool, hand: int) -> None:
    """A right-hand coil about Z goes up while it turns counter-clockwise: after a quarter turn a quarter pitch up."""
    part = ls.step(circle(ls.new_part("spring"), "XZ", 20, 0, 2), "helix", sketch=10, pitch="8", turns="3", left=left)
    for quarter in range(1, 9):
        a, z = hand * quarter * math.pi / 2, 2.0 * quarter
        here = (20 * math.cos(a), 20 * math.sin(a), z)
        there = (20 * math.cos(-a), 20 * math.sin(-a), z)
        assert at(part, here) == [True]
        if quarter % 2:
            assert at(part, there) == [False], "that would be the other hand"


RIGHT, LEFT = ("M18x1.5", 1), ("M18x1.5 LH", -1)


@pytest.mark.parametrize(
    ("designation", "hand", "inside"), some([(*RIGHT, False), (*LEFT, False), (*LEFT, True), (*RIGHT, True)], 2)
)
def test_a_real_thread_winds_to_its_hand(designation: str, hand: int, inside: bool) -> None:
    """Along a line beside the axis the profile repeats every pitch, and moves on by the turn: a right-hand one goes
    along X while it turns counter-clockwise about X.
    """
    if inside:
        part = ls.step(bush(30, 16.376, 12), "thread", face="10/bore.right.1", designation=designation, real=True)
    else:
        part = ls.step(
            shaft((18, 40), (25, 10)), "thread", face="10/sA", designation=designation, length="20", real=True
        )
    body, r, pitch = built(part).built.body, 8.6, 1.5
    from_x, steps = 6.0, 30

    def crest(turn: float) -> float:
        """Phase of the material along X at an angle, 0 to 1, by its first harmonic."""
        total = 0j
        places = [(from_x + pitch * k / steps, -r * math.sin(turn), r * math.cos(turn)) for k in range(steps)]
        for k, inside_it in enumerate(material(body, *places)):
            total += inside_it * complex(math.cos(2 * math.pi * k / steps), math.sin(2 * math.pi * k / steps))
        return math.atan2(total.imag, total.real) / (2 * math.pi)

    # counter-clockwise about X: from Z towards -Y
    moved = (crest(math.pi / 2) - crest(0.0)) % 1.0
    assert moved == pytest.approx(0.25 if hand == 1 else 0.75, abs=0.05)


# ribs, splits, combinations, moves -------------------------------------------------------------
@pytest.mark.parametrize("flip", [False, True])
def test_a_rib_fills_the_side_it_is_told_to(flip: bool) -> None:
    """A sloping line over a floor and before a wall: the rib stands between line and body, half its thickness to
    either side of the sketch.
    """
    part = polygon(ls.new_part("angle"), "XZ", [(0, 0), (60, 0), (60, 10), (10, 10), (10, 60), (0, 60)])
    part = ls.extrude(part, 10, "30", side="both")
    d = ls.Draft()
    ends = ((10, 40), (40, 10))
    d.segment(*(ends if not flip else ends[::-1]))
    rib = ls.step(ls.sketch(part, d, "XZ"), "rib", sketch=30, thickness="6", flip=not flip)
    found = at(rib, (15, 0, 15), (15, 2.9, 15), (15, -2.9, 15), (15, 3.1, 15), (15, -3.1, 15), (35, 0, 35))
    assert found == [True, True, True, False, False, False]


@pytest.mark.parametrize(("keep", "low", "high"), [("front", False, True), ("back", True, False)])
def test_a_split_keeps_the_part_it_is_told_to(keep: str, low: bool, high: bool) -> None:
    """In front is where the plane's normal points: YZ looks along X."""
    part = ls.step(block(), "plane", way="offset", names=("YZ",), distance="25")
    split = ls.step(part, "split", body=20, plane="30/plane", keep=keep)
    assert at(split, (10, 20, 10), (40, 20, 10)) == [low, high]
    assert built(split).volume == near((25 if low else 35) * 40 * 20)


def test_a_split_in_two_gives_the_new_number_to_the_piece_in_front() -> None:
    part = ls.step(block(), "plane", way="offset", names=("YZ",), distance="25")
    bodies = built(ls.step(part, "split", body=20, plane="30/plane")).built.parts.bodies
    assert material(bodies[20], (10, 20, 10), (40, 20, 10)) == [True, False]
    assert material(bodies[40], (10, 20, 10), (40, 20, 10)) == [False, True]


@pytest.mark.parametrize("keep", [False, True])
def test_a_combination_keeps_its_tools_only_when_told(keep: bool) -> None:
    part = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "15", mode="new", side="back")
    cut = ls.step(part, "combine", body=20, others=(40,), mode="cut", keep=keep)
    bodies = built(cut).built.parts.bodies
    assert set(bodies) == ({20, 40} if keep else {20})
    assert material(bodies[20], (30, 20, 10), (30, 20, 2), (10, 10, 10)) == [False, True, True]
    if keep:
        assert material(bodies[40], (30, 20, 10), (30, 20, 2), (10, 10, 10)) == [True, False, False]


def test_a_combination_in_common_is_where_both_are() -> None:
    part = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "30", mode="new", side="back")
    both = ls.step(part, "combine", body=20, others=(40,), mode="common")
    assert at(both, (30, 20, 10), (10, 10, 10), (30, 20, -5)) == [True, False, False]


def test_a_move_shifts_first_and_then_turns_counter_clockwise() -> None:
    """The block's middle (30, 20, 10) is shifted by (10, 0, 5), then turned by 90 degrees about Z: x -> y, y -> -x."""
    part = ls.step(block(), "move", body=20, x="10", z="5", about="Z", angle="90 deg")
    assert at(part, (-20, 40, 15), (-1, 11, 6), (-39, 69, 24), (20, 40, 15), (-20, -40, 15)) == [
        True, True, True, False, False,
    ]  # fmt: skip
    back = ls.step(block(), "move", body=20, about="Z", angle="-30 deg")
    a = math.radians(-30)
    place = (55 * math.cos(a) - 2 * math.sin(a), 55 * math.sin(a) + 2 * math.cos(a), 10.0)
    assert at(back, place, (place[0], -place[1], 10.0)) == [True, False]


def test_a_moved_copy_leaves_the_original_where_it_was() -> None:
    bodies = built(ls.step(block(), "move", body=20, x="100", as_copy=True)).built.parts.bodies
    assert material(bodies[20], (30, 20, 10), (130, 20, 10)) == [True, False]
    assert material(bodies[30], (30, 20, 10), (130, 20, 10)) == [False, True]


# patterns --------------------------------------------------------------------------------------
@pytest.mark.parametrize("follow", [False, True])
def test_copies_along_a_curve_turn_with_it_only_when_told(follow: bool) -> None:
    """Along a quarter circle of radius 40 about (0, 0), from (40, 0) to (0, 40). A slot of 10 x 4 lies along x at the
    start, where the curve runs along y: at the end, turned by 90 degrees with the curve, it lies along y.
    """
    part = block(120, 120, "5")
    part = ls.step(part, "move", body=20, x="-60", y="-60")
    part = ls.extrude(rectangle(part, "XY", (35, -2), (45, 2)), 40, None, mode="cut", side="both")
    d = ls.Draft()
    ls.shapes.three_point_arc(d, (40, 0), (40 / math.sqrt(2), 40 / math.sqrt(2)), (0, 40))
    part = ls.sketch(part, d, "XY")
    layout = {"kind": "curve", "sketch": 60, "count": 3, "follow": follow}
    part = ls.step(part, "pattern", steps=(50,), layout=layout)
    along_x, along_y = (4.0, 40.0, 2.0), (0.0, 44.0, 2.0)
    assert at(part, (44, 0, 2), (40, 4, 2)) == [False, True], "the original lies along x"
    assert at(part, along_x, along_y) == ([True, False] if follow else [False, True])
    c, s = 40 / math.sqrt(2), 3 / math.sqrt(2)
    # half way: turned by 45 degrees its long side is radial
    radial, plain = (c + s, c + s, 2.0), (c + 4, c, 2.0)
    assert at(part, radial) == [not follow], "a slot along x is too narrow there"
    assert at(part, plain) == [follow]


@pytest.mark.parametrize(("angle", "places"), [("360 deg", (0, 90, 180, 270)), ("90 deg", (0, 30, 60, 90))])
def test_copies_about_an_axis_go_counter_clockwise(angle: str, places: tuple[int, ...]) -> None:
    part = ls.step(block(100, 100, "5"), "move", body=20, x="-50", y="-50")
    part = ls.extrude(circle(part, "XY", 30, 0, 4), 40, None, mode="cut", side="both")
    part = ls.step(part, "pattern", steps=(50,), layout={"kind": "ring", "about": "Z", "angle": angle, "count": 4})
    for degrees in range(0, 360, 30):
        a = math.radians(degrees)
        assert at(part, (30 * math.cos(a), 30 * math.sin(a), 2)) == [degrees not in places], degrees


# datums ----------------------------------------------------------------------------------------
def datum(part: Document, name: str):  # type: ignore[no-untyped-def]
    return built(part).built.parts.datums[name]


@pytest.mark.parametrize(("angle", "z"), [("30 deg", 1), ("-30 deg", -1)])
def test_a_plane_at_an_angle_turns_about_its_axis_by_the_right_hand(angle: str, z: int) -> None:
    """XZ looks along -Y; turned about X, y -> z, its normal goes towards -Z for a positive angle."""
    found = datum(ls.step(block(), "plane", way="angle", names=("X", "XZ"), angle=angle), "30/plane")
    a = math.radians(30) * z
    assert found.direction == pytest.approx((0, -math.cos(a), -math.sin(a)), abs=1e-12)
    part = ls.step(block(), "plane", way="angle", names=("X", "XZ"), angle=angle)
    # a boss drawn on it stands off along that normal
    boss = ls.extrude(circle(part, "30/plane", 10, 0, 2), 40, "5", mode="new")
    body = built(boss).built.parts.bodies[50]
    middle = tuple(o + 2.5 * n for o, n in zip((10, 0, 0), found.direction, strict=True))
    assert material(body, middle) == [True]  # type: ignore[arg-type]


@pytest.mark.parametrize("degrees", [0, 90, 200])
def test_a_tangent_plane_lies_where_a_radial_hole_of_that_angle_goes_in(degrees: int) -> None:
    part = ls.step(shaft((40, 60)), "plane", way="tangent", names=("10/sA",), angle=f"{degrees} deg")
    found = datum(part, "20/plane")
    assert found.direction == pytest.approx(polar(0, 1, degrees), abs=1e-12)
    on_it = sum((p - o) * n for p, o, n in zip(polar(30, 20, degrees), found.origin, found.direction, strict=True))
    assert on_it == pytest.approx(0, abs=1e-9)
    holed = ls.hole(shaft((40, 60)), "10/sA", "6", depth="8", places=ls.Radial(at="20", angle=f"{degrees} deg"))
    assert at(holed, polar(20, 16, degrees), polar(20, 16, degrees + 180)) == [False, True]


def test_planes_and_axes_by_points_run_through_them_in_order() -> None:
    part = block()
    for x, y, z in ((10, 5, 3), (30, 5, 3), (10, 25, 13)):
        part = ls.step(part, "point", x=str(x), y=str(y), z=str(z))
    plane = datum(ls.step(part, "plane", way="points", names=("30/point", "40/point", "50/point")), "60/plane")
    # (20, 0, 0) x (0, 20, 10) = (0, -200, 400)
    assert plane.direction == pytest.approx((0, -1 / math.sqrt(5), 2 / math.sqrt(5)))
    assert plane.origin == pytest.approx((10, 5, 3)) and plane.x == pytest.approx((1, 0, 0))
    axis = datum(ls.step(part, "axis", way="points", names=("40/point", "50/point")), "60/axis")
    assert axis.origin == pytest.approx((30, 5, 3))
    assert axis.direction == pytest.approx((-2 / 3, 2 / 3, 1 / 3))
    meet = datum(ls.step(part, "axis", way="planes", names=("20/l1", "20/end")), "60/axis")
    # the face y = 0 and the face z = 20 meet in a line along x
    assert abs(meet.direction[0]) == pytest.approx(1) and meet.origin[1:] == pytest.approx((0, 20))
    corner = datum(ls.step(part, "point", way="meet", names=("Z", "20/end")), "60/point")
    assert corner.origin == pytest.approx((0, 0, 20))


def test_midway_and_offset_planes_lie_on_the_side_they_say() -> None:
    middle = datum(ls.step(block(), "plane", way="midway", names=("20/start", "20/end")), "30/plane")
    assert middle.origin[2] == pytest.approx(10)
    off = datum(ls.step(block(), "plane", way="offset", names=("20/end",), distance="7"), "30/plane")
    assert off.origin[2] == pytest.approx(27) and off.direction == pytest.approx((0, 0, 1))
    below = datum(ls.step(block(), "plane", way="offset", names=("20/start",), distance="7"), "30/plane")
    assert below.origin[2] == pytest.approx(-7), "off the material"


@pytest.mark.parametrize(
    ("flip_x", "flip_z", "low", "high"),
    [(False, False, (-60, -40, -20), (0, 0, 0)), (True, False, (0, 0, -20), (60, 40, 0)),
     (False, True, (-60, 0, 0), (0, 40, 20)), (True, True, (0, -40, 0), (60, 0, 20))],
)  # fmt: skip
def test_the_part_datum_is_flipped_by_hand(flip_x: bool, flip_z: bool, low: Place, high: Place) -> None:
    """Zero at the far upper corner (60, 40, 20), axes along X and Z, each flipped or not; Y by the right hand."""
    part = ls.step(block(), "point", x="60", y="40", z="20")
    part = ls.step(part, "zero", origin="30/point", along_x="X", along_z="Z", flip_x=flip_x, flip_z=flip_z)
    box = built(part).summary["box_mm"]
    assert tuple(box[0]) == pytest.approx(low) and tuple(box[1]) == pytest.approx(high)
    body = in_part_datum(built(part).built.parts)
    assert quick_volume(body.shape) > 0, "turned over it would be inside out"


def test_a_sketch_on_a_face_stands_as_it_is_drawn_there() -> None:
    """On the face x = 60 of the block: named faces at their places, by the surface's own origin."""
    part = ls.hole(block(), "20/end", "6", depth="8", point=None, places=ls.Table(rows=(("10", "5"),)))
    wall = one_surface(built(part).built.body.by_atom["30/h0.wall"])  # type: ignore[union-attr]
    x, y, _z = wall.origin
    # places on a face count from the middle of the part's origin laid into the face
    assert (x, y) == pytest.approx((10, 5)) and abs(wall.direction[2]) == pytest.approx(1)
    assert at(part, (10, 5, 15), (10, 5, 11), (50, 35, 15)) == [False, True, True]
