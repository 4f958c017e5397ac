"""Practice parts: every callout is found without pointing, and the volume is the one worked out by hand."""

from __future__ import annotations

import practice_parts
import pytest

from lathed_solid import scripting as ls


@pytest.mark.parametrize("name", sorted(practice_parts.PARTS))
def test_every_callout_is_found_and_in(name: str) -> None:
    part = practice_parts.PARTS[name]()
    assert ls.build(part).messages == []
    report = ls.prove(part)
    assert [f"{r.balloon} {r.note}: {r.verdict} {r.reason}" for r in report.rows if r.verdict != "in"] == []
    assert not any(c.measure for c in part.callouts)


def test_the_pulley_weighs_what_pappus_says() -> None:
    solid = ls.build(practice_parts.hand_pulley())
    assert solid.volume == pytest.approx(practice_parts.hand_pulley_volume(), rel=1e-9)
