"""Bores cut without a boolean against the same bores by the boolean, and when it must stand back."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from OCP.BRepCheck import BRepCheck_Analyzer

from lathed_solid import scripting as ls
from lathed_solid.engine.rebuild import Engine
from lathed_solid.kernel.builders import boolean
from lathed_solid.kernel.names import Body
from lathed_solid.kernel.properties import properties
from lathed_solid.part import Document, EdgePick
from lathed_solid.part.steps.pattern_layout import GridLayout


def plate(width: float = 60, depth: float = 40, thick: float = 12) -> Document:
    d = ls.Draft()
    ls.shapes.rectangle(d, (0, 0), (width, depth))
    return ls.extrude(ls.sketch(ls.new_part("plate"), d), 10, str(thick))


def built(part: Document) -> Body:
    result = Engine().build(part)
    assert result.ok, [s.message for s in result.steps]
    assert result.body is not None
    return result.body


def by_boolean(part: Document, monkeypatch: pytest.MonkeyPatch) -> Body:
    with monkeypatch.context() as m:
        m.setattr(boolean, "pierced", lambda _body, _tools: None)
        return built(part)


def used(part: Document, monkeypatch: pytest.MonkeyPatch) -> list[bool]:
    """For each cut whether it was made without a boolean."""
    seen: list[bool] = []
    real = boolean.pierced

    def spy(body: Body, tools: Any) -> Body | None:
        out = real(body, tools)
        seen.append(out is not None)
        return out

    with monkeypatch.context() as m:
        m.setattr(boolean, "pierced", spy)
        built(part)
    return seen


def same(a: Body, b: Body) -> None:
    p, q = properties(a.shape), properties(b.shape)
    assert p.volume == pytest.approx(q.volume, rel=1e-12)
    assert p.area == pytest.approx(q.area, rel=1e-12)
    assert p.centre == pytest.approx(q.centre, abs=1e-10)
    assert sorted(a.labels) == sorted(b.labels)
    assert BRepCheck_Analyzer(a.shape, True).IsValid()
    assert a.size == pytest.approx(p.volume, rel=1e-9)


ENTRIES: list[dict[str, str]] = [
    {},
    {"cbore_diameter": "9", "cbore_depth": "3"},
    {"csk_diameter": "10", "csk_angle": "90°"},
    {"depth": "7"},
    {"depth": "7", "point": "118°"},
    {"depth": "8", "cbore_diameter": "8.5", "cbore_depth": "2.5", "point": "118°"},
]


@pytest.mark.parametrize("entry", ENTRIES, ids=lambda e: "+".join(e) or "plain")
def test_the_same_solid_as_by_the_boolean(entry: dict[str, str], monkeypatch: pytest.MonkeyPatch) -> None:
    places = ls.Table(rows=(("12", "12"), ("30", "22"), ("48", "12")))
    part = ls.hole(plate(), "20/end", "5", places=places, **entry)
    part = ls.hole(part, "20/start", "4", places=ls.Table(rows=(("21", "-32"),)), **entry)
    assert used(part, monkeypatch) == [True, True]
    same(built(part), by_boolean(part, monkeypatch))


# the same places in every run: the kernel's boolean, which is the oracle, fails in a few (see below)
@settings(max_examples=25, deadline=None, derandomize=True)
@given(st.floats(1, 59), st.floats(1, 39), st.floats(0.6, 9).map(lambda r: round(r, 2)), st.booleans())
def test_wherever_a_second_hole_stands(x: float, y: float, radius: float, through: bool) -> None:
    """Over edges, into the first hole, beside it: the same as by the boolean, or refused by both."""
    stands_as_by_boolean(x, y, radius, through)


@pytest.mark.xfail(strict=True, reason="the boolean of a bore that crosses another at its seam: refused, or 2e-8 off")
@pytest.mark.parametrize("x", [24.98828125, 25.0])
def test_a_second_hole_at_the_seam_of_the_first(x: float) -> None:
    """Its centre stands on the first bore's rim, level with its axis. Found by the search above."""
    stands_as_by_boolean(x, 20.0, 1.0, through=False)


