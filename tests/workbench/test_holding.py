"""What a figure can be held on to: origin, axes, edges, middles, quadrants, crossings; places by numbers; pointing."""

from __future__ import annotations

import cmath
import math
from functools import partial

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.holds import held_on_to
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.outside import moved_outside
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.keys import pressed
from lathed_solid.workbench.sketch.ordinates import is_place, read_place
from lathed_solid.workbench.sketch.relations import offered

from .sketching import Desk

EDGES = (
    Edge("20/end|20/l1", "line", ((-30.0, 20.0), (30.0, 20.0))),
    Edge("20/end|30/c1", "circle", ((10.0, -10.0),), 8.0),
    Edge("20/end|20/l1|20/l2|~corner", "point", ((30.0, 20.0),)),
)


def _kinds(d: Desk, *of: str) -> list[str]:
    return [c.kind for c in d.sketch.constraints if not of or set(of) & set(c.of)]


def _with_edges() -> Desk:
    d = Desk()
    d.board.outline = EDGES
    return d


@pytest.mark.parametrize(
    ("at", "kind", "named"),
    [
        ((0, 0), "fixed", ""),
        ((-9, 0.3), "on", "x axis"),
        ((0.2, -21), "on", "y axis"),
        ((30, 20), "coincident", "20/end|20/l1|20/l2|~corner"),
        ((-30, 20), "coincident", "start of 20/end|20/l1"),
        ((0.1, 20.1), "midpoint", "middle of 20/end|20/l1"),
        ((-17, 20.2), "on", "20/end|20/l1"),
        ((10, -10), "coincident", "centre of 20/end|30/c1"),
        ((10, -18.1), "quadrant", "bottom of 20/end|30/c1"),
        ((10 + 8 * math.cos(0.9), -10 + 8 * math.sin(0.9)), "on", "20/end|30/c1"),
        ((-21, -17), "", ""),
    ],
)
def test_a_click_is_tied_to_what_it_falls_on_and_the_thing_comes_with_it(
    at: tuple[float, float], kind: str, named: str
) -> None:
    d = _with_edges()
    found = d.board.snap(d.board.paper.pixel(complex(*at)))
    assert (found.kind, found.entity) == (kind, named)
    d.commands.start_tool("point")
    d.click(*at)
    point = next(p for p in d.sketch.points if not p.source)
    if kind in ("", "fixed"):
        assert _kinds(d) == ([kind] if kind else []) and not any(e.source for e in d.sketch.entities)
        return
    taken = next(e for e in d.sketch.entities if e.source)
    assert taken.construction and taken.source in named and not moved_outside(d.sketch, EDGES)
    assert all(c.inferred for c in d.sketch.constraints)
    assert abs(d.at(point.id) - found.place) < 1e-9


def test_nothing_of_the_frame_is_taken_when_inference_is_refused() -> None:
    d = _with_edges()
    d.commands.start_tool("circle")
    d.board.typed("n")
    d.click(0, 0)
    d.click(30, 20)
    assert not d.sketch.constraints and not any(e.source for e in d.sketch.entities)
    d.commands.set_mode("pick")
    d.click(0.1, -30)
    assert d.board.chosen == ()


def test_where_two_curves_cross_a_point_is_on_both() -> None:
    d = Desk()
    d.draw(lambda k: k.circle(k.point(5, 12), 20))
    d.commands.start_tool("point")
    x = 5 + 16
    d.click(x + 0.4, 0.4)
    point = next(p for p in d.sketch.points[1:] if not p.source)
    assert abs(d.at(point.id) - x) < 1e-9 and _kinds(d, point.id) == ["on", "on"]


def test_what_is_inferred_and_said_already_is_not_put_on() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.click(0, 0)
    d.click(30, 0.3)
    assert _kinds(d) == ["fixed", "horizontal"] or _kinds(d) == ["horizontal", "fixed"]
    assert not any(e.source for e in d.sketch.entities), "the axis is not needed for it"
    assert d.state.seen is not None and not d.state.seen.redundancies


@pytest.mark.parametrize(("name", "place"), [("middle of a1", 0.5), ("top of c1", None), ("middle of l1", 0.5)])
def test_middles_and_quadrants_serve_in_dimensions(name: str, place: float | None) -> None:
    d = Desk()
    d.draw(lambda k: k.segment((-40, -20), (-10, -30)))
    d.draw(lambda k: k.arc(k.point(30, 10), k.point(40, 10), k.point(30, 20)))
    d.draw(lambda k: k.circle(k.point(-20, 15), 10))
    figure, found = held_on_to(d.sketch, [name, "origin"], ())
    assert held_on_to(figure, [name], ())[1][name] == found[name], "the point made before is found again"
    d.board.choose((name, "origin"))
    state, names = d.board.holding()
    thing = name.split(" of ")[1]
    where = state.shape(thing).at(place) if place is not None else -20 + 25j
    assert abs(complex(*state.sketch.at(names[0])) - where) < 1e-9
    d.commands.set_mode("dimension")
    d.board.choose((name, "origin"))
    d.board.move(d.board.paper.pixel(complex(where.real / 2, -45)))
    assert d.board.typed("3")
    assert d.commands.dimensions.pending is not None and d.commands.dimensions.pending.kind == "across_x"
    d.commands.dimensions.give_value(f"{abs(where.real) + 3:.12g}")
    moved = next(p for p in d.sketch.points if p.id == names[0])
    assert moved.x == pytest.approx(math.copysign(abs(where.real) + 3, where.real))
    assert abs(d.at(moved.id) - (d.state.shape(thing).at(place) if place is not None else _top(d))) < 1e-8


