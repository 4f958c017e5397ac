"""A dimension, a tie, a relation mean what was picked and where it was put; nothing is taken over unseen."""

from __future__ import annotations

import cmath
import math
import time
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.files import read_document, write_document
from lathed_solid.part import RevolveStep, edits
from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.laid_edge import Edge
from lathed_solid.sketch.model import Line
from lathed_solid.workbench.sketch.dimensioning import dimension_for, other_meanings
from lathed_solid.workbench.sketch.drawing import Draw
from lathed_solid.workbench.sketch.relations import OfferedRelation, offered
from lathed_solid.workbench.sketch.tools import TOOLS, Tool

from .sketching import Desk


# angles ----------------------------------------------------------------------------------------
def two_lines(turn: float) -> Desk:
    """A level line from the origin, held, and one of 30 mm leaving it at an angle."""
    d = Desk()

    def draw(k: SketchBuilder) -> None:
        o = k.point(0, 0)
        k.add("fixed", o)
        first = k.line(o, k.point(40, 0))
        k.add("horizontal", first)
        k.add("distance", first, value="40")
        end = cmath.rect(30, turn)
        k.add("distance", k.line(o, k.point(end.real, end.imag)), value="30")

    d.draw(draw)
    return d


@pytest.mark.parametrize("turn", [35, 80, 135, 170, -50, -120])
@pytest.mark.parametrize("where", [20, 100, 160, 200, 290, 345])
def test_an_angle_is_that_of_the_sector_where_its_text_stands_and_stays_in_it(turn: float, where: float) -> None:
    d = two_lines(math.radians(turn))
    a, b = (c.id for c in d.sketch.curves)
    at = cmath.rect(15, math.radians(where))
    c = dimension_for(d.state, (a, b), at)
    assert c is not None and c.kind == "angle"
    # the sector by its rays, without lines' directions: which two of the four rays are on either side of the text
    rays = sorted(x % 360 for x in (0, 180, turn, turn + 180))
    after = next((r for r in rays if r > where), rays[0] + 360)
    before = next((r for r in reversed(rays) if r <= where), rays[-1] - 360)
    opening = after - before
    d.commands.dimensions.begin(c)
    d.commands.dimensions.give_value(f"{opening:.12g} deg")
    assert d.state.seen is not None and d.state.seen.state == "held"
    assert abs(d.at(d.curve("line", 1).end) - cmath.rect(30, math.radians(turn))) < 1e-6, (
        "the value it has moves nothing"
    )
    k = d.sketch.constraints[-1]
    d.board.choose((k.id,))
    d.commands.dimensions.give_value(f"{opening + 5:.12g} deg")
    end = math.degrees(cmath.phase(d.at(d.curve("line", 1).end)))
    assert abs(math.remainder(end - turn, 360)) == pytest.approx(5, abs=1e-6), "a small edit moves it a little"


def test_the_other_angle_is_one_button_away() -> None:
    d = two_lines(math.radians(135))
    a, b = (c.id for c in d.sketch.curves)
    d.commands.set_mode("dimension")
    d.click(20, 0)
    d.click(*[(cmath.rect(20, math.radians(135))).real, (cmath.rect(20, math.radians(135))).imag])
    d.click(2, 12)
    assert d.commands.dimensions.pending is not None and not d.commands.dimensions.pending.supplement
    (other,) = d.commands.dimensions.other_meanings()
    d.commands.dimensions.begin(other)
    d.commands.dimensions.give_value("45 deg")
    assert d.at(d.curve("line", 1).end) == pytest.approx(cmath.rect(30, math.radians(135)), abs=1e-6)
    assert (a, b) == d.sketch.constraints[-1].of


# centrelines -----------------------------------------------------------------------------------
def line_and_centre(**line: bool) -> Desk:
    d = Desk()

    def draw(k: SketchBuilder) -> None:
        o = k.point(0, 0)
        k.add("fixed", o)
        axis = k.line(o, k.point(40, 0), **line)
        k.add("horizontal", axis)
        k.circle(k.point(20, 13), 4)

    d.draw(draw)
    return d


