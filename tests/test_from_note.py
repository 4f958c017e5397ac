"""A note and what is picked become callouts and a step, built and proven."""

from __future__ import annotations

import math

import pytest

from lathed_solid import scripting as ls
from lathed_solid.notation import read_note
from lathed_solid.part import Document, DocumentError, Table, edits, templates
from lathed_solid.part.from_note import add_note_with_step, step_words
from lathed_solid.part.note_picks import Picks
from lathed_solid.quantity import LengthUnit


def plate() -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (80, 60))
    return ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, "14")


ROD = ls.turned(
    ls.new_part("rod"),
    [ls.Station(key="A", diameter="18", length="50"), ls.Station(key="B", diameter="30", length="20")],
)
FOUR = ((12.0, 10.0), (68.0, 10.0), (68.0, 50.0), (12.0, 50.0))


def proven(part: Document) -> tuple[ls.Solid, list[str]]:
    solid = ls.build(part)
    assert solid.ok, solid.messages
    return solid, [r.verdict for r in ls.prove(part).rows]


def test_a_note_with_four_picked_places_is_done_at_once() -> None:
    picks = Picks("20/end", places=((1.0, 1.0), *FOUR))
    note = "4X Ø6.6 THRU ⌴ Ø11 ↧6.8"
    assert step_words(read_note(note), picks) == "holes on 20/end at the 4 picked places"
    part = add_note_with_step(plate(), note, picks)
    solid, verdicts = proven(part)
    assert verdicts == ["in"] * 3
    one = math.pi * (3.3**2 * 14 + (5.5**2 - 3.3**2) * 6.8)
    assert solid.volume == pytest.approx(80 * 60 * 14 - 4 * one, rel=1e-9)


def test_of_a_hole_widened_on_both_sides_the_near_one_is_made_and_the_far_one_asked_for() -> None:
    picks = Picks("20/end", places=FOUR)
    note = "4X Ø6.6 THRU ⌵ Ø11 x 90° BOTH SIDES"
    assert step_words(read_note(note), picks) == "holes on 20/end at the 4 picked places, the far side left open"
    part = add_note_with_step(plate(), note, picks)
    assert (part.steps[-1].csk_diameter, part.steps[-1].csk_angle) == ("#2", "#3")  # type: ignore[union-attr]
    assert proven(part)[1] == ["in", "in", "in", "not found", "not found"]


def test_a_tapped_hole_of_a_note_is_drilled_threaded_and_proven() -> None:
    part = add_note_with_step(plate(), "2X M8-6H ↧8, DRILL ↧10", Picks("20/end", places=FOUR[:2]))
    step = part.steps[-1]
    assert (step.thread, step.diameter, step.depth) == ("M8x1.25", "", "#3")  # type: ignore[union-attr]
    solid, verdicts = proven(part)
    assert verdicts == ["in"] * 3
    r = 6.8 / 2  # ISO 2306
    tip = r / math.tan(math.radians(59))
    assert solid.volume == pytest.approx(80 * 60 * 14 - 2 * math.pi * r * r * (10 + tip / 3), rel=1e-9)
    # without the drill's depth it goes five pitches beyond the thread
    part = add_note_with_step(plate(), "M6 ↧6", Picks("20/end", places=FOUR[:1]))
    assert part.steps[-1].depth == "#2 + 5"  # type: ignore[union-attr]
    assert proven(part)[1] == ["in", "in"]


def test_a_drawn_thread_is_measured_where_its_cylinder_is_left() -> None:
    part = add_note_with_step(ROD, "M18x1.5-6g x 44", Picks("10/sA", round=True, radial_at=10.0))
    assert [r.measured for r in ls.prove(part).rows] == pytest.approx([18, 44])
    # the thread starts at the free end: cut off five there, and that much is gone
    shorter = ls.hole(part, "10/face.left", "17.99", depth="5", point=None)
    if ls.build(shorter).ok:
        assert ls.prove(shorter).rows[1].measured == pytest.approx(44, abs=6)
    narrower = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="12", length="70")])
    wrong = add_note_with_step(narrower, "M18x1.5 x 44", Picks("10/sA", round=True))
    row = ls.prove(wrong).rows[0]
    assert row.verdict == "not found" and ("no seat" in row.reason or "a plain cylinder" in row.reason)


def test_edges_that_are_picked_are_broken_by_the_note() -> None:
    edge = Picks(edges=("20/end|20/l1",))
    solid, verdicts = proven(add_note_with_step(plate(), "R4", edge))
    assert verdicts == ["in"]
    assert solid.volume == pytest.approx(80 * 60 * 14 - (1 - math.pi / 4) * 16 * 80, rel=1e-6)
    solid, verdicts = proven(add_note_with_step(plate(), "2x45°", edge))
    assert verdicts == ["in"] and solid.volume == pytest.approx(80 * 60 * 14 - 2 * 80, rel=1e-9)


