"""Sketches drawn at random by hand keep their promises; thousands are run by ``drawing_sweep`` itself."""

from __future__ import annotations

import pytest
from effort import some

from .drawing_sweep import check


@pytest.mark.parametrize("first", some(range(0, 60, 6), 3))
def test_what_is_drawn_by_hand_breaks_nothing(first: int) -> None:
    failures = {seed: wrong for seed in range(first, first + 6) if (wrong := check(seed))}
    assert not failures
