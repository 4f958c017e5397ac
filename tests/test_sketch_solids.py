"""Solids from sketches: closed forms, names that hold through edits, refusals, proof by the made faces."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.part import edits
from lathed_solid.part.steps import ExtrudeStep
from lathed_solid.sketch.regions import regions


def plate(draw, distance: str = "10", **values):
    d = ls.Draft()
    draw(d)
    return ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, distance, **values)


def test_a_plate_with_a_slot_and_holes_against_the_closed_form() -> None:
    def draw(d: ls.Draft) -> None:
        ls.shapes.rectangle(d, (0, 0), (100, 60))
        ls.shapes.slot(d, (20, 45), (60, 45), 5)
        for x in (20, 50, 80):
            d.circle(d.point(x, 20), 6)

    solid = ls.build(plate(draw))
    assert solid.ok, solid.messages
    area = 6000 - (40 * 10 + math.pi * 25) - 3 * math.pi * 36
    assert solid.volume == pytest.approx(10 * area, rel=1e-9)
    assert {"20/c1", "20/a1", "20/start", "20/end"} <= set(solid.built.body.labels)


def test_ellipse_and_spline_outlines_are_exact() -> None:
    def draw(d: ls.Draft) -> None:
        d.ellipse(d.point(0, 0), d.point(30, 10), 14)
        d.spline([d.point(-60, 0), d.point(0, 3), d.point(60, -4)])

    part = plate(draw)
    solid = ls.build(part)
    assert solid.ok, solid.messages
    assert solid.volume == pytest.approx(10 * math.pi * math.hypot(30, 10) * 14, rel=1e-7)


def test_one_region_of_two_and_both_sides() -> None:
    d = ls.Draft()
    d.circle(d.point(0, 0), 10)
    d.circle(d.point(8, 0), 10)
    lens = 2 * 100 * math.acos(0.4) - 4 * math.sqrt(400 - 64)
    name = next(r.name for r in regions(d.done()) if r.area == pytest.approx(lens))
    part = ls.sketch(ls.new_part("lens"), d)
    one = ls.build(ls.extrude(part, 10, "6", regions=(name,), side="both"))
    assert one.volume == pytest.approx(6 * lens, rel=1e-9)
    low, high = one.summary["box_mm"]
    assert (low[2], high[2]) == (pytest.approx(-3), pytest.approx(3))
    union = ls.build(ls.extrude(part, 10, "6"))
    assert union.volume == pytest.approx(6 * (200 * math.pi - lens), rel=1e-9)


@pytest.mark.parametrize("angle", ["360 deg", "90 deg", "200 deg"])
def test_a_ring_by_revolving_against_pappus(angle: str) -> None:
    d = ls.Draft()
    d.circle(d.point(30, 5), 4)
    axis = d.segment((0, 0), (0, 10), construction=True)
    part = ls.revolve(ls.sketch(ls.new_part("ring"), d, "XZ"), 10, axis, angle=angle)
    solid = ls.build(part)
    assert solid.ok, solid.messages
    turn = math.radians(float(angle.split()[0]))
    assert solid.volume == pytest.approx(30 * turn * math.pi * 16, rel=1e-9)


def test_a_half_section_in_diameters_is_proven_on_the_cylinder() -> None:
    d = ls.Draft()
    corners = ls.shapes.polyline(d, [(0, 0), (40, 0), (40, 12), (0, 12)], closed=True)
    d.add("fixed", d.entities[corners[0]].points[0])
    for line, way in zip(corners, ("horizontal", "vertical") * 2, strict=True):
        d.add(way, line)
    part = ls.note(ls.note(ls.new_part("roller"), "Ø24", 1), "40", 2)
    d.add("across_axis", corners[0], corners[2], value="#1")
    d.add("distance", corners[0], value="#2")
    part = ls.revolve(ls.sketch(part, d, "XZ"), 10, corners[0])
    report = ls.prove(part)
    assert [(r.verdict, round(r.measured, 9)) for r in report.rows] == [("in", 24), ("in", 40)]


def test_a_sketch_on_a_face_follows_it_and_cuts_through() -> None:
    part = ls.note(ls.new_part("block"), "25", 1)
    base = ls.Draft()
    ls.shapes.rectangle(base, (0, 0), (60, 40))
    part = ls.extrude(ls.sketch(part, base), 10, "#1")
    pocket = ls.Draft()
    pocket.circle(pocket.point(30, 20), 8)
    part = ls.sketch(part, pocket, "20/end")
    through = ls.extrude(part, 30, None, side="back", mode="cut")
    assert ls.build(through).volume == pytest.approx(25 * (2400 - 64 * math.pi), rel=1e-9)
    blind = ls.extrude(part, 30, "5", side="back", mode="cut")
    for height in (25.0, 31.0):
        taller = ls.change_callout(blind, 1, nominal=height)
        assert ls.build(taller).volume == pytest.approx(height * 2400 - 5 * 64 * math.pi, rel=1e-9)
    boss = ls.extrude(part, 30, "7")
    solid = ls.build(boss)
    assert solid.volume == pytest.approx(60000 + 7 * 64 * math.pi, rel=1e-9)
    moved = edits.move_step(boss, 40, 3)
    assert ls.build(moved).ok
    with pytest.raises(edits.DocumentError, match="cannot come before"):
        edits.move_step(boss, 40, 0)
    with pytest.raises(edits.DocumentError, match="carries step"):
        edits.drop_step(boss, 20)


def test_two_regions_that_share_an_edge_make_one_smooth_block() -> None:
    def draw(d: ls.Draft) -> None:
        ls.shapes.rectangle(d, (0, 0), (60, 40))
        d.segment((25, 0), (25, 40))

    solid = ls.build(plate(draw))
    assert solid.ok and solid.volume == pytest.approx(24000, rel=1e-9)
    assert len(solid.built.body.labels) == 6


@pytest.mark.parametrize(
    ("make", "words"),
    [
        (lambda p: ls.extrude(p, 10, "5", mode="cut"), "no body to cut"),
        (lambda p: ls.extrude(p, 10, "0"), "above zero"),
        (lambda p: ls.extrude(p, 10, None), "needs a distance"),
        (lambda p: ls.extrude(p, 99, "5"), "no sketch at step 99"),
        (lambda p: ls.extrude(p, 10, "5", regions=("c7+",)), "no longer there"),
        (lambda p: ls.revolve(p, 10, "c1"), "no line"),
        (lambda p: ls.revolve(p, 10, "l1"), "both sides"),
        (lambda p: ls.sketch(p, ls.Draft(), "10/nothing"), ""),
    ],
)
def test_impossible_steps_say_why_and_leave_the_rest(make, words: str) -> None:
    d = ls.Draft()
    d.circle(d.point(0, 0), 10)
    d.segment((0, -20), (0, 20), construction=True)
    solid = ls.build(make(ls.sketch(ls.new_part("x"), d)))
    text = " ".join(solid.messages)
    assert words in text and (not words or not solid.ok)


def test_a_fighting_sketch_is_told_in_the_route() -> None:
    d = ls.Draft()
    side = ls.shapes.rectangle(d, (0, 0), (30, 20))[0]
    d.add("distance", side, value="30")
    d.add("across_x", side, value="31")
    solid = ls.build(ls.extrude(ls.sketch(ls.new_part("x"), d), 10, "5"))
    assert "disagree by 1" in solid.messages[0]


def test_the_pedestal_proves_every_callout() -> None:
    part = DEMOS["pedestal"]()
    begun = part.model_copy(update={"steps": part.steps[:6]})  # without its details
    solid = ls.build(begun)
    inch = 25.4**3
    plate_area = 24 - (4 - math.pi) * 0.25 - 4 * math.pi * 0.2655**2
    column = 2 * 2.25 + math.pi / 2 - math.pi * 0.625**2
    want = inch * (0.75 * plate_area + 1.5 * column - 0.375 * 0.25 * 4)
    assert solid.volume == pytest.approx(want, rel=1e-9)
    assert {r.verdict for r in ls.prove(part).rows} == {"in"}
    wider = ls.change_callout(part, 1, nominal=6.5 * 25.4)
    assert {r.verdict for r in ls.prove(wider).rows} == {"in"}
    off = edits.put_step(part, edits.changed(part.step(40), distance="#8 + 0.05"))
    assert isinstance(off.step(40), ExtrudeStep)
    assert [r.balloon for r in ls.prove(off).rows if r.verdict == "out"] == []
    assert ls.build(off).volume > ls.build(part).volume