def _top(d: Desk) -> complex:
    circle = d.curve("circle")
    return d.at(circle.centre) + 1j * circle.radius


def test_relations_go_on_axes_and_edges_that_are_only_pointed_at() -> None:
    d = _with_edges()
    d.draw(lambda k: k.segment((-25, -30), (20, -22)))
    line = d.curve("line").id
    d.board.choose((line, "20/end|20/l1"))
    figure, names = d.board.holding()
    offers = [o.kind for o in offered(figure.sketch, names)]
    assert offers[0] == "horizontal" and offered(figure.sketch, names)[0].groups == ((line,),)
    assert pressed(d.commands, str(offers.index("parallel") + 1)), "digits put what the strip offers"
    assert d.curve("line").id == line and _kinds(d, line) == ["parallel"]
    assert d.state.shape(line).along(0).imag == pytest.approx(0, abs=1e-9) and names[1] in d.sketch.by_id
    assert figure.sketch.by_id[names[1]].source == "20/end|20/l1"


@pytest.mark.parametrize("side", [1, -1])
def test_a_circle_s_side_is_the_one_that_was_clicked(side: int) -> None:
    d = Desk()
    d.draw(lambda k: k.circle(k.point(20, 5), 8))
    d.commands.set_mode("dimension")
    d.click(0.1, -30)
    assert d.board.chosen == ("y axis",)
    d.click(20 + side * 8, 5)
    d.board.move(d.board.paper.pixel(20 - 20j))
    d.board.typed("1")
    pending = d.commands.dimensions.pending
    assert pending is not None and pending.kind == ("far" if side > 0 else "near")
    assert float(pending.value) == pytest.approx(20 + side * 8)
    assert [k.kind for k in d.commands.dimensions.other_meanings()][-2:] == ["distance", pending.kind]


def test_the_other_side_is_a_key_and_keeps_everything_else() -> None:
    d = Desk()
    d.draw(lambda k: k.circle(k.point(20, 5), 8))
    circle = d.curve("circle")
    d.draw(lambda k: k.add("diameter", circle.id, value="16"))
    d.board.choose((circle.centre, "y axis"))
    d.commands.set_mode("dimension")
    d.board.choose((circle.centre, "y axis"))
    d.board.move(d.board.paper.pixel(10 - 30j))
    d.board.typed("1")
    d.commands.dimensions.give_value("20")
    name = d.sketch.constraints[-1].id
    assert d.at(circle.centre).real == pytest.approx(20)
    d.board.choose((name,))
    assert pressed(d.commands, "I")
    assert d.at(circle.centre).real == pytest.approx(-20) and d.sketch.constraint(name).value == "20"
    d.board.choose((circle.id,))
    assert pressed(d.commands, "I") and "pick a distance" in d.words


def test_a_dimension_is_put_on_another_footing_and_keeps_its_value() -> None:
    d = Desk()
    sides: list[str] = []
    d.draw(lambda k: sides.extend(shapes.rectangle(k, (-20, -10), (20, 10))))
    point: list[str] = []
    d.draw(lambda k: point.append(k.point(-5, 2)))
    d.draw(lambda k: k.add("distance", sides[3], point[0], value="15"))
    name = d.sketch.constraints[-1].id
    d.board.choose((name, sides[1]))
    assert (sides[3], sides[1]) in d.commands.dimensions.footings()
    d.commands.dimensions.refoot(sides[3], sides[1])
    c = d.sketch.constraint(name)
    assert c.of == (sides[1], point[0]) and c.value == "15"
    right = d.at(d.sketch.by_id[sides[1]].points[0]).real
    assert abs(d.at(point[0]).real - right) == pytest.approx(15)


# places by numbers ------------------------------------------------------------------------------
def test_a_place_by_numbers_is_two_dimensions_that_keep_their_hand() -> None:
    d = Desk()
    d.commands.start_tool("circle")
    d.board.move(d.board.paper.pixel(10 + 10j))
    assert d.board.typed("-") and d.commands.place_by_numbers("-27; 14.5+1")
    d.click(-20, 15.5)
    centre = d.curve("circle").centre
    assert abs(d.at(centre) - complex(-27, 15.5)) < 1e-9
    assert [(c.kind, c.value) for c in d.sketch.constraints] == [("across_x", "27"), ("across_y", "14.5+1")]
    d.commands.set_mode("pick")
    d.board.choose((d.sketch.constraints[0].id,))
    d.commands.dimensions.give_value("30")
    assert d.at(centre).real == pytest.approx(-30)


