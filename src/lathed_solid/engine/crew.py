"""Many questions to the solids that this process holds, shared out to children of it.

A child is forked, so that it has every solid at once and nothing is built again. Numbers of questions wait in a pipe;
each child takes the next one when it is free. What a child does not answer (it was killed, or the kernel failed in it)
is asked here once more, so that an error is raised where it belongs. Only for processes of one thread: the worker.
"""

from __future__ import annotations

import ctypes
import multiprocessing
import os
import signal
import struct
from collections.abc import Callable
from multiprocessing.connection import Connection, wait
from typing import Any, TypeVar

T = TypeVar("T")
#: fewer questions for each child than this are not worth it
WORTH = 4
#: children at most
MOST = 8
#: numbers that a pipe surely holds; more questions are taken several at once
HELD = 8000
PR_SET_PDEATHSIG = 1

_NUMBER = struct.Struct("=I")


def end_with_parent() -> None:
    """The system ends this process when the one that started it dies."""
    ctypes.CDLL(None).prctl(PR_SET_PDEATHSIG, signal.SIGKILL)


def cores() -> int:
    """Children that this machine has room for."""
    return min(MOST, len(os.sched_getaffinity(0)))


def shared_out(work: Callable[[int], T], count: int, jobs: int = 1,
               progress: Callable[[int, int], None] | None = None) -> list[T]:  # fmt: skip
    """``work(i)`` for every i below ``count``, in order, by ``jobs`` children where that is worth it; its answers go
    through a pipe. ``progress`` takes how many are done, and how many there are. Raises what ``work`` raises.
    """
    found: dict[int, T] = {}
    if jobs > 1 and count >= WORTH * jobs:
        found = _by_children(work, count, jobs, progress)
    out = []
    for i in range(count):
        if i not in found:
            if progress is not None:
                progress(len(found), count)
            found[i] = work(i)
        out.append(found[i])
    return out


def _by_children(work: Callable[[int], T], count: int, jobs: int,
                 progress: Callable[[int, int], None] | None) -> dict[int, T]:  # fmt: skip
    portion = -(-count // HELD)
    todo, fill = os.pipe()
    for k in range(0, count, portion):
        os.write(fill, _NUMBER.pack(k))
    os.close(fill)
    forked = multiprocessing.get_context("fork")
    children, ends = [], []
    found: dict[int, T] = {}
    try:
        for _ in range(jobs):
            mine, theirs = forked.Pipe(duplex=False)
            child = forked.Process(target=_serve, args=(work, todo, portion, count, theirs), daemon=True)
            child.start()
            theirs.close()
            children.append(child)
            ends.append(mine)
        _collect(ends, found, count, progress)
    finally:
        os.close(todo)
        for child in children:
            child.kill()
            child.join()
        for end in ends:
            end.close()
    return found


def _collect(ends: list[Connection], found: dict[int, Any], count: int,
             progress: Callable[[int, int], None] | None) -> None:  # fmt: skip
    open_ = list(ends)
    while open_:
        for end in wait(open_):
            assert isinstance(end, Connection)
            try:
                i, answer = end.recv()
            except (EOFError, OSError):
                open_.remove(end)
                continue
            found[i] = answer
            if progress is not None:
                progress(len(found), count)


def _serve(work: Callable[[int], object], todo: int, portion: int, count: int, end: Connection) -> None:
    """A child: questions until there are no more; what fails is left to the parent."""
    end_with_parent()
    while number := os.read(todo, _NUMBER.size):
        (first,) = _NUMBER.unpack(number)
        for i in range(first, min(first + portion, count)):
            try:
                answer = work(i)
            except Exception:  # noqa: BLE001 - asked again by the parent, who tells
                continue
            end.send((i, answer))
