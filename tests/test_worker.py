"""The worker process: answers, crash, cancel, a worker that cannot start; nothing is lost."""

from __future__ import annotations

import functools
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from lathed_solid import scripting as ls
from lathed_solid.engine import starter
from lathed_solid.engine.client import KernelClient, Lost
from lathed_solid.engine.protocol import Build, BuildReply, Dropped, Export, Failed, Pictured, Progress
from lathed_solid.kernel.errors import WorkerLost
from lathed_solid.part import Document


def heavy(count: int = 60) -> Document:
    """Takes the kernel seconds: rows of so many holes in a drum."""
    part = ls.turned(ls.new_part("drum"), [ls.Station(key="A", diameter="400", length="400")])
    for i in range(12):
        part = ls.hole(part, "10/sA", "6", depth="10", places=ls.Radial(at=str(20 + 30 * i), count=count))
    return part


def until(kernel: KernelClient, kind: type, seconds: float = 60) -> object:
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        message = kernel.poll(0.2)
        if isinstance(message, kind):
            return message
    raise AssertionError(f"no {kind.__name__} within {seconds} s")


def test_build_reply_and_progress(spindle: Document) -> None:
    with KernelClient() as kernel:
        seen: list[int] = []
        reply = kernel.wait(kernel.ask(Build(document=spindle)), on_progress=lambda p: seen.append(p.number))
        assert isinstance(reply, BuildReply)
        assert seen == [10, 20, 30]
        assert reply.report.counts["in"] == 29 and len(reply.shape) > 10_000 and len(reply.labels) > 30
        again = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(again, BuildReply) and all(s.cached for s in again.steps)


def test_killed_in_the_middle_of_a_build_a_new_one_takes_over(spindle: Document) -> None:
    with KernelClient() as kernel:
        request = kernel.ask(Build(document=heavy()))
        until(kernel, Progress)
        first = kernel.pid
        os.kill(first, signal.SIGKILL)
        lost = until(kernel, Lost)
        assert isinstance(lost, Lost) and lost.request == request and "nothing is lost" in lost.message
        reply = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(reply, BuildReply) and reply.summary["ok"] and kernel.pid not in (0, first)


def test_workers_are_copies_of_one_that_has_loaded_and_come_again_when_it_is_gone(spindle: Document) -> None:
    with KernelClient() as one, KernelClient() as two:
        for kernel in (one, two):
            assert kernel.answer(Build(document=spindle, shape=False), BuildReply).summary["ok"]
        nursery = _parent(one.pid)
        assert nursery == _parent(two.pid) and nursery != os.getpid() and _parent(nursery) == os.getpid()
        os.kill(nursery, signal.SIGKILL)  # its workers end with it
        assert isinstance(until(one, Lost), Lost) and isinstance(until(two, Lost), Lost)
        for kernel in (one, two):
            assert kernel.answer(Build(document=spindle, shape=False), BuildReply).summary["ok"]
        assert _parent(one.pid) == _parent(two.pid) != nursery


def _parent(pid: int) -> int:
    """Of a process."""
    status = Path(f"/proc/{pid}/status").read_text("utf-8")
    return int(next(line.split()[1] for line in status.splitlines() if line.startswith("PPid:")))


def test_cancel_ends_the_work_at_once_and_the_next_request_is_answered(spindle: Document) -> None:
    with KernelClient() as kernel:
        kernel.ask(Build(document=heavy()))
        until(kernel, Progress)
        start = time.monotonic()
        kernel.cancel()
        assert not kernel.busy
        reply = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(reply, BuildReply) and reply.report.counts["out"] == 1
        assert time.monotonic() - start < 60


def test_a_build_that_is_dropped_keeps_what_it_had_built(spindle: Document) -> None:
    with KernelClient() as kernel:
        part = heavy(24)
        kernel.ask(Build(document=part))
        seen = 0
        while seen < 3:
            message = kernel.poll(0.2)
            seen += isinstance(message, Progress)
        kernel.drop()
        assert isinstance(until(kernel, Dropped), Dropped) and not kernel.busy
        half = part.model_copy(update={"steps": part.steps[:2]})
        reply = kernel.wait(kernel.ask(Build(document=half)))
        assert isinstance(reply, BuildReply) and all(s.cached for s in reply.steps)
        kernel.drop()  # nothing is under way
        assert isinstance(kernel.wait(kernel.ask(Build(document=spindle))), BuildReply)


def test_the_solid_comes_ahead_of_its_proof(spindle: Document) -> None:
    with KernelClient() as kernel:
        kernel.ask(Build(document=spindle))
        pictured = until(kernel, Pictured)
        assert isinstance(pictured, Pictured) and len(pictured.shape) > 10_000 and kernel.busy
        kernel.drop()  # its proof is not wanted
        assert isinstance(until(kernel, Dropped), Dropped)


def test_a_worker_outlives_the_thread_that_asked_for_it(spindle: Document) -> None:
    """Threads that do work beside the window end when there is none; their workers go on."""
    made: list[tuple[KernelClient, int, BuildReply]] = []

    def work() -> None:
        kernel = KernelClient()
        reply = kernel.answer(Build(document=spindle, shape=False), BuildReply)
        made.append((kernel, kernel.pid, reply))

    thread = threading.Thread(target=work)
    thread.start()
    thread.join()
    kernel, pid, first = made[0]
    with kernel:
        time.sleep(0.3)
        again = kernel.answer(Build(document=spindle, shape=False), BuildReply)
        assert kernel.pid == pid and again.report == first.report


def test_waiting_has_an_end() -> None:
    with KernelClient() as kernel, pytest.raises(WorkerLost, match="no answer"):
        kernel.wait(kernel.ask(Build(document=heavy())), timeout=0.2)


def test_a_failed_export_is_an_answer(spindle: Document, tmp_path) -> None:  # type: ignore[no-untyped-def]
    with KernelClient() as kernel:
        reply = kernel.wait(kernel.ask(Export(document=spindle, path=str(tmp_path / "missing" / "a.step"))))
        assert isinstance(reply, Failed) and "cannot be written" in reply.message


@pytest.fixture
def no_nursery(monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """As in a process that has asked for no worker yet."""
    monkeypatch.setattr(starter.Starter, "here", staticmethod(functools.cache(starter.Starter)))
    yield
    starter.Starter.here().close()


def test_a_worker_that_cannot_start_is_told(monkeypatch: pytest.MonkeyPatch, no_nursery: None) -> None:
    monkeypatch.setattr(sys, "executable", "/nonexistent/python")
    with pytest.raises(WorkerLost, match="cannot start"):
        KernelClient()


def test_a_worker_that_dies_at_start_is_told(
    monkeypatch: pytest.MonkeyPatch, spindle: Document, no_nursery: None
) -> None:
    monkeypatch.setattr(starter.subprocess, "Popen", lambda _cmd, **kw: _false(**kw))
    with KernelClient() as kernel:
        kernel.ask(Build(document=spindle))
        lost = until(kernel, Lost)
        assert isinstance(lost, Lost) and "before it was ready" in lost.message


_POPEN = subprocess.Popen


def _false(**values: object) -> object:
    """A process that ends at once instead of the worker."""
    return _POPEN(["false"], **values)  # type: ignore[call-overload]
