"""The sketch solver: promises on random sketches, derivatives, branches, dragging, and what bad values get."""

from __future__ import annotations

import math

import numpy as np
import pytest
from effort import some
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.alternatives import alternatives
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.diagnosis import freedoms, redundancies
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.examine import examine
from lathed_solid.sketch.measure import measured
from lathed_solid.sketch.solve import Drag, moved, solve, solve_system, unknowns
from lathed_solid.sketch.system import System
from sketch.figures import chain, chain_of, grid, tangent_row
from sketch.sweep import check, svd_freedoms


@pytest.mark.parametrize("first", some(range(0, 120, 10), 4))
def test_random_sketches_keep_every_promise(first: int) -> None:
    failures = {seed: wrong for seed in range(first, first + 10) if (wrong := check(seed))}
    assert not failures


def every_kind() -> tuple[SketchBuilder, dict[str, float]]:
    """A figure (not meant to be consistent) that uses every kind of residual."""
    d = SketchBuilder()
    a, b, c = d.segment((0, 0), (30, 4)), d.segment((5, 20), (33, 27)), d.segment((-5, 3), (2, 40))
    k1, k2 = d.circle(d.point(60, 10), 7), d.circle(d.point(66, 14), 15)
    arc = d.arc(d.point(0, 50), d.point(9, 50), d.point(-1, 59))
    arc2 = d.arc(d.point(40, 50), d.point(49, 51), d.point(40, 61))
    oval = d.ellipse(d.point(90, 0), d.point(110, 5), 12)
    p, q, m = d.point(12, 9), d.point(70, 40), d.point(101, 9)
    values = {}
    for kind, *of in (
        ("on", p, a), ("on", p, k1), ("on", m, oval), ("midpoint", q, b), ("horizontal", a), ("vertical", p, q),
        ("parallel", a, b), ("perpendicular", a, c), ("collinear", a, b), ("tangent", a, k1), ("tangent", k1, k2),
        ("tangent", a, oval), ("tangent", arc, arc2), ("concentric", k1, k2), ("equal", a, b), ("equal", k1, arc),
        ("symmetric", p, q, c), ("symmetric", a, b, c), ("symmetric", k1, k2, c), ("symmetric", arc, arc2, c),
        ("coincident", p, q), ("fixed", p),
    ):  # fmt: skip
        d.add(kind, *of)
    for kind, *of in (
        ("offset", a, b), ("offset", k1, k2), ("distance", p, q), ("distance", a), ("distance", a, p),
        ("distance", a, b), ("across_x", p, q), ("across_y", a), ("near", p, k1), ("far", p, k1), ("near", a, k1),
        ("far", a, k1), ("near", k1, k2), ("far", arc, k2), ("radius", arc), ("diameter", k1), ("across_axis", a, p),
        ("across_axis", a, b), ("angle", a, c), ("arc_length", arc),
    ):  # fmt: skip
        values[d.add(kind, *of, value="1")] = 3.0
    return d, values


@pytest.mark.parametrize("level", [0, 1, 2])
def test_derivatives_match_differences_for_every_kind(level: int) -> None:
    d, values = every_kind()
    system = System(d.done(), level=level, without=() if level < 2 else [k for k, c in d.constraints.items()
                    if c.kind in ("coincident", "concentric", "horizontal", "vertical", "fixed")])  # fmt: skip
    system.set_values(values)
    y = system.reduce(system.x0) + np.random.default_rng(level).normal(size=system.n) * 0.3
    system.set_weights(y)
    _, data = system.evaluate(y)
    given_ = system.jacobian(data).toarray()
    h = 1e-6
    steps = np.eye(system.n) * h
    differences = np.array([(system.evaluate(y + s)[0] - system.evaluate(y - s)[0]) / (2 * h) for s in steps]).T
    assert np.abs(given_ - differences).max() < 2e-6


