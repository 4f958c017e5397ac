"""The journal: nothing that was committed is lost, whatever is cut, turned or killed."""

from __future__ import annotations

import os
import random
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from random_edits import STRANGE, edited

from lathed_solid.demo import DEMOS
from lathed_solid.files import FileError, Journal, recoverable
from lathed_solid.files.journal import changes, lines, waiting
from lathed_solid.files.journal import recovery as recovery_module
from lathed_solid.files.journal.writing import NEW
from lathed_solid.part import Document, History
from lathed_solid.part.steps import SketchStep
from lathed_solid.sketch.model import Point, Sketch
from lathed_solid.workbench.filed import Filed
from lathed_solid.workbench.recording import Recording
from lathed_solid.workbench.signal import Signal


@pytest.fixture
def dead(monkeypatch: pytest.MonkeyPatch) -> None:
    """Journals are read as if their process were gone."""
    monkeypatch.setattr(recovery_module, "_alive", lambda *_a: False)


def named(*names: str) -> History:
    history = History.start(Document(name=names[0]))
    for name in names[1:]:
        history = history.commit(Document(name=name), f"to {name}")
    return history


def written(folder: Path, history: History) -> Journal:
    journal = Journal(folder)
    journal.start(History.start(history.entries[0].document), None)
    for entry in history.entries[1:]:
        journal.append(entry.label, entry.document)
    journal.flush()
    return journal


@given(st.integers(0, 2**32), st.sampled_from(["winch-spindle", "pedestal", "crank-hub"]), st.integers(1, 12))
@settings(max_examples=40, deadline=None)
def test_what_differs_makes_the_one_out_of_the_other(seed: int, demo: str, count: int) -> None:
    rng = random.Random(seed)
    base = new = DEMOS[demo]()
    for _ in range(count):
        new = edited(new, rng)
        change = changes.changed(base, new)
        made = changes.applied(base.model_dump(mode="json"), change) if change else base.model_dump(mode="json")
        assert made == new.model_dump(mode="json")
        assert (change is None) == (base == new)


def test_a_change_that_does_not_fit_is_refused() -> None:
    for old, change in (
        ([1, 2], {"5": [1]}), ([1, 2], {"+": [1, 9, []]}), ({"a": 1}, [1, 2]), (7, {"a": [1]}), ([1], {"+": [0, 1, 5]}),
    ):  # fmt: skip
        with pytest.raises((ValueError, TypeError)):
            changes.applied(old, change)


@given(st.dictionaries(st.text(), st.one_of(st.text(), st.integers(), st.sampled_from(STRANGE)), max_size=4))
def test_any_text_is_one_line_and_comes_back(record: dict[str, object]) -> None:
    line = lines.line_of(record)
    assert line.count(b"\n") == 1 and line.isascii()
    assert [r for r, _ in lines.records_in(line * 2)] == [record, record]


def test_a_line_feed_that_was_turned_costs_no_record() -> None:
    records = [{"k": k, "text": "00000000 5 {}"} for k in range(4)]
    data = bytearray(b"".join(map(lines.line_of, records)))
    feeds = [i for i, byte in enumerate(data) if byte == 10]
    for feed in feeds[:3]:
        turned = bytearray(data)
        turned[feed] ^= 4
        assert [r for r, _ in lines.records_in(bytes(turned)) if r is not None] == records


