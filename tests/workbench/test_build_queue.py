"""The build queue with a fake kernel: what waits, what is dropped, what is kept, what a lost worker costs."""

from __future__ import annotations

from pathlib import Path

import pytest

from lathed_solid.engine import protocol
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.kernel.figures import Thing
from lathed_solid.part import Document
from lathed_solid.workbench.build_queue import KEPT_REPLIES, BuildQueue

from .fakes import FakeKernel


def part(name: str) -> Document:
    return Document(name=name)


class Queue:
    def __init__(self) -> None:
        self.kernel = FakeKernel()
        self.queue = BuildQueue(self.kernel)
        self.built: list[protocol.BuildReply] = []
        self.previewed: list[protocol.BuildReply] = []
        self.told: list[tuple[str, bool]] = []
        self.busy: list[bool] = []
        self.queue.built.connect(self.built.append)
        self.queue.previewed.connect(self.previewed.append)
        self.queue.told.connect(lambda words, bad: self.told.append((words, bad)))
        self.queue.busy_changed.connect(self.busy.append)

    def answer(self, volume: float = 1000.0) -> None:
        self.kernel.answer(volume)
        self.queue.poll()

    @property
    def asked(self) -> list[str]:
        return [r.document.name for r in self.kernel.asked if isinstance(r, protocol.Build)]


@pytest.fixture
def q() -> Queue:
    return Queue()


def test_only_the_last_wish_is_built_while_the_kernel_is_at_work(q: Queue) -> None:
    for name in ("a", "b", "c"):
        q.queue.show(part(name))
    assert q.asked == ["a"] and q.queue.busy and not q.queue.settled
    assert q.kernel.drops == 1, "the kernel is asked once to give the first up"
    q.answer(1.0)
    # a is not what is wanted any more: its reply is kept, and not shown
    assert q.built == [] and q.asked == ["a", "c"]
    q.answer(3.0)
    assert [r.summary["volume_mm3"] for r in q.built] == [3.0] and q.queue.settled
    assert q.busy == [True, False, True, False]
    q.queue.show(part("a"))
    assert q.asked == ["a", "c"] and q.queue.reply is not None and q.queue.reply.summary["volume_mm3"] == 1.0


def test_what_an_edit_made_pointless_is_dropped(q: Queue) -> None:
    q.queue.show(part("a"))
    q.answer(1.0)
    q.queue.show(part("b"))
    q.queue.show(part("a"))  # undone at once: its reply is kept
    assert q.kernel.drops == 1 and q.queue.busy
    q.kernel.messages.append(protocol.Dropped(request=2))
    q.queue.poll()
    assert not q.queue.busy and q.queue.settled and len(q.built) == 2
    q.queue.show(part("c"))
    q.queue.show(part("d"))
    q.queue.show(part("c"))  # wanted again before the kernel has given it up
    q.answer(3.0)
    assert q.asked == ["a", "b", "c"] and not q.queue.busy and q.queue.settled, "it came all the same"


def test_the_solid_is_told_ahead_of_its_proof(q: Queue) -> None:
    seen: list[tuple[bytes, bool]] = []
    q.queue.pictured.connect(lambda p, tried: seen.append((p.shape, tried)))

    def picture(shape: bytes) -> None:
        q.kernel.messages.append(protocol.Pictured(request=1, steps=(), shape=shape))
        q.queue.poll()

    q.queue.show(part("a"))
    picture(b"a")
    q.answer()
    q.queue.preview(part("b"))
    picture(b"b")
    assert seen == [(b"a", False), (b"b", True)] and q.queue.busy
    q.queue.preview(part("c"))
    picture(b"b again")
    assert len(seen) == 2, "that of a build that was given up is not shown"


def test_a_kernel_that_goes_on_is_replaced(q: Queue, monkeypatch: pytest.MonkeyPatch) -> None:
    q.queue.show(part("a"))
    q.queue.show(part("b"))
    q.queue.hurry()
    assert q.kernel.cancelled == 0 and q.queue.busy, "it has a while to give up"
    monkeypatch.setattr("lathed_solid.workbench.build_queue.PATIENCE", 0.0)
    q.queue.hurry()
    assert q.kernel.cancelled == 1 and q.asked == ["a", "b"]
    q.answer()
    assert q.queue.settled
    q.queue.hurry()
    assert q.kernel.cancelled == 1


def test_replies_are_kept_up_to_a_number(q: Queue) -> None:
    for i in range(KEPT_REPLIES + 1):
        q.queue.show(part(str(i)))
        q.answer()
    q.queue.show(part("1"))
    assert not q.queue.busy
    q.queue.show(part("0"))
    assert q.queue.busy, "the oldest reply was let go"


