"""Sizes by hand against closed forms, sections, the volume by a mesh; and measuring against construction at random."""

from __future__ import annotations

import math
import random

import pytest
import slips_sweep

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.masses import inertia_about, mass_figures
from lathed_solid.engine.prove import look_of, prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.engine.relations import relations
from lathed_solid.kernel.by_hand import axis_of, by_hand
from lathed_solid.kernel.errors import MeasureError
from lathed_solid.kernel.figures import Thing
from lathed_solid.kernel.kept import Kept
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.section import mesh_volume, section_figures
from lathed_solid.part import Document

IN = 25.4


@pytest.fixture(scope="module")
def pedestal() -> Body:
    body = Engine().build(DEMOS["pedestal"]()).body
    assert body is not None
    return body


def sizes(body: Body, *things: Thing) -> dict[str, float]:
    return {h.label: h.value for h in by_hand(body, things)}


def face(name: str, *point: float) -> Thing:
    x, y, z = point or (0.0, 0.0, 0.0)
    return Thing("face", name, (x, y, z))


def test_one_face_and_two_faces(pedestal: Body) -> None:
    bore = sizes(pedestal, face("40/c1", 0, 0, (3.0 + 0.625) * IN))
    assert bore["diameter"] == pytest.approx(1.25 * IN) and bore["length along its axis"] == pytest.approx(1.5 * IN)
    assert bore["area"] == pytest.approx(math.pi * 1.25 * 1.5 * IN**2)
    assert bore["wall thickness here"] == pytest.approx((1.0 - 0.625) * IN)
    plate = sizes(pedestal, face("20/end", 0, 45, 0.75 * IN))
    assert plate["wall thickness here"] == pytest.approx(0.75 * IN)
    two = by_hand(pedestal, [face("20/start"), face("40/c1", 0, 0, 3 * IN)])
    told = {h.label: h for h in two}
    assert told["axis to face"].value == pytest.approx(3.0 * IN) and told["axis to face"].kind == "position"
    assert told["least distance"].value == pytest.approx((3.0 - 0.625) * IN)
    assert told["least distance"].kind == "gap"
    assert told["between the picked points"].value == pytest.approx(3 * IN)
    flats = sizes(pedestal, face("20/start"), face("20/end"))
    assert flats["distance"] == pytest.approx(0.75 * IN)
    square = sizes(pedestal, face("20/start"), face("40/l2"))
    assert square["angle"] == pytest.approx(math.pi / 2)
    holes = sizes(pedestal, face("20/c1"), face("20/c2"))
    assert holes["axis to axis"] == pytest.approx(4.75 * IN, abs=1e-9)
    with pytest.raises(MeasureError, match="is not on the solid"):
        by_hand(pedestal, [face("99/nothing")])
    assert by_hand(pedestal, []) == ()


def test_edges(pedestal: Body) -> None:
    rim = sizes(pedestal, Thing("edge", "40/c1|40/start", (0, 0, 0)))
    assert rim["diameter"] == pytest.approx(1.25 * IN) and rim["arc length"] == pytest.approx(math.pi * 1.25 * IN)
    assert "arc angle" not in rim
    rims = sizes(pedestal, Thing("edge", "40/c1|40/start", (0, 0, 0)), Thing("edge", "40/c1|40/end", (0, 5, 0)))
    assert rims["centre to centre"] == pytest.approx(1.5 * IN) and rims["picked points, along y"] == 5
    corner = sizes(pedestal, Thing("edge", "40/a1|40/start", (0, 0, 0)))
    assert corner["arc angle"] == pytest.approx(math.pi) and corner["radius"] == pytest.approx(IN)


def test_sections_and_the_volume_by_a_mesh() -> None:
    spindle = DEMOS["winch-spindle"]()
    built = Engine().build(spindle)
    assert built.body is not None
    seat = section_figures(built.body.shape, "x", 40.0)
    assert seat is not None and seat.area == pytest.approx(math.pi / 4 * 25**2)
    assert seat.principal == pytest.approx((math.pi / 64 * 25**4,) * 2) and seat.centre[0] == pytest.approx(40)
    assert section_figures(built.body.shape, "x", -5.0) is None
    exact = ls.build(spindle).volume
    volume, error = mesh_volume(built.body.shape)
    assert abs(volume - exact) < 3 * error < 0.01 * exact
    # flat faces only: the mesh is the solid
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (30, 20))
    block = Engine().build(ls.extrude(ls.sketch(ls.new_part("block"), d), 10, "12")).body
    assert block is not None and mesh_volume(block.shape) == pytest.approx((7200.0, 0.0), abs=1e-8)
    beam = section_figures(block.shape, "z", 6.0)
    assert beam is not None and beam.low == pytest.approx((0, 0, 6), abs=1e-5)
    assert beam.high == pytest.approx((30, 20, 6), abs=1e-5)
    assert beam.principal == pytest.approx((30 * 20**3 / 12, 20 * 30**3 / 12))


