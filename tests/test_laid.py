"""Datum planes, axes and earlier sketches laid into a sketch's plane, against the geometry of planes by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid.kernel import laid
from lathed_solid.kernel.parts import Datum, Parts
from lathed_solid.part.steps import Frame
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.laid_edge import Edge

FRONT = Frame((0.0, 0.0, 5.0), (1.0, 0.0, 0.0), (0.0, 1.0, 0.0))


def _laid(datum: Datum, frame: Frame = FRONT) -> list[Edge]:
    return list(laid.datums(Parts(datums={"30/plane": datum}), frame))


def _unit(v: np.ndarray) -> np.ndarray:
    return v / np.linalg.norm(v)


angles = st.floats(0.05, 6.2)


@settings(max_examples=60, deadline=None)
@given(angles, angles, angles, st.tuples(*[st.floats(-50, 50)] * 3), st.tuples(*[st.floats(-50, 50)] * 3))
def test_a_plane_s_trace_lies_in_both_planes(a: float, b: float, c: float, origin: tuple, place: tuple) -> None:
    normal = (math.sin(a) * math.cos(b), math.sin(a) * math.sin(b), math.cos(a))
    x = _unit(np.cross(normal, (math.cos(c), math.sin(c), 0.3)))
    frame = Frame(place, tuple(x), tuple(np.cross(_unit(np.array(normal)), x)))  # type: ignore[arg-type]
    datum = Datum("plane", origin, (math.cos(c), math.sin(c), 0.0))
    for edge in _laid(datum, frame):
        for u, v in edge.points:
            space = np.array(place) + u * np.array(frame.x) + v * np.array(frame.y)
            assert abs(np.dot(space - np.array(origin), datum.direction)) < 1e-7 * (1 + np.abs(space).max())
        assert math.dist(*edge.points) == pytest.approx(2 * laid.HALF)


def test_axes_are_lines_or_points_and_parallel_planes_are_nothing() -> None:
    assert _laid(Datum("plane", (0, 0, 9), (0, 0, 1))) == []
    (point,) = _laid(Datum("axis", (3, 4, 99), (0, 0, -1)))
    assert (point.kind, point.points, point.name) == ("point", ((3.0, 4.0),), "30/plane|~datum")
    (line,) = _laid(Datum("axis", (3, 4, 99), (0, 1, 0)))
    assert line.points == ((3.0, 4.0 - laid.HALF), (3.0, 4.0 + laid.HALF))
    (place,) = _laid(Datum("point", (-1, 2, 7)))
    assert place.points == ((-1.0, 2.0),)


def test_another_sketch_s_curves_are_seen_as_they_lie() -> None:
    k = SketchBuilder()
    k.segment((1, 2), (5, 2))
    k.circle(k.point(3, 3), 2)
    k.arc(k.point(0, 0), k.point(1, 0), k.point(0, 1))
    figure = k.done()
    behind = Frame((10.0, 0.0, -3.0), (-1.0, 0.0, 0.0), (0.0, 1.0, 0.0))
    line, circle, arc = laid.curves(20, figure, behind, FRONT)
    assert (line.name, line.points) == ("20/l1|~curve", ((9.0, 2.0), (5.0, 2.0)))
    assert (circle.kind, circle.points, circle.radius) == ("circle", ((7.0, 3.0),), 2.0)
    # seen from behind the arc runs the other way: its ends change places
    assert arc.points == ((10.0, 0.0), (10.0, 1.0), (9.0, 0.0))
    side = Frame((0.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
    seen = list(laid.curves(20, figure, side, FRONT))
    assert [e.kind for e in seen] == ["line"], "round ones on edge are left out"
    upright = Frame((0.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0))
    assert not list(laid.curves(20, figure, upright, FRONT)), "and a line that is seen as a point"
    aslant = Frame((0.0, 0.0, 0.0), (math.cos(0.5), 0.0, math.sin(0.5)), (0.0, 1.0, 0.0))
    (only,) = laid.curves(20, figure, aslant, FRONT)
    assert only.points[1][0] - only.points[0][0] == pytest.approx(4 * math.cos(0.5))


def test_datums_are_shown_about_the_body() -> None:
    """A plane as a frame round the body in its own plane, an axis past both of its ends."""
    from lathed_solid import scripting as ls
    from lathed_solid.kernel.datum_marks import PAST, datum_marks

    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 40))
    part = ls.extrude(ls.sketch(ls.new_part("block"), d), 10, "20")
    part = ls.step(part, "plane", names=("XY",), distance="12")
    part = ls.step(part, "axis", way="planes", names=("20/l1", "20/l4"))
    plane, axis = datum_marks(ls.build(part).built.parts)
    past = PAST * (60**2 + 40**2 + 20**2) ** 0.5
    assert plane.name == "30/plane" and plane.line[0] == plane.line[-1]
    assert sorted({round(p[0], 6) for p in plane.line}) == [round(-past, 6), round(60 + past, 6)]
    assert sorted({round(p[1], 6) for p in plane.line}) == [round(-past, 6), round(40 + past, 6)]
    assert {p[2] for p in plane.line} == {12.0}
    assert axis.name == "40/axis" and sorted(round(p[2], 6) for p in axis.line) == [
        round(-past, 6),
        round(20 + past, 6),
    ]
    assert all(abs(p[0]) < 1e-9 and abs(p[1]) < 1e-9 for p in axis.line)
    assert datum_marks(ls.build(ls.new_part("bare")).built.parts) == ()
