"""Every drawing tool, drag, dimension placing and picking, with plain events. Results are checked by place."""

from __future__ import annotations

import cmath
import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.workbench.sketch.board import REACH, distance_to
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.interactions import Pick, Window
from lathed_solid.workbench.sketch.paper import Paper
from lathed_solid.workbench.sketch.tools import BY_ID, TOOLS

from .sketching import Desk

numbers = st.floats(-500, 500)
places = st.builds(complex, numbers, numbers)


# paper -----------------------------------------------------------------------------------------
@given(places, places, st.floats(0.2, 5))
def test_the_paper_gives_places_back_and_zooms_about_the_pointer(a: complex, b: complex, factor: float) -> None:
    paper = Paper()
    assert paper.place(paper.pixel(a)) == pytest.approx(a, abs=1e-9)
    at = paper.pixel(b)
    paper.zoom(at, factor)
    assert paper.place(at) == pytest.approx(b, abs=1e-6) and paper.scale == pytest.approx(4 * factor)
    before = paper.place(at)
    paper.pan(10 - 4j)
    assert paper.place(at + 10 - 4j) == pytest.approx(before, abs=1e-6) and not paper.fitted


def test_up_is_up_and_a_box_is_fitted_into_the_middle() -> None:
    paper = Paper()
    assert paper.pixel(1j).imag < paper.pixel(0j).imag < paper.pixel(-1j).imag
    paper.size = (600, 400)
    paper.fit(10 + 20j, 30 + 40j)
    assert paper.pixel(20 + 30j) == pytest.approx(300 + 200j) and paper.fitted
    low, high = paper.pixel(10 + 20j), paper.pixel(30 + 40j)
    assert low.real >= 84 and high.imag >= 84 and low.imag <= 400 - 84


# drawing ---------------------------------------------------------------------------------------
def test_a_line_goes_on_from_its_end_until_enter_and_is_level_when_nearly_so() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.click(0, 0)
    d.click(30, 0.4)
    first = d.curve("line")
    assert d.at(first.end) == pytest.approx(30 + 0j, abs=1e-9)
    assert [c.kind for c in d.sketch.constraints if c.inferred] == ["horizontal", "fixed"]
    assert d.board.interaction.hint == "line: end of the line"  # type: ignore[union-attr]
    d.click(30, 20)
    second = d.curve("line", 1)
    assert d.at(second.start) == pytest.approx(30 + 0j) and d.at(second.end) == pytest.approx(30 + 20j)
    d.board.accept()
    d.click(-20, -10)
    assert len(d.sketch.curves) == 2, "a new run begins"


def test_closing_a_run_ties_its_ends_and_ends_it() -> None:
    d = Desk()
    d.commands.start_tool("line")
    for x, y in ((0, 0), (30, 0), (10, 17), (0, 0)):
        d.click(x, y)
    assert len(d.sketch.curves) == 3 and len(d.state.regions) == 1
    assert isinstance(d.board.interaction, Draw) and d.board.interaction.snaps == []


def test_inference_is_refused_with_a_key_and_said_before_it_is_taken() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.click(5, 0)
    draw = d.board.interaction
    assert isinstance(draw, Draw)
    d.board.move(d.board.paper.pixel(20 + 0.1j))
    sketch, here, said = draw.preview()
    assert sketch is not None and said == "horizontal · on x axis" and here.place == pytest.approx(20)
    assert d.board.typed("n")
    assert draw.preview()[2] == "nothing inferred"
    d.click(20, 0.1)
    assert not d.sketch.constraints and d.at(d.curve("line").end).imag == pytest.approx(0.1)


def test_a_place_near_a_point_a_middle_or_a_curve_is_tied_to_it() -> None:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (0, 0), (40, 20)))
    for x, y, kind in ((40.3, 20.2, "coincident"), (20.2, 0.3, "midpoint"), (0.3, 5, "on"), (70, 30, "")):
        assert d.board.snap(d.board.paper.pixel(complex(x, y))).kind == kind
    assert d.board.snap(d.board.paper.pixel(0.2 - 0.2j)).kind == "coincident"
    empty = Desk()
    assert empty.board.snap(empty.board.paper.origin + 3).place == 0, "the origin holds an empty sheet's first click"


