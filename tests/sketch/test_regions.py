"""Regions and their areas against shapely and closed forms; picks that survive edits; the check of a sketch."""

from __future__ import annotations

import math
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import polygonize, unary_union

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.check import findings
from lathed_solid.sketch.edits import move
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.regions import contains, pick, regions, solid_parts


@pytest.mark.parametrize(("seed", "count"), [(1, 5), (2, 20), (3, 60)])
def test_regions_of_random_lines_match_an_independent_arrangement(seed: int, count: int) -> None:
    rng = random.Random(seed)
    d, lines = SketchBuilder(), []
    for _ in range(count):
        a, b = [(rng.uniform(0, 100), rng.uniform(0, 100)) for _ in range(2)]
        d.segment(a, b)
        lines.append(LineString([a, b]))
    want = sorted(p.area for p in polygonize(unary_union(lines)))
    found = regions(d.done())
    assert sorted(r.area for r in found) == pytest.approx(want)
    for r in found:
        assert contains(r.outer, r.inside)


def test_circles_cut_into_lenses_and_rings() -> None:
    d = SketchBuilder()
    shapes.rectangle(d, (0, 0), (100, 60))
    for x in (30, 70, 78):
        d.circle(d.point(x, 30), 10)
    shapes.slot(d, (20, 50), (60, 50), 4)
    found = regions(d.done())
    lens = 2 * 100 * math.acos(0.4) - 8 / 2 * math.sqrt(400 - 64)
    slot = 40 * 8 + math.pi * 16
    union = Point(70, 30).buffer(10, 4000).union(Point(78, 30).buffer(10, 4000)).area
    areas = sorted(r.area for r in found)
    want = sorted([lens, 100 * math.pi - lens, 100 * math.pi - lens, 100 * math.pi, slot])
    assert areas[:5] == pytest.approx(want, rel=1e-9)
    assert areas[5] == pytest.approx(6000 - slot - 100 * math.pi - union, rel=1e-5)
    assert len(found[[r.area for r in found].index(areas[5])].holes) == 3


def test_nested_loops_alternate() -> None:
    d = SketchBuilder()
    for r in (50, 40, 30, 20, 10):
        d.circle(d.point(0, 0), r)
    found = regions(d.done())
    assert sorted(round(r.area / math.pi) for r in found) == [100, 300, 500, 700, 900]
    assert [len(r.holes) for r in sorted(found, key=lambda r: r.area)] == [0, 1, 1, 1, 1]


def test_ellipse_spline_and_tangent_circles() -> None:
    d = SketchBuilder()
    d.ellipse(d.point(0, 0), d.point(20, 0), 12)
    d.spline([d.point(-30, 0), d.point(0, 5), d.point(30, -5)])
    d.circle(d.point(0, 0), 4)
    d.circle(d.point(2, 0), 2)  # touches the other from inside
    found = regions(d.done())
    assert sum(r.area for r in found) == pytest.approx(math.pi * 240, rel=1e-8)


def test_construction_open_chains_and_bridges_bound_nothing() -> None:
    d = SketchBuilder()
    shapes.rectangle(d, (0, 0), (40, 30))
    shapes.rectangle(d, (10, 10), (20, 20))
    d.segment((0, 5), (-20, 5))  # dangles
    d.segment((10, 15), (0, 15))  # a bridge from the outer to the inner
    d.segment((0, 0), (40, 30), construction=True)
    areas = sorted(r.area for r in regions(d.done()))
    assert areas == pytest.approx([100, 1100])


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.integers(0, 8), st.integers(0, 8)), min_size=3, max_size=8, unique=True))
def test_any_closed_chain_on_a_lattice(corners: list[tuple[int, int]]) -> None:
    """Overlapping, crossing, touching: whatever comes, areas agree with the independent arrangement."""
    d = SketchBuilder()
    shapes.polyline(d, [(float(x), float(y)) for x, y in corners], closed=True)
    ring = [LineString([corners[i], corners[(i + 1) % len(corners)]]) for i in range(len(corners))]
    want = sorted(p.area for p in polygonize(unary_union(ring)))
    assert sorted(r.area for r in regions(d.done())) == pytest.approx(want)