def test_a_distance_from_a_construction_line_is_that_distance() -> None:
    d = line_and_centre(construction=True)
    axis, centre = d.curve("line").id, d.curve("circle").centre
    c = dimension_for(d.state, (centre, axis), 30 + 8j)
    assert c is not None and c.kind == "distance"
    d.commands.dimensions.begin(c)
    d.commands.dimensions.give_value("32")
    assert d.at(centre).imag == pytest.approx(32, abs=1e-6)


def test_a_diameter_goes_across_a_declared_centreline() -> None:
    d = line_and_centre()
    axis, centre = d.curve("line").id, d.curve("circle").centre
    d.board.choose((axis,))
    d.commands.toggle_centreline()
    line = d.curve("line")
    assert isinstance(line, Line) and line.centreline and line.construction
    c = dimension_for(d.state, (axis, centre), 30 + 8j)
    assert c is not None and c.kind == "across_axis"
    d.commands.dimensions.begin(c)
    d.commands.dimensions.give_value("32")
    assert d.at(centre).imag == pytest.approx(16, abs=1e-6)
    d.commands.toggle_centreline()
    assert d.curve("line").centreline, "nothing is chosen after a dimension"
    assert d.said[-1][1]


def test_the_axis_of_a_revolve_is_a_centreline() -> None:
    d = line_and_centre(construction=True)
    axis, centre = d.curve("line").id, d.curve("circle").centre
    document = edits.put_step(d.state.document, RevolveStep(number=20, sketch=10, axis=axis))
    d.state.load(document, document.step(10))  # type: ignore[arg-type]
    c = dimension_for(d.state, (axis, centre), 30 + 8j)
    assert c is not None and c.kind == "across_axis"


def test_meaning_it_across_declares_the_line() -> None:
    d = line_and_centre(construction=True)
    axis, centre = d.curve("line").id, d.curve("circle").centre
    c = dimension_for(d.state, (axis, centre), 30 + 8j)
    assert c is not None
    across = next(k for k in other_meanings(d.sketch, c) if k.kind == "across_axis")
    d.commands.dimensions.begin(across)
    d.commands.dimensions.give_value("26")
    assert d.curve("line").centreline and d.at(centre).imag == pytest.approx(13, abs=1e-6)


def test_far_instead_of_near_and_a_diameter_instead_of_a_radius() -> None:
    d = line_and_centre()
    axis, circle = d.curve("line").id, d.curve("circle").id
    near = dimension_for(d.state, (axis, circle), 30 + 5j)
    assert near is not None and near.kind == "near"
    far = next(k for k in other_meanings(d.sketch, near) if k.kind == "far")
    d.commands.dimensions.begin(far)
    d.commands.dimensions.give_value("20")
    assert d.at(d.curve("circle").centre).imag + d.curve("circle").radius == pytest.approx(20, abs=1e-6)
    size = dimension_for(d.state, (circle,), 30 + 20j)
    assert size is not None and [k.kind for k in other_meanings(d.sketch, size)] == ["radius"]


# the origin ------------------------------------------------------------------------------------
def test_what_begins_at_the_origin_stays_there() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.click(0.2, -0.1)
    d.click(31, 22)
    line = d.curve("line")
    tied = [c for c in d.sketch.constraints if c.kind == "fixed"]
    assert [c.of for c in tied] == [(line.start,)] and tied[0].inferred
    assert ("inferred: fixed") in d.state.relations_on((line.start,))[0][1]
    for kind, value in (("across_x", "10"), ("across_y", "45")):
        d.draw(lambda k, kind=kind, value=value: k.add(kind, line.id, value=value))  # type: ignore[misc]
    assert d.state.seen is not None and d.state.seen.state == "held"
    assert abs(d.at(line.start)) < 1e-9 and abs(d.at(line.end) - (10 + 45j)) < 1e-9