CLICKS = [(-30.0, -20.0), (10.0, -4.0), (5.0, 21.0)]


@pytest.mark.parametrize("tool", [t.id for t in TOOLS if t.id not in ("text", "tangent-arc", "arc-slot")])
def test_every_tool_draws_what_its_preview_shows(tool: str) -> None:
    d = Desk()
    d.board.settings.infer = False
    d.commands.start_tool(tool)
    draw = d.board.interaction
    assert isinstance(draw, Draw) and draw.tool is BY_ID[tool]
    clicks = CLICKS[: draw.tool.clicks] if tool != "spline" else CLICKS
    for x, y in clicks[:-1]:
        d.click(x, y)
    d.board.move(d.board.paper.pixel(complex(*clicks[-1])))
    shown = draw.preview()[0]
    d.click(*clicks[-1])
    if tool == "spline":
        d.board.accept()
    assert shown is not None
    assert [e.kind for e in shown.entities] == [e.kind for e in d.sketch.entities]
    want = sorted((round(p.x, 6), round(p.y, 6)) for p in shown.points)
    assert sorted((round(p.x, 6), round(p.y, 6)) for p in d.sketch.points) == want


def test_where_the_figures_stand() -> None:
    """Circle, slot, polygon and arcs by closed forms."""
    d = Desk()
    d.board.settings.infer = False
    for tool, clicks in (
        ("circle", [(0, 0), (6, 8)]),
        ("arc", [(-5, 20), (5, 20), (0, 25)]),
        ("centre-arc", [(40, 0), (50, 0), (40, 3)]),
        ("polygon", [(0, -40), (9, -40)]),
        ("slot", [(-40, 0), (-40, 30), (-34, 15)]),
    ):
        d.commands.start_tool(tool)
        for x, y in clicks:
            d.click(x, y)
    circle = d.curve("circle")
    assert circle.radius == pytest.approx(10) and d.at(circle.centre) == 0
    arc = d.state.shape(d.curve("arc").id)
    assert arc.at(0.5) == pytest.approx(25j) and arc.centre == pytest.approx(20j)  # type: ignore[attr-defined]
    turned = d.state.shape(d.curve("arc", 1).id)
    assert turned.centre == pytest.approx(40) and turned.radius == pytest.approx(10)  # type: ignore[attr-defined]
    assert turned.at(1) == pytest.approx(40 + 10j) and turned.at(0) == pytest.approx(50)
    flats = [d.state.shape(c.id) for c in d.sketch.curves if c.kind == "line" and not c.construction]
    six = [s for s in flats if abs(s.at(0.5) + 40j) < 12]
    assert len(six) == 6 and all(abs(s.at(0.5) + 40j) == pytest.approx(9) for s in six)
    slot = [d.state.shape(c.id) for c in d.sketch.curves if c.kind == "arc"][2:]
    assert sorted(s.centre.imag for s in slot) == pytest.approx([0, 30])  # type: ignore[attr-defined]
    assert all(s.radius == pytest.approx(6) for s in slot)  # type: ignore[attr-defined]


def test_typed_sizes_make_dimensions_and_the_figure_keeps_them() -> None:
    d = Desk()
    d.commands.start_tool("rectangle")
    d.click(0, 0)
    typed: list[str] = []
    d.board.value_typed.connect(typed.append)
    assert d.board.typed("4") and typed == ["4"]
    d.board.move(d.board.paper.pixel(10 - 8j))
    d.commands.take_sizes({"width": "40", "height": "25"}, {"width": 40.0, "height": 25.0})
    d.commands.finish_here()
    xs = [p.x for p in d.sketch.points]
    ys = [p.y for p in d.sketch.points]
    # towards the pointer: to the right and down
    assert (min(xs), max(xs), min(ys), max(ys)) == pytest.approx((0, 40, -25, 0))
    assert sorted(d.state.values.values()) == [25, 40] and d.board.settings.texts == {}
    d.commands.set_mode("pick")
    assert not d.board.typed("4"), "a digit means nothing without a tool"


