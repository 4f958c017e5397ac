"""A short storm of clicks, keys and texts on the real window; thousands run by hand (``window_storm``)."""

from __future__ import annotations

import pytest
from effort import some

from .conftest import Bench
from .window_storm import storm


@pytest.mark.parametrize("seed", some([2, 1], 1))
def test_nothing_breaks_under_random_hands(bench: Bench, seed: int) -> None:
    assert storm(bench.window, bench.session, seed, 60) == []
