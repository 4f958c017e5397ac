"""Completing a sketch: as many dimensions as freedoms, held afterwards, the sheet's callouts used first."""

from __future__ import annotations

import math

import numpy as np
import pytest
from effort import some

from lathed_solid.sketch import compound_shapes as shapes
from lathed_solid.sketch.builder import SketchBuilder
from lathed_solid.sketch.complete import FreeCallout, completed, propose
from lathed_solid.sketch.errors import SketchError
from lathed_solid.sketch.examine import examine
from sketch.figures import chain
from sketch.sweep import without


def as_text(value: float, angular: bool) -> str:
    return f"{math.degrees(value)!r} deg" if angular else repr(value)


def finish(sketch, values, offers=()):
    """The completed sketch, examined with the values of its texts."""
    proposed = propose(sketch, values, offers, as_text)
    known = {o.name: o.value for o in offers}
    new = {}
    for c in proposed:
        if c.value:
            number = known.get(c.value)
            new[c.id] = number if number is not None else _value(c.value)
    return proposed, examine(completed(sketch, proposed), dict(values) | new)


def _value(text: str) -> float:
    return math.radians(float(text.split()[0])) if text.endswith("deg") else float(text)


@pytest.mark.parametrize(
    "make",
    [
        lambda d: shapes.rectangle(d, (3, 4), (33, 24)),
        lambda d: shapes.slot(d, (0, 0), (30, 5), 4),
        lambda d: shapes.polygon(d, (5, 5), (15, 8), 6, across_flats=True),
        lambda d: (shapes.rectangle(d, (0, 0), (50, 40)), d.circle(d.point(20, 15), 6), d.segment((60, 3), (80, 20))),
    ],
)
def test_as_many_as_needed_and_then_held(make) -> None:
    d = SketchBuilder()
    make(d)
    before = examine(d.done(), {})
    proposed, after = finish(before.sketch, {})
    assert after.state == "held", after.messages
    rows = sum(2 if c.kind == "fixed" else 1 for c in proposed)
    assert rows == before.freedoms.count and not after.redundancies
    for p in before.sketch.points:
        assert after.sketch.at(p.id) == pytest.approx(before.sketch.at(p.id), abs=1e-6)


@pytest.mark.parametrize("seed", some(range(20), 10))
def test_chains_that_lost_dimensions_are_completed(seed: int) -> None:
    rng = np.random.default_rng(seed)
    figure = chain(1 + seed % 3, seed, seed)
    sketch = figure.draft.done()
    gone = [str(k) for k in rng.choice(list(figure.values), 3, replace=False)]
    values = {k: v for k, v in figure.values.items() if k not in gone}
    loose = examine(without(sketch, gone), values)
    proposed, after = finish(loose.sketch, values)
    assert len(proposed) == loose.freedoms.count
    assert after.state == "held", after.messages


def test_callouts_of_the_sheet_come_first() -> None:
    d = SketchBuilder()
    sides = shapes.rectangle(d, (0, 0), (60.4, 39.5))
    d.add("fixed", d.entities[sides[0]].points[0])
    circle = d.circle(d.point(30, 20), 6.1)
    offers = [FreeCallout("#1", "length", 60.0), FreeCallout("#2", "length", 40.0), FreeCallout("#3", "diameter", 12.0),
              FreeCallout("#4", "radius", 6.0), FreeCallout("#9", "length", 500.0)]  # fmt: skip
    proposed, after = finish(d.done(), {}, offers)
    texts = {c.value: c.kind for c in proposed}
    assert texts["#1"] == "distance" and texts["#2"] == "distance" and texts["#3"] == "diameter"
    assert "#4" not in texts and "#9" not in texts
    assert after.state == "held" and after.sketch.by_id[circle].radius == pytest.approx(6)


def test_a_held_sketch_has_nothing_to_complete() -> None:
    d = SketchBuilder()
    d.add("fixed", d.point(1, 2))
    assert propose(d.done(), {}, (), as_text) == ()
    with pytest.raises(SketchError, match="nothing to propose"):
        completed(d.done(), ())