def test_a_preview_is_told_as_such_and_its_end_shows_the_old_again(q: Queue) -> None:
    q.queue.show(part("a"))
    q.answer(1.0)
    q.queue.preview(part("b"))
    q.answer(2.0)
    assert [r.summary["volume_mm3"] for r in q.previewed] == [2.0] and len(q.built) == 1
    assert q.queue.reply is q.built[0]
    q.queue.end_preview()
    assert len(q.built) == 2 and q.built[1] is q.built[0]
    q.queue.end_preview()
    assert len(q.built) == 2, "nothing was tried out"
    q.queue.preview(part("a"))
    assert len(q.previewed) == 1 and not q.queue.busy, "what is shown already is no preview"


def test_a_preview_that_comes_after_its_end_is_not_shown(q: Queue) -> None:
    q.queue.show(part("a"))
    q.answer()
    q.queue.preview(part("b"))
    q.queue.end_preview()
    q.answer()
    assert q.previewed == [] and q.queue.settled


def test_what_is_measured_waits_for_the_build_and_is_of_what_is_shown(q: Queue) -> None:
    came: list[protocol.Measured] = []
    q.queue.measured.connect(came.append)
    q.queue.show(part("a"))
    q.queue.measure((Thing("face", "10/sA", (0, 0, 1)),), None, mesh=False)
    q.queue.measure((Thing("face", "10/sB", (0, 0, 1)),), (3.0, "y"), mesh=True)
    q.queue.show(part("b"))
    q.answer()
    assert q.asked == ["a", "b"]
    q.answer()
    last = q.kernel.asked[-1]
    assert isinstance(last, protocol.MeasureByHand) and last.document.name == "b"
    assert last.things[0].name == "10/sB" and last.section == (3.0, "y") and last.mesh
    q.answer()
    assert len(came) == 1 and q.queue.settled


@pytest.mark.parametrize("what", ["export", "draw_views", "compare"])
def test_other_work_is_refused_while_the_kernel_is_busy(q: Queue, what: str, tmp_path: Path) -> None:
    def ask() -> None:
        {
            "export": lambda: q.queue.export(part("a"), tmp_path / "a.step"),
            "draw_views": lambda: q.queue.draw_views(part("a")),
            "compare": lambda: q.queue.compare(part("z"), part("a")),
        }[what]()

    q.queue.show(part("a"))
    ask()
    assert q.told[-1][1] and "the kernel is at work" in q.told[-1][0] and len(q.kernel.asked) == 1
    q.answer()
    ask()
    assert len(q.kernel.asked) == 2 and q.queue.busy


def test_stopping_gives_the_work_up_and_the_pipe_is_watched_anew(q: Queue) -> None:
    pipes: list[int | None] = []
    q.queue.kernel_changed.connect(lambda: pipes.append(q.queue.fileno()))
    q.queue.cancel()
    assert q.kernel.cancelled == 0, "nothing was under way"
    q.queue.show(part("a"))
    q.queue.cancel()
    assert q.kernel.cancelled == 1 and not q.queue.busy and q.told[-1] == (
        "stopped; the last solid stays in view (F5 builds again)", False,
    )  # fmt: skip
    assert pipes == [100, 101]
    q.queue.rebuild()
    assert q.asked == ["a", "a"]
    q.answer()
    assert q.queue.settled and not q.queue.stale
    q.queue.show(part("b"))
    q.queue.cancel()
    assert q.queue.idle and q.queue.stale and not q.queue.settled, "the solid in view is that of a"


def test_a_lost_worker_is_asked_again_but_not_for_ever(q: Queue) -> None:
    q.queue.show(part("a"))
    for _ in range(2):
        q.kernel.lose()
        q.queue.poll()
    assert q.asked == ["a", "a", "a"]
    q.kernel.lose()
    q.queue.poll()
    assert q.asked == ["a", "a", "a"] and not q.queue.busy and "several times" in q.told[-1][0]
    q.queue.rebuild()
    q.answer()
    assert q.queue.settled, "F5 tries again, and a build that comes forgets the losses"


def test_a_failure_and_a_worker_that_cannot_start_are_told(q: Queue) -> None:
    q.queue.show(part("a"))
    q.kernel.messages.append(protocol.Failed(request=1, message="the kernel failed: no"))
    q.queue.poll()
    assert q.told == [("the kernel failed: no", True)] and not q.queue.busy
    q.kernel.refusal = WorkerLost("the geometry worker cannot start")
    q.queue.show(part("b"))
    assert q.told[-1] == ("the geometry worker cannot start", True) and not q.queue.busy


def test_progress_is_passed_on_and_without_a_kernel_nothing_happens(q: Queue) -> None:
    seen: list[int] = []
    q.queue.progressed.connect(lambda p: seen.append(p.number))
    q.queue.show(part("a"))
    q.kernel.messages.append(protocol.Progress(request=1, number=20, row=1, total=3))
    q.queue.poll()
    assert seen == [20] and q.queue.busy
    q.queue.close()
    assert q.kernel.closed == 1 and q.queue.fileno() is None
    alone = BuildQueue(None)
    alone.show(part("a"))
    alone.poll()
    alone.cancel()
    assert not alone.busy and alone.reply is None