def test_every_dimension_measures_what_it_drives() -> None:
    for kind, of, want in (
        ("distance", ("p1", "p2"), 5.0), ("across_x", ("p1", "p2"), 3.0), ("across_y", ("p2", "p1"), 4.0),
        ("distance", ("l1", "p5"), 2.0), ("near", ("p1", "c1"), 7.0), ("far", ("p1", "c1"), 13.0),
        ("near", ("l1", "c1"), 7.0), ("diameter", ("c1",), 6.0), ("across_axis", ("l1", "p5"), 4.0),
        ("angle", ("l1", "l2"), math.pi / 2), ("radius", ("c1",), 3.0),
    ):  # fmt: skip
        d = SketchBuilder()
        p1, p2 = d.point(0, 0), d.point(3, 4)
        line = d.line(p1, d.point(20, 0))
        d.line(p1, d.point(0, 9))
        d.point(7, 2)
        d.circle(d.point(0, 10), 3)
        assert (p2, line) == ("p2", "l1")
        c = d.constraints[d.add(kind, *of, value="1")]
        assert measured(d.done(), c) == pytest.approx(want), kind


def test_an_edit_of_a_value_stays_on_its_branch() -> None:
    kept = tried = 0
    for seed in range(60):
        figure = chain(1 + seed % 5, seed, seed)
        sketch = figure.draft.done()
        # the true figure of the same topology with other sizes, by construction
        other = chain(1 + seed % 5, seed, seed + 1)
        sides = [[c.side for c in f.draft.constraints.values()] for f in (figure, other)]
        if sides[0] != sides[1]:
            continue  # the other sizes make a figure on another branch
        tried += 1
        solution = solve(sketch, dict(zip(figure.values, other.values.values(), strict=True)))
        want = np.array(System(other.draft.done()).x0)
        kept += solution.ok and bool(np.abs(solution.x - want).max() < 1e-6 * np.ptp(want))
    assert tried >= 40 and kept == tried


def test_dragging_keeps_the_constraints_and_follows_the_pointer() -> None:
    figure = chain(4, 2, 2)
    angle = next(k for k in figure.values if figure.draft.constraints[k].kind == "angle")
    del figure.draft.constraints[angle], figure.values[angle]
    sketch = figure.draft.done()
    free = freedoms(sketch, figure.values, np.array(System(sketch).x0))
    point = next(p.id for p in reversed(sketch.points) if p.id in free.loose)
    drag = Drag(sketch, figure.values, (point,))
    i = drag.system.layout.point[point]
    start = drag.system.x0[i : i + 2]
    moves = free.movements[0].x[i : i + 2]
    for k in range(1, 30):
        x = drag.to(*(moves / np.linalg.norm(moves) * 0.05 * k))
    assert np.abs(drag.system.evaluate(drag.y)[0]).max() < 1e-8 * drag.system.size
    assert np.linalg.norm(x[i : i + 2] - start) > 0.3


def test_a_contradiction_is_named_with_its_ways_out() -> None:
    d = SketchBuilder()
    line = d.segment((0, 0), (24, 0))
    p, q = d.point(10, 0), d.point(14, 0)
    ends = d.entities[line].points
    for n in (p, q):
        d.add("on", n, line)
    d.add("horizontal", line)
    d.add("fixed", ends[0])
    values = {
        d.add("across_x", *ends, value="24"): 24.0,
        d.add("across_x", ends[0], p, value="10"): 10.0,
        d.add("across_x", p, q, value="4"): 4.0,
        d.add("across_x", q, ends[1], value="9.5"): 9.5,
    }
    seen = examine(d.done(), values, label=lambda c: c.value)
    assert seen.state == "fighting"
    assert set(seen.fights[0].constraints) == set(values)
    assert seen.messages == ("24 and the chain 10 + 4 + 9.5 fix the same gap and disagree by 0.5",)
    ways = {w.constraint: w.value for w in seen.fights[0].ways}
    assert [ways[k] for k in values] == pytest.approx([23.5, 10.5, 4.5, 10.0])
    way = seen.fights[0].ways[0]
    assert moved(d.done(), way.x).at(ends[1]) == pytest.approx((23.5, 0))


def test_two_contradictions_at_once_are_two_fights() -> None:
    d = SketchBuilder()
    values = {}
    for y in (0, 50):
        side = shapes.rectangle(d, (0, y), (30, y + 20))[0]
        d.add("fixed", d.entities[side].points[0])
        values[d.add("distance", side, value="30")] = 30.0
        values[d.add("across_x", side, value="31")] = 31.0
    seen = examine(d.done(), values)
    assert sorted(len(f.constraints) for f in seen.fights) == [2, 2]


