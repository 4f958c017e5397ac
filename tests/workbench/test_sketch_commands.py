"""Work on what is chosen in a sketch, without widgets: by place, and what is asked and refused."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from PIL import Image

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.workbench.sketch import more, plane, underlay
from lathed_solid.workbench.sketch.relations import OfferedRelation, offered

from .sketching import Desk


def ell() -> Desk:
    """Two lines from the origin: 40 along x, 30 along y."""
    d = Desk()
    d.draw(lambda k: (k.segment((10, 0), (40, 0)), k.segment((0, 30), (0, 10))))
    d.board.fit()
    d.board.choose(tuple(c.id for c in d.sketch.curves))
    return d


def met() -> Desk:
    d = ell()
    d.commands.corner()
    d.board.choose(tuple(c.id for c in d.sketch.curves))
    return d


def ends(d: Desk) -> set[tuple[float, float]]:
    return {(round(p.x, 6) + 0.0, round(p.y, 6) + 0.0) for p in d.sketch.points}


def test_two_lines_meet_in_their_corner() -> None:
    d = ell()
    d.commands.corner()
    assert (0, 0) in ends(d) and (40, 0) in ends(d) and (0, 30) in ends(d)


def test_a_round_and_a_bevel_between_two_lines() -> None:
    d = met()
    d.ask.given["radius"] = "6"
    d.commands.round()
    arc = d.state.shape(d.curve("arc").id)
    assert arc.radius == pytest.approx(6) and arc.centre == pytest.approx(6 + 6j)  # type: ignore[attr-defined]
    assert arc.turn == pytest.approx(math.pi / 2)  # type: ignore[attr-defined]
    other = met()
    other.ask.given["legs"] = "4"
    other.commands.bevel()
    assert {(4, 0), (0, 4)} <= ends(other)
    gone = met()
    gone.ask.gives_up = True
    before = gone.sketch
    gone.commands.round()
    gone.commands.bevel()
    assert gone.sketch == before


def test_the_outline_of_the_region_under_the_pointer_is_offset_and_giving_up_does_nothing() -> None:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (0, 0), (40, 30)))
    d.board.choose(())
    d.board.move(d.board.paper.pixel(20 + 15j))
    before = d.sketch
    d.ask.gives_up = True
    d.commands.offset()
    assert d.sketch == before
    d.ask.gives_up = False
    d.ask.given["distance inwards (negative: outwards)"] = "4"
    d.commands.offset()
    assert {(4, 4), (36, 4), (36, 26), (4, 26)} <= ends(d)


def test_offset_goes_to_the_left_and_a_negative_one_to_the_right() -> None:
    for text, y in (("3", 3.0), ("-3", -3.0)):
        d = Desk()
        d.draw(lambda k: k.segment((0, 0), (30, 0)))
        d.board.choose((d.curve("line").id,))
        d.ask.given["distance to the left (negative: right)"] = text
        d.commands.offset()
        assert {(0, y), (30, y)} <= ends(d)


def test_mirror_and_ring_stand_where_they_must() -> None:
    d = Desk()
    d.draw(lambda k: (k.circle(k.point(10, 5), 3), k.segment((0, -20), (0, 20), construction=True)))
    circle, axis = d.curve("circle").id, d.curve("line").id
    d.board.choose((circle, axis))
    d.commands.mirror()
    assert sorted(round(d.at(c.centre).real, 6) for c in d.sketch.curves if c.kind == "circle") == [-10, 10]
    e = Desk()
    e.draw(lambda k: (k.circle(k.point(20, 0), 3), k.point(0, 0)))
    middle = next(p.id for p in e.sketch.points if p.x == 0)
    e.board.choose((e.curve("circle").id, middle))
    e.ask.number = 4
    e.commands.ring()
    found = {(round(z.real, 6) + 0.0, round(z.imag, 6) + 0.0)
             for z in (e.at(c.centre) for c in e.sketch.curves if c.kind == "circle")}  # fmt: skip
    assert found == {(20, 0), (0, 20), (-20, 0), (0, -20)}
    e.ask.number = None
    before = e.sketch
    e.board.choose((e.curve("circle").id, middle))
    e.commands.ring()
    assert e.sketch == before


@pytest.mark.parametrize("name", ["corner", "round", "bevel", "offset", "mirror", "ring"])
def test_work_says_what_it_wants_picked(name: str) -> None:
    d = Desk()
    d.draw(lambda k: k.segment((0, 0), (30, 0)))
    before = d.sketch
    getattr(d.commands, name)()
    assert d.said[-1][1] and "pick" in d.words and d.sketch == before


def test_gaps_are_closed_and_flaws_said() -> None:
    d = Desk()
    d.draw(lambda k: (k.segment((0, 0), (30, 0)), k.segment((30.05, 0), (30.05, 20))))
    d.commands.remarks.check()
    assert any("gap" in r.text or "open end" in r.text for r in d.rows)
    d.commands.close_gaps()
    assert [c.kind for c in d.sketch.constraints] == ["coincident"] and len(ends(d)) == 3


def test_relations_construction_and_removal() -> None:
    d = ell()
    a, b = d.board.chosen
    offers = {o.kind: o for o in offered(d.sketch, (a, b))}
    assert [tuple(sorted(of)) for of in offers["perpendicular"].groups] == [(a, b)] and "tangent" not in offers
    d.commands.relate(offers["equal"])
    assert abs(d.state.shape(a).length - d.state.shape(b).length) < 1e-6
    assert any("equal" in words for _, words in d.state.relations_on((a,)))
    d.commands.toggle_construction()
    assert all(c.construction for c in d.sketch.curves)
    d.commands.toggle_construction()
    assert not any(c.construction for c in d.sketch.curves)
    d.commands.relate(OfferedRelation("tangent", ((a, b),)))
    assert d.said[-1][1], "two lines cannot be tangent"
    d.commands.remove_chosen()
    assert not d.sketch.curves and d.board.chosen == ()


def test_a_loose_sketch_is_completed_and_other_shapes_are_told() -> None:
    d = Desk()
    d.draw(lambda k: shapes.rectangle(k, (0, 0), (40, 20)))
    d.commands.remarks.complete()
    offered = next(r for r in d.rows if r.apply is not None)
    d.commands.remarks.apply(offered)
    assert d.state.seen is not None and d.state.seen.state == "held"
    d.commands.remarks.complete()
    assert d.words == "only a loose sketch can be completed"
    d.commands.remarks.others()
    assert d.rows
    d.commands.remarks.say()
    assert isinstance(d.rows, list)


def test_the_plane_is_turned_flipped_and_changed() -> None:
    d = Desk()
    plane.turn_plane(d.commands)
    plane.turn_plane(d.commands)
    assert d.state.step is not None and d.state.step.plane.turn == "180 deg"
    plane.flip_plane(d.commands)
    assert d.state.step.plane.flip
    plane.set_plane(d.commands, "XZ")
    assert d.state.step.plane.plane == "XZ"  # type: ignore[union-attr]
    plane.set_plane(d.commands, "20/end")
    assert d.state.step.plane.face == "20/end"  # type: ignore[union-attr]


def test_tools_that_ask_first() -> None:
    d = Desk()
    d.ask.number = None
    d.commands.start_tool("polygon")
    assert d.board.mode == "pick", "given up"
    d.ask.number = 5
    d.commands.start_tool("polygon")
    d.click(0, 0)
    d.click(10, 0)
    assert len([c for c in d.sketch.curves if c.kind == "line" and not c.construction]) == 5
    d.ask.words = ""
    d.commands.start_tool("text")
    assert d.board.mode == "draw" and d.board.interaction.tool.id == "polygon"  # type: ignore[union-attr]
    d.ask.words = "R 12"
    d.commands.start_tool("text")
    d.click(30, 30)
    assert [e.text for e in d.sketch.entities if e.kind == "text"] == ["R 12"]


def entry(word: str):  # type: ignore[no-untyped-def]
    return next(run for group in more.GROUPS for w, _, run in group if w.startswith(word))


def test_the_less_frequent_work() -> None:
    d = Desk()
    d.draw(lambda k: (k.segment((0, 0), (20, 0)), k.segment((40, -10), (40, 10))))
    d.board.fit()
    level, upright = (c.id for c in d.sketch.curves)
    d.board.choose((level, upright))
    d.click(15, 0)
    d.board.choose((level, upright))
    entry("extend")(d.commands)
    assert (40, 0) in ends(d)
    d.board.choose((upright,))
    entry("break")(d.commands)
    assert len([c for c in d.sketch.curves if c.kind == "line"]) >= 3
    d.board.choose(())
    for word in ("extend", "break", "one point", "copies", "move", "rotate", "scale"):
        entry(word)(d.commands)
        assert d.said[-1][1] and "pick" in d.words
    for word in ("rectangle on", "slot along", "smooth arc"):
        entry(word)(d.commands)
        assert d.board.mode == "draw"


def test_moved_turned_scaled_and_copied_by_figures() -> None:
    def one() -> Desk:
        d = Desk()
        d.draw(lambda k: k.circle(k.point(10, 0), 2))
        d.board.choose((d.curve("circle").id,))
        return d

    d = one()
    d.ask.given |= {"in x": "5", "in y": "-3"}
    entry("move")(d.commands)
    assert d.at(d.curve("circle").centre) == pytest.approx(15 - 3j)
    d = one()
    d.ask.given |= {"angle": "90 deg"}
    entry("rotate")(d.commands)
    assert d.at(d.curve("circle").centre) == pytest.approx(10j)
    d = one()
    d.ask.given |= {"factor": "3"}
    entry("scale")(d.commands)
    assert d.at(d.curve("circle").centre) == pytest.approx(30) and d.curve("circle").radius == pytest.approx(6)
    d = one()
    d.ask.given |= {"step in x": "20", "how many in x": "2", "step in y": "7", "how many in y": "2"}
    entry("copies")(d.commands)
    found = sorted((round(z.real, 6), round(z.imag, 6) + 0.0)
                   for z in (d.at(c.centre) for c in d.sketch.curves if c.kind == "circle"))  # fmt: skip
    assert found == [(10, 0), (10, 7), (30, 0), (30, 7)]


def test_a_picture_is_laid_beneath_scaled_by_two_points_and_dropped(tmp_path: Path) -> None:
    sheet = tmp_path / "sheet.png"
    Image.fromarray(np.full((40, 80, 3), 200, np.uint8)).save(sheet)
    d = Desk()
    underlay.choose(d.commands)
    assert d.state.step is not None and d.state.step.underlay is None, "given up"
    d.ask.file = sheet
    underlay.choose(d.commands)
    assert underlay.laid(d.commands) == (0j, 200.0, 0.0)
    d.board.choose(())
    underlay.scale_by_points(d.commands)
    assert "pick two points" in d.words
    d.draw(lambda k: (k.point(10, 10), k.point(60, 10)))
    d.board.choose(tuple(p.id for p in d.sketch.points))
    d.ask.given[underlay.APART] = "25"
    underlay.scale_by_points(d.commands)
    corner, width, _ = underlay.laid(d.commands)  # type: ignore[misc]
    # half as wide, and the first point's place on the picture has not moved
    assert width == pytest.approx(100) and corner == pytest.approx(10 + 10j + (0 - 10 - 10j) / 2)
    underlay.drop(d.commands)
    underlay.scale_by_points(d.commands)
    assert d.words == "there is no picture beneath yet"


def test_a_damaged_picture_is_refused(tmp_path: Path) -> None:
    bad = tmp_path / "bad.png"
    bad.write_bytes(b"\x89PNG\r\n\x1a\n" + b"\0" * 60)
    d = Desk()
    underlay.take(d.commands, bad)
    assert d.words == "bad.png is damaged, or absurdly large" and d.state.step.underlay is None  # type: ignore[union-attr]
    words = tmp_path / "sheet.txt"
    words.write_text("no picture")
    underlay.take(d.commands, words)
    assert "no PNG or JPEG" in d.words
