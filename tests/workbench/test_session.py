"""One open document without a window: edits, undo, files, journal, where work stands."""

from __future__ import annotations

from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.engine import protocol
from lathed_solid.files import read_document, write_document
from lathed_solid.files.journal import recoverable
from lathed_solid.part import Document, edits

from .fakes import Rig


@pytest.fixture(autouse=True)
def dead(monkeypatch: pytest.MonkeyPatch) -> None:
    """Journals are read as if their process were gone."""
    monkeypatch.setattr("lathed_solid.files.journal.recovery._alive", lambda *_a: False)


def built(rig: Rig) -> Document:
    last = rig.kernel.asked[-1]
    assert isinstance(last, protocol.Build)
    return last.document


def test_an_edit_is_built_journaled_and_undone(rig: Rig, tmp_path: Path) -> None:
    before = rig.document
    assert rig.session.edit("name", lambda d: edits.changed(d, name="Crank"))
    assert built(rig).name == "Crank" and not rig.session.history.clean
    rig.settle()
    asked = len(rig.kernel.asked)
    rig.session.undo()
    assert rig.document == before and rig.words == "undone: name" and len(rig.kernel.asked) == asked, (
        "its reply was kept"
    )
    rig.session.redo()
    assert rig.document.name == "Crank" and rig.words == "redone: name"
    (found,) = recoverable(tmp_path / "journal")
    assert found.history.document.name == "Crank"


def test_a_refused_edit_is_told_and_changes_nothing(rig: Rig) -> None:
    before = rig.session.history
    assert not rig.session.edit("drop", lambda d: edits.drop_callout(d, 6))
    assert rig.bad and "6" in rig.words and rig.session.history is before
    rig.session.commit(rig.document, "nothing")
    assert rig.session.history is before, "an edit that changes nothing is none"


def test_a_size_of_the_wrong_kind_is_taken_and_told(rig: Rig) -> None:
    rig.notes.enter("R6")
    radius = rig.document.callouts[-1].name
    assert rig.session.edit("force", lambda d: edits.put_step(d, edits.changed(d.step(20), diameter=radius)))
    assert rig.bad and f"2 * {radius}" in rig.words


def test_files_are_saved_opened_and_remembered(rig: Rig, tmp_path: Path) -> None:
    file = tmp_path / "a.lathed"
    rig.session.edit("name", lambda d: edits.changed(d, name="Saved"))
    rig.session.save(file)
    assert rig.session.history.clean and rig.words == "saved to a.lathed"
    assert read_document(file).name == "Saved" and rig.session.settings.recent[0] == str(file)
    rig.session.edit("name", lambda d: edits.changed(d, name="Other"))
    assert rig.session.open_file(file) and rig.document.name == "Saved" and rig.session.path == file
    assert rig.session.history.undo_label is None
    assert not rig.session.open_file(tmp_path / "none.lathed") and rig.bad and rig.document.name == "Saved"


def test_saving_where_a_folder_stands_is_told_and_loses_nothing(rig: Rig, tmp_path: Path) -> None:
    (tmp_path / "a.lathed").mkdir()
    rig.session.edit("name", lambda d: edits.changed(d, name="Kept"))
    rig.ask.path = tmp_path / "a.lathed"
    assert not rig.commands.files.save_as() and rig.bad
    assert rig.session.path is None and not rig.session.history.clean and rig.document.name == "Kept"


def test_unknown_fields_of_a_newer_program_are_told_and_kept(rig: Rig, tmp_path: Path) -> None:
    file = tmp_path / "part.json"
    write_document(file, rig.document)
    file.write_text(file.read_text("utf-8").replace('"name":', '"fancy": 7, "name":', 1), "utf-8")
    assert rig.session.open_file(file)
    assert any("fancy" in words for words, _ in rig.said)
    rig.session.save(file)
    assert '"fancy": 7' in file.read_text("utf-8")


def test_a_killed_window_is_recovered_with_its_undo(rig: Rig, tmp_path: Path) -> None:
    rig.session.edit("name", lambda d: edits.changed(d, name="Unsaved"))
    (found,) = recoverable(tmp_path / "journal")
    other = Rig(tmp_path / "other")
    other.session.recover(found)
    assert other.document.name == "Unsaved" and "1 unsaved edit recovered" in other.words
    other.session.undo()
    assert other.document == rig.session.history.entries[0].document
    assert not found.journal.exists()
    other.session.close()
    assert not list(recoverable(tmp_path / "other" / "journal")) and other.kernel.closed == 1


def test_work_stands_at_a_step_and_at_the_end_again(rig: Rig) -> None:
    rig.session.stand_at(20)
    assert [s.number for s in built(rig).steps] == [10, 20] and rig.session.stand == 20
    rig.session.edit("name", lambda d: edits.changed(d, name="Half"))
    assert [s.number for s in built(rig).steps] == [10, 20]
    rig.session.stand_at(30)
    assert rig.session.stand is None, "the last step is the end"


def test_previews_do_not_touch_the_document(rig: Rig) -> None:
    tried = edits.changed(rig.document, name="Tried")
    rig.session.preview(tried)
    assert built(rig).name == "Tried" and rig.document.name != "Tried" and rig.session.history.clean
    rig.session.preview(rig.document)
    rig.settle()
    assert rig.session.builds.settled


def test_settings_last(rig: Rig, tmp_path: Path) -> None:
    rig.session.set_settings(rig.session.settings.model_copy(update={"dark": True}))
    assert Rig(tmp_path).session.settings.dark


def test_a_new_session_has_an_empty_part_and_no_reply(tmp_path: Path) -> None:
    rig = Rig(tmp_path)
    assert rig.document == Document() and rig.session.reply is None
    rig.session.open_value(ls.new_part("x"))
    assert rig.session.reply is None and rig.session.builds.busy
