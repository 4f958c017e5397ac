"""Tolerances of form, direction and place behind a size: kept, shown, judged where the model shows what they ask."""

from __future__ import annotations

import pytest

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.ledger import LedgerError, callouts_from_note
from lathed_solid.notation import read_note
from lathed_solid.part import Document, edits
from lathed_solid.part.from_note import step_words
from lathed_solid.part.note_picks import Picks
from lathed_solid.proof import DutyRow, VerdictRow


@pytest.fixture(scope="module")
def spindle() -> Document:
    """With the datum A at the first bearing seat."""
    part = DEMOS["winch-spindle"]()
    return edits.edit_note(part, 3, "Ø25 h6 -A-")


def row_of(part: Document, balloon: int) -> VerdictRow:
    return next(r for r in ls.prove(part).rows if r.balloon == balloon)


def geometry(row: VerdictRow) -> DutyRow:
    return row.duties[-1]


def test_a_frame_belongs_to_the_size_before_it() -> None:
    (bore,) = callouts_from_note("Ø10 H7 THRU\n⌖ Ø0.1 A B", 1)
    duty = bore.duties[-1]
    assert (duty.kind, duty.word, duty.value, duty.datums, duty.diametral) == (
        "geometry",
        "position",
        0.1,
        ("A", "B"),
        True,
    )
    first, second = callouts_from_note("Ø6 THRU ⌴ Ø11 ↧6\n⟂ 0.05 A", 1)[:2]
    assert first.duties[-1].word == "perpendicularity" and second.duties[-1].kind != "geometry"
    (alone,) = callouts_from_note("⏥ 0.02", 1)
    assert alone.reference and "not judged here" in alone.meaning and alone.nominal == 0.02
    (kept,) = callouts_from_note("T-SLOT 14 H8", 1)
    assert (kept.role, kept.nominal, kept.reference) == ("feature", 14.0, True)
    assert kept.meaning == "T slot: T-SLOT 14 H8, not judged here"
    with pytest.raises(LedgerError, match="states no dimension"):
        callouts_from_note("DATUM A", 1)
    # what stands beside the size keeps no step from being made
    assert step_words(read_note("Ø6 THRU\n⌖ Ø0.1 A B"), Picks(face="20/end"))


@pytest.mark.parametrize(
    ("note", "measured", "verdict"),
    [
        ("Ø18 h9\n◎ Ø0.02 A", "0", "in"),
        ("Ø18 h9\nRUNOUT 0.02 TO A", "0", "in"),
        ("Ø18 h9\n// 0.02 A", "0", "in"),
        ("Ø18 h9\n⌭ 0.01", "0", "in"),
    ],
)
def test_seats_on_one_axis_run_true(spindle: Document, note: str, measured: str, verdict: str) -> None:
    told = geometry(row_of(edits.edit_note(spindle, 11, note), 11))
    assert (told.measured, told.verdict, told.judged) == (measured, verdict, True)


def test_a_cross_hole_is_square_to_the_axis_and_not_concentric(spindle: Document) -> None:
    square = row_of(edits.edit_note(spindle, 25, "Ø6 THRU\n⟂ 0.05 A"), 25)
    assert geometry(square).verdict == "in" and square.verdict == "in"
    lie = row_of(edits.edit_note(spindle, 25, "Ø6 THRU\n◎ Ø0.05 A"), 25)
    assert geometry(lie).verdict == "out" and lie.verdict == "out" and "concentricity" in lie.reason


def test_what_the_model_does_not_show_is_told_and_judges_nothing(spindle: Document) -> None:
    for note in ("Ø18 h9\n⌓ 0.1 A", "Ø18 h9\n◎ Ø0.1 B", "Ø18 h9\n⌯ 0.1 A"):
        row = row_of(edits.edit_note(spindle, 11, note), 11)
        assert not geometry(row).judged and row.verdict == "in" and "not judged here" in row.detail
        assert geometry(row).sign == "not judged here"
    missing = geometry(row_of(edits.edit_note(spindle, 11, "Ø18 h9\n◎ Ø0.1 B"), 11))
    assert "no callout carries the datum B" in missing.reason
    datum = geometry(row_of(spindle, 3))
    assert (datum.what, datum.said, datum.judged) == ("datum", "A", False)


