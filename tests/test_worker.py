"""The worker process: answers, crash, cancel, a worker that cannot start; nothing is lost."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import threading
import time

import pytest

from lathed_solid import scripting as ls
from lathed_solid.engine import client
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
    with KernelClient(spare=False) as kernel:
        seen: list[int] = []
        reply = kernel.wait(kernel.ask(Build(document=spindle)), on_progress=lambda p: seen.append(p.number))
        assert isinstance(reply, BuildReply)
        assert seen == [10, 20, 30]
        assert reply.report.counts["in"] == 29 and len(reply.shape) > 10_000 and len(reply.labels) > 30
        again = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(again, BuildReply) and all(s.cached for s in again.steps)


def test_killed_in_the_middle_of_a_build_the_spare_takes_over(spindle: Document) -> None:
    with KernelClient() as kernel:
        kernel.warm_spare()
        request = kernel.ask(Build(document=heavy()))
        first = kernel.pid
        until(kernel, Progress)
        os.kill(first, signal.SIGKILL)
        lost = until(kernel, Lost)
        assert isinstance(lost, Lost) and lost.request == request and "nothing is lost" in lost.message
        assert kernel.pid != first
        reply = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(reply, BuildReply) and reply.summary["ok"]


def test_cancel_ends_the_work_at_once_and_the_next_request_is_answered(spindle: Document) -> None:
    with KernelClient() as kernel:
        kernel.warm_spare()
        kernel.ask(Build(document=heavy()))
        until(kernel, Progress)
        start = time.monotonic()
        kernel.cancel()
        assert not kernel.busy
        reply = kernel.wait(kernel.ask(Build(document=spindle)))
        assert isinstance(reply, BuildReply) and reply.report.counts["out"] == 1
        assert time.monotonic() - start < 60


def test_a_build_that_is_dropped_keeps_what_it_had_built(spindle: Document) -> None:
    with KernelClient(spare=False) as kernel:
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
    with KernelClient(spare=False) as kernel:
        kernel.ask(Build(document=spindle))
        pictured = until(kernel, Pictured)
        assert isinstance(pictured, Pictured) and len(pictured.shape) > 10_000 and kernel.busy
        kernel.drop()  # its proof is not wanted
        assert isinstance(until(kernel, Dropped), Dropped)


def test_a_worker_outlives_the_thread_that_asked_for_it(spindle: Document) -> None:
    """Threads that do work beside the window end when there is none; their workers go on."""
    made: list[tuple[KernelClient, int, BuildReply]] = []

    def work() -> None:
        kernel = KernelClient(spare=False)
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
    with KernelClient(spare=False) as kernel, pytest.raises(WorkerLost, match="no answer"):
        kernel.wait(kernel.ask(Build(document=heavy())), timeout=0.2)


def test_a_failed_export_is_an_answer(spindle: Document, tmp_path) -> None:  # type: ignore[no-untyped-def]
    with KernelClient(spare=False) as kernel:
        reply = kernel.wait(kernel.ask(Export(document=spindle, path=str(tmp_path / "missing" / "a.step"))))
        assert isinstance(reply, Failed) and "cannot be written" in reply.message


def test_a_worker_that_cannot_start_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(sys, "executable", "/nonexistent/python")
    with pytest.raises(WorkerLost, match="cannot start"):
        KernelClient(spare=False)


def test_a_worker_that_dies_at_start_is_told(monkeypatch: pytest.MonkeyPatch, spindle: Document) -> None:
    monkeypatch.setattr(client.subprocess, "Popen", lambda _cmd, **kw: _false(**kw))
    with KernelClient(spare=False) as kernel:
        kernel.ask(Build(document=spindle))
        lost = until(kernel, Lost)
        assert isinstance(lost, Lost) and "before it was ready" in lost.message


_POPEN = subprocess.Popen


def _false(**values: object) -> object:
    """A process that ends at once instead of the worker."""
    return _POPEN(["false"], **values)  # type: ignore[call-overload]
