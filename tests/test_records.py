"""Nothing entered is dropped: unknown fields, notes that own their callouts, files of version 1."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.demo import DEMOS
from lathed_solid.files import read_document, write_document
from lathed_solid.ledger import Note, callouts_from_note
from lathed_solid.part import Document, edits
from lathed_solid.part.edits import DocumentError
from lathed_solid.record import strangers

OLD = Path(__file__).parent / "files"


def test_unknown_fields_are_refused_when_made() -> None:
    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="70", length="50")])
    with pytest.raises(DocumentError, match="no field 'cbore_diametre'"):
        ls.step(rod, "hole", face="10/face.right", diameter="5", cbore_diametre="11")
    with pytest.raises(ValueError, match="lenght"):
        ls.Station(key="A", diameter="70", lenght="50")  # type: ignore[call-arg]
    with pytest.raises(TypeError, match="no field 'grooves'"):
        rod.model_copy(update={"grooves": ()})


def test_unknown_fields_of_a_file_are_kept_where_they_stood_and_told(tmp_path: Path) -> None:
    rod = ls.turned(ls.note(ls.new_part("rod"), "Ø70"), [ls.Station(key="A", diameter="#1", length="50")])
    data = json.loads(rod.model_dump_json())
    data["fancy"] = {"a": [1, 2]}
    data["steps"][0]["table"]["stations"][0]["polish"] = "fine"
    data["notes"][0]["callouts"][0]["mood"] = None
    path = tmp_path / "rod.json"
    path.write_text(json.dumps(data), "utf-8")
    back = read_document(path)
    assert sorted(strangers(back)) == [
        "fancy", "notes / 1 / callouts / 1 / mood", "steps / 1 / table / stations / 1 / polish",
    ]  # fmt: skip
    edited = edits.set_stated_mass(ls.note(back, "Ø5"), None)
    write_document(path, edited)
    again = json.loads(path.read_text("utf-8"))
    assert again["fancy"] == {"a": [1, 2]} and again["notes"][0]["callouts"][0]["mood"] is None
    assert again["steps"][0]["table"]["stations"][0]["polish"] == "fine"
    assert ls.build(back).ok


def _to_a_nanometre(value: Any) -> Any:
    """The value with each float in it rounded to 1e-6 (mm), negative zero taken for zero."""
    if isinstance(value, float):
        return round(value, 6) + 0.0
    if isinstance(value, dict):
        return {key: _to_a_nanometre(one) for key, one in value.items()}
    return [_to_a_nanometre(one) for one in value] if isinstance(value, list | tuple) else value


@pytest.mark.parametrize("name", ["winch-spindle", "pedestal", "gland-nut"])
def test_files_of_version_1_open_as_what_they_were(name: str) -> None:
    old, now = read_document(OLD / f"schema1-{name}.json"), DEMOS[name]()
    # Places that the solver found may differ in their last digits; everything else is the same.
    assert _to_a_nanometre([s.model_dump() for s in old.steps]) == _to_a_nanometre([s.model_dump() for s in now.steps])
    assert old.readings == now.readings
    assert [c.model_copy(update={"decimals": None}) for c in old.callouts] == [
        c.model_copy(update={"decimals": None}) for c in now.callouts
    ]
    assert [n.text for n in old.notes] == [n.text for n in now.notes]


def test_a_note_is_one_thing_and_its_callouts_follow() -> None:
    part = ls.note(ls.note(ls.new_part("p"), "4X Ø6.6 THRU ⌴ Ø11 ↧6.8"), "Ø25 h6")
    after = edits.edit_note(part, 2, "3X Ø7 THRU ⌴ Ø12 ↧7")
    assert [(c.balloon, c.note, c.nominal, c.count) for c in after.callouts[:3]] == [
        (1, "3X Ø7 THRU ⌴ Ø12 ↧7", 7.0, 3), (2, "3X Ø7 THRU ⌴ Ø12 ↧7", 12.0, 3), (3, "3X Ø7 THRU ⌴ Ø12 ↧7", 7.0, 3),
    ]  # fmt: skip
    assert after.callouts[3] == part.callouts[3]
    plain = edits.edit_note(part, 2, "4X Ø7 THRU")
    assert [(c.balloon, c.role) for c in plain.callouts] == [(1, "hole diameter"), (4, "diameter")]
    more = edits.edit_note(part, 4, "Ø25 h6 THRU")
    assert more.callouts[3].role == "hole diameter" and more.callouts[3].balloon == 4


def test_a_size_that_is_used_does_not_vanish_with_its_note() -> None:
    part = ls.note(ls.new_part("p"), "Ø6.6 THRU ⌴ Ø11 ↧6.8")
    part = ls.turned(part, [ls.Station(key="A", diameter="70", length="50")])
    part = ls.hole(part, "10/face.right", "#1", cbore_diameter="#2", cbore_depth="#3")
    with pytest.raises(DocumentError, match=r"no longer states callout 2.*step 20"):
        edits.edit_note(part, 1, "Ø7 THRU")


def test_a_callout_cannot_say_another_text_than_its_note() -> None:
    (callout,) = callouts_from_note("Ø12", 1)
    with pytest.raises(ValueError, match="its note"):
        Note(text="Ø13", callouts=(callout,))


@given(st.lists(st.sampled_from(["Ø12", "4X Ø6.6 THRU ⌴ Ø11 ↧6.8", "25", "M8 ↧16"]), min_size=1, max_size=6), st.data())
def test_notes_keep_their_callouts_through_edits(texts: list[str], data: st.DataObject) -> None:
    part = Document()
    for text in texts:
        part = ls.note(part, text)
    assert [n.text for n in part.notes] == texts
    assert edits.with_callouts(part, part.callouts) == part
    balloon = data.draw(st.sampled_from([c.balloon for c in part.callouts]))
    note = part.note_of(balloon)
    assert note is not None
    after = edits.edit_note(part, balloon, "R7")
    assert [c.note for c in after.callouts if c.balloon == note.callouts[0].balloon] in (["R7"], [])
    assert sum(n.text == "R7" for n in after.notes) == 1 and len(after.notes) == len(part.notes)