def test_the_end_of_a_line_taken_level_still_ends_at_the_origin() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.click(-40, 1)
    d.click(0, 0)
    line = d.curve("line")
    assert abs(d.at(line.end)) < 1e-9 and abs(d.at(line.start) - -40) < 1e-6


def test_with_nothing_inferred_nothing_is_tied_to_the_origin() -> None:
    d = Desk()
    d.commands.start_tool("line")
    d.board.typed("n")
    d.click(0.05, 0)
    d.click(31, 22)
    assert not d.sketch.constraints


# relations on much -----------------------------------------------------------------------------
def many(lines: int, circles: int = 0) -> SketchBuilder:
    k = SketchBuilder()
    for i in range(lines):
        k.segment((0, 3.0 * i), (20, 3.0 * i + 0.3))
    for i in range(circles):
        k.circle(k.point(-20, 9.0 * i), 3 + 0.1 * i)
    return k


def test_five_hundred_picked_things_are_answered_at_once() -> None:
    sketch = many(400, 100).done()
    picked = tuple(c.id for c in sketch.curves)
    began = time.perf_counter()
    assert offered(sketch, picked) == [], "lines and circles together have nothing in common but tangency to one"
    lines = offered(sketch, picked[:400])
    assert time.perf_counter() - began < 5, "not all orders of the pick"
    by = {o.kind: o for o in lines}
    assert len(by["horizontal"].groups) == 400 and len(by["parallel"].groups) == 399
    assert {g[0] for g in by["equal"].groups} == {picked[0]}


def test_relations_go_on_all_that_is_picked() -> None:
    d = Desk()
    d.draw(lambda k: [k.segment((0, 5.0 * i), (20 + i, 5.0 * i + 1)) for i in range(5)])
    picked = tuple(c.id for c in d.sketch.curves)
    by = {o.kind: o for o in offered(d.sketch, picked)}
    assert by["parallel"].words.endswith("×4")
    d.commands.relate(by["horizontal"])
    d.commands.relate(by["equal"])
    lengths = {round(d.state.shape(n).length, 9) for n in picked}
    assert len(lengths) == 1 and all(abs(d.state.shape(n).along(0.5).imag) < 1e-9 for n in picked)
    assert d.labels[-2:] == ["step 10: horizontal ×5", f"step 10: {by['equal'].words}"], "one edit each"


def test_points_go_on_the_only_curve_and_names_that_are_no_entities_are_passed_over() -> None:
    k = many(1)
    points = [k.point(5.0 * i, 7) for i in range(5)]
    sketch = k.done()
    by = {o.kind: o for o in offered(sketch, ("k9", *points, "l1"))}
    assert by["on"] == OfferedRelation("on", tuple((p, "l1") for p in points))
    assert offered(sketch, ()) == offered(sketch, ("k1",)) == []


# dimensioning, drawing, looking ----------------------------------------------------------------
def test_a_dimension_begins_with_nothing_and_passes_over_texts() -> None:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (-20, -10), (20, 10)))
    d.draw(lambda k: k.add("distance", k.segment((-20, 30), (20, 30)), value="40"))
    text = d.sketch.constraints[-1].id
    at = d.board.paper.pixel(12 + 22j)
    d.board.boxes = {text: (at.real - 20, at.imag - 8, at.real + 20, at.imag + 8)}
    d.board.choose((d.curve("line").id,))
    d.commands.set_mode("dimension")
    assert d.board.chosen == ()
    d.click(12, 22)
    assert d.board.chosen == () and not d.said, "the text of another dimension is paper"
    d.click(12, 30)
    d.click(12, 22)
    assert d.commands.dimensions.pending is not None and d.commands.dimensions.pending.of == (d.curve("line", 4).id,)


