"""What is held although it moves to first order, what says again only in part; by construction."""

from __future__ import annotations

import pytest

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.edits import remove
from lathed_solid.sketch.examine import Examination, dimension_values, examine
from lathed_solid.sketch.model import Sketch


def seen(draft: SketchBuilder | Sketch) -> Examination:
    sketch = draft.done() if isinstance(draft, SketchBuilder) else draft
    return examine(sketch, dimension_values(sketch, lambda text, _kind: float(text)))


def tangent_end(off: float, *, turned: bool = False) -> SketchBuilder:
    """A line of 20 tangent to a circle of 20 about the origin, ending on it; drawn ``off`` mm beside its place."""
    d = SketchBuilder()
    place = (lambda x, y: (-y, x)) if turned else (lambda x, y: (x, y))
    centre = d.point(0, 0)
    d.add("fixed", centre)
    circle = d.circle(centre, 10)
    end = d.point(*place(off, 10 + 2 * off))
    line = d.line(d.point(*place(-20, 10 + off)), end)
    d.add("diameter", circle, value="20")
    d.add("vertical" if turned else "horizontal", line)
    d.add("distance", line, value="20")
    d.add("tangent", line, circle)
    d.add("on", end, circle)
    return d


@pytest.mark.parametrize("turned", [False, True])
@pytest.mark.parametrize("off", [0.0, 1e-9, 1e-5, 0.01, 0.3])
def test_a_line_that_ends_where_it_touches_is_held_however_it_was_drawn(off: float, turned: bool) -> None:
    found = seen(tangent_end(off, turned=turned))
    assert found.state == "held" and found.redundancies == ()
    assert all(abs(p.x) < 20.1 and abs(p.y) < 20.1 for p in found.sketch.points)


@pytest.mark.parametrize("missing", ["on", "tangent", "diameter", "distance"])
def test_without_one_of_its_constraints_it_is_loose(missing: str) -> None:
    sketch = tangent_end(0.0).done()
    name = next(c.id for c in sketch.constraints if c.kind == missing)
    assert seen(remove(sketch, [name])).state == "loose"


def bars(places: list[tuple[float, float]]) -> SketchBuilder:
    """Bars end to end between two fixed points, each as long as it is drawn."""
    d = SketchBuilder()
    points = [d.point(*p) for p in places]
    for p in (points[0], points[-1]):
        d.add("fixed", p)
    for i in range(len(points) - 1):
        (x, y), (u, v) = places[i : i + 2]
        d.add("distance", points[i], points[i + 1], value=repr(((x - u) ** 2 + (y - v) ** 2) ** 0.5))
    return d


def test_bars_stretched_straight_are_held_bent_ones_are_not() -> None:
    assert seen(bars([(0, 0), (3, 0), (7, 0), (12, 0)])).state == "held"
    assert seen(bars([(0, 0), (3, 4), (6, 8)])).state == "held"
    bent = seen(bars([(0, 0), (3, 1), (7, -1), (12, 0)]))
    assert bent.state == "loose" and bent.freedoms.count == 1


def test_a_flat_linkage_that_can_open_stays_loose() -> None:
    """A parallelogram laid flat: bars 4, 10, 4 between points 10 apart. It opens, though its equations depend."""
    assert seen(bars([(0, 0), (4, 0), (14, 0), (10, 0)])).state == "loose"


def test_a_circle_rolling_within_another_is_loose() -> None:
    """A derivative that happens to vanish hides no equation: the centre on the x axis moves up only here."""
    d = SketchBuilder()
    a, b = d.point(0, 0), d.point(7, 0)
    d.add("fixed", a)
    k, m = d.circle(a, 10), d.circle(b, 3)
    d.add("diameter", k, value="20")
    d.add("diameter", m, value="6")
    d.add("tangent", k, m)
    assert seen(d).freedoms.count == 1


@pytest.mark.parametrize("made", ["collinear", "midpoint", "coincident"])
def test_what_says_again_only_in_part_is_not_dropped(made: str) -> None:
    d = SketchBuilder()
    line = d.segment((0, 0), (10, 0))
    d.add("horizontal", line)
    if made == "collinear":
        other = d.segment((20, 0), (30, 0))
        d.add("horizontal", other)
        name = d.add("collinear", line, other)
    else:
        end = d.point(5 if made == "midpoint" else 10, 0)
        d.add("on", end, line)
        name = d.add("midpoint", end, line) if made == "midpoint" else d.add("coincident", end, "p2")
    sketch = d.done()
    found = seen(sketch)
    again = {r.constraint: r for r in found.redundancies}
    for r in again.values():
        loosens = seen(remove(sketch, [r.constraint])).freedoms.count > found.freedoms.count
        assert r.whole == (not loosens), "whole: dropping it loosens nothing"
    if name in again:
        assert not again[name].whole


def test_what_says_all_of_it_again_can_be_dropped() -> None:
    d = SketchBuilder()
    a, b = d.segment((0, 0), (10, 0)), d.segment((0, 5), (10, 5))
    d.add("horizontal", a)
    d.add("parallel", a, b)
    third = d.add("horizontal", b)
    sketch = d.done()
    (again,) = seen(sketch).redundancies
    assert again.constraint == third and again.whole
    assert seen(remove(sketch, [third])).freedoms.count == seen(sketch).freedoms.count


def test_what_stands_on_nothing_free_hinders_nothing() -> None:
    """A dimension between two fixed points has no free unknown; the line beside it is as loose as ever."""
    d = SketchBuilder()
    a, b = d.point(0, 0), d.point(3, 4)
    d.add("fixed", a)
    d.add("fixed", b)
    d.add("distance", a, b, value="5")
    assert seen(d).state == "held"
    d.segment((10, 10), (20, 12))
    assert seen(d).freedoms.count == 4
