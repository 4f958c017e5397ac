"""Flat and round faces by their own bounds, against the kernel's intersector and against construction."""

from __future__ import annotations

import math
import random
from collections.abc import Callable

import pytest
from OCP.gp import gp_Dir, gp_Lin, gp_Pnt
from OCP.IntCurvesFace import IntCurvesFace_Intersector
from truth_parts import truth

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.kernel.flat_bounds import CLEAR, FlatBounds, flat_bounds
from lathed_solid.kernel.rays import RAY, Rays
from lathed_solid.kernel.round_bounds import RoundBounds, round_bounds
from lathed_solid.kernel.topology import box, faces
from lathed_solid.kernel.vectors import plus, times
from lathed_solid.part import Document


def part(of: str | int) -> Document:
    return DEMOS[of]() if isinstance(of, str) else truth(of).document


@pytest.mark.parametrize("bounds", [flat_bounds, round_bounds])
@pytest.mark.parametrize("of", ["pedestal", "ratchet-wheel", "winch-spindle", 330, 331, 332, 338, 339])
def test_lines_meet_faces_where_the_kernel_says(
    of: str | int, bounds: Callable[[object], FlatBounds | RoundBounds | None]
) -> None:
    body = ls.build(part(of)).built.body
    assert body is not None
    low, high = box(body.shape)
    draw = random.Random(str(of))
    told = asked = met = 0
    for face in faces(body.shape):
        own = bounds(face)
        if own is None:
            continue
        kernel = IntCurvesFace_Intersector(face, RAY)
        for _ in range(60):
            p = (draw.uniform(low[0] - 1, high[0] + 1), draw.uniform(low[1] - 1, high[1] + 1),
                 draw.uniform(low[2] - 1, high[2] + 1))  # fmt: skip
            way = draw.choice([(0.0, 0.0, 1.0), (1.0, 0.0, 0.0), tuple(draw.gauss(0, 1) for _ in range(3))])
            size = math.hypot(*way)
            unit = (way[0] / size, way[1] / size, way[2] / size)
            found = own.meets(p, unit, -1.0, 500.0)
            asked += 1
            if found is None:
                continue
            told += 1
            kernel.Perform(gp_Lin(gp_Pnt(*p), gp_Dir(*unit)), -1.0, 500.0)
            want = sorted(kernel.WParameter(i) for i in range(1, kernel.NbPnt() + 1))
            assert sorted(found) == pytest.approx(want, abs=1e-7)
            met += bool(found)
    assert told > 0.98 * asked > 0 and met > 0


def test_a_place_at_a_bound_is_left_to_the_kernel() -> None:
    body = ls.build(DEMOS["pedestal"]()).built.body
    assert body is not None
    flats = [f for f in map(flat_bounds, faces(body.shape)) if f is not None]
    assert flats
    for flat in flats:
        for cu, cv, r, start, sweep in flat.arcs:
            middle = start + sweep / 2
            for off in (-0.5 * CLEAR, 0.0, 0.5 * CLEAR):
                at = (cu + (r + off) * math.cos(middle), cv + (r + off) * math.sin(middle))
                assert flat.within(*at) is None
        for u0, v0, u1, v1 in flat.lines:
            assert flat.within((u0 + u1) / 2, (v0 + v1) / 2) is None


def test_a_line_that_touches_a_round_face_is_left_to_the_kernel() -> None:
    body = ls.build(DEMOS["winch-spindle"]()).built.body
    assert body is not None
    cylinders = [r for r in map(round_bounds, faces(body.shape)) if r is not None and not r.slope]
    assert cylinders
    for it in cylinders:
        x, y, along = it.axes
        middle = plus(it.origin, times(along, (it.low + it.high) / 2))
        for off, told in ((0.3 * CLEAR, False), (-0.3 * CLEAR, False), (4 * CLEAR, True), (-4 * CLEAR, True)):
            start = plus(middle, plus(times(x, it.radius + off), times(y, -50.0)))
            found = it.meets(start, y, 0.0, 100.0)
            assert (found is not None) is told
            if told and it.sweep > 6:
                assert len(found or ()) == (2 if off < 0 else 0)


def test_the_first_face_that_is_met_tells_that_a_ray_is_blocked() -> None:
    body = ls.build(part("pedestal")).built.body
    assert body is not None
    rays, (low, high), draw = Rays(body.shape), box(body.shape), random.Random(3)
    told = []
    for _ in range(400):
        p = tuple(draw.uniform(a - 1, b + 1) for a, b in zip(low, high, strict=True))
        way = draw.choice([(0.0, 0.0, 1.0), (0.0, -1.0, 0.0), (0.3, 0.5, -0.4)])
        told.append(rays.blocked(p, way))  # type: ignore[arg-type]
        assert told[-1] is bool(rays.hits(p, way, 1e4))  # type: ignore[arg-type]
    assert 0.1 < sum(told) / len(told) < 0.9


def test_rays_count_what_the_kernel_counts() -> None:
    """Inside or not, at random places, against the volume, within four standard deviations."""
    document = truth(330).document
    solid = ls.build(document)
    body = solid.built.body
    assert body is not None
    rays = Rays(body.shape)
    low, high = box(body.shape)
    draw = random.Random(7)
    room = math.prod(b - a for a, b in zip(low, high, strict=True))
    n = 3000
    inside = sum(
        bool(rays.inside(tuple(draw.uniform(a, b) for a, b in zip(low, high, strict=True))))  # type: ignore[arg-type]
        for _ in range(n)
    )
    share = solid.volume / room
    assert abs(inside / n - share) < 4 * math.sqrt(share * (1 - share) / n)
