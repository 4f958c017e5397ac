"""Edits: geometry against closed forms, constraints that stay true, dimensions that keep their meaning."""

from __future__ import annotations

import cmath
import math

import pytest

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch import edits
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.check import findings
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.examine import examine
from lathed_solid.sketch.model import Arc, Line, Sketch
from lathed_solid.sketch.regions import regions
from lathed_solid.sketch.solve import moved, solve, solved


def still(sketch: Sketch, values: dict[str, float]):
    """The examination, having checked that the edit left the figure solved as it stands."""
    driving = {k: v for k, v in values.items() if (c := sketch.constraint(k)) is not None and not c.reference}
    seen = examine(sketch, driving)
    assert seen.ok, seen.messages
    for p in sketch.points:
        assert seen.sketch.at(p.id) == pytest.approx(sketch.at(p.id), abs=1e-6)
    return seen


def plate() -> tuple[Sketch, dict[str, float], list[str]]:
    d = SketchBuilder()
    sides = shapes.rectangle(d, (0, 0), (60, 40))
    d.add("fixed", d.entities[sides[0]].points[0])
    values = {d.add("distance", sides[0], value="60"): 60.0, d.add("distance", sides[1], value="40"): 40.0}
    return d.done(), values, sides


def area(sketch: Sketch) -> float:
    return sum(r.area for r in regions(sketch))


def test_fillet_keeps_the_overall_dimensions() -> None:
    sketch, values, sides = plate()
    rounded = edits.fillet(sketch, values, sides[0], sides[1], 8.0, "8")
    radius = next(c for c in rounded.constraints if c.kind == "radius")
    seen = still(rounded, values | {radius.id: 8.0})
    assert seen.state == "held"
    assert area(rounded) == pytest.approx(2400 - (1 - math.pi / 4) * 64)
    larger = examine(rounded, values | {radius.id: 12.0})
    assert area(larger.sketch) == pytest.approx(2400 - (1 - math.pi / 4) * 144)
    wider = examine(rounded, {k: (70.0 if v == 60 else v) for k, v in (values | {radius.id: 8.0}).items()})
    assert area(wider.sketch) == pytest.approx(2800 - (1 - math.pi / 4) * 64)


def test_fillets_all_round_then_chamfer_one() -> None:
    sketch, values, sides = plate()
    for i in range(3):
        sketch = edits.fillet(sketch, values, sides[i], sides[i + 1], 5.0, "5")
        values |= {c.id: 5.0 for c in sketch.constraints if c.kind == "radius"}
    cut = edits.chamfer(sketch, values, sides[3], sides[0], (4.0, 6.0), ("4", "6"))
    new = [c.id for c in cut.constraints if c.kind == "distance" and c.value in ("4", "6")]
    seen = still(cut, values | dict(zip(new, (4.0, 6.0), strict=True)))
    assert seen.state == "held" and not findings(cut)
    assert area(cut) == pytest.approx(2400 - 3 * (1 - math.pi / 4) * 25 - 12)


@pytest.mark.parametrize(("radius", "message"), [(45.0, "does not fit"), (0.0, "above zero"), (-2.0, "above zero")])
def test_an_impossible_fillet_is_refused(radius: float, message: str) -> None:
    sketch, values, sides = plate()
    with pytest.raises(SketchError, match=message):
        edits.fillet(sketch, values, sides[0], sides[1], radius, "r")
    with pytest.raises(SketchError, match="do not end in one point"):
        edits.fillet(sketch, values, sides[0], sides[2], 5, "5")


