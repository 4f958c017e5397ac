"""Short campaigns of endurance; the long ones are commands in ``bench/endurance``."""

from __future__ import annotations

from endurance import kills


def test_what_was_committed_before_a_kill_comes_back() -> None:
    found = kills.campaign(8, 41, while_taking_over=4)
    assert found.lost == [] and found.kills > 8 and found.edits > 40