def test_a_general_note_becomes_a_rule() -> None:
    part = add_note_with_step(plate(), "BREAK EDGES 0.5 MAX", Picks())
    step = part.steps[-1]
    assert step.kind == "chamfer" and step.pick.rule == "outside"  # type: ignore[union-attr]
    assert ls.build(part).ok and part.callouts[0].high == 0.5
    part = add_note_with_step(plate(), "ALL FILLETS AND ROUNDS R2.5 UNLESS STATED", Picks())
    assert part.steps[-1].pick.rule == "all others"  # type: ignore[union-attr]
    assert ls.build(part).ok


def test_holes_around_a_cylinder_and_on_a_circle() -> None:
    part = add_note_with_step(ROD, "3X Ø4 ↧5", Picks("10/sB", round=True, radial_at=60.0))
    assert ls.build(part).ok and part.steps[-1].places.count == 3  # type: ignore[union-attr]
    part = add_note_with_step(ROD, "4X Ø4 ↧8 EQ SP ON Ø20 BC", Picks("10/face.right"))
    assert proven(part)[1] == ["in", "in", "in"]


@pytest.mark.parametrize(
    ("note", "picks", "words"),
    [
        ("4X Ø6 THRU", Picks("20/end", places=FOUR[:3]), "3 picked"),
        ("2X Ø6 THRU", Picks("20/end", places=(FOUR[0], FOUR[0])), "are one"),
        ("2X Ø6 THRU", Picks("20/end"), "bolt circle"),
        ("Ø30", Picks("20/end"), "no step"),
        ("R3", Picks(), "no step"),
        ("Ø6 THRU; Ø8 THRU", Picks("20/end"), "no step"),
    ],
)
def test_what_does_not_go_together_is_told(note: str, picks: Picks, words: str) -> None:
    with pytest.raises(DocumentError, match=words):
        add_note_with_step(plate(), note, picks)


def test_every_kind_of_note_gives_its_callouts() -> None:
    part = plate()
    for note in ("TAPER 1:10", "KEYWAY 8x4 N9 x 30", "CIRCLIP GROOVE 1.3 x Ø23.9", "UNDERCUT E0.6x0.3", "CENTRE A2.5",
                 "KNURL RAA 1", "□25", "SR20", "2 x 1 CHAMFER", "5X 20 (=100)", "Ø25 H7/g6", "SF Ø20"):  # fmt: skip
        part = ls.note(part, note)
    kinds = {c.meaning: (c.kind, c.nominal) for c in part.callouts}
    assert kinds["taper"] == ("taper", 10) and kinds["keyway width"] == ("length", 8)
    assert kinds["groove diameter"] == ("diameter", 23.9) and kinds["undercut radius"] == ("radius", 0.6)
    assert kinds["over all spaces"] == ("length", 100) and kinds["centre hole pilot"] == ("diameter", 2.5)


def test_a_counterbore_told_apart_from_its_hole_is_proven() -> None:
    part = ls.note(plate(), "Ø11 C'BORE 6 DEEP")
    for depth, verdicts in (("#2", ["in", "in"]), ("5", ["in", "not found"])):
        drilled = ls.hole(part, "20/end", "6.6", cbore_diameter="#1", cbore_depth=depth,
                          places=Table(rows=(("40", "30"),)))  # fmt: skip
        assert [row.verdict for row in ls.prove(drilled).rows] == verdicts
    with pytest.raises(DocumentError, match="no step"):
        add_note_with_step(plate(), "Ø11 C'BORE 6 DEEP", Picks("20/end"))


def test_a_taper_of_the_sheet_is_proven_by_its_ratio() -> None:
    part = ls.note(ls.new_part("cone"), "TAPER 1:10")
    part = ls.turned(part, [ls.Station(key="A", diameter="30", length="40", taper=ls.Taper(kind="ratio", value="#1"))])
    (row,) = ls.prove(part).rows
    assert row.measured == pytest.approx(10) and row.verdict == "in" and row.low is not None and row.low < 10
    assert row.as_json()["measured_ratio"] == pytest.approx(10)


@pytest.mark.parametrize(("note", "included"), [("FLAT BOTTOM", 180.0), ("135° POINT", 135.0), ("", 118.0)])
def test_the_bottom_that_a_note_says_is_the_hole_s(note: str, included: float) -> None:
    part = add_note_with_step(plate(), f"Ø10 ↧8 {note}", Picks("20/end", places=((40.0, 30.0),)))
    solid, _ = proven(part)
    cone = math.pi * 25.0 / 3 * 5.0 / math.tan(math.radians(included / 2))
    assert solid.volume == pytest.approx(80 * 60 * 14 - math.pi * 25 * 8 - cone, rel=1e-9)


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_a_new_part_has_the_callouts_that_its_notes_state(unit: LengthUnit) -> None:
    """They are made without the grammar, which a window that begins does not load."""
    made = templates.turned("shaft", unit)
    read = templates.empty("shaft", unit)
    for note in made.notes:
        read = edits.add_note(read, note.text)
    assert made.notes == read.notes and len(made.notes) == 4