def test_trim_the_middle_of_a_line_and_of_a_circle() -> None:
    d = SketchBuilder()
    line = d.segment((0, 0), (40, 0))
    circle = d.circle(d.point(20, 0), 10)
    k = d.add("diameter", circle, value="20")
    cut = edits.trim(d.done(), {k: 20.0}, line, 20 + 0j)
    lengths = sorted(abs(complex(*cut.at(c.start)) - complex(*cut.at(c.end))) for c in cut.curves if c.kind == "line")
    assert lengths == pytest.approx([10, 10])
    assert any(c.kind == "collinear" for c in cut.constraints)
    still(cut, {k: 20.0})
    half = edits.trim(d.done(), {k: 20.0}, circle, 20 + 10j)
    arc = next(c for c in half.curves if c.kind == "arc")
    assert half.at(arc.start) == pytest.approx((10, 0)) and half.at(arc.end) == pytest.approx((30, 0))
    assert half.constraint(k).of == (arc.id,)
    still(half, {k: 20.0})


def test_trim_the_end_of_a_dimensioned_line_makes_its_length_a_reference() -> None:
    d = SketchBuilder()
    line, other = d.segment((0, 0), (40, 0)), d.segment((30, -5), (30, 5))
    k = d.add("distance", line, value="40")
    cut = edits.trim(d.done(), {k: 40.0}, line, 35 + 0j)
    assert cut.constraint(k).reference
    assert cut.at(cut.by_id[line].end) == pytest.approx((30, 0))
    assert any(c.kind == "on" and c.of[1] == other for c in cut.constraints)
    shorter = edits.trim(cut, {}, other, 30 + 4j)
    assert {shorter.at(p) for p in shorter.by_id[other].points} == {(30, -5), (30, 0)}


def test_extend_to_a_circle_and_corner_of_two_lines() -> None:
    d = SketchBuilder()
    a, circle = d.segment((0, 0), (10, 0)), d.circle(d.point(30, 0), 5)
    far = edits.extend(d.done(), {}, a, 10 + 0j, circle)
    assert far.at(far.by_id[a].end) == pytest.approx((25, 0))
    still(far, {})
    with pytest.raises(SketchError, match="does not meet"):
        edits.extend(d.done(), {}, a, 0j, circle)
    b = d.segment((4, 8), (4, 3))
    joined = edits.corner(d.done(), {}, a, b)
    ends = {joined.at(p) for n in (a, b) for p in joined.by_id[n].points}
    assert any(e == pytest.approx((4, 0)) for e in ends)
    still(joined, {})


def test_break_keeps_the_halves_in_line() -> None:
    d = SketchBuilder()
    line = d.segment((0, 0), (40, 20))
    arc = d.arc(d.point(0, 50), d.point(10, 50), d.point(0, 60))
    halves = edits.break_at(d.done(), {}, line, 10 + 5j)
    assert len(halves.curves) == 3 and any(c.kind == "collinear" for c in halves.constraints)
    still(halves, {})
    two = edits.break_at(d.done(), {}, arc, cmath.rect(10, math.pi / 4) + 50j)
    assert sum(c.kind == "arc" for c in two.curves) == 2
    still(two, {})
    with pytest.raises(SketchError, match="on an end"):
        edits.break_at(d.done(), {}, line, 0j)


def test_mirrored_copies_stay_mirrored() -> None:
    d = SketchBuilder()
    axis = d.segment((0, -30), (0, 30), construction=True)
    for p in d.entities[axis].points:
        d.add("fixed", p)
    slot = shapes.slot(d, (15, 0), (35, 5), 4)
    hole = d.circle(d.point(20, 20), 3)
    k = d.add("radius", hole, value="3")
    both = edits.mirror(d.done(), {k: 3.0}, [*slot, hole], axis)
    seen = still(both, {k: 3.0})
    before = examine(d.done(), {k: 3.0})
    assert seen.freedoms.count == before.freedoms.count, "a mirror image adds no freedom"
    grown = examine(both, {k: 5.0})
    radii = [e.radius for e in grown.sketch.entities if e.kind == "circle"]
    assert radii == pytest.approx([5, 5])
    assert area(both) == pytest.approx(2 * area(d.done()))


