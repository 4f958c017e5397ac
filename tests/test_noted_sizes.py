"""Sizes typed where they are used become callouts that drive them and are proven."""

from __future__ import annotations

import pytest

from lathed_solid import scripting as ls
from lathed_solid.part import DocumentError, FromWalls
from lathed_solid.part.noted_sizes import float_of, note_typed_sizes


def plate() -> ls.Document:
    d = ls.Draft()
    sides = ls.shapes.rectangle(d, (0, 0), (80, 52))
    e = d.entities
    d.add("fixed", e[sides[0]].start)  # type: ignore[union-attr]
    d.add("distance", sides[0], value="80")
    d.add("distance", sides[1], value="104 / 2")
    return ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "9")


def noted(part: ls.Document) -> list[str]:
    return [c.note for c in part.callouts]


def test_plain_numbers_of_a_sketch_and_an_extrusion_get_their_owner() -> None:
    part = note_typed_sizes(plate(), 20)
    assert noted(part) == ["80", "9"], "a sum is left as it is"
    assert part.steps[1].distance == "#2"  # type: ignore[attr-defined]
    assert [c.value for c in part.steps[0].sketch.driving] == ["#1", "104 / 2"]  # type: ignore[attr-defined]
    assert [r.verdict for r in ls.prove(part).rows] == ["in", "in"]
    with pytest.raises(DocumentError, match="holds no typed size"):
        note_typed_sizes(part, 20)
    with pytest.raises(DocumentError, match="no step 90"):
        note_typed_sizes(part, 90)


def test_holes_and_edges_say_how_many_and_what() -> None:
    part = ls.hole(plate(), "20/end", "8.5", csk_diameter="17", csk_angle="82°",
                   places=FromWalls(first="20/l4", second="20/l1", x="22", y="22", nx=2, dx="36"))  # fmt: skip
    part = ls.step(part, "fillet", radius="16", pick=ls.EdgePick(edges=("20/l1|20/l2", "20/l2|20/l3")))
    part = ls.step(part, "chamfer", leg="0.5", pick=ls.EdgePick(edges=("20/l3|20/start",)))
    for number in (30, 40, 50):
        part = note_typed_sizes(part, number)
    said = ["2X Ø8.5", "22", "22", "36", "2X Ø17", "82°", "2X R16", "0.5 X 45°"]
    assert sorted(noted(part)) == sorted(said)
    verdicts = {r.note: (r.verdict, r.reason) for r in ls.prove(part).rows}
    assert all(v == "in" for v, _ in verdicts.values()), verdicts


def test_a_turned_table_s_cells_are_told_apart_by_where_they_stand() -> None:
    rod = ls.turned(ls.new_part("rod"), [
        ls.Station(key="A", diameter="30", length="20"), ls.Station(key="B", diameter="20", length="30"),
    ])  # fmt: skip
    part = note_typed_sizes(rod, 10)
    assert noted(part) == ["Ø30", "20", "Ø20", "30"]
    table = part.steps[0].table.stations  # type: ignore[attr-defined]
    assert [(s.diameter, s.length) for s in table] == [("#1", "#2"), ("#3", "#4")]
    assert ls.prove(part).ok


def test_where_a_taper_meets_its_neighbours_the_size_is_given_once() -> None:
    cone = ls.Taper(kind="diameter", value="20")
    rod = ls.turned(ls.new_part("rod"), [
        ls.Station(key="A", diameter="30", length="20"), ls.Station(key="B", diameter="30", length="12", taper=cone),
        ls.Station(key="C", diameter="20", length="18"), ls.Station(key="D", diameter="20", length="5"),
    ])  # fmt: skip
    part = note_typed_sizes(rod, 10)
    assert noted(part) == ["Ø30", "20", "12", "Ø20", "18", "Ø20", "5"]
    assert [s.diameter for s in part.steps[0].table.stations] == ["#1", "#1", "#4", "#6"]  # type: ignore[attr-defined]
    assert ls.prove(part).ok


def test_a_hexagon_s_size_is_told_across_flats() -> None:
    d = ls.Draft()
    flats = ls.shapes.polygon(d, (0, 0), (0, 10), 6, across_flats=True)[-1]
    d.add("diameter", flats, value="20")
    part = note_typed_sizes(ls.extrude(ls.sketch(ls.new_part("bar"), d), 10, "30"), 20)
    assert noted(part) == ["20", "30"]
    assert [(r.verdict, r.reason) for r in ls.prove(part).rows] == [("in", ""), ("in", "")]


def test_a_bevel_is_one_callout_with_its_angle() -> None:
    rod = ls.turned(ls.new_part("rod"), [
        ls.Station(key="A", diameter="30", length="20", left=ls.edge("1.5 x 45°"), right=ls.edge("R2")),
        ls.Station(key="B", diameter="20", length="30"),
    ])  # fmt: skip
    part = note_typed_sizes(rod, 10)
    assert noted(part)[:4] == ["Ø30", "20", "1.5 X 45°", "R2"] or sorted(noted(part)) == sorted(
        ["Ø30", "20", "1.5 X 45°", "R2", "Ø20", "30"]
    )
    assert ls.prove(part).ok


@pytest.mark.parametrize(
    ("text", "value"), [("1/4", 0.25), ("1 1/2", 1.5), (".7", 0.7), ("30°", 30.0), ("30 deg", 30.0), ("12", 12.0)]
)
def test_plain_numbers_and_fractions_are_read(text: str, value: float) -> None:
    assert float_of(text) == value
