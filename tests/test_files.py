"""Documents on disk: round trips, hostile files, atomic writes, journal, schema."""

from __future__ import annotations

import io
import json
import os
import zipfile
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import given
from hypothesis import strategies as st

from lathed_solid import scripting as ls
from lathed_solid.files import (
    FileError,
    attachments,
    document_json,
    read_document,
    write_document,
)
from lathed_solid.files import atomic as atomic_module
from lathed_solid.files.errors import MissingAttachments, WriteProtected
from lathed_solid.files.schema import schema_text
from lathed_solid.files.standing import other_names
from lathed_solid.files.store_cleaning import clean_store, named_in
from lathed_solid.files.user_settings import (
    Settings,
    config_folder,
    load_settings,
    save_settings,
    start_logging,
    with_recent,
)
from lathed_solid.part import Document, DocumentError, History, edits, scope
from lathed_solid.part.steps.sketch import Underlay
from lathed_solid.quantity import CycleError
from lathed_solid.store import place_of, stored

ROOT = Path(__file__).parent.parent


@pytest.mark.parametrize("name", ["a.lathed", "part.json"])
def test_round_trip(spindle: Document, tmp_path: Path, name: str) -> None:
    write_document(tmp_path / name, spindle, b"\x89PNG")
    assert read_document(tmp_path / name) == spindle
    if name.endswith("lathed"):
        assert sorted(zipfile.ZipFile(tmp_path / name).namelist()) == ["part.json", "thumbnail.png"]


def test_unknown_step_kinds_are_kept(tmp_path: Path) -> None:
    step = {"kind": "broach", "number": 10, "pitch": "1", "deep": {"er": [1, 2]}}
    part = Document.model_validate({"name": "x", "steps": [step]})
    write_document(tmp_path / "part.json", part)
    assert json.loads((tmp_path / "part.json").read_text("utf-8"))["steps"][0].items() >= step.items()
    assert not ls.build(part).ok and "broach" in ls.build(part).messages[0]


def test_schema_is_published_and_holds(spindle: Document) -> None:
    published = (ROOT / "docs" / "part.schema.json").read_text("utf-8")
    assert published == schema_text()
    jsonschema.validate(json.loads(document_json(spindle)), json.loads(published))


def archive(**members: bytes) -> bytes:
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as z:
        for name, data in members.items():
            z.writestr(name, data)
    return buffer.getvalue()


GOOD = document_json(Document()).encode()
HOSTILE: list[tuple[str, bytes, str]] = [
    ("empty", b"", "empty"),
    ("text", b"hello there", "not a part document"),
    ("picture", b"\x89PNG\r\n\x1a\n" + bytes(100), "not a part document"),
    ("list", b"[1, 2]", "JSON object"),
    ("no version", b"{}", "schema_version"),
    ("newer", GOOD.replace(b'"schema_version": 2', b'"schema_version": 99'), "newer version"),
    ("nan", GOOD.replace(b'"steps": []', b'"steps": [NaN]'), "not a number"),
    ("infinity", b'{"schema_version": 1, "stated_mass": {"grams": Infinity}}', "not a number"),
    ("deep", b"[" * 100_000, "not a part document"),
    ("wrong type", b'{"schema_version": 1, "name": 7}', "not valid"),
    ("twice", b'{"schema_version":1,"steps":[{"kind":"x","number":10},{"kind":"x","number":10}]}', "stands twice"),
    ("no member", archive(**{"other.txt": b"x"}), "no part.json"),
    ("escape", archive(**{"part.json": GOOD, "../../evil": b"x"}), "outside itself"),
    ("absolute", archive(**{"part.json": GOOD, "/etc/evil": b"x"}), "outside itself"),
    ("bomb", archive(**{"part.json": b" " * (20 << 20)}), "absurdly large"),
    ("cut short", archive(**{"part.json": GOOD})[:-40], "damaged"),
    ("many", archive(**{f"m{i}": b"" for i in range(500)}), "more than"),
    (
        "nested",
        GOOD.replace(b'"steps": []', b'"steps": [{"kind": "x", "number": 10, "a": %b}]' % (b"[" * 90 + b"]" * 90)),
        "nested more than",
    ),
    ("flood", b'{"schema_version": 2, "steps": [' + b"{}," * 1_100_000 + b"{}]}", "more than 2000000 values"),
    ("beyond range", GOOD.replace(b'"steps": []', b'"steps": [1e999]'), "beyond the range"),
    ("long number", GOOD.replace(b'"steps": []', b'"steps": [%b]' % (b"9" * 5000)), "beyond the range"),
    ("half a pair", GOOD.replace(b"Untitled part", rb"\ud800"), "surrogates"),
]


@pytest.mark.parametrize(("data", "words"), [h[1:] for h in HOSTILE], ids=[h[0] for h in HOSTILE])
def test_hostile_files_are_refused_in_words(tmp_path: Path, data: bytes, words: str) -> None:
    path = tmp_path / "x.lathed"
    path.write_bytes(data)
    with pytest.raises(FileError, match=words):
        read_document(path)
    assert not (tmp_path.parent / "evil").exists()