def test_saying_it_twice_is_redundant_not_fighting() -> None:
    d = SketchBuilder()
    sides = shapes.rectangle(d, (0, 0), (30, 20))
    values = {d.add("distance", sides[0], value="30"): 30.0}
    again = d.add("distance", sides[2], value="30")
    parallel = d.add("parallel", sides[0], sides[2])
    values[again] = 30.0
    seen = examine(d.done(), values)
    assert seen.state == "loose"
    assert {r.constraint for r in seen.redundancies} == {again, parallel}
    assert seen.freedoms.count == 3
    assert any("says again" in m for m in seen.messages)


def test_loose_ends_are_told_as_movements() -> None:
    d = SketchBuilder()
    shapes.slot(d, (0, 0), (30, 5), 4)
    seen = examine(d.done(), {})
    assert seen.state == "loose" and seen.freedoms.count == 5
    words = [m.words for m in seen.freedoms.movements]
    assert words[0].endswith("can shift in x") and words[1].endswith("can shift in y") and "turn about" in words[2]


@pytest.mark.parametrize(
    ("make", "count"),
    [
        (lambda d: shapes.rectangle(d, (0, 0), (30, 20)), 4),
        (lambda d: shapes.centre_rectangle(d, (0, 0), (30, 20)), 4),
        (lambda d: shapes.tilted_rectangle(d, (0, 0), (30, 20), (0, 30)), 5),
        (lambda d: shapes.polygon(d, (0, 0), (10, 3), 6), 4),
        (lambda d: shapes.polygon(d, (0, 0), (10, 3), 7, across_flats=True), 4),
        (lambda d: shapes.slot(d, (0, 0), (30, 5), 4), 5),
        (lambda d: shapes.arc_slot(d, (0, 0), (30, 5), 1.2, 4), 6),
        (lambda d: shapes.three_point_arc(d, (0, 0), (5, 2), (10, 0)), 5),
    ],
)
def test_compound_shapes_have_their_true_freedoms_and_nothing_twice(make, count: int) -> None:
    d = SketchBuilder()
    make(d)
    seen = examine(d.done(), {})
    assert seen.freedoms.count == count and not seen.redundancies
    assert np.abs(np.array(seen.solution.x) - System(d.done()).x0).max() < 1e-6


def test_across_flats_measures_the_inner_circle() -> None:
    d = SketchBuilder()
    *_, outer, inner = shapes.polygon(d, (0, 0), (9.5, 0), 6, across_flats=True)
    k = d.add("diameter", inner, value="19")
    seen = examine(d.done(), {k: 19.0})
    assert seen.sketch.by_id[outer].radius * math.sqrt(3) == pytest.approx(19)


def test_all_shapes_of_a_bar_chain_are_found() -> None:
    d = SketchBuilder()
    base = d.segment((0, 0), (20, 0))
    for p in d.entities[base].points:
        d.add("fixed", p)
    values, (a, b) = {}, d.entities[base].points
    for k in range(2):  # a triangle on the base, another on one of its sides
        apex = d.point(12 + 9 * k, 9 + 4 * k)
        for p, r in ((a, 15.0), (b, 14.0)):
            line = d.line(p, apex)
            values[d.add("distance", line, value="1")] = r
        a = apex
    first = examine(d.done(), values)
    found = alternatives(first.sketch, values)
    assert len(found) == 3  # four shapes in all
    for other in found:
        again = examine(other.sketch, values)
        assert again.ok and np.abs(again.solution.x - other.x).max() < 1e-6


def test_a_tangent_arc_offers_its_other_side() -> None:
    d = SketchBuilder()
    line = d.segment((0, 0), (40, 0))
    for p in d.entities[line].points:
        d.add("fixed", p)
    circle = d.circle(d.point(10, 6), 6)
    d.add("tangent", line, circle)
    values = {
        d.add("radius", circle, value="6"): 6.0,
        d.add("across_x", d.entities[line].points[0], d.entities[circle].centre, value="10"): 10.0,
    }
    first = examine(d.done(), values)
    assert first.state == "held"
    centres = [a.sketch.at(d.entities[circle].centre) for a in alternatives(first.sketch, values)]
    assert centres == [pytest.approx((10, -6))]


def test_a_rectangle_by_equal_and_parallel_sides_is_solved_though_it_is_a_double_root() -> None:
    d = SketchBuilder()
    sides = shapes.polyline(d, [(0, 0), (30, 1), (29, 20), (1, 19)], closed=True)
    d.add("fixed", "p1")
    for kind, *of in (("horizontal", sides[0]), ("perpendicular", sides[0], sides[1]), ("parallel", sides[0], sides[2]),
                      ("equal", sides[1], sides[3])):  # fmt: skip
        d.add(kind, *of)
    values = {d.add("distance", sides[0], value="30"): 30.0, d.add("distance", sides[1], value="20"): 20.0}
    seen = examine(d.done(), values)
    assert seen.ok
    assert seen.sketch.at(d.entities[sides[2]].end) == pytest.approx((0, 20), abs=1e-3)


