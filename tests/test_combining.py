"""Sizes worked out from readings: pitches, centres, twins; they follow, and other ways are compared."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.files import read_document, write_document
from lathed_solid.ledger import Instrument, Reading
from lathed_solid.ledger.combining import refreshed, sums_with, value_of, worded
from lathed_solid.ledger.readings import Taken, Term
from lathed_solid.part import Document, DocumentError, edits
from lathed_solid.part.caliper_log import log_size, log_sum, read_again, sums_for

CALIPER = Instrument()


def measured(**sizes: float) -> Document:
    """A log: kinds of sizes with their readings, mm."""
    part = ls.new_part("bracket")
    for size, value in sizes.items():
        part, _ = log_size(part, size.rstrip("0123456789").replace("_", " ").replace("dia", "⌀"), (value,), CALIPER)
    return part


def plate() -> Document:
    """Two bores of 12 and 10, 26 apart: the web between them, and the edge to the first."""
    return measured(inside_dia1=12.02, inside_dia2=10.01, clear_length=14.98, length=8.03)


def test_what_is_offered_is_what_a_calculator_would_do() -> None:
    words = {s.words: s for s in sums_for(plate(), 3)}
    pitch = words["pitch: clear #3 + half of ⌀#1 and ⌀#2"]
    assert pitch.value == pytest.approx(14.98 + 6.01 + 5.005)
    assert words["pitch: clear #3 + ⌀#1"].value == pytest.approx(27.0)
    assert words["pitch: over all #3 − ⌀#1"].value == pytest.approx(2.96)
    centre = {s.words: s for s in sums_for(plate(), 4)}["centre: edge #4 + half of ⌀#1"]
    assert centre.value == pytest.approx(14.04)
    assert "pitch: over all #4 − ⌀#1" not in {s.words for s in sums_for(plate(), 4)}, "it comes out below zero"
    assert [s.words for s in sums_for(plate(), 1)] == ["twin: the same size again"]
    assert sums_for(plate(), 99) == [] and worded(pitch.terms) == "#3 + 0.5 × #1 + 0.5 × #2"


@given(st.lists(st.tuples(st.floats(1, 500), st.floats(-1, 2)), min_size=1, max_size=5))
def test_uncertainties_of_a_sum_add_by_their_squares(parts: list[tuple[float, float]]) -> None:
    known = {n: Reading(balloon=n, way="step", repeats=(v,)) for n, (v, _) in enumerate(parts, 1)}
    terms = [Term(balloon=n, share=c) for n, (_, c) in enumerate(parts, 1)]
    value, uncertainty = value_of(terms, known)  # type: ignore[misc]
    assert value == pytest.approx(sum(v * c for v, c in parts), abs=1e-9)
    each = known[1].standard_uncertainty
    assert uncertainty == pytest.approx(each * math.sqrt(sum(c * c for _, c in parts)), abs=1e-12)


def test_one_size_that_stands_twice_is_one_reading() -> None:
    known = {1: Reading(balloon=1, way="step", repeats=(10.0,))}
    _, uncertainty = value_of([Term(balloon=1), Term(balloon=1)], known)  # type: ignore[misc]
    assert uncertainty == pytest.approx(2 * known[1].standard_uncertainty), "not its root of two"


def test_a_pitch_stays_visible_and_follows_its_sizes() -> None:
    part = plate()
    pitch = next(s for s in sums_for(part, 3) if "half of ⌀#1 and" in s.words)
    part, words = log_sum(part, pitch)
    assert part.callouts[-1].nominal == 26 and words.startswith("26")
    made = part.reading(5)
    assert made is not None and worded(made.terms) == "#3 + 0.5 × #1 + 0.5 × #2" and "follows" in made.note
    assert made.uncertainty == pytest.approx(2 * pitch.uncertainty)
    again = edits.put_reading(part, edits.changed(part.reading(1), repeats=(12.10,)))  # type: ignore[type-var]
    assert again.reading(5).mean == pytest.approx(made.mean + 0.04)  # type: ignore[union-attr]
    # a sum of a sum follows too
    part, _ = log_sum(again, next(s for s in sums_for(again, 5) if s.words.startswith("twin")))
    part = edits.put_reading(part, edits.changed(part.reading(1), repeats=(12.0,)))  # type: ignore[type-var]
    assert part.reading(6).mean == part.reading(5).mean == pytest.approx(made.mean - 0.01)  # type: ignore[union-attr]
    assert part.callout(6).nominal == 26  # type: ignore[union-attr]


def test_when_one_of_its_sizes_goes_the_value_stays() -> None:
    part, _ = log_sum(plate(), next(s for s in sums_for(plate(), 4) if s.words.startswith("centre")))
    left = edits.drop_callout(part, 1)
    made = left.reading(5)
    assert made is not None and made.terms == () and made.mean == pytest.approx(14.04)
    assert refreshed(left.readings) == left.readings


def test_a_twin_has_the_nominal_of_its_like() -> None:
    part = plate()
    (twin,) = sums_with(1, part.callouts, {r.balloon: r for r in part.readings})
    part, words = log_sum(part, twin)
    made = part.callout(5)
    assert made is not None and (made.kind, made.nominal) == ("diameter", 12) and words == "⌀12: like #1"
    assert part.reading(5).way == "inside"  # type: ignore[union-attr]


def test_two_ways_of_one_size_are_compared() -> None:
    part = plate()
    first = part.reading(4)
    assert first is not None
    near, far = (Taken(way="depth", repeats=(v,)) for v in (8.05, 8.4))
    part = read_again(part, 4, near)
    apart, room = part.reading(4).apart(near)  # type: ignore[union-attr]
    assert apart == pytest.approx(0.02) and room > apart
    part = read_again(part, 4, far)
    assert [t.mean for t in part.reading(4).again] == [8.4], "the same way again takes the place of the last"  # type: ignore[union-attr]
    assert first.apart(far)[0] > first.apart(far)[1]
    with pytest.raises(DocumentError, match="not read yet"):
        read_again(ls.note(part, "30"), 5, near)
    with pytest.raises(DocumentError, match="from itself"):
        read_again(part, 4, Taken(way="step", repeats=(8.0,), terms=(Term(balloon=4),)))


def test_sums_and_other_ways_come_back_from_a_file(tmp_path) -> None:
    part, _ = log_sum(plate(), next(s for s in sums_for(plate(), 4) if s.words.startswith("centre")))
    part = read_again(part, 3, Taken(way="inside", repeats=(14.95, 14.97)))
    write_document(tmp_path / "p.lathed", part)
    assert read_document(tmp_path / "p.lathed").readings == part.readings
