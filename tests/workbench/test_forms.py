"""Rows of step forms: what is typed, picked and chosen becomes the step's value, and is shown as it was typed."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.part import Document, DocumentError, HoleStep
from lathed_solid.part.steps import KINDS
from lathed_solid.workbench.step_forms import FORMS, rows_of
from lathed_solid.workbench.step_forms.form_row import (
    FormRow,
    chosen,
    get,
    mended,
    put,
    text_of,
    value_of,
    with_picked,
)

NAMES = FormRow("faces", "faces", "names", picks=("face",))
words = st.text("abcl0123456789/+.", min_size=1, max_size=8)


@given(st.lists(words, max_size=5))
def test_names_come_back_as_they_were_typed(names: list[str]) -> None:
    assert value_of(NAMES, text_of(NAMES, tuple(names))) == tuple(names)


@given(st.lists(st.tuples(words, words), max_size=5))
def test_tables_come_back_as_they_were_typed(rows: list[tuple[str, str]]) -> None:
    row = FormRow("places.rows", "x, y", "table")
    assert value_of(row, text_of(row, tuple(rows))) == tuple(rows)


@pytest.mark.parametrize(
    ("row", "text", "want"),
    [
        (FormRow("r", "radius"), "#3 / 2", "#3 / 2"),
        (FormRow("r", "radius", empty="the same", optional=True), "", None),
        (FormRow("a", "angle", "angle", empty="0"), "", "0"),
        (FormRow("s", "steps", "numbers"), "10; 20", (10, 20)),
        (FormRow("s", "sketch", "number of a step"), "30", 30),
        (FormRow("s", "sketch", "number of a step", optional=True), "", None),
        (FormRow("t", "thread", "text"), "", ""),
        (FormRow("t", "thread", "text", optional=True), "", None),
    ],
)
def test_texts_mean_what_the_row_says(row: FormRow, text: str, want: object) -> None:
    assert value_of(row, text) == want


@pytest.mark.parametrize("row", [FormRow("s", "steps", "numbers"), FormRow("s", "sketch", "number of a step")])
def test_what_is_no_step_is_refused_by_the_rows_name(row: FormRow) -> None:
    with pytest.raises(DocumentError, match=row.label):
        value_of(row, "ten")


def test_an_empty_field_stands_for_its_meaning() -> None:
    row = FormRow("x", "x", empty="0")
    assert text_of(row, "0") == "" and text_of(row, "5") == "5" and value_of(row, "") == "0"
    some = FormRow("depth", "depth", empty="through", optional=True)
    assert text_of(some, None) == "" and text_of(some, "through") == "through"


def test_picked_names_are_added_and_let_go_again() -> None:
    step = ls.step(block(), "shell", wall="2", open_faces=("20/end",)).steps[-1]
    row = next(r for r in rows_of("shell") if r.kind == "names")
    assert with_picked(row, step, {"face": "20/l1"}) == ("20/end", "20/l1")
    assert with_picked(row, step, {"face": "20/end"}) == ()
    with pytest.raises(DocumentError, match="pick a face"):
        with_picked(row, step, {"edge": "20/l1|20/l2"})


def block() -> Document:
    draft = ls.Draft()
    ls.shapes.rectangle(draft, (0, 0), (40, 30))
    return ls.extrude(ls.sketch(ls.new_part("block"), draft), 10, "20")


def test_a_choice_makes_its_model_or_asks_for_what_it_needs() -> None:
    part = ls.hole(block(), "20/end", "5")
    step = part.steps[-1]
    row = next(r for r in rows_of("hole") if r.path == "places")
    made = put(step, "places", chosen(row, "grid", part, step, {}))
    assert made.places.kind == "grid"
    assert chosen(row, "sketch", part, step, {}) == {"kind": "sketch", "sketch": 10}
    with pytest.raises(DocumentError, match="round edge"):
        chosen(row, "edges", part, step, {})
    assert put(step, "places", chosen(row, "edges", part, step, {"edge": "20/end|20/l1"})).places.kind == "edges"
    with pytest.raises(DocumentError, match="draw a sketch"):
        chosen(row, "sketch", Document(), step, {})


def test_a_lost_name_is_replaced_in_the_step_or_in_the_one_it_stands_on() -> None:
    part = ls.hole(block(), "20/end", "5")
    step = part.steps[-1]
    other = mended(part, step, "20/end", "20/start")
    assert isinstance(other, HoleStep) and other.face == "20/start"
    with pytest.raises(DocumentError, match="none of the fields"):
        mended(part, step, "20/gone", "20/start")


@pytest.mark.parametrize("kind", FORMS)
def test_every_row_leads_into_its_step(kind: str) -> None:
    fields = KINDS[kind].model_fields
    assert rows_of(kind) or kind == "imported"
    for row in rows_of(kind):
        assert row.path.partition(".")[0] in fields, row.path
        assert row.label and (row.kind != "choice" or row.choices)


def test_paths_reach_into_models_and_miss_quietly() -> None:
    step = ls.hole(block(), "20/end", "5").steps[-1]
    assert get(step, "places.count") == 1 and get(step, "places.dx") is None and get(step, "nothing.at.all") is None
    with pytest.raises(DocumentError):
        put(step, "places.count", 0)
