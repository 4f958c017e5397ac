"""Measurements that an edit left alone are kept, the others made anew: every report is that of a fresh proof."""

from __future__ import annotations

import random

import pytest
import truth_parts
from effort import some

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.engine.prove import prove
from lathed_solid.engine.rebuild import Engine
from lathed_solid.part import Document
from lathed_solid.proof import Report


def words(report: Report) -> list[tuple[object, ...]]:
    """All that a report says but for its sizes."""
    duties = [[(d.what, d.verdict, d.reason) for d in r.duties] for r in report.rows]
    return [(r.balloon, r.verdict, r.reason, d) for r, d in zip(report.rows, duties, strict=True)]


def sizes(report: Report) -> list[float]:
    return [0.0 if r.measured is None else r.measured for r in report.rows]


def proven(engine: Engine, part: Document) -> Report:
    return prove(engine, part, engine.build(part))


@pytest.mark.parametrize("seed", some(range(400, 424), 6))
def test_a_report_after_an_edit_is_a_fresh_one(seed: int) -> None:
    case = truth_parts.truth(seed) if seed % 3 else truth_parts.lie(seed)
    part, engine, pick = case.document, Engine(), random.Random(seed)
    states = [part.model_copy(update={"steps": part.steps[:k]}) for k in range(1, len(part.steps) + 1)]
    # one step after the other, then some of them left out, and all again
    for _ in range(3):
        gone = pick.randrange(len(part.steps))
        states.append(part.model_copy(update={"steps": part.steps[:gone] + part.steps[gone + 1 :]}))
    for state in [*states, part]:
        fresh, kept = proven(Engine(), state), proven(engine, state)
        assert words(kept) == words(fresh)
        assert sizes(kept) == pytest.approx(sizes(fresh), abs=1e-6)


def test_what_an_edit_does_not_touch_is_not_measured_again(monkeypatch: pytest.MonkeyPatch) -> None:
    part, engine, asked = DEMOS["pedestal"](), Engine(), []
    report = proven(engine, part)
    from lathed_solid.engine import prove as proving

    def counted(look: object, probe: object, nominal: float, real: object = proving.measure) -> object:
        asked.append(probe)
        return real(look, probe, nominal)  # type: ignore[operator]

    monkeypatch.setattr(proving, "measure", counted)
    assert proven(engine, part) == report and asked == []
    last = part.steps[-1].model_copy(update={"leg": "0.031"})
    changed = part.model_copy(update={"steps": (*part.steps[:-1], last)})
    after = proven(engine, changed)
    assert 0 < len(asked) < 12
    row = after.row(20)
    assert row is not None and row.verdict != "in"  # it is driven no more


def test_a_hole_that_is_plugged_or_filled_later_is_seen() -> None:
    """Far from its walls: a block over its far end, then one across its middle, then none."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (60, 40))
    part = ls.note(ls.note(ls.new_part("Block"), "20"), "Ø10 THRU")
    part = ls.extrude(ls.sketch(part, d), 10, "#1")
    part = ls.hole(part, "20/end", "#2", places=ls.Table(rows=(("20", "20"),)))
    engine = Engine()
    assert proven(engine, part).row(2).verdict == "in"  # type: ignore[union-attr]
    lid = ls.Draft()
    ls.shapes.rectangle(lid, (10, 10), (30, 30))
    capped = ls.sketch(part, lid, ls.DatumPlane(plane="XY", offset="-3"))
    capped = ls.extrude(capped, capped.steps[-1].number, "3")
    row = proven(engine, capped).row(2)
    assert row is not None and row.verdict == "out" and row.reason == "it ends in the material"
    bar = ls.Draft()
    ls.shapes.rectangle(bar, (0, 18), (60, 22))
    barred = ls.sketch(part, bar, ls.DatumPlane(plane="XY", offset="8"))
    barred = ls.extrude(barred, barred.steps[-1].number, "4")
    row = proven(engine, barred).row(2)
    assert row is not None and row.verdict == "out"
    assert proven(engine, part).row(2).verdict == "in"  # type: ignore[union-attr]