def test_rows_and_grids_are_dimensioned_by_their_pitch() -> None:
    d = SketchBuilder()
    hole = d.circle(d.point(10, 10), 3)
    d.add("fixed", d.entities[hole].centre)
    k = d.add("diameter", hole, value="6")
    many = edits.grid(d.done(), {k: 6.0}, [hole], (15, 0), (0, 12), (3, 2), (("p", "0"), ("0", "12")))
    circles = [e for e in many.entities if e.kind == "circle"]
    assert len(circles) == 6
    names = {"p": 15.0, "12": 12.0}
    values = {c.id: eval_row(c.value, names) for c in many.constraints if c.value and c.kind.startswith("across")}
    sizes = {c.id: 6.0 for c in many.constraints if c.kind == "diameter"}
    assert still(many, values | sizes).state == "held"
    wide = {c.id: eval_row(c.value, names | {"p": 20.0}) for c in many.constraints if c.kind.startswith("across")}
    spread = examine(many, wide | sizes).sketch
    xs = sorted({round(spread.at(e.centre)[0], 6) for e in spread.entities if e.kind == "circle"})
    assert xs == [10, 30, 50]
    with pytest.raises(SketchError, match="copies"):
        edits.row(d.done(), {}, [hole], (5, 0), 1, ("5", "0"))


def eval_row(text: str, names: dict[str, float]) -> float:
    """``2 * (p) + 1 * (12)`` by hand."""
    return sum(float(m) * names[n.strip("()")] for m, _, n in (t.split() for t in text.split(" + ")))


def test_circular_copies_keep_their_distance_and_size() -> None:
    d = SketchBuilder()
    centre = d.point(0, 0)
    d.add("fixed", centre)
    hole = d.circle(d.point(20, 0), 3)
    k = d.add("diameter", hole, value="6")
    r = d.add("distance", centre, d.entities[hole].centre, value="20")
    d.add("horizontal", centre, d.entities[hole].centre)
    ring = edits.circular(d.done(), {k: 6.0, r: 20.0}, [hole], centre, 5)
    circles = [e for e in ring.entities if e.kind == "circle"]
    angles = sorted(cmath.phase(complex(*ring.at(c.centre))) % (2 * math.pi) for c in circles)
    assert angles == pytest.approx([i * 2 * math.pi / 5 for i in range(5)])
    degrees = {c.id: math.radians(float(c.value.split()[0])) for c in ring.constraints if c.kind == "angle"}
    sizes = {c.id: 6.0 for c in ring.constraints if c.kind == "diameter"}
    assert still(ring, degrees | sizes | {r: 20.0}).state == "held"
    out = examine(ring, degrees | sizes | {r: 25.0}).sketch
    assert {round(abs(complex(*out.at(e.centre))), 6) for e in out.entities if e.kind == "circle"} == {25}


def test_offset_of_a_closed_outline_is_linked() -> None:
    d = SketchBuilder()
    loop = shapes.slot(d, (0, 0), (30, 0), 8)[:4]
    inner = edits.offset(d.done(), {}, loop, 3.0, "t")
    dims = {c.id: 3.0 for c in inner.constraints if c.value == "t"}
    seen = still(inner, dims)
    ring, core = sorted((r.area for r in regions(inner)), reverse=True)
    assert core + ring == pytest.approx(30 * 16 + math.pi * 64)
    assert min(core, ring) == pytest.approx(30 * 10 + math.pi * 25) or max(core, ring) == pytest.approx(
        30 * 10 + math.pi * 25
    )
    assert seen.freedoms.count == examine(d.done(), {}).freedoms.count
    with pytest.raises(SketchError, match="larger than a radius"):
        edits.offset(d.done(), {}, loop, 9.0, "9")
    speck = d.segment((5, 5), (5, 5))
    with pytest.raises(SketchError, match=f"no length.*{speck}|{speck}.*no length"):
        edits.offset(d.done(), {}, [speck], 3.0, "3")


