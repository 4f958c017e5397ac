"""First models proposed from drawings: what is proposed without a question is the part that was drawn."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from pathlib import Path

import pytest
from drawn_turned import sheet
from effort import some

from lathed_solid import scripting as ls
from lathed_solid.demo.sheets import SHEETS
from lathed_solid.part.proposals import ProposalError, propose_turned
from lathed_solid.sheets.client import read_linework


def outcome(seed: int, folder: Path) -> str:
    """``whole``: proven without a question, and the part that was drawn; ``asked``; ``wrong``: neither."""
    path = folder / f"{seed}.pdf"
    part = sheet(seed, path)
    try:
        found = ls.propose(path, part.unit)
    except ProposalError as exc:
        return f"refused: {exc.message}"
    solid = ls.build(found.document)
    right = solid.ok and abs(solid.volume / part.volume - 1) < 1e-7
    proven = [r.verdict for r in ls.prove(found.document).rows]
    if found.asked or found.unplaced:
        return f"asked: {found.asked} {found.unplaced}"
    return (
        "whole" if right and set(proven) == {"in"} else f"wrong: {solid.messages} {solid.volume} {part.volume} {proven}"
    )


def test_turned_parts_of_another_hand(tmp_path: Path) -> None:
    found = [outcome(seed, tmp_path) for seed in some(range(501, 507), 3)]
    assert not [f for f in found if f.startswith(("wrong", "refused"))], found
    assert 3 * Counter(found)["whole"] >= 2 * len(found), found


def test_the_spindle_of_the_demo() -> None:
    found = ls.propose(SHEETS / "winch-spindle.pdf")
    assert found.asked == () and found.unplaced == ("⌀6 H9 THRU",)  # where along the crank's seat is not on the sheet
    assert [r.what for r in found.rows if r.what.startswith("station")][:6] == [f"station {k}" for k in "ABCDEF"]
    assert ls.build(found.document).ok
    verdicts = {r.note: r.verdict for r in ls.prove(found.document).rows}
    assert [n for n, v in verdicts.items() if v != "in"] == ["⌀6 H9 THRU"] and len(verdicts) == 19


def test_a_note_that_its_own_line_contradicts_is_not_taken_and_told() -> None:
    path = SHEETS / "winch-spindle.pdf"
    page = ls.read_sheet(path)
    offers = tuple(replace(o, sure="contradicted") if o.text == "52 ±0.1" else o for o in page.offers)
    found = propose_turned(ls.new_part("spindle"), replace(page, offers=offers), read_linework(path))
    assert "52 ±0.1" in found.unplaced
    assert any(words.startswith("station B: its length") for words in found.asked)
    assert all(c.note != "52 ±0.1" for c in found.document.callouts)


def test_a_tapered_bore_is_the_hub_s_own_and_the_screw_is_left_to_be_placed() -> None:
    found = ls.propose(SHEETS / "crank-hub.pdf")
    (bore,) = [r for r in found.rows if r.what.startswith("bore")]
    assert bore.cells == "#9 ⌀20 to #10 ⌀24 through" and not found.asked
    assert found.unplaced == ("M6 ↧20", "15")
    verdicts = {r.note: r.verdict for r in ls.prove(found.document).rows}
    assert verdicts["⌀20"] == verdicts["⌀24"] == "in"


def test_what_no_note_says_is_drawn_to_scale_and_asked() -> None:
    """The nut's hexagon stands in the view as a cylinder that no diameter says; its thread's drill is a bore."""
    found = ls.propose(SHEETS / "gland-nut.pdf")
    assert found.asked == ("station A: its diameter, drawn 53.1",)
    assert "M27x1.5-6H THRU" in found.unplaced
    assert [r.cells for r in found.rows if r.what == "bore, left"] == ["#6 ⌀25.376 through"]
    assert ls.build(found.document).ok


@pytest.mark.parametrize(("name", "why"), [("pedestal", "no view of a turned part")])
def test_a_sheet_of_no_turned_part_is_refused_in_words(name: str, why: str) -> None:
    with pytest.raises(ProposalError, match=why):
        ls.propose(SHEETS / f"{name}.pdf", "in")
