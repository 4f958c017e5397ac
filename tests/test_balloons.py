"""Rings found among strokes, and the bare numbers that stand in them."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid.sheets.balloons import Ring, in_ring, rings


def circle(x: float, y: float, r: float, corners: int = 24) -> list[tuple[float, float]]:
    return [(x + r * math.cos(2 * math.pi * k / corners), y + r * math.sin(2 * math.pi * k / corners))
            for k in range(corners + 1)]  # fmt: skip


@given(st.floats(-500, 500), st.floats(-500, 500), st.floats(0.5, 60), st.integers(12, 80))
def test_a_circle_is_a_ring(x: float, y: float, r: float, corners: int) -> None:
    (found,) = rings([circle(x, y, r, corners)])
    assert found.centre == pytest.approx((x, y), abs=0.1 * r) and found.radius == pytest.approx(r, rel=0.05)


@pytest.mark.parametrize("run", [
    [], [(0, 0), (1, 0)], [(0, 0), (4, 0), (4, 4), (0, 4), (0, 0)], circle(0, 0, 3)[:-6],
    [(x, 0.4 * y) for x, y in circle(0, 0, 3)],
    [(0.0, 0.0), (1, 0), (2, 0), (3, 0), (3, 1), (3, 2), (3, 3), (2, 3), (1, 3), (0, 3), (0, 2), (0, 1), (0, 0)],
])  # fmt: skip
def test_what_is_no_ring(run: list[tuple[float, float]]) -> None:
    assert rings([run]) == []


@pytest.mark.parametrize(("text", "box", "balloon"), [
    ("7", (-0.5, -0.8, 0.5, 0.8), True), ("12", (-1.0, -0.8, 1.0, 0.8), True), ("7", (1.2, -0.8, 2.2, 0.8), False),
    ("7.5", (-1.0, -0.8, 1.0, 0.8), False), ("R2", (-1.0, -0.8, 1.0, 0.8), False), ("12345", (-1, -0.8, 1, 0.8), False),
    ("7", (-0.2, -0.3, 0.2, 0.3), False),
])  # fmt: skip
def test_bare_numbers_in_the_middle_of_a_ring_of_their_size(text: str, box: tuple[float, float, float, float],
                                                            balloon: bool) -> None:  # fmt: skip
    assert in_ring(text, box, [Ring((0.0, 0.0), 2.1)]) is balloon
