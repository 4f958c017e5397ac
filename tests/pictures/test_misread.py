"""What a reader of lettering takes for something else, put right and said; none of its packages is needed."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.notation import read_note
from lathed_solid.sheets.pictures.misread import line_put_right, note_put_right, with_points


@pytest.mark.parametrize(
    ("seen", "meant", "doubted"),
    [
        ("Φ25 h6", "⌀25 h6", False),
        ("1.5×45°", "1.5x45°", False),
        ("4X φ.531 THRU", "4X ⌀.531 THRU", False),
        ("2X 1/4-20 UNC-2B J.50", "2X 1/4-20 UNC-2B ↧.50", True),
        ("DRILL I.62", "DRILL ↧.62", True),
        ("Φ8 I22", "⌀8 ↧22", True),
        ("Φ8I22", "⌀8 ↧22", True),
        ("-.03 X 45°", ".03 X 45°", False),
        ("-RING GR0OVE 1.3 H13 × Φ23.9", "RING GROOVE 1.3 H13 x ⌀23.9", True),
        ("029.6", "⌀29.6", True),
        ("-18.7-", "18.7", False),
        ("一52.6—", "52.6", False),
        ("== 17.2 =", "17.2", False),
        ("←8.9,", "8.9", False),
        ("42:", "42", False),
        (". 20", "20", True),
        ("0.5", "0.5", False),
        ("1O5", "105", True),
        (".75", ".75", False),
        ("114 ±0.2", "114 ±0.2", False),
        ("M20×1.5-6g × 18", "M20x1.5-6g x 18", False),
    ],
)
def test_a_line_is_put_right(seen: str, meant: str, doubted: bool) -> None:
    text, said = line_put_right(seen)
    assert text == meant
    assert bool(said) is doubted


@pytest.mark.parametrize(
    ("seen", "meant"),
    [
        ("4X ⌀.531 THRU\n⌀.812 ↧.31", "4X ⌀.531 THRU\n⌴ ⌀.812 ↧.31"),
        ("4X ⌀6.6 THRU\nL ⌀11 ↧6.8\nON ⌀52 BC", "4X ⌀6.6 THRU\n⌴ ⌀11 ↧6.8\nON ⌀52 BC"),
        ("⌀6.6 THRU\n⌀12.4 x 90°", "⌀6.6 THRU\n⌵ ⌀12.4 x 90°"),
    ],
)
def test_a_widening_s_sign_is_put_in_and_said(seen: str, meant: str) -> None:
    text, said = note_put_right(seen, "in" if ".531" in seen else "mm")
    assert text == meant and len(said) == 1
    assert not read_note(text).unread


@pytest.mark.parametrize("text", ["⌀12\n⌀14", "R5\n⌀11 ↧6.8", "⌀6.6 THRU\n⌴ ⌀11 ↧6.8"])
def test_nothing_is_put_in_without_a_hole_above(text: str) -> None:
    assert note_put_right(text, "mm") == (text, ())


def test_a_lost_point_is_tried_in_every_place() -> None:
    assert with_points("375") == [".375", "3.75", "37.5"]
    assert with_points("⌀75") == ["⌀.75", "⌀7.5"]
    assert with_points("7") == [] and with_points("3.75") == [] and with_points("M6") == []


@given(st.text(max_size=80))
def test_any_lettering_gives_a_line(text: str) -> None:
    line, said = line_put_right(text)
    again, _ = note_put_right(line, "mm")
    assert isinstance(again, str) and all(said)
