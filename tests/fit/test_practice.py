"""Practice parts put together: a nut meshed on its bolt, and a swivel joint that must turn."""

from __future__ import annotations

import math

import numpy as np
import pytest

pytest.importorskip("OCP")

from practice.together import swivel, tied

from lathed_solid import scripting as ls
from lathed_solid.fit.solved import Solved


@pytest.mark.parametrize("from_end", ["18", "17.37", "21.2"])
def test_the_nut_stands_where_it_was_turned_to_and_its_flanks_mesh(from_end: str) -> None:
    found = ls.solve(tied(from_end))
    assert found.state == "held" and not found.lost
    # the bolt's end is 78.8 from the head's top; the nut is 12.8 high
    assert found.placements["nut"].at[0] == pytest.approx(78.8 - float(from_end) - 12.8, abs=1e-9)
    assert ls.overlaps(found) == []


@pytest.fixture(scope="module")
def joint() -> Solved:
    return ls.solve(swivel())


def test_the_swivel_joint_stands_and_says_what_is_free(joint: Solved) -> None:
    assert joint.state == "loose" and not joint.lost and not joint.trouble, joint.words
    free = {f.member for f in joint.freedoms}
    # the block in the lower yoke, the upper yoke on the block; pins and taper pins turn about themselves
    assert free == {"block", "upper yoke", "first pin", "second pin", "first taper pin", "second taper pin"}
    assert len(joint.freedoms) == 6
    x, y, z = joint.placements["upper yoke"].at  # the joint may have swung a little about its first pin
    assert y == pytest.approx(0, abs=1e-7) and math.hypot(x, z - 86) == pytest.approx(34 + 86, abs=1e-7)


def test_its_pins_have_play_and_its_lengths_leave_three_millimetres(joint: Solved) -> None:
    fits = [f for f in ls.clearances_by_ledger(joint) if "pin" in f.shaft.member and f.hole.low > 20]
    assert {(f.hole.member, f.verdict) for f in fits} >= {("block", "in"), ("lower yoke", "in"), ("upper yoke", "in")}
    for f in fits:  # Ø28 H8 is +0.033/0, Ø28 f7 -0.020/-0.041 (ISO 286-2)
        assert f.least == pytest.approx(0.020, abs=1e-9) and f.most == pytest.approx(0.074, abs=1e-9)
    # under its head the pin has its hole at 158, the yoke is 150 wide, half the collar 5
    for name, holder in (("first", "lower yoke"), ("second", "upper yoke")):
        assert ls.clearance(joint, f"{name} collar", holder).mm == pytest.approx(158 - 150 - 5, abs=1e-7)
    assert ls.clearance(joint, "block", "lower yoke").mm == pytest.approx(0, abs=1e-9)  # 150 - 2 x 26 = 98: no play


def test_only_the_taper_pins_find_no_room(joint: Solved) -> None:
    """They widen from 5 to 6 in straight holes of 5: those have to be reamed."""
    for o in ls.overlaps(joint):
        assert "taper pin" in o.a or "taper pin" in o.b, (o.a, o.b)


def test_it_turns_until_the_plate_meets_the_other_yokes_arm(joint: Solved) -> None:
    """The plate's edge stands 60 from the second pin and 42 aside; the arm's top lies 2 over that pin: they meet where
    60 cos t - 42 sin t = 2.
    """
    limit = math.acos(2 / math.hypot(60, 42)) - math.atan2(42, 60)
    free = next(f for f in joint.freedoms if f.member == "upper yoke")
    for share, met in ((0.999, False), (1.001, True), (-0.999, False), (-1.001, True)):
        last = ls.sweep(joint.fit, free, 0.0, share * limit, 1).overlaps[-1]
        bare = {frozenset((o.a, o.b)) for o in last if "taper" not in o.a + o.b}
        assert bare == ({frozenset(("upper yoke", "lower yoke"))} if met else set()), (share, bare)
    swept = ls.sweep(joint.fit, free, 0.0, 0.9 * limit, 3, pair=("upper yoke", "lower yoke"), judge=False)
    assert np.all(np.diff(swept.clearances) < 1e-6)
    # upright: from the arm's round top, 36 over the first pin, to the plate 60 over the second
    assert swept.clearances[0] <= 34 + 60 - 36
