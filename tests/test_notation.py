"""Drawing notes: meaning in many spellings, assumptions said, nothing guessed."""

from __future__ import annotations

import contextlib
from typing import Any

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.errors import LathedError
from lathed_solid.ledger import LedgerError, callouts_from_note
from lathed_solid.ledger.callouts import callouts_from_meaning
from lathed_solid.notation import NoteError, read_note

FOUR = {"kind": "circle", "count": 4, "diameter_mm": 52}
RING = {"kind": "circle", "count": 5, "diameter_mm": 96}
HOLE = {"kind": "hole", "count": 1, "through": True}
CASES: list[tuple[str, str, list[dict[str, Any]]]] = [
    ("Ø12", "mm", [{"kind": "diameter", "diameter_mm": 12}]),
    ("⌀12 H7", "mm", [{"kind": "diameter", "diameter_mm": 12, "low_mm": 12, "high_mm": 12.018, "fit": "H7"}]),
    ("ø25 h6", "mm", [{"kind": "diameter", "diameter_mm": 25, "low_mm": 24.987, "high_mm": 25, "fit": "h6"}]),
    ("DIA .562", "in", [{"kind": "diameter", "diameter_mm": 14.2748}]),
    ("9/16 DIA", "in", [{"kind": "diameter", "diameter_mm": 14.2875}]),
    ("1 3/8 dia", "in", [{"kind": "diameter", "diameter_mm": 34.925}]),
    ('3/8" DIA', "mm", [{"kind": "diameter", "diameter_mm": 9.525}]),
    ("R6", "mm", [{"kind": "radius", "size_mm": 6}]),
    ("2X R3", "mm", [{"kind": "radius", "size_mm": 3, "count": 2}]),
    ("25 ±0.1", "mm", [{"kind": "length", "size_mm": 25, "low_mm": 24.9, "high_mm": 25.1}]),
    ("25 +0.2/-0", "mm", [{"kind": "length", "size_mm": 25, "low_mm": 25, "high_mm": 25.2}]),
    ("25 +0,2/-0,1", "mm", [{"kind": "length", "size_mm": 25, "low_mm": 24.9, "high_mm": 25.2}]),
    ("Ø23.9 0/-0.21", "mm", [{"kind": "diameter", "diameter_mm": 23.9, "low_mm": 23.69, "high_mm": 23.9}]),
    ("25.0/24.8", "mm", [{"kind": "length", "size_mm": 24.9, "low_mm": 24.8, "high_mm": 25}]),
    ("Ø.500 +.002/-.000", "in", [{"kind": "diameter", "diameter_mm": 12.7, "low_mm": 12.7, "high_mm": 12.7508}]),
    ("R0.4 MAX", "mm", [{"kind": "radius", "size_mm": 0.4, "low_mm": 0, "high_mm": 0.4}]),
    ("(198)", "mm", [{"kind": "length", "size_mm": 198, "reference": True}]),
    ("(Ø38)", "mm", [{"kind": "diameter", "diameter_mm": 38, "reference": True}]),
    ("190 REF", "mm", [{"kind": "length", "size_mm": 190, "reference": True}]),
    ("1x45°", "mm", [{"kind": "chamfer", "size_mm": 1, "angle_deg": 45}]),
    ("0.8 X 45°", "mm", [{"kind": "chamfer", "size_mm": 0.8, "angle_deg": 45}]),
    ("2X 1x45°", "mm", [{"kind": "chamfer", "size_mm": 1, "angle_deg": 45, "count": 2}]),
    ("C1", "mm", [{"kind": "chamfer", "size_mm": 1, "angle_deg": 45}]),
    ("1.5 x 30°", "mm", [{"kind": "chamfer", "size_mm": 1.5, "angle_deg": 30}]),
    ("2X 30°±1°", "mm", [{"kind": "angle", "angle_deg": 30, "count": 2, "low_deg": 29, "high_deg": 31}]),
    ("12°30'", "mm", [{"kind": "angle", "angle_deg": 12.5}]),
    ("Ø6.6 THRU", "mm", [{**HOLE, "diameter_mm": 6.6}]),
    ("4x ø6,6 through", "mm", [{**HOLE, "count": 4, "diameter_mm": 6.6}]),
    ("5X Ø.31 ↧ .70", "in", [{"kind": "hole", "count": 5, "diameter_mm": 7.874, "through": False, "depth_mm": 17.78,
                             "depth_to": "shoulder", "point_deg": 118}]),
    ("5 HOLES Ø.31 x .70 DEEP", "in", [{"kind": "hole", "count": 5, "diameter_mm": 7.874, "through": False,
                                       "depth_mm": 17.78, "depth_to": "shoulder", "point_deg": 118}]),
    ("(5) .312 DRILL .700 DP", "in", [{"kind": "hole", "count": 5, "diameter_mm": 7.9248, "through": False,
                                      "depth_mm": 17.78, "depth_to": "shoulder", "point_deg": 118}]),
    ("Ø5 ↧12 TO TIP", "mm", [{"kind": "hole", "count": 1, "diameter_mm": 5, "through": False, "depth_mm": 12,
                             "depth_to": "tip", "point_deg": 118}]),
    ("4X Ø6.6 THRU ⌴ Ø11 ↧6.8", "mm", [{**HOLE, "count": 4, "diameter_mm": 6.6,
                                       "cbore": {"diameter_mm": 11, "depth_mm": 6.8}}]),
    ("Ø6.6 THRU, CBORE Ø11 x 6.8", "mm", [{**HOLE, "diameter_mm": 6.6, "cbore": {"diameter_mm": 11, "depth_mm": 6.8}}]),
    ("4X Ø6.6 THRU ⌴ Ø11 ↧6.8 ON Ø52 BC", "mm", [{**HOLE, "count": 4, "diameter_mm": 6.6, "bolt_circle_mm": 52,
                                                 "pattern": FOUR, "cbore": {"diameter_mm": 11, "depth_mm": 6.8}}]),
    ("5X Ø9 EQ SP ON Ø96 BC", "mm", [{**HOLE, "count": 5, "diameter_mm": 9, "bolt_circle_mm": 96, "pattern": RING}]),
    ("5 x Ø9 ON PCD 96", "mm", [{**HOLE, "count": 5, "diameter_mm": 9, "bolt_circle_mm": 96, "pattern": RING}]),
    ("7 DRILL, 82° CSK TO Ø14, 3 HOLES", "mm", [{**HOLE, "count": 3, "diameter_mm": 7,
                                                "csk": {"diameter_mm": 14, "angle_deg": 82}}]),
    ("M20x1.5-6g x 18", "mm", [{"kind": "thread", "thread": {"designation": "M20×1.5-6g", "major_mm": 20,
        "pitch_mm": 1.5, "class": "6g", "hand": "right", "internal": False, "depth_mm": 18}}]),
    ("M8 - 6H ↧ 20", "mm", [{"kind": "thread", "thread": {"designation": "M8×1.25-6H", "major_mm": 8, "pitch_mm": 1.25,
        "class": "6H", "hand": "right", "internal": True, "depth_mm": 20}}]),
]  # fmt: skip