def test_missing_files_and_folders(tmp_path: Path) -> None:
    with pytest.raises(FileError, match="no such file"):
        read_document(tmp_path / "none.lathed")
    with pytest.raises(FileError, match="folder"):
        read_document(tmp_path)
    with pytest.raises(FileError, match="cannot be written"):
        write_document(tmp_path / "none" / "a.lathed", Document())


@given(st.binary(max_size=300))
def test_damaged_archives_never_raise_anything_else(noise: bytes) -> None:
    import tempfile

    whole = bytearray(archive(**{"part.json": GOOD}))
    for i, b in enumerate(noise):
        whole[(i * 37 + b) % len(whole)] ^= b
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "x.lathed"
        path.write_bytes(bytes(whole))
        try:
            assert isinstance(read_document(path), Document)
        except FileError as exc:
            assert exc.message


def test_a_full_disk_leaves_the_old_file(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "a.lathed"
    write_document(path, Document(name="old"))

    def full(_fd: int) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(atomic_module.os, "fsync", full)
    with pytest.raises(FileError, match=r"No space left.*free some space"):
        write_document(path, Document(name="new"))
    assert read_document(path).name == "old"
    assert [p.name for p in tmp_path.iterdir() if p.is_file()] == ["a.lathed"]


def test_what_is_lost_here_is_taken_from_the_file_that_is_replaced(tmp_path: Path) -> None:
    name = attachments.keep_picture(png(), tmp_path / "sheet.png")
    file = tmp_path / "a.lathed"
    write_document(file, with_underlay(name))
    place_of(name).unlink()
    write_document(file, edits.changed(with_underlay(name), name="Again"))
    assert stored(name) is None
    assert read_document(file).name == "Again" and stored(name) == png()


def test_the_store_keeps_what_is_used_and_lets_the_oldest_go(tmp_path: Path) -> None:
    names = []
    for k in range(5):
        names.append(attachments.keep_picture(png() + bytes([k]) * 1000, tmp_path / "sheet.png"))
        os.utime(place_of(names[-1]), (k, k))
    bare = tmp_path / "part.json"
    write_document(bare, with_underlay(names[0]))
    size = place_of(names[0]).stat().st_size
    assert clean_store(named_in([bare]), 5 * size) == []
    assert clean_store(named_in([bare, tmp_path / "gone"]), 3 * size) == names[1:3]
    assert [stored(name) is not None for name in names] == [True, False, False, True, True]
    assert sorted(clean_store(set(), 0)) == sorted([names[0], names[3], names[4]])


def test_write_protected_files_links_and_odd_names(tmp_path: Path) -> None:
    file, link, hard = tmp_path / "a.lathed", tmp_path / "link.lathed", tmp_path / "hard.lathed"
    write_document(file, Document(name="one"))
    link.symlink_to(file)
    hard.hardlink_to(file)
    assert other_names(file) == 1
    write_document(link, Document(name="two"))
    assert link.is_symlink() and read_document(file).name == "two" and read_document(hard).name == "one"
    file.chmod(0o444)
    with pytest.raises(WriteProtected, match="write-protected"):
        write_document(file, Document(name="three"))
    assert read_document(file).name == "two"
    write_document(file, Document(name="three"), protected=True)
    assert read_document(file).name == "three" and file.stat().st_mode & 0o777 == 0o444
    circle = tmp_path / "circle.lathed"
    circle.symlink_to(circle)
    with pytest.raises(FileError, match="cannot be written"):
        write_document(circle, Document())
    for name in ("n" * 243 + ".lathed", os.fsdecode(b"sp\xe4ndel.lathed"), "\u2028.lathed"):
        write_document(tmp_path / name, Document(name="odd"))
        assert read_document(tmp_path / name).name == "odd"
    for name in ("n" * 300, "a\0b"):
        with pytest.raises(FileError):
            write_document(tmp_path / name, Document())
    assert not list(tmp_path.glob(".lathed-*"))


# history -----------------------------------------------------------------------------
def test_history_is_a_list_of_values() -> None:
    h = History.start(Document(name="a"), saved=True)
    h = h.commit(Document(name="b"), "to b").commit(Document(name="c"), "to c")
    assert (h.undo_label, h.redo_label, h.clean) == ("to c", None, False)
    back = h.undo().undo()
    assert back.document.name == "a" and back.clean and back.redo_label == "to b" and back.undo() == back
    assert h.undo().redo() == h and h.commit(h.document, "nothing") is h
    branch = back.commit(Document(name="d"), "to d")
    assert [e.document.name for e in branch.entries] == ["a", "d"] and branch.redo_label is None
    saved_then_lost = h.mark_saved().undo().commit(Document(name="e"), "to e")
    assert saved_then_lost.saved is None and not saved_then_lost.clean


def test_settings_survive_and_bad_ones_give_the_defaults(tmp_path: Path) -> None:
    settings = with_recent(with_recent(Settings(dark=True), tmp_path / "a"), tmp_path / "b")
    save_settings(settings)
    assert load_settings() == settings and Path(settings.recent[0]).name == "b"
    (config_folder() / "settings.json").write_text("{broken")
    assert load_settings() == Settings()
    log = start_logging()
    assert log is not None and log.exists()


# edits -------------------------------------------------------------------------------------------
def test_edits_refuse_what_cannot_be(spindle: Document) -> None:
    cases: list[tuple[Any, str]] = [
        (lambda: edits.drop_callout(spindle, 9), "used by step 10"),
        (lambda: edits.drop_callout(spindle, 999), "no callout 999"),
        (lambda: edits.drop_step(spindle, 10), "carries step"),
        (lambda: edits.move_step(spindle, 20, 0), "cannot come before"),
        (lambda: edits.add_note(spindle, "Ø5", balloon=9), "stands twice"),
        (lambda: ls.reading(spindle, 999, "outside", (5.0,)), "no callout 999"),
        (lambda: edits.changed(spindle, unit="furlong"), "unit"),
        (lambda: ls.new_part(""), "name"),
    ]
    for act, words in cases:
        with pytest.raises(DocumentError, match=words):
            act()
    with pytest.raises(CycleError, match="a -> b -> a"):
        ls.parameter(ls.parameter(ls.parameter(ls.new_part("x"), "b", "1"), "a", "b"), "b", "a")


def test_parameters_and_callouts_drive_together() -> None:
    part = ls.note(ls.new_part("x"), "Ø30")
    part = ls.parameter(ls.parameter(part, "wall", "4"), "bore", "#1 - 2 * wall")
    assert scope(part)("bore / 2", "length") == pytest.approx(11)


def test_moving_a_step_renumbers_the_faces_that_refer_to_it(spindle: Document) -> None:
    moved = edits.move_step(spindle, 30, 1)
    assert [(s.number, s.kind) for s in moved.steps] == [(10, "turned"), (20, "hole"), (30, "hole")]
    assert [len(s.balloons()) for s in moved.steps][1:] == [2, 4]
    assert ls.prove(moved).counts == ls.prove(spindle).counts


def test_hole_from_a_note_and_a_face() -> None:
    from lathed_solid.part.from_note import hole_from_note

    rod = ls.turned(ls.new_part("rod"), [ls.Station(key="A", diameter="70", length="50")])
    part = hole_from_note(rod, "4X Ø6.6 THRU ⌴ Ø11 ↧6.8 ON Ø52 BC", "10/face.right")
    assert ls.prove(part).counts == {"in": 4, "near": 0, "out": 0, "no limit": 0, "not found": 0}
    sunk = hole_from_note(rod, "Ø5.5 THRU ⌵ Ø10 X 82°", "10/face.right")
    assert sunk.steps[-1].csk_angle == "#3" and {r.verdict for r in ls.prove(sunk).rows} == {"in"}
    radial = hole_from_note(rod, "Ø5 ↧12", "10/sA", radial_at=20.0)
    assert ls.prove(radial).counts["in"] == 2
    with pytest.raises(DocumentError, match="bolt circle"):
        hole_from_note(rod, "4X Ø5 THRU", "10/face.right")


def png(width: int = 3) -> bytes:
    """A grey PNG, written out by hand."""
    import struct
    import zlib

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = b"".join(b"\0" + bytes([120]) * width for _ in range(width))
    head = struct.pack(">IIBBBBB", width, width, 8, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows)) + chunk(b"IEND", b"")