def stands_as_by_boolean(x: float, y: float, radius: float, through: bool) -> None:
    """A second hole beside one of 10 in the plate's middle: both ways are refused, or make the same solid."""
    part = ls.hole(plate(), "20/end", "10", places=ls.Table(rows=(("30", "20"),)))
    rows = ls.Table(rows=((f"{x:.3f}", f"{y:.3f}"),))
    part = ls.hole(part, "20/end", f"{2 * radius}", depth=None if through else "6", places=rows)
    with pytest.MonkeyPatch.context() as m:
        quick = Engine().build(part)
        m.setattr(boolean, "pierced", lambda _body, _tools: None)
        slow = Engine().build(part)
    assert [s.ok for s in quick.steps] == [s.ok for s in slow.steps]
    if quick.ok:
        assert quick.body is not None and slow.body is not None
        p, q = properties(quick.body.shape), properties(slow.body.shape)
        assert p.volume == pytest.approx(q.volume, rel=1e-9)
        # a wall that another cuts into may fall into pieces at its seam: the same names, not the same count
        assert set(quick.body.labels) == set(slow.body.labels)


def test_it_stands_back_where_something_crosses(monkeypatch: pytest.MonkeyPatch) -> None:
    over_the_edge = ls.hole(plate(), "20/end", "8", places=ls.Table(rows=(("2", "20"),)))
    assert used(over_the_edge, monkeypatch) == [False]
    touching_each_other = ls.hole(plate(), "20/end", "8", cbore_diameter="12", cbore_depth="3",
                                  places=ls.Table(rows=(("20", "20"), ("30.5", "20"))))  # fmt: skip
    result = Engine().build(touching_each_other)
    assert not result.ok or used(touching_each_other, monkeypatch) == [False]
    first = ls.hole(plate(), "20/end", "4", places=ls.Table(rows=(("30", "20"),)))
    meets_it = ls.hole(first, "20/l1", "3", places=ls.Table(rows=(("30", "6"),)))
    passes_by = ls.hole(first, "20/l1", "3", places=ls.Table(rows=(("20", "6"),)))
    assert properties(built(meets_it).shape).volume > properties(built(passes_by).shape).volume
    assert used(meets_it, monkeypatch) == [True, False]
    assert used(passes_by, monkeypatch) == [True, True]
    part = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="40", length="50")])
    radial = ls.hole(part, "10/sA", "6", places=ls.Radial(at="20"), depth="10")
    assert used(radial, monkeypatch) == [False]
    axial = ls.hole(part, "10/face.right", "6", depth="10", places=ls.OnCircle(bolt_circle="20", count=5))
    assert used(axial, monkeypatch) == [True]


def test_patterns_mirrors_and_what_follows(monkeypatch: pytest.MonkeyPatch) -> None:
    """Copies of a bore are bores; blends on their rims, threads and later cuts see an ordinary part."""
    part = ls.hole(plate(120, 80), "20/end", "5", cbore_diameter="9", cbore_depth="3",
                   places=ls.Table(rows=(("15", "15"),)))  # fmt: skip
    part = ls.step(part, "pattern", steps=(30,), layout=GridLayout(spacing="22", count=5, spacing2="22", count2=3))
    assert used(part, monkeypatch) == [True, True]
    body = built(part)
    same(body, by_boolean(part, monkeypatch))
    one = math.pi * (2.5**2 * 9 + 4.5**2 * 3)
    assert properties(body.shape).volume == pytest.approx(120 * 80 * 12 - 15 * one, rel=1e-12)
    broken = ls.step(part, "chamfer", pick=EdgePick(edges=("20/end|30/h0.cbore",)), leg="0.5")
    lip = math.pi * (0.5**2 / 2) * 2 * (4.5 + 0.5 / 3)
    assert properties(built(broken).shape).volume == pytest.approx(120 * 80 * 12 - 15 * one - lip, rel=1e-9)


def test_resolved_figures_are_kept_only_while_they_mean_the_same() -> None:
    part = ls.parameter(plate(), "w", "10")
    part = ls.hole(part, "20/end", "w / 2", places=ls.Table(rows=(("w", "12"),)))
    engine = Engine()
    first = engine.build(part)
    wider = part.model_copy(update={"parameters": (part.parameters[0].model_copy(update={"expression": "14"}),)})
    second = engine.build(wider)
    assert first.body is not None and second.body is not None
    gone = [60 * 40 * 12 - properties(b.body.shape).volume for b in (first, second)]  # type: ignore[union-attr]
    assert gone == pytest.approx([math.pi * 2.5**2 * 12, math.pi * 3.5**2 * 12], rel=1e-9)
    assert all(s.cached for s in engine.build(part).steps if s.kind not in ("sketch",))
