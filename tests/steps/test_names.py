"""References that hold: the same edge after an edit, and candidates where it cannot be told."""

from __future__ import annotations

import pytest
from effort import some
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.kernel.edges import edges_of, named_edges
from lathed_solid.kernel.errors import BuildError
from lathed_solid.part import EdgePick, Radial, edits
from lathed_solid.part.names import read_edge, renamed, split, steps_in
from steps import names_sweep

from .parts import block, built, near, refused, shaft


@pytest.mark.parametrize("seed", some(range(16), 8))
def test_names_mean_the_same_edge_after_random_edits(seed: int) -> None:
    _edits, right, reported, wrong = names_sweep.check(seed, edits=3)
    assert not wrong and right > 20 and reported <= right / 50


def test_names_are_read_and_renumbered() -> None:
    name = "40/(20/end|20/l1)+20/end|20/l2[30/~(20/l1,20/l2),20/l3]~z1/2"
    parts = read_edge(name)
    assert parts is not None and parts.faces == (frozenset({"40/(20/end|20/l1)", "20/end"}), frozenset({"20/l2"}))
    assert parts.ends == ("30/~(20/l1,20/l2)", "20/l3") and (parts.axis, parts.place, parts.many) == ("z", 1, 2)
    assert steps_in(name) == {20, 30, 40}
    assert renamed(name, {20: 200, 40: 10}).startswith("10/(200/end|200/l1)+200/end|200/l2[30/~(200/l1,200/l2),200/l3]")
    assert renamed("60/2(20/h12.wall)", {2: 9, 12: 9, 20: 30}) == "60/2(30/h12.wall)"
    assert read_edge("no edge") is None and read_edge("a|b|c") is None


atoms = st.from_regex(r"[1-9]0/[a-z][0-9]", fullmatch=True)


@given(st.recursive(atoms, lambda inner: st.builds("60/({}|{})".format, inner, inner), max_leaves=6), atoms)
def test_any_nested_name_is_cut_at_its_own_bar(a: str, b: str) -> None:
    assert split(f"{a}|{b}", "|") == [a, b]
    parts = read_edge(f"{a}|{b}")
    assert parts is not None and parts.faces == (frozenset({a}), frozenset({b}))


def test_two_rims_between_the_same_faces_are_told_apart_and_reported_when_they_cannot() -> None:
    def pin(angle: str) -> ls.Document:
        return ls.hole(shaft((20, 60)), "10/sA", "6", places=Radial(at="30", angle=angle))

    body = built(pin("0")).built.body
    assert body is not None
    names = sorted(e.name for e in edges_of(body) if "h0.wall" in e.name)
    assert names == ["10/sA|20/h0.wall~z1/2", "10/sA|20/h0.wall~z2/2"]
    top = ls.step(pin("0"), "chamfer", leg="0.4", pick=EdgePick(edges=(names[1],)))
    at = built(top).built.body
    assert at is not None and min(v for f in at.by_atom[f"30/({names[1]})"] for v in _heights(f)) > 5
    # turned by 90 degrees both rims lie level: the name cannot tell them apart any more
    level = edits.put_step(top, pin("90 deg").step(20))
    result = refused(level, "could be 2 edges now")
    assert result.missing == names[1] and sorted(result.candidates) == [n.replace("~z", "~y") for n in names]
    mended = edits.replace_name(level.step(30), names[1], result.candidates[0])
    assert built(edits.put_step(level, mended)).ok


def _heights(face: object) -> list[float]:
    from lathed_solid.kernel.topology import box

    low, high = box(face)
    return [low[2], high[2]]


def test_a_step_that_lost_its_edge_stops_and_later_steps_go_on() -> None:
    part = ls.step(block(), "fillet", radius="2", pick=EdgePick(edges=("20/l1|20/l7",)))
    part = ls.hole(part, "20/end", "5")
    results = ls.build(part).built.steps
    assert [r.ok for r in results] == [True, True, False, True]
    assert "is gone" in results[2].message and "20/l1|20/l2" in results[2].candidates
    assert results[2].missing == "20/l1|20/l7"


def test_names_of_merged_faces_hold() -> None:
    """A second block flush with the first: the top is one face with both names, its edges answer to either."""
    d = ls.Draft()
    ls.shapes.rectangle(d, (60, 0), (90, 40))
    part = ls.extrude(ls.sketch(block(), d), 30, "20")
    body = built(part).built.body
    assert body is not None and "20/end+40/end" in body.labels
    for name in ("20/end|20/l4", "40/end|40/l2", "20/end+40/end|20/l4"):
        assert len(named_edges(body, name)) == 1
    with pytest.raises(BuildError, match="is gone"):
        named_edges(body, "20/end|20/l2")  # the wall between them


def test_moving_and_inserting_steps_keep_references() -> None:
    part = ls.step(block(), "fillet", radius="3", pick=EdgePick(edges=("20/l1|20/l2",)))
    part = ls.step(part, "chamfer", leg="1", pick=EdgePick(faces=("30/(20/l1|20/l2)",)))
    before = built(part).volume
    d = ls.Draft()
    d.circle(d.point(200, 0), 3)
    moved = edits.move_step(ls.sketch(part, d), 50, 0)
    assert moved.step(50).pick.faces == ("40/(30/l1|30/l2)",)
    assert built(moved).volume == near(before)
    roomy, free = edits.place_after(part, 20)
    assert free == 25 and roomy == part
    tight = edits.put_step(part, ls.hole(block(), "20/end", "4").step(30).model_copy(update={"number": 21}))
    renumbered, free = edits.place_after(tight, 20)
    assert free == 25 and built(renumbered).volume == near(built(tight).volume)
    twice = edits.duplicate_step(part, 30)
    assert [s.number for s in twice.steps] == [10, 20, 30, 35, 40] and twice.step(35).radius == "3"
    assert edits.dependents(part, 10) == [20, 30, 40] and edits.dependents(part, 40) == []
