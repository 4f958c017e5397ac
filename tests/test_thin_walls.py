"""Walls that get thin and holes that break out are told, with the thickness that construction gives them."""

from __future__ import annotations

import pytest
from practice import PARTS
from steps.parts import block, shaft

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.part import FromWalls, Table, edits
from lathed_solid.proof.thin_wall import ThinWall


def drilled(x: float, y: float, diameter: float, **places: str) -> ls.Document:
    return ls.hole(block(60, 40, "20"), "20/end", str(diameter),
                   places=FromWalls(first="20/l4", second="20/l1", x=str(x), y=str(y), **places))  # fmt: skip


def thin(part: ls.Document) -> list[tuple[str, float]]:
    return [(w.second, round(w.thickness, 6)) for w in ls.prove(part).thin]


@pytest.mark.parametrize("place", [6.3, 5.9, 5.2, 4.0, 1.0])
def test_a_hole_beside_a_wall(place: float) -> None:
    left = round(place - 5, 6)
    found = thin(drilled(place, 20, 10))
    assert found == ([("20/l4", left)] if left < 1.0 else []), "a quarter of the radius, at most 1 mm"


def test_two_holes_beside_one_another_and_near_a_corner() -> None:
    part = drilled(20, 20, 8, nx=2, dx="8.6")  # type: ignore[arg-type]
    assert thin(part) == [("30/h1.wall", 0.6)]
    assert thin(drilled(20, 20, 8, nx=2, dx="9.2")) == []  # type: ignore[arg-type]
    assert thin(drilled(5.4, 5.2, 10)) == [("20/l1", 0.2), ("20/l4", 0.4)]


def test_blind_holes_that_do_not_reach_one_another_are_no_neighbours() -> None:
    part = ls.hole(block(60, 40, "20"), "20/end", "8", depth="5", point=None, places=Table(rows=(("20", "20"),)))
    beneath = ls.hole(part, "20/start", "8", depth="5", point=None, places=Table(rows=(("20", "-20.3"),)))
    assert ls.build(beneath).messages == [] and thin(beneath) == []


def test_a_hole_near_the_outside_of_a_shaft() -> None:
    part = ls.hole(shaft((60.0, 30.0)), "10/face.right", "8", places=Table(rows=(("25.5", "0"),)))
    assert thin(part) == [("10/sA", 0.5)]
    assert thin(ls.hole(shaft((60.0, 30.0)), "10/face.right", "8", places=Table(rows=(("20", "0"),)))) == []


def test_what_the_revision_of_the_cover_block_does_to_its_pockets_wall() -> None:
    """Revision B: 2.000 becomes 1.400, and the wall of the pocket ends at 1.350."""
    part = PARTS["cover block"]()
    assert ls.prove(part).thin == ()
    balloon = next(c.balloon for c in part.callouts if c.note == "2.000")
    revised = edits.edit_note(part, balloon, "1.400")
    words = [w.words("in") for w in ls.prove(revised).thin]
    assert words and any("breaks out" in w or "thin" in w for w in words)


@pytest.mark.parametrize("name", sorted(DEMOS))
def test_the_demo_parts_have_none(name: str) -> None:
    assert ls.prove(DEMOS[name]()).thin == ()


def test_words_in_the_sheet_s_unit() -> None:
    wall = ThinWall(first="30/h0.wall", second="20/l4", thickness=0.508, radius=4)
    assert wall.words("in") == "the wall between 30/h0.wall and 20/l4 is 0.02 in thin"
    assert wall.model_copy(update={"thickness": 0.0}).words("mm") == "the hole 30/h0.wall breaks out at 20/l4"