def test_offset_of_a_rectangle_follows_it() -> None:
    sketch, values, sides = plate()
    ring = edits.offset(sketch, values, sides, -5.0, "5")
    dims = {c.id: 5.0 for c in ring.constraints if c.kind == "offset"}
    assert still(ring, values | dims).state == "held"
    assert area(ring) == pytest.approx(70 * 50)
    wider = examine(ring, {k: (80.0 if v == 60 else v) for k, v in values.items()} | dims)
    assert area(wider.sketch) == pytest.approx(90 * 50)


def test_move_rotate_scale() -> None:
    sketch, values, sides = plate()
    turned = edits.rotate(sketch, values, sides, 0j, math.pi / 6)
    kinds = [c.kind for c in turned.constraints]
    assert "horizontal" not in kinds and kinds.count("distance") == 2
    still(turned, values)
    half = edits.scale(sketch, values, sides, 0j, 0.5)
    assert area(half) == pytest.approx(600)
    assert all(c.reference for c in half.constraints if c.kind == "distance")
    away = edits.move(sketch, values, sides, 5 + 5j)
    assert still(away, values).state == "held"  # fixed now means: fixed where it is now


def test_gaps_are_closed_within_the_tolerance_only() -> None:
    d = SketchBuilder()
    corners = [(0, 0), (30, 0), (30, 20), (0, 20)]
    for i, (a, b) in enumerate(zip(corners, corners[1:] + corners[:1], strict=True)):
        d.segment((a[0] + 0.02 * i, a[1]), b)
    sketch = d.done()
    assert len([f for f in findings(sketch) if f.kind == "open end"]) == 4
    closed, count = edits.close_gaps(sketch, {}, 0.1)
    assert count == 4 and not findings(closed) and len(regions(closed)) == 1
    with pytest.raises(SketchError, match="larger tolerance"):
        edits.close_gaps(closed, {}, 0.001)


def test_merging_points_and_removing_leave_a_sound_sketch() -> None:
    d = SketchBuilder()
    a, b = d.segment((0, 0), (10, 0)), d.segment((10.5, 0), (20, 8))
    merged = edits.merge_points(d.done(), {}, d.entities[a].end, d.entities[b].start)
    assert merged.at(d.entities[b].start) == pytest.approx((10, 0))
    less = edits.remove(merged, [a])
    assert {e.id for e in less.entities} == {b, *d.entities[b].points} and not less.constraints
    assert moved(less, examine(less, {}).solution.x) == less


# what is said of a figure is kept ----------------------------------------------------------------
def kept(sketch: Sketch) -> list[tuple[str, tuple[str, ...], str, bool]]:
    return [(c.id, c.of, c.value, c.reference) for c in sketch.constraints]


def test_closing_a_gap_moves_the_loose_side_and_keeps_everything() -> None:
    d = SketchBuilder()
    foot = d.point(0, 0)
    d.add("fixed", foot)
    post = d.line(foot, d.point(0, 20))
    d.add("vertical", post)
    d.add("distance", post, value="20")
    arc = d.arc(d.point(10, 20), d.point(20, 20), d.point(0.3, 20.2))
    before = d.done()
    values = {c.id: 20.0 for c in before.constraints if c.value}
    closed, count = edits.close_gaps(before, values, 0.5)
    assert count == 1 and kept(closed)[: len(before.constraints)] == kept(before)
    assert closed.at(closed.by_id[post].points[1]) == pytest.approx((0, 20), abs=1e-6)
    assert closed.at(closed.by_id[arc].points[2]) == pytest.approx((0, 20), abs=1e-6)


