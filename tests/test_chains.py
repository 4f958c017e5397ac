"""Dimension chains against coordinates that are known, and against counting by union-find."""

from __future__ import annotations

import json
import math
from fractions import Fraction
from pathlib import Path

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.cli import cli
from lathed_solid.ledger.chains import Chain, Link, other_way_round, stack
from lathed_solid.ledger.spans import MIDDLE
from lathed_solid.part import Document, DocumentError
from lathed_solid.part.edits import set_span
from lathed_solid.proof.chain import chains, stack_of
from lathed_solid.proof.chain_words import findings, link_words

PLACES = "abcdefgh"


def between(balloon: int, start: str, end: str, value: float, reference: bool = False) -> Link:
    return Link(balloon, ((start, -1), (end, 1)), value, reference)


@st.composite
def drawings(draw: st.DrawFn) -> tuple[dict[str, float], list[Link], dict[str, str]]:
    """Places at known coordinates, dimensions between some of them, and what union-find says hangs together."""
    at = {p: float(draw(st.integers(-500, 500))) / 4 for p in PLACES[: draw(st.integers(2, 8))]}
    root = {p: p for p in at}

    def find(p: str) -> str:
        while root[p] != p:
            p = root[p]
        return p

    links = []
    for n in range(draw(st.integers(1, 12))):
        a, b = draw(st.permutations(sorted(at)))[:2]
        links.append(between(n + 1, a, b, at[b] - at[a]))
        root[find(a)] = find(b)
    return at, links, {p: find(p) for p in at}


@settings(max_examples=60, deadline=None)
@given(drawings(), st.data())
def test_a_chain_knows_what_hangs_together_what_is_said_twice_and_every_sum(
    drawing: tuple[dict[str, float], list[Link], dict[str, str]], data: st.DataObject
) -> None:
    at, links, root = drawing
    chain = Chain("x", links)
    named = set(chain.places)
    components = {frozenset(p for p in named if root[p] == r) for r in set(root.values())} - {frozenset()}
    assert {frozenset(g) for g in chain.groups} == components
    # Euler: every link beyond a tree closes one loop
    assert len(chain.loops) == len(links) - (len(named) - len(components))
    assert not any(loop.contradicts for loop in chain.loops)
    for a in named:
        for b in named:
            path = chain.path(a, b)
            assert (path is None) == (root[a] != root[b])
            if path is not None:
                total = sum(f * links[balloon - 1].value for balloon, f in path)
                assert abs(total - (at[b] - at[a])) < 1e-9 and all(abs(f) == 1 for _, f in path)
    if chain.loops:
        # one wrong value: every contradiction found is one that its loop really has, and there is at least one
        k = data.draw(st.sampled_from(chain.loops)).balloon - 1
        wrong = [*links[:k], between(k + 1, links[k].terms[0][0], links[k].terms[1][0], links[k].value + 3.5),
                 *links[k + 1 :]]  # fmt: skip
        off = [loop for loop in Chain("x", wrong).loops if loop.contradicts]
        assert off and all(k + 1 in loop.balloons for loop in off)
        assert all(abs(abs(loop.off) - 3.5) < 1e-9 for loop in off)


@given(st.lists(st.tuples(st.integers(0, 5), st.integers(0, 6)), min_size=1, max_size=12), st.integers(0, 5),
       st.integers(0, 5))  # fmt: skip
def test_the_shortest_way_is_the_lightest_sum(pairs: list[tuple[int, int]], start: int, end: int) -> None:
    """On plain chains, many of them with dimensions said twice, against the linear program."""
    names = ["a", "b", "c", "d", "e", "f", MIDDLE]
    at = [0.0, 7.0, 9.5, 20.0, 31.0, 40.0, 15.0]
    links = []
    for balloon, (one, two) in enumerate(pairs, 1):
        if one == two:
            continue
        terms = ((names[one], -1), (names[two], 1)) if two < 6 else ((names[one], -1),)
        links.append(Link(balloon, terms, at[two] - at[one]))
    chain = Chain("x", links)
    known = {p for k in links for p, _ in k.terms}
    if not {names[start], names[end]} <= known:
        return
    got = chain.path(names[start], names[end])
    row = chain._row(((names[start], -1), (names[end], 1)))
    want = chain._combination(row, chain.driving)
    assert (got is None) == (want is None)
    if got is not None and want is not None:
        assert len(got) == round(sum(abs(f) for _, f in want))
        value = {k.balloon: k.value for k in links}
        assert sum(f * value[b] for b, f in got) == pytest.approx(at[end] - at[start])


@settings(max_examples=100, deadline=None)
@given(st.lists(st.integers(1, 400), min_size=1, max_size=5, unique=True), st.integers(1, 9), st.data())
def test_symmetry_is_a_dimension_that_nobody_writes(widths: list[int], deep: int, data: st.DataObject) -> None:
    """Pairs alike about the middle: any place of one is known from any of another, by halves."""
    links: list[Link] = []
    at: dict[str, float] = {}
    for n, w in enumerate(widths):
        links += [between(n + 1, f"l{n}", f"r{n}", float(w)), Link(0, ((f"l{n}", 1), (f"r{n}", 1)), 0.0)]
        at |= {f"l{n}": -w / 2, f"r{n}": w / 2}
    links.append(between(99, "l0", "groove", float(deep)))
    at["groove"] = at["l0"] + deep
    chain = Chain("x", links)
    assert chain.middle and len(chain.groups) == 1 and not chain.loops
    values = {k.balloon: k.value for k in links if k.balloon}
    a, b = (data.draw(st.sampled_from(sorted(at))) for _ in range(2))
    path = chain.path(a, b)
    assert path is not None and abs(sum(f * values[n] for n, f in path) - (at[b] - at[a])) < 1e-9
    assert all(Fraction(f).limit_denominator(8).denominator <= 2 for _, f in path)
    # without one symmetry its pair stands to nothing else
    if len(widths) > 1:
        freed = Chain("x", [k for k in links if k.balloon or dict(k.terms).get("l1") != 1])
        assert [set(g) for g in freed.loose] == [{"l1", "r1"}]