def test_a_figure_without_size_is_refused_in_words() -> None:
    d = Desk()
    d.commands.start_tool("circle")
    d.click(5, 5)
    d.click(5, 5)
    assert d.said[-1][1] and not d.sketch.curves


def test_escape_lets_go_of_the_run_then_of_the_tool_then_of_the_pick() -> None:
    d = Desk()
    d.draw(lambda k: k.segment((0, 0), (20, 0)))
    d.click(10, 0)
    assert d.board.chosen == (d.curve("line").id,)
    d.commands.start_tool("line")
    d.click(30, 30)
    d.board.cancel()
    assert d.board.mode == "draw" and d.board.interaction.snaps == []  # type: ignore[union-attr]
    d.board.cancel()
    assert d.board.mode == "pick" and d.board.chosen
    d.board.cancel()
    assert d.board.chosen == ()


# picking and dragging --------------------------------------------------------------------------
def rectangle() -> Desk:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (0, 0), (40, 20)))
    d.board.fit()
    return d


def test_clicks_pick_shift_adds_and_takes_away() -> None:
    d = rectangle()
    d.click(20, 0)
    d.click(40, 10, add=True)
    assert len(d.board.chosen) == 2
    d.click(20, 0, add=True)
    assert len(d.board.chosen) == 1
    d.click(0, 0)
    assert [d.sketch.by_id[n].kind for n in d.board.chosen] == ["point"], "a point before the curves through it"
    d.click(20, 10)
    assert d.board.chosen == (), "a click on paper"
    d.double(20, 0)
    assert len(d.board.chosen) == 4, "the whole chain"
    assert d.board.pressed_at(d.board.chosen[0]) == pytest.approx(20, abs=1e-6)


def test_a_window_picks_what_lies_wholly_within() -> None:
    d = rectangle()
    d.draw(lambda k: (k.point(60, 10), k.circle(k.point(80, 10), 5)))
    d.board.fit()
    d.drag((-5, -5), (48, 8))
    assert len(d.board.chosen) == 1, "only the lower side"
    d.drag((88, 30), (50, -3))
    kinds = sorted(d.sketch.by_id[n].kind for n in d.board.chosen)
    assert kinds == ["circle", "point"], "the circle, and the point that stands alone"
    d.drag((50, -3), (83, 30), drop=False)
    assert isinstance(d.board.interaction, Pick) and isinstance(d.board.interaction.gesture, Window)
    d.board.cancel()
    assert d.board.interaction.gesture is None and len(d.board.chosen) == 2


def test_what_is_loose_follows_the_hand_and_the_rest_moves_least() -> None:
    d = rectangle()
    corner = next(p for p in d.sketch.points if (p.x, p.y) == pytest.approx((40, 20)))
    d.drag((40, 20), (55, 28), drop=False)
    assert d.board.dragged is not None and corner.id in d.board.moving
    d.board.release(d.board.paper.pixel(55 + 28j))
    # the pull is soft: it lags by a few parts in a million of the way
    assert d.at(corner.id) == pytest.approx(55 + 28j, abs=1e-3) and d.labels[-1].endswith("drag")
    # still a rectangle, and the corner across from it stayed
    assert sorted({round(p.x, 2) for p in d.sketch.points}) == [0, 55]
    assert sorted({round(p.y, 2) for p in d.sketch.points}) == [0, 28]
    before = d.sketch
    d.drag((55, 28), (70, 40), drop=False)
    d.board.cancel()
    d.board.release(d.board.paper.pixel(70 + 40j))
    assert d.sketch == before and d.board.dragged is None, "Escape gives the drag up"


def test_what_is_held_or_fights_is_not_dragged() -> None:
    d = Desk()

    def held(k: SketchBuilder) -> None:
        line = k.segment((0, 0), (30, 0))
        e = k.entities[line]
        k.add("fixed", e.points[0])
        k.add("horizontal", line)
        k.add("distance", line, value="30")

    d.draw(held)
    d.drag((15, 0), (15, 20))
    assert "is held: nothing to drag" in d.words and d.labels == ["step 10: given"]
    d.draw(lambda k: k.add("distance", d.curve("line").id, value="50"))
    d.drag((15, 0), (15, 20))
    assert "end the fight first" in d.words
    # a press that moved is no click
    assert d.board.chosen == ()


