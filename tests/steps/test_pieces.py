"""A part may stand in several pieces while it grows; what must be one is asked at the end."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import EdgePick, edits
from lathed_solid.part.steps import Table
from lathed_solid.workbench.tables.route_rows import route_rows

from .parts import built, near, rectangle, volume


def rings() -> ls.Document:
    """Two rings 60 apart, as one extrusion of two regions: Ø30 and Ø20 about Ø10, 12 thick."""
    d = ls.Draft()
    for x, r in ((0, 15), (60, 10)):
        d.circle(d.point(x, 0), r)
        d.circle(d.point(x, 0), 5)
    return ls.extrude(ls.sketch(ls.new_part("link"), d), 10, "12")


RINGS = math.pi * (225 + 100 - 50) * 12


def test_two_regions_at_once_and_the_arm_that_joins_them_later() -> None:
    part = rings()
    solid = built(part)
    assert solid.volume == near(RINGS) and solid.summary["solids"] == 2
    assert route_rows(part, solid.built.steps)[-1].message == "stands in 2 pieces so far"
    arm = ls.extrude(rectangle(part, "XY", (14, -4), (51, 4)), 30, "12")
    one = built(arm)
    assert one.summary["solids"] == 1 and one.built.steps[-1].pieces == 1
    edge = lambda r: r * r * math.asin(4 / r) + 4 * math.sqrt(r * r - 16)  # noqa: E731 - half chord 4: the disc's strip
    assert one.volume == near(RINGS + 12 * (8 * 60 - edge(15) - edge(10)))


def test_a_hole_and_a_round_work_on_what_stands_in_pieces() -> None:
    part = ls.hole(rings(), "20/end", "3", places=Table(rows=(("10", "0"),)))
    assert volume(part) == near(RINGS - math.pi * 2.25 * 12)
    bevelled = ls.step(rings(), "chamfer", pick=EdgePick(edges=("20/c1|20/end",)), leg="1")
    assert volume(bevelled) == near(RINGS - math.pi * (15 - 1 / 3))


def test_a_cut_may_part_it_and_a_cut_around_a_ring_leaves_the_ring() -> None:
    block = ls.extrude(rectangle(ls.new_part("block"), "XY", (-40, -20), (40, 20)), 10, "20")
    parted = ls.extrude(rectangle(block, "20/end", (-5, -30), (5, 30)), 30, None, mode="cut", side="both")
    assert volume(parted) == near(70 * 40 * 20) and built(parted).summary["solids"] == 2
    d = ls.Draft()
    d.circle(d.point(0, 0), 15)
    d.circle(d.point(0, 0), 5)
    ring = ls.extrude(ls.sketch(block, d, "20/end"), 30, "8", mode="cut", side="into", outside=True)
    assert volume(ring) == near(80 * 40 * 12 + math.pi * 200 * 8)


def test_both_sides_of_a_split_may_be_several() -> None:
    u = ls.extrude(rectangle(ls.new_part("fork"), "XY", (0, 0), (60, 40)), 10, "10")
    u = ls.extrude(rectangle(u, "20/end", (20, 10), (40, 50)), 30, None, mode="cut", side="both")
    half = ls.step(u, "plane", way="offset", names=("XZ",), distance="-20")
    split = ls.step(half, "split", body=20, plane="50", keep="both")
    bodies = built(split).built.parts.bodies
    assert sorted((b.pieces, round(b.size, 6)) for b in bodies.values()) == [(1, 10000.0), (2, 8000.0)]


@pytest.mark.parametrize("meant", [False, True])
def test_what_must_be_one_piece_is_asked_by_the_proof(meant: bool) -> None:
    part = edits.set_in_pieces(rings(), 20, meant)
    report = ls.prove(part)
    assert [(s.body, s.pieces, s.meant) for s in report.standing] == [(20, 2, meant)]
    assert report.ok is meant and bool(report.asunder) is not meant
    moved = edits.renumber_all(part, [part.steps[0].model_copy(update={"number": 5}), *part.steps[1:]])
    assert moved.in_pieces == ((20,) if meant else ())
    assert ls.prove(edits.set_in_pieces(part, 20, not meant)).ok is not meant