def _close(got: Any, want: Any) -> bool:
    if isinstance(want, dict):
        return set(got) == set(want) and all(_close(got[k], v) for k, v in want.items())
    return got == pytest.approx(want) if isinstance(want, (int, float)) and not isinstance(want, bool) else got == want


@pytest.mark.parametrize(("text", "unit", "clauses"), CASES, ids=[c[0] for c in CASES])
def test_meaning(text: str, unit: Any, clauses: list[dict[str, Any]]) -> None:
    result = read_note(text, unit).as_json()
    assert result["ok"] and not result["unread"] and result["plain"]
    assert len(result["clauses"]) == len(clauses)
    assert all(_close(g, w) for g, w in zip(result["clauses"], clauses, strict=True)), result["clauses"]


def test_what_was_assumed_is_said() -> None:
    assert "coarse pitch 1.25 taken" in read_note("M8 THRU").assumed
    assert "depth to the full-diameter shoulder" in read_note("Ø5 ↧12").assumed
    assert "leg along the axis, angle from the axis" in read_note("1.5 x 30°").assumed


@pytest.mark.parametrize(
    ("text", "words"),
    [("", "empty"), ("Ø", "does not fit|too early"), ("⌴ ↧4", "no diameter"), ("Ø6.6 THRU ↧4", "not both"),
     ("Ø0", "above zero"), ("Ø6 THRU ⌴ Ø5 ↧2", "not wider"), ("Ø6 THRU ⌴ Ø11", "no depth"), ("M13", "no coarse pitch"),
     ("Ø5 ↧4 ⌴ Ø9 ↧6", "as deep as"), ("9/0 DIA", "over zero"), ("Ø12 t6", "not in the tables"), ("x" * 600, "longer")],
)  # fmt: skip
def test_refused(text: str, words: str) -> None:
    with pytest.raises(NoteError, match=words):
        read_note(text)