# dimensions ------------------------------------------------------------------------------------
@pytest.mark.parametrize(
    ("at", "kind", "value"),
    [((15, 30), "across_x", 30), ((50, 5), "across_y", 10), ((36, 16), "distance", math.hypot(30, 10))],
)
def test_where_a_dimension_stands_says_which_one_is_meant(at: tuple[float, float], kind: str, value: float) -> None:
    d = Desk()
    d.draw(lambda k: k.segment((0, 0), (30, 10)))
    begun: list[tuple[object, str]] = []
    d.commands.dimensions.begun.connect(lambda c, text: begun.append((c, text)))
    d.board.fit()
    d.commands.set_mode("dimension")
    d.click(15, 5)
    d.click(*at)
    ((c, _text),) = begun
    assert c.kind == kind and d.commands.dimensions.pending is not None  # type: ignore[attr-defined]
    d.commands.dimensions.give_value("24")
    (k,) = d.sketch.constraints
    assert k.kind == kind and d.state.values[k.id] == 24
    assert k.label is not None and d.board.chosen == ()
    # its text stands where it was placed
    from lathed_solid.workbench.sketch.places import anchor

    figure = Desk()
    figure.draw(lambda b: b.segment((0, 0), (30, 10)))
    assert anchor(figure.sketch, k) + complex(*k.label) == pytest.approx(complex(*at), abs=1e-6)


def test_two_things_are_dimensioned_between_and_paper_between_nothing() -> None:
    d = Desk()
    d.draw(lambda k: (k.segment((0, 0), (0, 20)), k.segment((30, 0), (30, 20)), k.circle(k.point(60, 10), 5)))
    d.board.fit()
    d.commands.set_mode("dimension")
    d.click(0, 10)
    d.click(30, 10)
    d.click(15, 30)
    assert d.commands.dimensions.pending is not None and d.commands.dimensions.pending.kind == "distance"
    d.commands.dimensions.give_value("32")
    first, second = (d.state.shape(d.curve("line", n).id) for n in (0, 1))
    u = first.along(0.5) / abs(first.along(0.5))
    assert abs(((second.at(0) - first.at(0)) * u.conjugate()).imag) == pytest.approx(32)
    d.commands.set_mode("dimension")
    d.click(*_rim(d))
    d.click(90, 30)
    assert d.commands.dimensions.pending is not None and d.commands.dimensions.pending.kind == "diameter"
    d.commands.set_mode("pick")
    assert d.commands.dimensions.pending is None, "what was not given a value is gone"
    d.board.choose(())
    d.commands.set_mode("dimension")
    d.click(200, 200)
    assert d.board.chosen == () and d.commands.dimensions.pending is None


def _rim(d: Desk) -> tuple[float, float]:
    circle = d.state.shape(d.curve("circle").id)
    z = circle.at(0.3)
    return z.real, z.imag


def test_a_dimensions_text_is_picked_opened_and_changed() -> None:
    d = Desk()
    d.draw(lambda k: k.add("distance", k.segment((0, 0), (30, 0)), value="30"))
    (k,) = d.sketch.constraints
    at = d.board.paper.pixel(15 + 6j)
    d.board.boxes = {k.id: (at.real - 12, at.imag - 8, at.real + 12, at.imag + 8)}
    opened: list[str] = []
    d.board.dimension_opened.connect(opened.append)
    d.double(15, 6)
    assert opened == [k.id] and d.board.chosen == (k.id,)
    d.commands.dimensions.give_value("45 / 1.5 + 5")
    assert d.state.values[k.id] == 35
    d.board.choose((k.id,))
    d.commands.dimensions.toggle_reference(True)
    assert d.sketch.constraint(k.id).reference  # type: ignore[union-attr]
    d.commands.remove_chosen()
    assert not d.sketch.constraints and d.board.chosen == ()


