"""Storms at the whole bench with the true engine behind it; thousands are run by hand (``route_sweep``)."""

from __future__ import annotations

import pytest

from lathed_solid.part import edits

from .route_sweep import begun, storm


@pytest.mark.parametrize("first", [1, 21, 41])
def test_a_storm_breaks_nothing(first: int) -> None:
    assert {seed: found for seed in range(first, first + 20) if (found := storm(seed))} == {}


def test_work_that_stood_at_a_step_that_is_gone_goes_on_at_the_end() -> None:
    part = begun()
    _, number = edits.place_after(part, 17)
    assert number == 50