def test_unread_words_are_kept_and_never_taken() -> None:
    meaning = read_note("Ø6 THRU FROBNICATE")
    assert meaning.unread == ("FROBNICATE",) and not meaning.as_json()["ok"]
    told = read_note("4X Ø6 THRU FROBNICATE ON Ø52 BC 17")
    assert told.unread == ("FROBNICATE", "17") and told.unread_at == ((12, 10), (33, 2))
    assert [c.bolt_circle_mm for c in told.clauses] == [52]  # what stands behind it is still the hole's
    with pytest.raises(LedgerError, match="FROBNICATE"):
        callouts_from_note("Ø6 THRU FROBNICATE", 1)


def test_one_note_gives_a_callout_for_each_dimension() -> None:
    found = callouts_from_note("4X Ø6.6 THRU ⌴ Ø11 ↧6.8 ON Ø52 BC", 21)
    assert [(c.balloon, c.meaning, c.nominal, c.count) for c in found] == [
        (21, "hole diameter", 6.6, 4),
        (22, "counterbore diameter", 11, 4),
        (23, "counterbore depth", 6.8, 4),
        (24, "bolt circle", 52, 1),
    ]


PIECES = st.sampled_from(
    ["Ø", "6.6", "4X", " ", "THRU", "⌴", "↧", "(", ")", "[", "x", "45°", "R", "M8", "±", "0.1", "/", "-", "H7", "BC",
     "ON", ",", "CSK", "DEEP", "1 3/8", '"', "\n", "REF", "°", "HOLES", "C1", "qq",
     "0", "1/0", "C0", "99999999", "0/0.4", "2X", "5", "+0.1/-0"]
)  # fmt: skip


@given(st.lists(PIECES, max_size=12).map("".join), st.sampled_from(["mm", "in"]))
def test_any_note_is_read_or_refused_in_words(text: str, unit: Any) -> None:
    try:
        meaning = read_note(text, unit)
    except NoteError as exc:
        assert exc.message
        return
    assert meaning.clauses or meaning.unread
    with contextlib.suppress(LathedError):  # what is read makes callouts, or is refused in words of our own
        assert all(c.nominal > 0 for c in callouts_from_meaning(meaning, 1))
    number = {"type": "number", "exclusiveMinimum": 0}
    schema = {"type": "object", "required": ["kind"], "properties": {"diameter_mm": number, "depth_mm": number}}
    for clause in meaning.as_json()["clauses"]:
        jsonschema.validate(clause, schema)


@pytest.mark.parametrize(
    "note",
    ["0", "0.0", "0 X 45°", "C0", "0 ±0.1", "⌀5 ↧0", "99999999", "2X 99999999", "5 ± 99999999", "1/0", "1/0-20 UNC"],
)
def test_nothing_and_too_much_are_refused_in_words(note: str) -> None:
    with pytest.raises((NoteError, LedgerError)) as caught:
        callouts_from_note(note, 1)
    assert "validation" not in caught.value.message.lower()


@given(st.floats(0.1, 900).map(lambda x: round(x, 2)), st.floats(0.01, 0.09).map(lambda x: round(x, 3)))
def test_numbers_come_through_exactly(size: float, tolerance: float) -> None:
    (clause,) = read_note(f"Ø{size} ±{tolerance}").clauses
    assert clause.diameter_mm == pytest.approx(size) and clause.low_mm == pytest.approx(size - tolerance)