# regions, trimming, edges ----------------------------------------------------------------------
def test_regions_are_taken_left_out_and_built_on() -> None:
    d = rectangle()
    d.draw(lambda k: k.circle(k.point(20, 10), 5))
    d.commands.set_mode("regions")
    d.board.move(d.board.paper.pixel(20 + 10j))
    inner = d.board.hover
    d.click(20, 10)
    assert d.board.regions == (inner,)
    d.click(2, 2)
    assert len(d.board.regions) == 2
    d.click(20, 10)
    assert len(d.board.regions) == 1 and inner not in d.board.regions
    d.click(-20, -20)
    assert len(d.board.regions) == 1
    taken = d.board.regions
    d.commands.build_on("extrude")
    assert d.wanted == [("extrude", {"sketch": 10, "regions": taken})]
    assert d.board.regions == (), "the next build begins with regions of its own"
    d.commands.build_on("revolve")
    assert "line to revolve about" in d.words and len(d.wanted) == 1
    d.draw(lambda k: k.segment((0, -10), (40, -10), construction=True))
    d.commands.build_on("revolve-cut")
    assert d.wanted[-1][0] == "revolve-cut" and d.sketch.by_id[d.wanted[-1][1]["axis"]].construction


def test_trimming_takes_the_clicked_piece() -> None:
    d = Desk()
    d.draw(lambda k: (k.segment((-20, 0), (20, 0)), k.segment((0, -20), (0, 20))))
    d.board.fit()
    d.commands.set_mode("trim")
    d.click(10, 0)
    level = [d.state.shape(c.id) for c in d.sketch.curves if abs(d.state.shape(c.id).along(0.5).imag) < 1e-9]
    assert len(level) == 1 and max(level[0].at(0).real, level[0].at(1).real) == pytest.approx(0)
    before = d.sketch
    d.click(15, 15)
    assert d.sketch == before


def test_edges_of_the_body_are_found_near_the_pointer_and_taken_once() -> None:
    d = Desk()
    d.board.outline = (
        Edge("20/end|20/l1", "line", ((0, 0), (40, 0))),
        Edge("20/end|20/l1|20/l2|~corner", "point", ((40, 0),)),
        Edge("20/end|20/c1", "circle", ((20, 15),), 6.0),
        Edge("20/end|20/a1", "arc", ((60, 0), (70, 0), (60, 10))),
    )
    d.board.fit()
    d.commands.set_mode("take")
    way = cmath.rect(10, 0.7)
    for place, name in ((20 + 0j, "20/end|20/l1"), (40 + 0j, "20/end|20/l1|20/l2|~corner"), (26 + 15j, "20/end|20/c1"),
                        (60 + way, "20/end|20/a1"), (60 - way, None)):  # fmt: skip
        assert d.board.edge_under(d.board.paper.pixel(place)) == name
    d.click(26, 15)
    circle = d.curve("circle")
    assert circle.construction and circle.source == "20/end|20/c1" and circle.radius == 6
    d.click(26, 15)
    assert "in the sketch already" in d.words


@given(st.lists(places, min_size=2, max_size=5), places)
def test_the_distance_from_a_polyline_is_the_least_over_its_pieces(points: list[complex], at: complex) -> None:
    sampled = min(abs(a + (b - a) * k / 200 - at) for a, b in itertools.pairwise(points) for k in range(201))
    step = max(abs(b - a) for a, b in itertools.pairwise(points)) / 200
    # pixels: a piece shorter than a millionth of one is taken as a point
    assert sampled - step - 1e-6 <= distance_to(points, at) <= sampled + 1e-6


def test_hovering_follows_what_a_click_would_mean() -> None:
    d = rectangle()
    d.board.move(d.board.paper.pixel(20 + 0j) + REACH / 2 * 1j)
    assert d.board.hover == d.state.near_curves(20 + 0j, 1)[0][1]
    d.board.leave()
    assert d.board.hover is None and d.board.cursor is None
    d.commands.start_tool("circle")
    d.board.move(d.board.paper.pixel(20 + 0j))
    assert d.board.hover is None, "with a tool, places count"
