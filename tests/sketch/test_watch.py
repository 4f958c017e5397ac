"""What an edit turns over is told; what only moves is not."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.solve import moved, solve
from lathed_solid.sketch.watch import turned_over


def ell(corners: list[tuple[float, float]]) -> Sketch:
    d = SketchBuilder()
    shapes.polyline(d, corners, closed=True)
    return d.done()


L = [(0, 0), (40, 0), (40, 10), (12, 10), (12, 30), (0, 30)]


@given(st.floats(13, 60), st.floats(11, 50), st.floats(0.5, 9.5), st.floats(0.5, 11.5))
def test_sizes_that_keep_the_order_of_corners_turn_nothing(x: float, y: float, t: float, s: float) -> None:
    other = [(0, 0), (x, 0), (x, t), (s, t), (s, y), (0, y)]
    assert turned_over(ell(L), ell(other)) == ()


def test_a_leg_thrown_over_is_told_by_its_corners() -> None:
    over = [(0, 0), (40, 0), (40, -10), (12, -10), (12, 30), (0, 30)]
    found = turned_over(ell(L), ell(over))
    assert {t.entities for t in found if "turned over" in t.words} == {("l1", "l2"), ("l2", "l3")}
    assert [t.entities for t in found if "cross" in t.words] == [("l1", "l4")]


def test_a_mirrored_figure_is_told_and_a_turned_one_is_not() -> None:
    mirrored, turned = [(-x, y) for x, y in L], [(-y, x) for x, y in L]
    assert len(turned_over(ell(L), ell(mirrored))) == 6
    assert turned_over(ell(L), ell(turned)) == ()


@pytest.mark.parametrize(("end", "told"), [((-9.9, 1), False), ((9.9, -1), True)])
def test_an_arc_that_runs_the_long_way_is_told(end: tuple[float, float], told: bool) -> None:
    def arc(x: float, y: float) -> Sketch:
        d = SketchBuilder()
        d.arc(d.point(0, 0), d.point(10, 0), d.point(x, y))
        return d.done()

    assert bool(turned_over(arc(9.0, 4.3), arc(*end))) is told


def test_a_distance_typed_too_large_for_its_neighbour_is_told() -> None:
    """The step of an angle plate, 28 beyond the plate's 20: held, and another figure."""
    d = SketchBuilder()
    lines = shapes.polyline(d, [(0, 0), (40, 0), (40, 10), (12, 10), (12, 30), (0, 30)], closed=True)
    for i, line in enumerate(lines):
        d.add("vertical" if i % 2 else "horizontal", line)
    d.add("fixed", "p1")
    wide = d.add("across_x", lines[0], value="40")
    step = d.add("across_x", lines[2], value="28")
    sketch = d.done()
    fits = moved(sketch, solve(sketch, {wide: 40, step: 20}).x)
    assert turned_over(sketch, fits) == ()
    beyond = moved(sketch, solve(sketch, {wide: 40, step: 55}).x)
    assert any("cross" in t.words or "turned over" in t.words for t in turned_over(sketch, beyond))


def test_ends_that_are_fixed_in_one_place_make_a_corner_too() -> None:
    k = SketchBuilder()
    one = k.segment((0, 0), (30, 2))
    two = k.segment((0, 0), (20, 20))
    for line in (one, two):
        k.add("fixed", k.entities[line].points[0])
    before = k.done()
    k.entities[k.entities[two].points[1]] = k.entities[k.entities[two].points[1]].model_copy(update={"y": -20.0})
    (told,) = turned_over(before, k.done())
    assert told.words == f"the corner of {one} and {two} turned over"