def test_a_gap_that_dimensions_keep_open_is_not_closed() -> None:
    d = SketchBuilder()
    foot = d.point(0, 0)
    d.add("fixed", foot)
    first = d.line(foot, d.point(20, 0))
    d.add("horizontal", first)
    d.add("distance", first, value="20")
    far = d.point(20.2, 0)
    d.add("fixed", far)
    d.line(far, d.point(20.2, 15))
    loose = d.segment((40, 0), (40, 10))
    d.segment((40.1, 10), (50, 10))
    before = d.done()
    values = {c.id: 20.0 for c in before.constraints if c.value}
    closed, count = edits.close_gaps(before, values, 0.5)
    assert count == 1, "the other gap is closed"
    assert {c.kind for c in closed.constraints[len(before.constraints) :]} == {"coincident"}
    assert closed.constraints[-1].of[0] in closed.by_id[loose].points
    only = before.model_copy(update={"entities": before.entities[:6]})
    with pytest.raises(SketchError, match="kept open"):
        edits.close_gaps(only, values, 0.5)
    with pytest.raises(SketchError, match="cannot be one point"):
        edits.merge_points(only, values, before.by_id[first].points[1], far)


@pytest.mark.parametrize("edit", ["fillet", "chamfer"])
def test_a_rounded_corner_keeps_the_middle_of_the_sharp_line(edit: str) -> None:
    d = SketchBuilder()
    corner = d.point(0, 0)
    a, b = d.line(corner, d.point(40, 0)), d.line(corner, d.point(0, 30))
    middle = d.point(20, 0)
    d.add("midpoint", middle, a)
    d.add("fixed", corner)
    d.add("horizontal", a)
    d.add("vertical", b)
    d.add("distance", a, value="40")
    before = d.done()
    values = {c.id: 40.0 for c in before.constraints if c.value}
    if edit == "fillet":
        after = edits.fillet(before, values, a, b, 5, "5")
    else:
        after = edits.chamfer(before, values, a, b, (5, 5), ("5", "5"))
    assert any(c.kind == "midpoint" for c in after.constraints)
    sizes = {c.id: float(c.value) for c in after.constraints if c.value and not c.reference}
    wider = solve(after, sizes | {c.id: 60.0 for c in after.constraints if c.value == "40"})
    assert wider.ok and moved(after, wider.x).at(middle) == pytest.approx((30, 0), abs=1e-6)


def test_trimming_where_a_line_touches_a_circle_keeps_them_tangent_and_held() -> None:
    d = SketchBuilder()
    centre = d.point(0, 0)
    d.add("fixed", centre)
    circle = d.circle(centre, 10)
    d.add("diameter", circle, value="20")
    lines = []
    for y in (10, -10):
        lines.append(d.segment((-25, y), (25, y)))
        d.add("horizontal", lines[-1])
        d.add("tangent", lines[-1], circle)
        d.add("across_x", centre, d.entities[lines[-1]].points[1], value="25")
        d.add("across_x", centre, d.entities[lines[-1]].points[0], value="25")
    before = d.done()

    def values(sketch: Sketch) -> dict[str, float]:
        return {c.id: float(c.value) for c in sketch.constraints if c.value and not c.reference}

    assert examine(before, values(before)).state == "held"
    arc = edits.trim(before, values(before), circle, -10 + 0j)
    assert examine(arc, values(arc)).state == "held", "its ends are where it touches the lines"
    for line, y in zip(lines, (10, -10), strict=True):
        arc = edits.trim(arc, values(arc), line, complex(-20, y))
    found = examine(arc, values(arc))
    assert found.state == "held" and [c.kind for c in arc.constraints].count("tangent") == 2
    ends = sorted(
        round(abs(complex(p.x, p.y) - complex(0, 10 if p.y > 0 else -10)), 6)
        for p in found.sketch.points
        if p.id != centre
    )
    assert ends[:4] == [0, 0, 0, 0] and ends[-2:] == [25, 25]


# corners of lines and arcs -------------------------------------------------------------------------
def _lens_and_line() -> tuple[Sketch, dict[str, float]]:
    """A half disc of radius 20 on a base line, all held: two corners of a line and an arc."""
    k = SketchBuilder()
    centre, left, right = k.point(0, 0), k.point(-20, 0), k.point(20, 0)
    k.line(left, right)
    arc = k.arc(centre, right, left)
    k.add("fixed", centre)
    k.add("horizontal", centre, left)
    k.add("horizontal", centre, right)
    r = k.add("radius", arc, value="20")
    return k.done(), {r: 20.0}