def test_a_pick_survives_edits_and_says_so_when_it_cannot() -> None:
    d = SketchBuilder()
    shapes.rectangle(d, (0, 0), (40, 30))
    circle = d.circle(d.point(20, 15), 5)
    sketch = d.done()
    ring, disc = sorted(regions(sketch), key=lambda r: -r.area)
    assert disc.name == f"{circle}+" and f"{circle}-" in ring.name
    moved = move(sketch, {}, [circle], 8 + 3j)
    assert pick(regions(moved), ring.name).area == pytest.approx(1200 - 25 * math.pi)
    # another hole: the ring has one bound more, and is still meant
    d = SketchBuilder(moved)
    d.circle(d.point(6, 6), 2)
    assert pick(regions(d.done()), ring.name).area == pytest.approx(1200 - 29 * math.pi)
    d.remove(circle)
    with pytest.raises(SketchError, match="no longer there"):
        pick(regions(d.done()), disc.name)


def test_areas_of_a_plate_against_a_fine_polygon() -> None:
    d = SketchBuilder()
    shapes.arc_slot(d, (0, 0), (30, 0), 1.5, 4)
    (region,) = regions(d.done())
    assert region.area == pytest.approx(30 * 1.5 * 8 + math.pi * 16, rel=1e-9)
    ring = [complex(p.curve.at(p.t0 + (p.t1 - p.t0) * k / 400)) for p in region.outer for k in range(400)]
    assert Polygon([(z.real, z.imag) for z in ring]).area == pytest.approx(region.area, rel=1e-5)


def test_the_check_names_every_kind_of_flaw() -> None:
    d = SketchBuilder()
    a = d.segment((0, 0), (40, 0))
    b = d.segment((40.03, 0), (40.03, 30))
    crossing = d.segment((20, -5), (20, 5))
    double = d.segment((40, 0), (0, 0))
    overlap = d.segment((-10, 0), (30, 0))
    nothing = d.segment((5, 5), (5, 5))
    found = findings(d.done())
    kinds = {f.kind: f for f in found}
    assert set(kinds) == {"open end", "crossing", "double", "overlap", "no length"}
    assert min(f.gap for f in found if f.kind == "open end" and f.entities == (b,)) == pytest.approx(0.03)
    assert kinds["no length"].entities == (nothing,)
    assert {f.entities for f in found if f.kind == "double"} == {(a, double)}
    assert (a, overlap) in {f.entities for f in found if f.kind == "overlap"}
    assert (a, crossing) in {f.entities for f in found if f.kind == "crossing"}
    assert all(f.words for f in found)


def test_a_clean_outline_has_no_findings() -> None:
    d = SketchBuilder()
    shapes.slot(d, (0, 0), (30, 5), 4)
    shapes.polygon(d, (80, 0), (90, 0), 6)
    assert findings(d.done()) == ()


@settings(max_examples=60, deadline=None)
@given(st.floats(12, 60), st.floats(-1, 1), st.integers(0, 3), st.floats(1e-13, 3e-10))
def test_a_hole_level_with_the_joints_of_its_outline_stays_a_hole(
    high: float, lean: float, corner: int, noise: float
) -> None:
    """A rounded column: the bore's start is level with the joints of walls and round, which meet within noise only."""
    d, r = SketchBuilder(), 25.4
    up = high + noise * lean
    right = d.segment((r, 0.0), (r, up))
    left = d.segment((-r, high - noise * lean), (-r, 0.0))
    d.segment((-r, 0.0), (r, 0.0))
    centre = d.point(0.0, high)
    d.arc(centre, d.point(r, high - noise), d.point(-r, high + noise * (corner - 1)))
    d.circle(d.point(0.0, high), 10.0)
    del right, left
    found = regions(d.done())
    whole = next(g for g in found if len(g.bounds) > 1)
    assert len(found) == 2 and len(whole.holes) == 1
    assert math.isclose(whole.area, 2 * r * high + math.pi / 2 * r * r - math.pi * 100, rel_tol=1e-9)
    assert solid_parts(found) == (whole,)