def test_a_killed_process_is_back_with_its_history(tmp_path: Path) -> None:
    code = (
        "import os, signal, sys; from pathlib import Path\n"
        "from lathed_solid.files import Journal; from lathed_solid.part import Document, History\n"
        "j = Journal(Path(sys.argv[1])); h = History.start(Document(name='a'))\n"
        "j.start(h, Path('/x/a\\udce4.lathed'), holds='5' * 64)\n"
        "for n in 'b\\u2028', 'c\\u0085', 'd': j.append('to ' + n, Document(name=n))\n"
        "os.kill(os.getpid(), signal.SIGKILL)\n"
    )
    subprocess.run([sys.executable, "-c", code, str(tmp_path)], check=False)
    (file,) = tmp_path.glob("*.journal")
    with file.open("ab") as handle:
        handle.write(b'0123abcd 40 {"label": "cut sho')
    (found,) = recoverable(tmp_path)
    assert found.history is not None
    assert [e.document.name for e in found.history.entries] == ["a", "b\u2028", "c\u0085", "d"]
    assert found.path == Path("/x/a\udce4.lathed") and found.holds == "5" * 64
    assert (found.edits, found.damaged) == (3, 1) and "1 line of the journal" in found.words


def journal_line_ended(data: bytearray, at: int) -> bool:
    """Whether what stood there was the end of a line, so that two lines are one now."""
    return any(data[at] ^ 1 << k == 10 for k in range(8))


@pytest.mark.usefixtures("dead")
@given(st.integers(0, 2**32))
@settings(max_examples=40, deadline=None)
def test_turned_bits_cost_their_own_line_alone(tmp_path_factory: pytest.TempPathFactory, seed: int) -> None:
    folder, rng = tmp_path_factory.mktemp("j"), random.Random(seed)
    journal = written(folder, named(*"abcdefgh"))
    data = bytearray(journal.file.read_bytes())
    at = rng.randrange(len(data))
    data[at] ^= 1 << rng.randrange(8)
    journal.file.write_bytes(data)
    hit = data[:at].count(b"\n")
    lines_hit = {hit, hit + 1} if data[at : at + 1] != b"\n" and journal_line_ended(data, at) else {hit}
    (found,) = recoverable(folder)
    names = [e.document.name for e in found.history.entries]  # type: ignore[union-attr]
    # the head, the base twice, then b to h; after the last line's end comes none
    lines = "aaabcdefgh"
    assert set("abcdefgh") - set(names) <= {lines[k] for k in lines_hit if 2 < k < len(lines)} and found.damaged


@pytest.mark.usefixtures("dead")
def test_edits_that_move_everything_come_back_each(tmp_path: Path) -> None:
    points = tuple(Point(id=f"p{i}", x=float(i), y=0) for i in range(400))
    history = History.start(Document(steps=(SketchStep(number=10, sketch=Sketch(entities=points)),)))
    for k in range(6):
        moved = tuple(p.at(p.x, float(k + 1)) for p in points)
        step = history.document.steps[0].model_copy(update={"sketch": Sketch(entities=moved)})
        history = history.commit(history.document.model_copy(update={"steps": (step,)}), f"to {k}")
    written(tmp_path, history)
    (found,) = recoverable(tmp_path)
    assert found.history is not None and found.edits == 6
    assert [e.document for e in found.history.entries] == [e.document for e in history.entries]


@pytest.mark.usefixtures("dead")
def test_all_that_waits_is_offered_the_newest_work_first(tmp_path: Path) -> None:
    for k, names in enumerate(("ab", "cd", "ef")):
        file = written(tmp_path, named(*names)).file
        os.utime(file, (k * 100, (5, 9, 7)[k]))
    (tmp_path / "rubbish.journal").write_bytes(b"not json\n\xff\xfe")
    (tmp_path / "list.journal").write_bytes(b"[]\n")
    (tmp_path / "folder.journal").mkdir()
    written(tmp_path, named("no edit"))
    assert [w.name for w in waiting(tmp_path)] == ["d", "f", "b"]
    assert {p.name for p in tmp_path.glob("*.journal")} >= {"rubbish.journal", "list.journal"}
    assert len(list(tmp_path.glob("*.journal"))) == 6, "one without an edit is removed, none else"


def test_journals_of_living_processes_are_left_alone(tmp_path: Path) -> None:
    journal = written(tmp_path, named("a", "b"))
    assert list(recoverable(tmp_path)) == [] and journal.file.exists()
    journal.discard()
    assert not journal.file.exists()


