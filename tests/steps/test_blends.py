"""Rounds where the kernel's own are refused or go wrong: against quadratures, mitres and heights that just fit."""

from __future__ import annotations

import cmath
import math

import pytest
from effort import some
from scipy.integrate import quad

from lathed_solid import scripting as ls
from lathed_solid.part import EdgePick

from . import blends
from .parts import block, built, circle, near, rectangle, refused, volume

#: of a hollow corner's section, over the square of the radius
CORNER = 1 - math.pi / 4


def rounded(part: ls.Document, radius: float, *edges: str) -> ls.Document:
    return ls.step(part, "fillet", radius=repr(radius), pick=EdgePick(edges=edges))


@pytest.mark.parametrize("seed", some([4, 5, 6, 7, 8, 9, 2034, 2050], 3))
def test_an_arm_that_runs_tangent_into_its_bosses(seed: int) -> None:
    """In either order; the volume is that of the quadrature, where that knows it."""
    way, words, off = blends.tried(seed)
    assert words == "built", way
    assert abs(off) < 2e-5, way


def test_each_round_carries_the_name_of_its_edge_and_the_bosses_keep_theirs() -> None:
    link = blends.link(4)
    labels = set(built(link.rounded(link.part(), "foot")).built.body.labels)
    assert {f"40/(20/c{k}|30/{end})" for k in (1, 2) for end in ("start", "end")} <= labels
    assert not any(label.startswith("40/end") for label in labels) and "" not in labels


def test_the_foot_of_a_wall_all_round_is_mitred_at_its_corners() -> None:
    part = ls.extrude(rectangle(block(80, 52, "9"), "20/end", (20, 20), (60, 29)), 30, "30")
    r, edges = 6.0, [f"20/end|40/l{k}" for k in (1, 2, 3, 4)]
    # beyond a corner the lower of both rounds: twice the integral of x h(x)
    mitre = 2 * quad(lambda x: x * (r - math.sqrt(r * r - (r - x) ** 2)), 0, r)[0]
    straight = CORNER * r * r * 2 * (40 + 9)
    assert volume(rounded(part, r, *edges)) - volume(part) == near(straight + 4 * mitre, 1e-7)


@pytest.mark.parametrize("form", ["straight", "round"])
def test_a_round_as_high_as_its_step_is_wide_enough(form: str) -> None:
    """R.04 on a .04 step, where the kernel takes .0399 only."""
    on = block(60, 40, "20")
    if form == "straight":
        part, edge = ls.extrude(rectangle(on, "20/end", (0, 0), (20, 40)), 30, "1"), "20/end|40/l2"
        added = CORNER * 40
    else:
        part, edge = ls.extrude(circle(on, "20/end", 30, 20, 8), 30, "1"), "20/end|40/c1"
        added = 2 * math.pi * quad(lambda x: (1 - math.sqrt(1 - (1 - x) ** 2)) * (8 + x), 0, 1)[0]
    assert volume(rounded(part, 1, edge)) - volume(part) == near(added, 1e-6)
    refused(rounded(part, 1.01, edge), "the land beside it is 1 wide")


def test_the_rim_of_a_window_with_sharp_corners_is_mitred() -> None:
    """Four arcs meet at angles of their own; the kernel refuses all eight edges at once."""
    part = block(60, 40, "12")
    d = ls.Draft()
    corners = [(20.0, 12.0), (42.0, 14.0), (40.0, 28.0), (22.0, 26.0)]
    ls.shapes.polyline(d, corners, closed=True)
    part = ls.extrude(ls.sketch(part, d, "20/end"), 30, None, mode="cut", side="both")
    r, out = 2.0, 0.0
    height = lambda x: r - math.sqrt(r * r - (r - x) ** 2)  # noqa: E731 - of the removed corner
    for k in range(4):
        a, b, c = (complex(*corners[(k + i) % 4]) for i in (-1, 0, 1))
        inner = abs(cmath.phase((a - b) / (c - b)))
        out += CORNER * r * r * abs(c - b)
        # on both sides of the mitre each round runs on to it
        out += 2 * quad(lambda x, t=math.tan(math.pi / 2 - inner / 2): height(x) * x * t, 0, r)[0]
    edges = [f"20/{side}|40/l{k}" for side in ("start", "end") for k in (1, 2, 3, 4)]
    assert volume(part) - volume(rounded(part, r, *edges)) == near(2 * out, 1e-6)


def test_two_rounds_that_need_the_same_land_are_refused() -> None:
    part = block(60, 3, "20")
    refused(rounded(part, 2, "20/end|20/l1", "20/end|20/l3"), "the land beside it is 3 wide")
    ledge = ls.extrude(rectangle(block(60, 40, "20"), "20/end", (0, 0), (58, 40)), 30, "5")
    refused(rounded(ledge, 3, "20/end|40/l2"), "the land beside it is 2 wide; the largest that fits is 1.99")