def test_an_ordinate_left_out_comes_from_the_pointer_and_zero_is_no_dimension() -> None:
    d = Desk()
    d.commands.start_tool("line")
    assert d.commands.place_by_numbers("0;0")
    d.board.move(d.board.paper.pixel(40 + 0.3j))
    assert d.commands.place_by_numbers("38;")
    d.board.move(d.board.paper.pixel(38.2 + 25j))
    assert d.commands.place_by_numbers(";24")
    assert d.state.headline == "held"
    assert sorted((c.kind, c.value) for c in d.sketch.constraints if c.value) == [
        ("across_x", "38"),
        ("across_y", "24"),
    ]
    for bad in ("", ";", "1;2;3", "1;x", "nonsense", "1/0;2"):
        assert not d.commands.place_by_numbers(bad) and d.said[-1][1]


@settings(max_examples=200, deadline=None)
@given(st.text(alphabet="0123456789.;+-*/() ,x#", max_size=24))
def test_any_text_is_a_place_or_refused_with_words(text: str) -> None:
    d = Desk()
    try:
        found = read_place(text, d.commands.scope, 3 + 4j)
    except SketchError as exc:
        assert exc.message
        return
    assert is_place(text) and math.isfinite(abs(found.place))


def _circle(x: float, y: float, r: float, k: SketchBuilder) -> None:
    k.circle(k.point(x, y), r)


def _diameter(size: float, k: SketchBuilder) -> None:
    k.add("diameter", next(n for n, e in reversed(k.entities.items()) if e.kind == "circle"), value=str(size))


# pointing ---------------------------------------------------------------------------------------
def test_a_region_pointed_at_is_offset_and_rounded_as_a_whole() -> None:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (-30, -20), (30, 20)))
    d.board.choose(())
    d.board.move(d.board.paper.pixel(3 + 2j))
    d.ask.given = {"distance inwards (negative: outwards)": "4", "radius": "3"}
    assert pressed(d.commands, "Y") and pressed(d.commands, "U")
    inner = 52 * 32 - (4 - math.pi) * 9
    assert sorted(r.area for r in d.state.regions) == pytest.approx(sorted((inner, 60 * 40 - inner)))
    assert sum(c.kind == "radius" for c in d.sketch.constraints) == 1, "one is dimensioned, the others equal to it"
    d.ask.given["distance inwards (negative: outwards)"] = "40"
    d.board.move(d.board.paper.pixel(3 + 2j))
    pressed(d.commands, "Y")
    assert "offset" in d.words and len(d.state.regions) == 2


@pytest.mark.parametrize("cusp", [0.0, 0.35])
def test_a_region_between_arcs_is_offset_to_their_own_meetings(cusp: float) -> None:
    """Two circles of radius 20 about (-+12, 0): their common lens, 3 within, is that of radius 17."""
    d = Desk()
    for x in (-12, 12):
        z = x * cmath.rect(1, cusp)
        d.draw(partial(_circle, z.real, z.imag, 20))
    d.board.choose(())
    d.board.move(d.board.paper.pixel(0j))
    d.ask.given = {"distance inwards (negative: outwards)": "3"}
    pressed(d.commands, "Y")
    half = math.acos(12 / 17)
    assert min(r.area for r in d.state.regions) == pytest.approx(2 * 17**2 * (half - math.sin(half) * math.cos(half)))


def test_an_arc_of_a_typed_radius_that_nearly_touches_is_tangent() -> None:
    d = Desk()
    for x, r in ((-25, 14), (25, 10)):
        d.draw(partial(_circle, x, 0, r))
        d.draw(partial(_diameter, 2 * r))
    d.commands.start_tool("arc")
    d.click(-16, 10.5)
    d.click(19, 8)
    d.board.move(d.board.paper.pixel(0 + 3j))
    draw = d.board.interaction
    assert isinstance(draw, Draw)
    d.commands.take_sizes({"radius": "30"}, {"radius": 30.0})
    d.commands.finish_here()
    arc = d.curve("arc")
    assert _kinds(d, arc.id).count("tangent") == 2
    centre = d.at(arc.centre)
    for circle in (c for c in d.sketch.curves if c.kind == "circle"):
        assert abs(centre - d.at(circle.centre)) == pytest.approx(30 + circle.radius)


def test_lettering_begun_at_the_middle_of_a_line_is_centred_on_it() -> None:
    d = Desk()
    d.draw(lambda k: k.segment((-30, -10), (30, 20)))
    d.commands.start_tool("text")
    d.click(0, 5)
    text = next(e for e in d.sketch.entities if e.kind == "text")
    assert text.centred and text.along == d.curve("line").id
    u = cmath.rect(1, -math.atan2(30, 60))
    along = [((z - (0 + 5j)) * u).real for s in d.state.letters for z in (s.at(0), s.at(1))]
    assert abs(min(along) + max(along)) < 0.1 * (max(along) - min(along))