@pytest.mark.usefixtures("dead")
def test_taking_over_is_whole_or_not_at_all(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    told: Signal[str, bool] = Signal()
    written(tmp_path, named("a", "b", "c"))
    (found,) = recoverable(tmp_path)
    with monkeypatch.context() as patch:  # killed before the new one is whole
        patch.setattr(Path, "replace", lambda *_: (_ for _ in ()).throw(KeyboardInterrupt))
        with pytest.raises(KeyboardInterrupt):
            Recording(tmp_path, told).adopt(found.history, Filed(), found)  # type: ignore[arg-type]
    assert [p.suffix for p in sorted(tmp_path.iterdir(), key=lambda p: p.suffix)] == [".journal", NEW]
    (again,) = recoverable(tmp_path)
    assert again.history == found.history
    with monkeypatch.context() as patch:  # killed before the old one was removed
        patch.setattr(Path, "unlink", lambda *_a, **_k: None)
        Recording(tmp_path, told).adopt(again.history, Filed(), again)  # type: ignore[arg-type]
    assert len(list(tmp_path.glob("*.journal"))) == 2
    (once,) = recoverable(tmp_path)
    assert once.history is not None and once.history.document.name == "c" and once.edits == 2


@pytest.mark.usefixtures("dead")
def test_what_could_not_be_written_is_written_whole_once_it_can_be(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: Signal[str, bool] = Signal()
    said: list[str] = []
    told.connect(lambda words, _bad: said.append(words))
    recording = Recording(tmp_path / "j", told)
    history = named("a")
    recording.start(history, Filed())
    write = os.write
    with monkeypatch.context() as patch:

        def full(handle: int, data: bytes) -> int:
            if len(data) > 20:
                return write(handle, bytes(data)[:20])
            raise OSError(28, "No space left on device")

        patch.setattr(os, "write", full)
        for name in "bc":
            history = history.commit(Document(name=name), f"to {name}")
            recording.append(f"to {name}", history)
        assert "No space left" in recording.trouble and sum("cannot be recorded" in w for w in said) == 1
    recording.check()
    assert not recording.trouble and "recorded for recovery again" in said[-1]
    (found,) = recoverable(tmp_path / "j")
    assert [e.document.name for e in found.history.entries] == ["a", "b", "c"]  # type: ignore[union-attr]
    for file in (tmp_path / "j").iterdir():  # somebody cleans up
        file.unlink()
    recording.check()
    (found,) = recoverable(tmp_path / "j")
    assert found.edits == 2
    recording.discard()
    assert list((tmp_path / "j").iterdir()) == []


@pytest.mark.usefixtures("dead")
def test_a_thousand_edits_of_a_large_part_stay_small(tmp_path: Path) -> None:
    before = set(threading.enumerate())
    rng = random.Random(7)
    points = tuple(Point(id=f"p{i}", x=float(i), y=0) for i in range(3000))
    document = Document(steps=(SketchStep(number=10, sketch=Sketch(entities=points)),))
    journal = Journal(tmp_path)
    journal.start(History.start(document), None)
    first = journal.file.stat().st_size
    moved = list(points)
    for k in range(1000):
        at = rng.randrange(3000)
        moved[at] = moved[at].at(moved[at].x, float(k))
        step = document.steps[0].model_copy(update={"sketch": Sketch.model_construct(entities=tuple(moved))})
        document = document.model_copy(update={"steps": (step,)})
        journal.append(f"edit {k}", document)
    journal.flush()
    assert journal.file.stat().st_size < 30 * first
    (found,) = recoverable(tmp_path)
    assert found.edits == 1000 and found.history is not None
    assert found.history.document.model_dump() == document.model_dump()
    assert len(set(threading.enumerate()) - before) <= 1


def test_a_folder_that_may_not_be_written_is_told(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("x")
    with pytest.raises(FileError, match=r"cannot be recorded.*save now"):
        Journal(tmp_path / "file").start(named("a"), None)
