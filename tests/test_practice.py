"""Practice parts: every callout is found without pointing, and the volume is the one worked out by hand."""

from __future__ import annotations

import pytest
from effort import LONG
from practice import PARTS, adjusting_screw, block_pulley_ring, pawl_link, stop_bracket, vice_base

from lathed_solid import scripting as ls

#: what is told with a reason instead: the width of the screw's groove stands on a line drawn across its flanks
TOLD = {"adjusting screw": [(19, "used by step 40, but no single face shows it: pick the faces to measure")]}


#: real threads over its whole length take a third of a minute
SLOW = () if LONG else ("adjusting screw",)


@pytest.mark.parametrize("name", sorted(PARTS.keys() - set(SLOW)))
def test_every_callout_is_found_and_in(name: str) -> None:
    part = PARTS[name]()
    assert ls.build(part).messages == []
    report = ls.prove(part)
    wrong = [r for r in report.rows if r.verdict != "in"]
    assert [(r.balloon, r.reason) for r in wrong] == TOLD.get(name, [])
    assert all(r.verdict == "not found" for r in wrong)
    assert not any(c.measure for c in part.callouts)


def test_at_least_ninety_five_in_a_hundred_are_found() -> None:
    callouts = sum(len(make().callouts) for make in PARTS.values())
    assert sum(map(len, TOLD.values())) <= 0.05 * callouts


def test_volumes_are_those_worked_out_by_hand() -> None:
    for part, volume in (
        (block_pulley_ring.hand_pulley(), block_pulley_ring.hand_pulley_volume()),
        (pawl_link.pawl_link(), pawl_link.volume()),
        (vice_base.vice_base(), vice_base.volume()),
        (stop_bracket.before_rounds(), stop_bracket.volume_before_rounds()),
        (adjusting_screw.blank(), adjusting_screw.blank_volume()),
    ):
        assert ls.build(part).volume == pytest.approx(volume, rel=1e-8), part.name


@pytest.mark.skipif(not LONG, reason="forty seconds: with LONG=1")
def test_the_coil_of_the_screw_takes_what_its_motion_says() -> None:
    whole, cut = ls.build(adjusting_screw.blank()), ls.build(adjusting_screw.adjusting_screw())
    assert whole.volume - cut.volume == pytest.approx(adjusting_screw.groove_volume(), rel=1e-5)


@pytest.mark.parametrize(
    ("of", "left_out", "balloon", "reason"),
    [
        ("vice base", {110, 130}, 18, "1 places found, the note says 2"),
        ("vice base", {130}, 15, "2 places found, the note says 4"),
    ],
)
def test_places_that_are_not_there_are_missed(of: str, left_out: set[int], balloon: int, reason: str) -> None:
    part = PARTS[of]()
    part = part.model_copy(update={"steps": tuple(s for s in part.steps if s.number not in left_out)})
    row = ls.prove(part).row(balloon)
    assert (row.verdict, row.reason) == ("out", reason)


def test_a_slots_end_that_is_half_gone_is_out() -> None:
    part = stop_bracket.before_rounds()
    d = ls.Draft()
    ls.shapes.rectangle(d, (36, 20), (50, 50))
    part = ls.sketch(part, d, "60/l1")
    part = ls.extrude(part, part.steps[-1].number, "#8", side="back")
    row = ls.prove(part).row(13)
    assert row.verdict == "out", row


def test_a_size_that_stands_only_in_a_sum_is_the_size_there() -> None:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 40))
    part = ls.note(ls.note(ls.note(ls.new_part("Block"), "20"), "R6"), "2")
    part = ls.extrude(ls.sketch(part, d), 10, "#1")
    edge = ls.EdgePick(edges=("20/l1|20/l2",))
    assert ls.prove(ls.step(part, "fillet", radius="#2 + #3", pick=edge)).row(2).verdict == "out"
