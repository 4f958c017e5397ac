"""Saving: two windows on one file, write-protected files, lost attachments, and taking up what was not saved."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import pytest

from lathed_solid.files import attachments, read_document, write_document
from lathed_solid.files.journal import recovery
from lathed_solid.part import Document, Sheet, edits
from lathed_solid.store import place_of
from lathed_solid.workbench.commands.recovery import take_up_work

from .fakes import Rig


def opened(folder: Path, file: Path) -> Rig:
    rig = Rig(folder)
    assert rig.session.open_file(file)
    return rig


@pytest.fixture
def two(tmp_path: Path) -> tuple[Rig, Rig, Path]:
    """Two windows on one file, each with an edit of its own; the first has saved."""
    file = tmp_path / "spindle.lathed"
    write_document(file, Document(name="as it was"))
    one, other = opened(tmp_path / "one", file), opened(tmp_path / "other", file)
    one.session.edit("name", lambda d: edits.changed(d, name="theirs"))
    other.session.edit("name", lambda d: edits.changed(d, name="mine"))
    assert one.commands.files.save()
    return one, other, file


def test_a_file_that_is_open_elsewhere_is_told(tmp_path: Path) -> None:
    file = tmp_path / "spindle.lathed"
    write_document(file, Document())
    one = opened(tmp_path / "one", file)
    other = opened(tmp_path / "other", file)
    assert f"is open in another window (process {os.getpid()})" in "".join(w for w, _ in other.said)
    assert not one.session.filed.elsewhere
    one.session.close()
    assert not opened(tmp_path / "third", file).session.filed.elsewhere


@pytest.mark.parametrize(("answer", "here", "beside"), [
    ("Keep both", "theirs", "mine"), ("Overwrite", "mine", None), ("Compare", "theirs", None), (None, "theirs", None),
])  # fmt: skip
def test_the_second_save_of_a_changed_file_asks(
    two: tuple[Rig, Rig, Path], answer: str | None, here: str, beside: str | None
) -> None:
    _, other, file = two
    other.ask.answers = [answer]
    saved = other.commands.files.save()
    assert other.ask.asked[-1] == "The file has changed: Keep both, Compare, Overwrite"
    assert read_document(file).name == here and saved == (answer in ("Keep both", "Overwrite"))
    second = file.with_name("spindle (2).lathed")
    assert second.exists() == (beside is not None)
    if beside:
        assert read_document(second).name == beside and other.session.path == second
    assert other.session.history.clean == saved
    assert ("compare the file" in other.view.done) == (answer == "Compare")
    if saved:  # and from then on nothing is asked
        other.session.edit("name", lambda d: edits.changed(d, name="again"))
        assert other.commands.files.save() and len(other.ask.asked) == 1


def test_a_file_that_was_only_touched_asks_nothing(two: tuple[Rig, Rig, Path]) -> None:
    one, _, file = two
    os.utime(file)
    one.session.edit("name", lambda d: edits.changed(d, name="again"))
    assert one.commands.files.save() and not one.ask.asked and read_document(file).name == "again"


def test_a_recovered_window_knows_what_its_file_held(
    two: tuple[Rig, Rig, Path], monkeypatch: pytest.MonkeyPatch
) -> None:
    _, other, file = two
    monkeypatch.setattr(recovery, "_alive", lambda *_a: False)
    again = Rig(file.parent / "other")
    assert take_up_work(again.commands, again.session.recording.folder, at_start=True) == {"part"}
    assert again.document.name == "mine" and again.session.path == file
    again.ask.answers = [None]
    assert not again.commands.files.save() and "has changed" in again.ask.asked[-1]
    assert read_document(file).name == "theirs"
    assert other.document.name == "mine"


@pytest.mark.parametrize(("answer", "kept"), [("Replace it", False), ("Another name", True), (None, True)])
def test_a_write_protected_file_is_not_replaced_unasked(tmp_path: Path, answer: str | None, kept: bool) -> None:
    file = tmp_path / "master.lathed"
    write_document(file, Document(name="master"))
    file.chmod(0o444)
    rig = opened(tmp_path / "rig", file)
    rig.session.edit("name", lambda d: edits.changed(d, name="mine"))
    rig.ask.answers = [answer]
    assert rig.commands.files.save() == (answer is not None)
    assert (read_document(file).name == "master") == kept
    assert (rig.session.path != file) == (answer == "Another name")


def test_other_names_of_a_file_are_told(tmp_path: Path) -> None:
    file = tmp_path / "a.lathed"
    write_document(file, Document(name="one"))
    (tmp_path / "b.lathed").hardlink_to(file)
    rig = opened(tmp_path / "rig", file)
    rig.session.edit("name", lambda d: edits.changed(d, name="two"))
    assert rig.commands.files.save() and "its 1 other name (hard links) keeps what was there" in rig.words


def with_sheet(rig: Rig, folder: Path) -> str:
    picture = b"\x89PNG\r\n\x1a\n" + b"a picture"
    name = attachments.keep_sheet(picture, folder / "sheet.png")
    rig.session.edit("sheet", lambda d: edits.changed(d, sheets=(Sheet(name="sheet", file=name),)))
    return name


@pytest.mark.parametrize("answer", ["Save without them", None])
def test_a_lost_sheet_stops_the_save_until_it_is_decided(tmp_path: Path, answer: str | None) -> None:
    rig = Rig(tmp_path)
    place_of(with_sheet(rig, tmp_path)).unlink()
    rig.ask.path, rig.ask.answers = tmp_path / "a.lathed", [answer]
    assert rig.commands.files.save_as() == (answer is not None) == (tmp_path / "a.lathed").exists()
    assert rig.session.history.clean == (answer is not None)


def test_a_bare_file_says_that_it_cannot_hold_sheets(tmp_path: Path) -> None:
    rig = Rig(tmp_path)
    with_sheet(rig, tmp_path)
    rig.ask.path = tmp_path / "part.json"
    assert rig.commands.files.save_as() and "cannot hold the 1 file" in rig.words and rig.bad


# what waits --------------------------------------------------------------------------------------
@pytest.fixture
def left(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Callable[[str], None]:
    """Leaves a window killed with one edit."""
    monkeypatch.setattr(recovery, "_alive", lambda *_a: False)

    def leave(name: str) -> None:
        Rig(tmp_path, Document(name="start")).session.edit("name", lambda d: edits.changed(d, name=name))

    return leave


def test_one_that_waits_is_taken_up_at_once_unless_something_was_asked_for(
    tmp_path: Path, left: Callable[[str], None]
) -> None:
    left("mine")
    rig = Rig(tmp_path)
    assert take_up_work(rig.commands, tmp_path / "journal", "another.lathed", at_start=True) == set()
    assert rig.ask.asked == ["take up mine, or another.lathed"]
    assert take_up_work(rig.commands, tmp_path / "journal", at_start=True) == {"part"}
    assert rig.document.name == "mine" and "1 unsaved edit recovered" in rig.words


def test_several_are_offered_and_what_is_left_waits_on(tmp_path: Path, left: Callable[[str], None]) -> None:
    left("one")
    left("two")
    rig = Rig(tmp_path)
    rig.ask.takes = 1
    assert take_up_work(rig.commands, tmp_path / "journal", at_start=True) == {"part"}
    assert rig.document.name in ("one", "two")
    rig.session.close()
    again = Rig(tmp_path)
    assert take_up_work(again.commands, tmp_path / "journal", at_start=True) == {"part"}
    assert {rig.document.name, again.document.name} == {"one", "two"}
    again.session.close()
    take_up_work(again.commands, tmp_path / "journal")
    assert again.words == "no unsaved work waits"