def test_inertia_about_any_axis() -> None:
    """Of a rod about its own axis, about an edge's line beside it, by the closed forms."""
    part = ls.turned(ls.new_part("rod", material="oak 0.70 g/cm3"), [ls.Station(key="A", diameter="20", length="50")])
    engine = Engine()
    built = engine.build(part)
    assert built.body is not None
    figures = mass_figures(part, engine.body_properties(built))
    m, r, h = figures["mass_g"], 10.0, 50.0
    own = axis_of(built.body, face("10/sA"))
    assert own is not None and inertia_about(figures, *own) == pytest.approx(m * r * r / 2)
    assert inertia_about(figures, (0, 0, 0), (0, 1, 0)) == pytest.approx(m * (r * r / 4 + h * h / 3))
    assert inertia_about(figures, (7, 30, 0), (1, 0, 0)) == pytest.approx(m * (r * r / 2 + 900))
    assert axis_of(built.body, face("10/face.left")) is None


def worst(parts: int, seed: int) -> tuple[float, int, int]:
    """(largest deviation of a measured size from its construction, mm; sizes measured; parts) of random parts."""
    engine, off, count, made, k = Engine(), 0.0, 0, 0, seed
    while made < parts:
        r = random.Random(k)
        part = r.choice([slips_sweep.turned, slips_sweep.milled])(r)
        k += 1
        built = engine.build(part)
        if not built.ok:
            continue
        made += 1
        for row in prove(engine, part, built).rows:
            if row.measured is not None:
                off, count = max(off, abs(row.measured - row.nominal)), count + 1
    return off, count, made


def test_measured_sizes_are_those_of_construction() -> None:
    off, count, made = worst(30, 5000)
    assert made == 30 and count > 200 and off < 1e-9, off


def test_a_face_that_a_later_step_took_away_is_told_with_that_step() -> None:
    """A shaft's end bored away by a hole wider than it."""
    part = ls.note(ls.note(ls.new_part("pin"), "Ø30", 1), "Ø10", 2)
    part = ls.turned(
        part, [ls.Station(key="A", diameter="#1", length="20"), ls.Station(key="B", diameter="#2", length="6")]
    )
    part = ls.hole(part, "10/sA", "4", places=ls.Radial(at="5"))
    row = ls.prove(part).row(2)
    assert row is not None and row.verdict == "in"
    bored = ls.hole(part, "10/face.right", "12", depth="6", point=None)
    told = ls.prove(bored).row(2)
    assert told is not None and told.verdict == "not found"
    assert told.reason.endswith("step 30 (Hole, blind) took it away")


def plate(*, off: float = 0.0, related: bool = True) -> Document:
    """A plate with two holes alike about a middle line, a rounded pocket side; ``off`` moves one hole and side."""
    d = ls.Draft()
    sides = ls.shapes.polyline(d, [(-30, -20), (30, -20), (30 + off, 20), (-30, 20)], closed=True)
    middle = d.line(d.point(0, -30), d.point(0, 30), construction=True)
    left, right = d.circle(d.point(-15, 0), 5.0), d.circle(d.point(15 + off, 0), 5.0 + off)
    ring = d.circle(d.point(-15, 0), 8.0, construction=True)
    del ring
    if related:
        e = d.entities
        d.add("parallel", sides[0], sides[2])
        d.add("perpendicular", sides[0], sides[1])
        d.add("equal", left, right)
        d.add("symmetric", e[left].centre, e[right].centre, middle)  # type: ignore[union-attr]
    return ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "8")


def test_relations_as_modelled_are_looked_for_on_the_solid() -> None:
    part = plate()
    report = ls.prove(part)
    assert sorted(r.kind for r in report.relations) == ["equal radius", "parallel", "square", "symmetric"]
    assert report.ok and all(r.holds for r in report.relations)
    assert report.as_json()["relations"][0]["holds"] is True
    # the same relations on a solid that is not so: a hole 0.1 off and larger, a side that leans
    engine = Engine()
    leaning = engine.build(plate(off=0.1, related=False))
    look = look_of(part, leaning)
    assert look is not None
    found = {r.kind: r for r in relations(part, Kept(), look)}
    assert found["symmetric"].deviation == pytest.approx(0.1) and found["equal radius"].deviation == pytest.approx(0.1)
    assert found["square"].deviation == pytest.approx(math.atan(0.1 / 40)) and found["parallel"].holds
    assert not found["symmetric"].holds and ls.prove(ls.new_part("nothing")).relations == ()
    # a face that a later step took away is not looked for
    holed = ls.hole(part, "20/end", "12", places=ls.OnCircle(x="15", y="0"))
    assert sorted(r.kind for r in ls.prove(holed).relations) == ["parallel", "square"]