@pytest.mark.parametrize("radius", [1.0, 4.0, 7.5])
def test_the_corner_of_a_line_and_an_arc_is_rounded(radius: float) -> None:
    sketch, values = _lens_and_line()
    pairs = edits.corners_of(sketch, [c.id for c in sketch.curves])
    one = edits.corners_of(sketch, [next(p.id for p in sketch.points if p.x == 20)])
    assert len(pairs) == 2 and len(one) == 1, "the two curves close up: two corners, of which a point tells one"
    a, b, end = one[0]
    after = edits.fillet(sketch, values, a, b, radius, str(radius), at=end)
    figure = solved(after, values | {after.constraints[-1].id: radius})
    arc = next(c for c in reversed(figure.curves) if isinstance(c, Arc))
    centre = complex(*figure.at(arc.centre))
    # rolls inside the disc and on the line: centre at height r and at 20 - r from the middle
    x = math.sqrt((20 - radius) ** 2 - radius**2)
    assert centre == pytest.approx(complex(x, radius), abs=1e-8)
    with pytest.raises(SketchError, match="does not fit"):
        edits.fillet(sketch, values, a, b, 30.0, "30", at=end)


def test_the_corner_of_two_arcs_is_bevelled_with_its_chords() -> None:
    k = SketchBuilder()
    p, q, m, n = k.point(0, 15), k.point(0, -15), k.point(-20, 0), k.point(20, 0)
    k.arc(m, q, p)
    k.arc(n, p, q)
    sketch = k.done()
    after = edits.chamfer(sketch, {}, "a1", "a2", (4.0, 4.0), ("4", "4"))
    cut = next(c for c in after.curves if isinstance(c, Line))
    ends = [complex(*after.at(e)) for e in cut.points]
    assert [abs(e - 15j) for e in ends] == pytest.approx([4, 4]) or [abs(e + 15j) for e in ends] == pytest.approx(
        [4, 4]
    )
    assert all(abs(abs(e - c) - 25) < 1e-9 for e, c in zip(ends, (-20, 20), strict=True))


def test_lines_stay_equal_up_to_their_sharp_corners() -> None:
    k = SketchBuilder()
    sides = shapes.rectangle(k, (0, 0), (40, 40))
    k.add("equal", sides[0], sides[1])
    k.add("fixed", k.entities[sides[0]].points[0])
    size = k.add("distance", sides[0], value="40")
    sketch = k.done()
    after = edits.fillet(sketch, {size: 40.0}, sides[0], sides[1], 6.0, "6")
    radius = after.constraints[-1].id
    grown = solved(after, {size: 50.0, radius: 6.0})
    box = [complex(*grown.at(p.id)) for p in grown.points]
    assert max(z.real for z in box) == pytest.approx(50) and max(z.imag for z in box) == pytest.approx(50)


def test_a_corner_keeps_what_is_said_of_lines_that_can_follow() -> None:
    k = SketchBuilder()
    a, b = k.segment((0, 0), (30, 0)), k.segment((40, 5), (40, 30))
    k.add("fixed", k.entities[a].points[0])
    k.add("horizontal", a)
    k.add("vertical", b)
    size = k.add("distance", a, value="30")
    sketch = k.done()
    after = edits.corner(sketch, {size: 30.0}, a, b)
    kept = after.constraint(size)
    assert kept is not None and not kept.reference, "the upright line comes to the dimensioned one"
    assert complex(*after.at(after.by_id[b].points[0])) == pytest.approx(30 + 0j)


def test_an_arc_that_closes_on_itself_is_not_trimmed() -> None:
    k = SketchBuilder()
    arc = k.arc(k.point(0, 0), k.point(10, 0), k.point(10, 0))
    k.segment((-20, 3), (20, 3))
    with pytest.raises(SketchError, match="ends are one place"):
        edits.trim(k.done(), {}, arc, 10j)
