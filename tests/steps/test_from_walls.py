"""Holes told from what lies about the click: two walls, a round edge, sketched points; never the pointer's place."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.kernel.figures import NearEdge, Picked
from lathed_solid.part import FromWalls, OnEdges, SketchPoints, edits
from lathed_solid.part.from_note import add_note_with_step
from lathed_solid.workbench.picks import note_picks, rim_meant

from .parts import block, built, circle, near, polygon, refused, volume


def holes(part: ls.Document, **values: object) -> ls.Document:
    return ls.hole(part, "20/end", "5", places=FromWalls(**values))  # type: ignore[arg-type]


def centres(part: ls.Document) -> list[tuple[float, float]]:
    """Of all walls of the last step's holes, by their circles' boxes."""
    from lathed_solid.kernel.topology import box

    body = built(part).built.body
    assert body is not None
    found = {a: f for a, f in body.by_atom.items() if a.endswith(".wall")}
    boxes = [box(faces[0]) for _, faces in sorted(found.items())]
    return [(round((lo[0] + hi[0]) / 2, 6), round((lo[1] + hi[1]) / 2, 6)) for lo, hi in boxes]


def test_distances_go_from_each_wall_into_the_face() -> None:
    assert centres(holes(block(), first="20/l4", second="20/l1", x="12", y="9")) == [(12, 9)]
    assert centres(holes(block(), first="20/l2", second="20/l3", x="12", y="9")) == [(48, 31)]
    rows = holes(block(), first="20/l2", second="20/l1", x="8", y="8", nx=3, dx="10", ny=2, dy="20")
    assert sorted(centres(rows)) == sorted((52 - 10 * i, 8 + 20 * j) for i in range(3) for j in range(2))
    assert volume(rows) == near(48000 - 6 * math.pi * 6.25 * 20)


def test_walls_that_are_not_square_give_both_distances() -> None:
    slanted = ls.extrude(polygon(ls.new_part("gusset"), "XY", [(0, 0), (60, 0), (0, 60)]), 10, "8")
    ((x, y),) = centres(holes(slanted, first="20/l2", second="20/l1", x="10", y="15"))
    assert y == 15 and (60 - x - y) / math.sqrt(2) == pytest.approx(10, abs=1e-6)


def test_the_wall_of_a_step_counts_from_where_the_face_is() -> None:
    from .parts import rectangle

    stepped = ls.extrude(rectangle(block(), "20/end", (0, 0), (20, 40)), 30, "5")
    assert centres(holes(stepped, first="40/l2", second="20/l1", x="7", y="9")) == [(27, 9)]


def test_what_gives_no_place_is_refused_in_words() -> None:
    refused(holes(block(), first="20/l1", second="20/l3"), "are parallel")
    refused(holes(block(), first="20/l1", second="20/start"), "does not stand up from the face")
    refused(holes(block(), first="20/l1", second="20/gone"), "is gone")


def test_both_distances_are_proven_where_the_hole_is() -> None:
    part = ls.note(ls.note(ls.note(block(), "Ø5"), "12"), "9")
    part = ls.hole(part, "20/end", "#1", places=FromWalls(first="20/l2", second="20/l3", x="#2", y="#3"))
    assert [r.verdict for r in ls.prove(part).rows] == ["in", "in", "in"]
    moved = edits.renumber_all(part, [part.steps[0].model_copy(update={"number": 5}), *part.steps[1:]])
    assert ls.prove(moved).ok


def pick(x: float, y: float, *near_edges: NearEdge) -> Picked:
    return Picked("face", ("20/end",), (x, y, 20.0), "flat face", (x, y), "plane", near_edges)


LEFT, BOTTOM = NearEdge("20/end|20/l4", "20/l4", 9.7, 60), NearEdge("20/end|20/l1", "20/l1", 12.3, 40)


def test_a_note_on_a_clicked_face_takes_even_distances_from_its_two_nearest_edges() -> None:
    picks = note_picks(block(), [pick(9.7, 12.3, LEFT, BOTTOM)])
    one = add_note_with_step(block(), "Ø5 THRU", picks).steps[-1].places  # type: ignore[attr-defined]
    assert one == FromWalls(first="20/l4", second="20/l1", x="10", y="12", nx=1, ny=1)
    four = add_note_with_step(block(), "4X Ø5 THRU", picks)
    assert four.steps[-1].places == FromWalls(  # type: ignore[attr-defined]
        first="20/l4", second="20/l1", x="10", y="12", nx=2, ny=2, dx="40", dy="16"
    )
    assert sorted(centres(four)) == [(10, 12), (10, 28), (50, 12), (50, 28)], "even about the face's middle"
    two = add_note_with_step(block(), "2X Ø5 THRU", picks).steps[-1].places  # type: ignore[attr-defined]
    assert (two.nx, two.ny, two.dx) == (2, 1, "40"), "along the longer side"


def test_points_sketched_last_come_first_then_a_round_edges_centre() -> None:
    d = ls.Draft()
    d.point(10, 10)
    d.point(30, 20)
    part = ls.sketch(block(), d, "20/end")
    at = note_picks(part, [pick(9.7, 12.3, LEFT, BOTTOM)])
    assert add_note_with_step(part, "2X Ø5 THRU", at).steps[-1].places == SketchPoints(sketch=30)  # type: ignore[attr-defined]
    assert isinstance(add_note_with_step(part, "Ø5 THRU", at).steps[-1].places, FromWalls)  # type: ignore[attr-defined]
    rim = NearEdge("40/c1|40/end", "40/c1", 1.0, radius=8)
    boss = ls.extrude(circle(block(), "20/end", 30, 20, 8), 30, "10")
    close = Picked("face", ("40/end",), (31, 20, 30), "flat face", (31, 20), "plane", (rim,))
    made = add_note_with_step(boss, "Ø5 THRU", note_picks(boss, [close]))
    assert made.steps[-1].places == OnEdges(edges=("40/c1|40/end",))  # type: ignore[attr-defined]
    assert centres(made)[0] == (30, 20)


@pytest.mark.parametrize(("away", "meant"), [(3.0, "a|b"), (3.5, "")])
def test_a_click_near_a_corners_round_means_its_centre(away: float, meant: str) -> None:
    assert rim_meant(pick(0, 0, LEFT, NearEdge("a|b", "b", away, radius=8))) == meant