@pytest.mark.parametrize("value", [math.nan, math.inf, -3.0, 0.0, 1e9])
def test_impossible_values_are_refused_with_the_dimension_named(value: float) -> None:
    d = SketchBuilder()
    k = d.add("radius", d.circle(d.point(0, 0), 5), value="5")
    with pytest.raises(SketchError, match=k):
        solve(d.done(), {k: value})


def test_impossible_constraints_are_refused_in_words() -> None:
    d = SketchBuilder()
    line, p = d.segment((0, 0), (1, 0)), d.point(4, 4)
    with pytest.raises(SketchError, match="tangent takes line, circle/arc/ellipse"):
        d.add("tangent", line, p)
    with pytest.raises(SketchError, match="no l9"):
        d.add("parallel", line, "l9")
    with pytest.raises(SketchError, match="no size"):
        shapes.rectangle(d, (1, 1), (1, 1))
    with pytest.raises(SketchError, match="one line"):
        shapes.three_point_arc(d, (0, 0), (1, 1), (2, 2))


@settings(max_examples=40, deadline=None)
@given(st.lists(st.floats(0.5, 500), min_size=3, max_size=3), st.floats(-3.1, 3.1))
def test_triangles_from_three_sides(sides: list[float], turn: float) -> None:
    a, b, c = sorted(sides)
    d = SketchBuilder()
    lines = shapes.polyline(d, [(0, 0), (10 * math.cos(turn), 10 * math.sin(turn)), (1, 11)], closed=True)
    values = {d.add("distance", n, value="1"): v for n, v in zip(lines, (a, b, c), strict=True)}
    seen = examine(d.done(), values)
    if c < (a + b) * 0.999:
        assert seen.ok and seen.freedoms.count == 3
    elif c > (a + b) * 1.001:
        assert seen.state == "fighting" and set(seen.fights[0].constraints) == set(values)


def test_coupled_nets_are_solved() -> None:
    for figure in (grid(6, 6), tangent_row(25)):
        sketch = figure.draft.done()
        solution = solve(sketch, figure.values)
        assert solution.ok
        assert freedoms(sketch, figure.values, solution.x).count == svd_freedoms(sketch, figure.values, solution.x)
        assert not redundancies(sketch, figure.values, solution.x)


def test_an_ellipse_whose_axis_has_no_length_is_examined() -> None:
    """Found by the fuzzer: its centre and the end of its long axis made one point."""
    d = SketchBuilder()
    e = d.ellipse(d.point(0, 0), d.point(9, 2), 3.0)
    d.add("coincident", *d.entities[e].points)
    assert examine(d.done(), {}).state in ("loose", "held", "stuck", "fighting")


def test_a_known_structure_is_taken_over_and_positions_and_values_are_not() -> None:
    """Two sketches of one structure at different places and values: each solves as if it were the first."""
    rng = np.random.default_rng(5)
    for figure in (chain_of(40), grid(4, 4), tangent_row(6)):
        sketch = figure.draft.done()
        for _ in range(6):
            start = moved(sketch, unknowns(sketch) + rng.normal(0, 1e-3, len(unknowns(sketch))))
            values = {k: v * rng.uniform(0.98, 1.02) if v > 1 else v for k, v in figure.values.items()}
            fresh, known = System(start, without=["-"]), System(start)
            one, two = solve_system(fresh, values), solve_system(known, values)
            assert known.n == fresh.n and known.clashes == fresh.clashes and (known.held == fresh.held).all()
            assert one.ok == two.ok and np.array_equal(one.x, two.x)


def test_fixings_that_clash_are_found_in_every_sketch_of_a_structure() -> None:
    k = SketchBuilder()
    p, q = k.point(0, 0), k.point(0, 0)
    k.add("fixed", p)
    k.add("fixed", q)
    k.add("coincident", p, q)
    together = k.done()
    apart = moved(together, np.array([0.0, 0.0, 3.0, 0.0, 0.0]))
    assert not System(together).clashes and System(apart).clashes and not System(together).clashes