def test_geometry_is_picked_before_texts_and_what_lies_beneath_by_a_second_click() -> None:
    d = Desk()
    d.draw(lambda k: k.add("distance", k.segment((-20, 0), (20, 0)), value="40"))
    line, text = d.curve("line"), d.sketch.constraints[-1].id
    at = d.board.paper.pixel(20 + 0j)
    d.board.boxes = {text: (at.real - 60, at.imag - 12, at.real + 60, at.imag + 12)}
    seen = []
    for _ in range(5):
        d.click(20, 0)
        seen.append(d.board.chosen[0])
    assert seen == [line.end, line.id, text, "x axis", line.end]
    near = d.board.paper.place(at + 30 + 6j)
    d.click(near.real, near.imag)
    assert d.board.chosen == (text,), "beside the geometry the text is meant"


def test_undo_within_a_chain_goes_back_one_line_and_the_chain_goes_on() -> None:
    d = Desk()
    documents = [d.state.document]
    d.commands.changed.connect(lambda _l, _s: documents.append(d.state.document))
    d.commands.start_tool("line")
    for x, y in ((5, 5), (25, 8), (30, 22), (12, 30)):
        d.click(x, y)
    assert len(d.sketch.curves) == 3
    for lines in (2, 1):
        documents.pop()
        step = documents[-1].step(10)
        d.state.load(documents[-1], step)  # type: ignore[arg-type]
        d.board.refresh()
        assert len(d.sketch.curves) == lines
    d.click(28, -12)
    assert len(d.sketch.curves) == 2 and not any(bad for _, bad in d.said)
    assert d.at(d.curve("line", 1).start) == pytest.approx(25 + 8j, abs=0.5)
    documents.pop()
    documents.pop()
    d.state.load(documents[-1], documents[-1].step(10))  # type: ignore[arg-type]
    d.board.refresh()
    assert not d.sketch.curves
    d.click(10, 20)
    assert len(d.sketch.curves) == 1 and d.at(d.curve("line").start) == pytest.approx(5 + 5j, abs=0.5)


def test_a_sketch_on_a_round_face_opens_at_its_size() -> None:
    d = Desk()
    d.board.outline = (Edge(name="10/top.rim", kind="circle", points=((3.0, 4.0),), radius=20.0),)
    d.board.fit()
    corners = [d.board.paper.place(z) for z in (0j, 600 + 400j)]
    assert corners[0].imag >= 24 and corners[1].imag <= -16, "the whole face is seen"
    assert corners[0].imag - corners[1].imag < 4 * 40, "and fills the paper"


def test_new_fields_open_again(tmp_path: Path) -> None:
    d = two_lines(math.radians(135))
    a, b = (c.id for c in d.sketch.curves)
    c = dimension_for(d.state, (a, b), 15 + 3j)
    assert c is not None
    beside = dimension_for(d.state, (a, b), -15 + 3j)
    assert beside is not None and beside.supplement and not c.supplement
    d.commands.dimensions.begin(beside)
    d.commands.dimensions.give_value("45 deg")
    part = ls.new_part("again")
    part = edits.put_step(part, d.state.step)  # type: ignore[arg-type]
    file = tmp_path / "again.json"
    write_document(file, part)
    assert read_document(file).step(10) == d.state.step


# sizes typed while drawing -----------------------------------------------------------------------
def type_size(d: Desk, label: str, text: str) -> None:
    """As the strip does it: the field's text, then Enter."""
    settings = d.board.settings
    value = d.commands.scope()(text, "length")
    d.commands.take_sizes(settings.texts | {label: text}, settings.values | {label: value})
    d.commands.finish_here()