def test_position_is_judged_from_the_sizes_that_lead_to_the_feature() -> None:
    part = edits.edit_note(DEMOS["pedestal"](), 3, ".75 -A-")
    holes = edits.edit_note(part, 5, "4X Ø.531 THRU\n⌖ Ø.010 A")
    assert (geometry(row_of(holes, 5)).measured, row_of(holes, 5).verdict) == ("0", "in")
    bore = edits.edit_note(part, 11, "Ø1.250 +.001 -.000\n⌖ Ø.080 A")
    assert (geometry(row_of(bore, 11)).measured, row_of(bore, 11).verdict) == ("0", "in")
    # a second size of the height that the part does not keep: 3.00 from the foot is drawn 3.05, so Ø0.1 holds it
    row = row_of(also(bore, "3.05", "20/start", "40/c1"), 11)
    assert (geometry(row).measured, row.verdict) == ("0.1", "out")
    # two sizes that miss square to each other make one distance: hypot(0.03, 0.04) = 0.05; wider zones take the larger
    both = also(also(holes, ".655", "20/l4", "20/c1"), ".665", "20/l1", "20/c1")
    assert geometry(row_of(both, 5)).measured == "0.1" and row_of(both, 5).verdict == "out"
    wide = edits.edit_note(both, 5, "4X Ø.531 THRU\n⌖ .010 A")
    assert geometry(row_of(wide, 5)).measured == "0.08"


def also(part: Document, note: str, face: str, axis: str) -> Document:
    """With one more size on the drawing, from a face to an axis."""
    part = ls.note(part, note)
    return ls.measured_by(part, part.callouts[-1].balloon, "position", face, axis)


def test_position_on_an_axis_is_what_concentricity_measures(spindle: Document) -> None:
    seat = row_of(edits.edit_note(spindle, 11, "Ø18 h9\n⌖ Ø0.1 A"), 11)
    assert (geometry(seat).measured, seat.verdict) == ("0", "in")
    crossing = row_of(edits.edit_note(spindle, 25, "Ø6 THRU\n⌖ Ø0.1 A"), 25)
    assert crossing.verdict == "in" and not geometry(crossing).judged


def test_symmetry_is_judged_between_middle_planes_and_axes() -> None:
    part = edits.edit_note(edits.edit_note(DEMOS["pedestal"](), 2, "4.00 -B-"), 1, "6.00 -C-")
    hub = row_of(edits.edit_note(part, 8, "1.50\n⌯ .01 B"), 8)
    assert (geometry(hub).measured, hub.verdict) == ("0", "in")
    # the slot of .375 begins 1.56 from the end of 6.00: its middle is 3 - 1.56 - .1875 = 1.2525 off
    slot = row_of(edits.edit_note(part, 12, ".375\n⌯ .01 C"), 12)
    assert (geometry(slot).measured, slot.verdict) == ("2.505", "out")
    bore = edits.edit_note(part, 11, "Ø1.250 -D-")
    to_axis = row_of(edits.edit_note(bore, 1, "6.00\n⌯ .01 D"), 1)
    assert (geometry(to_axis).measured, to_axis.verdict) == ("0", "in")
    square = row_of(edits.edit_note(bore, 12, ".375\n⌯ .01 B"), 12)
    assert not geometry(square).judged and square.verdict == "in"


def test_what_stands_by_itself_and_nothing_measures_keeps_no_part_from_being_proven() -> None:
    part = DEMOS["crank-hub"]()
    before = ls.prove(part)
    for note in ("Ra 1.6", "⏥ 0.02"):
        part = ls.note(part, note)
    after = ls.prove(part)
    assert before.ok and after.ok
    for row in after.rows[-2:]:
        assert (row.verdict, row.reason) == ("near", "it is kept and shown, and not judged here")
    slotted = ls.prove(ls.note(part, "T-SLOT 14 H8"))  # which the solid does not have
    assert not slotted.ok and slotted.rows[-1].verdict == "not found"
