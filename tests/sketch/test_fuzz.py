"""Anything drawn and related at random: examined without a crash, truthful about its state, stored and read back."""

from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.check import findings
from lathed_solid.sketch.constraints import DIMENSIONS, KINDS
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.examine import examine
from lathed_solid.sketch.measure import measured
from lathed_solid.sketch.model import Sketch
from lathed_solid.sketch.regions import regions
from lathed_solid.sketch.solve import solve
from lathed_solid.sketch.system import System

places = st.tuples(st.integers(-5, 5), st.integers(-5, 5)).map(lambda p: (float(p[0]) * 7, float(p[1]) * 7))


@st.composite
def sketches(draw) -> tuple[Sketch, dict[str, float]]:
    d = SketchBuilder()
    for _ in range(draw(st.integers(1, 6))):
        a, b = draw(places), draw(places)
        kind = draw(st.sampled_from(["line", "circle", "arc", "point", "ellipse"]))
        try:
            if kind == "line":
                d.segment(a, b)
            elif kind == "circle":
                d.circle(d.point(*a), 1.0 + abs(b[0]))
            elif kind == "arc":
                c = complex(*a)
                d.arc(d.point(*a), d.point(c.real + 6, c.imag), d.point(c.real, c.imag + 6))
            elif kind == "ellipse":
                d.ellipse(d.point(*a), d.point(a[0] + 9, a[1] + 2), 3.0)
            else:
                d.point(*a)
        except SketchError:
            continue
    values: dict[str, float] = {}
    names = list(d.entities)
    for _ in range(draw(st.integers(0, 10))):
        kind = draw(st.sampled_from(sorted(KINDS)))
        count = draw(st.integers(1, 3))
        of = [draw(st.sampled_from(names)) for _ in range(count)]
        try:
            k = d.add(kind, *of, value="1")
        except SketchError:
            continue
        if kind in DIMENSIONS:
            values[k] = draw(st.floats(0.5, 40))
    return d.done(), values


@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much])
@given(sketches())
def test_whatever_is_drawn_is_examined_truthfully(case: tuple[Sketch, dict[str, float]]) -> None:
    sketch, values = case
    try:
        seen = examine(sketch, values)
    except SketchError:
        return
    assert seen.state in ("held", "loose", "fighting", "stuck")
    if seen.ok:
        full = System(sketch, level=0)
        full.set_values(values)
        left = full.evaluate(full.reduce(np.array(seen.solution.x)))[0]
        assert np.abs(left).max(initial=0.0) <= 1e-7 * max(full.size, 1.0)
        assert (seen.state == "held") == (seen.freedoms.count == 0)
        for c in sketch.constraints:
            if c.id in values and c.kind not in ("angle",):
                assert abs(measured(sketch, c, seen.solution.x)) == pytest.approx(abs(values[c.id]), abs=1e-5)
    else:
        assert seen.messages
        for fight in seen.fights:
            assert set(fight.constraints) <= {c.id for c in sketch.constraints}
    findings(seen.sketch)
    assert all(r.area > 0 for r in regions(seen.sketch))


@settings(max_examples=60, deadline=None)
@given(sketches())
def test_stored_and_read_back_it_is_the_same(case: tuple[Sketch, dict[str, float]]) -> None:
    sketch, _ = case
    assert Sketch.model_validate(json.loads(sketch.model_dump_json())) == sketch


@pytest.mark.parametrize(
    "change",
    [
        {"entities": [{"kind": "line", "id": "l1", "start": "p1", "end": "p2"}]},
        {"entities": [{"kind": "point", "id": "p1", "x": float("nan"), "y": 0}]},
        {"entities": [{"kind": "point", "id": "p1", "x": 0, "y": 0}] * 2},
        {"entities": [{"kind": "blob", "id": "p1"}]},
        {"entities": [{"kind": "point", "id": "../p", "x": 0, "y": 0}]},
        {"constraints": [{"id": "k1", "kind": "radius", "of": ["c1"]}]},
        {"constraints": [{"id": "k1", "kind": "anything", "of": ["p1"]}]},
    ],
)
def test_impossible_sketches_in_files_are_refused(change: dict) -> None:
    with pytest.raises(ValidationError):
        Sketch.model_validate(change)


def test_a_failed_solve_says_why() -> None:
    d = SketchBuilder()
    p, q = d.point(0, 0), d.point(10, 0)
    d.add("fixed", p)
    d.add("fixed", q)
    k = d.add("distance", p, q, value="12")
    solution = solve(d.done(), {k: 12.0})
    assert not solution.ok and solution.reason and solution.worst == k
    seen = examine(d.done(), {k: 12.0})
    assert seen.state == "fighting" and k in seen.fights[0].constraints