def test_a_slot_is_drawn_with_typed_sizes_in_the_order_of_its_places() -> None:
    d = Desk()
    d.commands.start_tool("slot")
    draw = d.board.interaction
    assert isinstance(draw, Draw)
    d.click(5, 5)
    d.board.move(d.board.paper.pixel(30 + 5j))
    assert draw.tool.next_size(len(draw.snaps)) == "centres"
    type_size(d, "centres", "40")
    assert not d.sketch.curves and len(draw.snaps) == 2, "its width is asked for next"
    assert draw.tool.next_size(len(draw.snaps)) == "width"
    type_size(d, "width", "12")
    arcs = [c for c in d.sketch.curves if c.kind == "arc"]
    assert [round(d.state.shape(a.id).radius, 9) for a in arcs] == [6, 6]  # type: ignore[union-attr]
    assert abs(d.at(arcs[0].points[0]) - d.at(arcs[1].points[0])) == pytest.approx(40, abs=1e-6)


def test_after_two_clicked_centres_typing_goes_to_the_width() -> None:
    d = Desk()
    d.commands.start_tool("slot")
    d.click(5, 5)
    d.click(35, 5)
    draw = d.board.interaction
    assert isinstance(draw, Draw) and draw.tool.next_size(len(draw.snaps)) == "width"
    d.board.move(d.board.paper.pixel(35 + 5j))
    d.commands.finish_here()
    assert not d.sketch.curves and d.words == "the slot has no width yet"
    type_size(d, "width", "12")
    assert d.curve("arc").kind == "arc" and d.state.shape(d.curve("arc").id).radius == pytest.approx(6)  # type: ignore[union-attr]


@pytest.mark.parametrize("tool", TOOLS, ids=lambda t: t.id)
def test_typing_goes_to_a_size_that_is_open(tool: Tool) -> None:
    for placed in range(1, tool.clicks):
        label = tool.next_size(placed)
        assert label in [name for name, _ in tool.fields] or (not tool.fields and label == "")


def test_a_figure_that_turns_over_is_told_with_the_way_back() -> None:
    d = Desk()

    def plate(k: SketchBuilder) -> None:
        lines = shapes.polyline(k, [(0, 0), (40, 0), (40, 10), (12, 10), (12, 30), (0, 30)], closed=True)
        for i, line in enumerate(lines):
            k.add("vertical" if i % 2 else "horizontal", line)
        k.add("fixed", "p1")
        for of, value in (((lines[0],), "40"), ((lines[2],), "28")):
            k.add("across_x", *of, value=value)
        for of, value in (((lines[1],), "10"), ((lines[5],), "30")):
            k.add("across_y", *of, value=value)

    d.draw(plate)
    assert d.state.seen is not None and d.state.seen.state == "held"
    step = next(c for c in d.sketch.constraints if c.value == "28")
    d.board.choose((step.id,))
    d.commands.dimensions.give_value("20")
    assert not d.said
    d.board.choose((step.id,))
    d.commands.dimensions.give_value("55")
    assert d.state.seen.state == "held", "held alone is not enough"
    assert "Ctrl+Z" in d.words and d.said[-1][1]
    back = d.rows[0]
    assert back.apply is not None and len(d.rows) > 1
    d.commands.remarks.apply(back)
    assert d.state.values[step.id] == 20


def test_a_line_of_no_length_has_no_angle() -> None:
    d = Desk()
    d.draw(lambda k: (k.segment((5, 5), (5, 5)), k.segment((0, 0), (20, 3))))
    assert dimension_for(d.state, tuple(c.id for c in d.sketch.curves), 10 + 10j) is None


def test_a_circle_that_shrinks_to_nothing_is_not_stored() -> None:
    """A file holds sizes above zero: what could not be read back is not written."""
    d = Desk()
    d.draw(lambda k: k.circle(k.point(5, 5), 3))
    before, circle = d.state.step, d.curve("circle")
    nothing = circle.model_copy(update={"radius": 0.0})
    d.commands.commit("shrunk", d.sketch.model_copy(update={"entities": (*d.sketch.points, nothing)}))
    assert d.state.step == before and d.said[-1][1] and "no size" in d.words