def with_underlay(name: str) -> Document:
    part = ls.sketch(ls.new_part("traced"), ls.Draft())
    step = part.steps[0]
    return edits.put_step(part, edits.changed(step, underlay=Underlay(picture=name, width="120")))


def test_pictures_travel_in_the_archive(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    name = attachments.keep_picture(png(), tmp_path / "sheet.png")
    part, file = with_underlay(name), tmp_path / "traced.lathed"
    write_document(file, part)
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "another machine"))
    assert stored(name) is None
    assert read_document(file) == part and stored(name) == png()


def test_pictures_that_are_none_or_not_theirs_are_left(tmp_path: Path) -> None:
    for data in (b"", b"GIF89a", b"\x89PNG\r\n\x1a\n" + bytes(attachments.MAX_PICTURE)):
        with pytest.raises(FileError, match="picture"):
            attachments.keep_picture(data, tmp_path / "sheet.png")
    name = "a" * 64
    part, file = with_underlay(name), tmp_path / "forged.lathed"
    with pytest.raises(MissingAttachments, match=r"is lost.*save without"):
        write_document(file, part)
    write_document(file, part, incomplete=True)
    with zipfile.ZipFile(file, "a") as archive:
        archive.writestr(f"attached/{name}", png())
    assert read_document(file) == part and stored(name) is None