def test_diameters_walls_and_angles_are_chains_too() -> None:
    tube = [Link(1, (("outside", 2),), 40.0), Link(2, (("bore", 2),), 30.0), between(3, "bore", "outside", 5.5)]
    (loop,) = Chain("across the axis", tube).loops
    assert loop.balloon == 3 and dict(loop.terms) == {1: 0.5, 2: -0.5} and loop.off == pytest.approx(0.5)
    third = math.radians(120)
    rays = [between(1, "a", "b", third), between(2, "b", "c", third), between(3, "c", "a", third)]
    (closed,) = Chain("about Z", rays, turning=True).loops
    assert not closed.contradicts
    (open_,) = Chain("about Z", [*rays[:2], between(3, "c", "a", math.radians(119))], turning=True).loops
    assert math.degrees(open_.off) == pytest.approx(-1.0)
    # a span that runs the wrong way is told
    wrong = Chain("x", [between(1, "a", "b", 10.0), between(2, "c", "b", 5.0), between(3, "a", "c", 15.0)])
    assert other_way_round(wrong.loops[0], {1: 10.0, 2: 5.0, 3: 15.0}) == 2


def test_a_stack_by_hand() -> None:
    values = {1: (50.0, 49.9, 50.1), 2: (20.0, 20.0, 20.2), 3: (8.0, None, None)}
    s = stack(((1, 1.0), (2, -1.0), (3, 0.5)), values)
    assert s.nominal == pytest.approx(34.0) and (s.low, s.high) == pytest.approx((33.7, 34.1))
    assert s.root == pytest.approx(math.hypot(0.1, 0.1)) and s.middle == pytest.approx(33.9) and s.open == (3,)


def drawn() -> Document:
    """A plate before it is modelled: one contradiction, one column that nothing places, one reference."""
    part = ls.new_part("plate", unit="in")
    notes = ("6.00", "4.75", "1.56", ".75", "2.25", "3.02", "1.50", "4.00", "(.25)", ".62")
    for n, text in enumerate(notes, 1):
        part = ls.note(part, text, n)
    spans = {
        1: ("x", "left end", "right end", True), 2: ("x", "left hole", "right hole", True),
        3: ("x", "left end", "groove", False), 4: ("z", "underside", "top", False), 5: ("z", "top", "bore", False),
        6: ("z", "underside", "bore", False), 7: ("y", "column front", "column back", False),
        8: ("y", "front", "back", False), 10: ("x", "left end", "left hole", False),
        9: ("z", "underside", "roof", False),
    }  # fmt: skip
    for n, (along, start, end, symmetric) in spans.items():
        part = set_span(part, n, along=along, start=start, end=end, symmetric=symmetric)
    return part


def test_the_audit_of_a_drawing_before_it_is_modelled() -> None:
    part = drawn()
    found = findings(part)
    assert [f.kind for f in found] == ["contradiction", "contradiction", "open", "open"]
    assert found[0].words == "10, 1 and 2 contradict: 6 = 4.75 + 2 × 0.62 is off by 0.01"
    assert found[1].words == "6, 4 and 5 contradict: 3.02 = 2.25 + 0.75 is off by 0.02"
    # a reference never drives: what it alone names is fixed by nothing
    assert found[2].places == ("underside", "roof") and found[3].along == "y"
    assert "does not fix where front, back stand from column front, column back" in found[3].words
    x = next(t for t in chains(part) if t.chain.along == "x")
    path = x.chain.path("groove", MIDDLE)
    assert path is not None and link_words(part, path) == "1.44 = 6/2 − 1.56"
    s = stack_of(part, "x", "left hole", "groove")
    assert s is not None and s.nominal / 25.4 == pytest.approx(1.56 - 0.62) and not s.open
    # ISO 2768-m: 0.3 up to 120 mm, 0.2 up to 30 mm
    assert s.high - s.low == pytest.approx(2 * (0.3 + 0.2)) and s.root == pytest.approx(math.hypot(0.3, 0.2))
    assert stack_of(part, "y", "front", "column front") is None
    with pytest.raises(DocumentError, match="no callout names 'nowhere'"):
        stack_of(part, "x", "nowhere", "groove")
    with pytest.raises(DocumentError, match="not from 'a' to itself"):
        set_span(part, 1, start="a", end=" a ")
    assert set_span(part, 1, start="").callout(1).span is None  # type: ignore[union-attr]


def test_the_audit_on_the_command_line(tmp_path: Path) -> None:
    file = tmp_path / "plate.lathed"
    ls.write_document(file, drawn())
    run = CliRunner().invoke(cli, ["audit", str(file), "--json"], standalone_mode=False)
    told = json.loads(run.output)
    assert run.return_value == 1 and not told["ok"] and told["findings"][0]["balloons"] == [10, 1, 2]
    run = CliRunner().invoke(cli, ["audit", str(file), "--stack", "x", "left hole", "groove"], standalone_mode=False)
    assert "0.94 = 1.56 − 0.62" in run.output and "worst case 0.9203 to 0.9597" in run.output
    for along, start in (("y", "left hole"), ("q", "top")):
        run = CliRunner().invoke(cli, ["audit", str(file), "--stack", along, start, "x"], standalone_mode=False)
        assert isinstance(run.exception, DocumentError)
