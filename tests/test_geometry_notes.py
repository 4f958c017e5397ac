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
    for note in ("Ø18 h9\n⌖ Ø0.1 A", "Ø18 h9\n◎ Ø0.1 B", "Ø18 h9\n⌯ 0.1 A"):
        row = row_of(edits.edit_note(spindle, 11, note), 11)
        assert not geometry(row).judged and row.verdict == "in" and "not judged here" in row.detail
        assert geometry(row).sign == "not judged here"
    missing = geometry(row_of(edits.edit_note(spindle, 11, "Ø18 h9\n◎ Ø0.1 B"), 11))
    assert "no callout carries the datum B" in missing.reason
    datum = geometry(row_of(spindle, 3))
    assert (datum.what, datum.said, datum.judged) == ("datum", "A", False)
