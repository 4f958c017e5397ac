"""The body beneath a sketch: exact edges with lasting names, taken as construction, followed when the body moves."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.kernel.builders.planar import frame_of
from lathed_solid.kernel.outline import outline
from lathed_solid.part import DatumPlane, FacePlane, edits, scope
from lathed_solid.part.steps.planes import resolve_plane
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.outside import follow, moved_outside, take


def block(width: float = 60.0):
    part = ls.note(ls.new_part("block"), "60", 1)
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (60, 40))
    d.add("fixed", d.entities[sides[0]].points[0])
    d.add("distance", sides[0], value="#1")
    d.add("distance", sides[1], value="40")
    d.circle(d.point(20, 15), 6)
    part = ls.extrude(ls.sketch(part, d), 10, "25")
    return ls.change_callout(part, 1, nominal=width)


def edges_of(part, plane):
    built = ls.build(part).built
    frame = frame_of(resolve_plane(plane, scope(part)), built.parts)
    return outline(built.body, frame)


def test_edges_are_laid_exactly_into_the_plane() -> None:
    top = edges_of(block(), FacePlane(face="20/end"))
    by_name = {e.name: e for e in top}
    hole = by_name["20/c1|20/end"]
    assert hole.kind == "circle" and hole.radius == pytest.approx(6, rel=1e-12)
    front = by_name["20/end|20/l1"]
    assert front.kind == "line" and math.dist(*front.points) == pytest.approx(60)
    assert not any(e.name == "20/l1|20/l2" for e in top), "an edge square to the plane is a place, not an edge"
    side = {e.name: e for e in edges_of(block(), DatumPlane(plane="XZ"))}
    assert side["20/c1|20/end"].kind == "line", "a circle seen from the side"
    assert math.dist(*side["20/c1|20/end"].points) == pytest.approx(12)
    slanted = edges_of(block(), DatumPlane(plane="XY", turn="30 deg"))
    assert math.dist(*next(e for e in slanted if e.name == "20/end|20/l1").points) == pytest.approx(60)


def test_taken_edges_hold_dimensions_and_follow_the_body() -> None:
    part = block()
    beneath = edges_of(part, FacePlane(face="20/end"))
    right = next(e for e in beneath if e.name == "20/end|20/l2")
    d = ls.Draft(take(ls.Draft().done(), right))
    line = d.done().curves[0]
    assert line.construction and line.source == right.name
    x = right.points[0][0]
    circle = d.circle(d.point(x - 15, 20), 5)
    d.add("distance", line.id, d.entities[circle].centre, value="15")
    part = ls.extrude(ls.sketch(part, d, "20/end"), 30, "5")
    assert ls.build(part).ok and part.step(30).stands_on() == {20}
    wide = ls.change_callout(part, 1, nominal=80.0)
    now = edges_of(wide, FacePlane(face="20/end"))
    sketch = wide.step(30).sketch
    assert set(moved_outside(sketch, now)) == {line.id}
    followed = follow(sketch, now)
    assert moved_outside(followed, now) == {}
    wide = edits.put_step(wide, edits.changed(wide.step(30), sketch=followed))
    centre = ls.examine(wide, 30).sketch.at(d.entities[circle].centre)
    assert abs(centre[0] - followed.at(followed.by_id[line.id].start)[0]) == pytest.approx(15)
    with pytest.raises(SketchError, match="already"):
        take(followed, now[[e.name for e in now].index(right.name)])
    gone = [e for e in now if e.name != right.name]
    assert moved_outside(followed, gone) == {line.id: None}
    with pytest.raises(SketchError, match="is gone"):
        follow(followed, gone)


def test_moving_steps_renames_taken_edges() -> None:
    part = block()
    beneath = edges_of(part, FacePlane(face="20/end"))
    sketch = take(ls.Draft().done(), next(e for e in beneath if e.name == "20/end|20/l2"))
    first = ls.Draft()
    first.circle(first.point(200, 200), 3)
    part = ls.sketch(part, sketch, "20/end")
    part = ls.sketch(part, first)
    moved = edits.move_step(part, 40, 0)
    assert moved.step(40).sketch.curves[0].source == "30/end|30/l2"
    assert moved.step(40).plane.face == "30/end"


def round_part():
    """A bar ⌀30 x 50 along X with a cone to ⌀20 over 20 behind it."""
    rows = [ls.Station(key="A", diameter="30", length="50"),
            ls.Station(key="B", diameter="30", length="20", taper=ls.Taper(kind="diameter", value="20"))]  # fmt: skip
    return ls.turned(ls.new_part("bar"), rows)


def test_silhouettes_centrelines_corners_and_sections() -> None:
    part = round_part()
    built = ls.build(part).built
    body = built.body
    frame = frame_of(resolve_plane(DatumPlane(plane="XZ"), scope(part)), built.parts)
    found = outline(body, frame, cut=True)
    by_name = {e.name: e for e in found}
    sides = [e for e in found if e.name.startswith("10/sA|~side")]
    assert sorted(round(e.points[0][1], 9) for e in sides) == [-15, 15]
    assert all(math.dist(*e.points) == pytest.approx(50) for e in sides)
    slants = [e for e in found if e.name.startswith("10/sB|~side")]
    assert len(slants) == 2 and all(math.dist(*e.points) == pytest.approx(math.hypot(20, 5)) for e in slants)
    assert by_name["10/sA|~axis"].points == ((0.0, 0.0), (50.0, 0.0))
    # the middle plane cuts a body of revolution in its own silhouette
    cuts = [e for e in found if e.name.startswith("10/sA|~section")]
    assert sorted(round(abs(e.points[0][1]), 6) for e in cuts) == [15, 15]
    # off the axis the section of the cylinder lies at sqrt(15^2 - 9^2) = 12
    aside = frame_of(resolve_plane(DatumPlane(plane="XZ", offset="9"), scope(part)), built.parts)
    cuts = [e for e in outline(body, aside, cut=True) if e.name.startswith("10/sA|~section")]
    assert sorted(round(abs(e.points[0][1]), 6) for e in cuts) == [12, 12]
    corners = [e for e in edges_of(block(), FacePlane(face="20/end")) if e.kind == "point"]
    assert len(corners) == 8 and {(60.0, 40.0)} < {(round(x, 9), round(y, 9)) for c in corners for x, y in c.points}


def test_a_taken_corner_is_a_fixed_point_that_follows() -> None:
    part = block()
    beneath = edges_of(part, FacePlane(face="20/end"))
    corner = next(e for e in beneath if e.kind == "point" and e.points[0] == pytest.approx((60, 40)))
    sketch = take(ls.Draft().done(), corner)
    (point,) = sketch.points
    assert point.construction and moved_outside(sketch, beneath) == {}
    wide = edges_of(ls.change_callout(part, 1, nominal=80.0), FacePlane(face="20/end"))
    assert follow(sketch, wide).at(point.id) == pytest.approx((80, 40))
    with pytest.raises(SketchError, match="already"):
        take(sketch, corner)
