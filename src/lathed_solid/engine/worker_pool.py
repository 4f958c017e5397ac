"""Several workers at once, for questions that need many builds: sensitivities, suspects, and proving many files."""

from __future__ import annotations

import os
import threading
import time
from collections.abc import Callable, Generator, Sequence
from multiprocessing.connection import wait
from types import TracebackType
from typing import Any, TypeVar

from lathed_solid.engine.client import KernelClient, Lost
from lathed_solid.engine.protocol import Failed, FindVolumes, Volumes
from lathed_solid.errors import LathedError
from lathed_solid.part import Document

R = TypeVar("R")
#: documents a worker takes at once: few, so that the last ones are shared out evenly
PORTION = 6

#: called with (documents done, documents asked for so far)
OnProgress = Callable[[int, int], object]


class Stopped(LathedError):
    """The work was given up."""


class WorkerPool:
    """``jobs`` workers (default: one for each core). Close it after use; ``stop`` may be set from another thread."""

    def __init__(self, jobs: int | None = None, limit: float | None = None) -> None:
        """``limit``: after so many seconds all of it is given up."""
        self.stop = threading.Event()
        self._end = None if limit is None else time.monotonic() + limit
        self._kernels = [KernelClient() for _ in range(max(1, jobs or os.cpu_count() or 1))]

    def volumes(self, documents: Sequence[Document], on_progress: OnProgress | None = None) -> list[float | None]:
        """The volume of each document, mm3; None for one that cannot be built. Raises Stopped."""
        out: list[float | None] = [None] * len(documents)
        todo = [range(k, min(k + PORTION, len(documents))) for k in range(0, len(documents), PORTION)]
        at: dict[int, tuple[KernelClient, range]] = {}
        idle, done = list(self._kernels), 0
        while todo or at:
            if self.stop.is_set():
                raise Stopped("stopped")
            if self._end is not None and time.monotonic() > self._end:
                raise Stopped("the time limit is over", hint="a longer one")
            while todo and idle:
                kernel, portion = idle.pop(), todo.pop(0)
                at[id(kernel)] = (kernel, portion)
                kernel.ask(FindVolumes(documents=tuple(documents[k] for k in portion)))
            busy: list[Any] = [w.connection for w, _ in at.values()]
            wait(busy, timeout=0.2)
            for kernel, portion in list(at.values()):
                message = kernel.poll()
                if message is None:
                    continue
                if isinstance(message, Volumes):
                    for k, v in zip(portion, message.values, strict=True):
                        out[k] = v
                elif not isinstance(message, (Failed, Lost)):
                    continue
                del at[id(kernel)]
                idle.append(kernel)
                done += len(portion)
                if on_progress is not None:
                    on_progress(done, len(documents))
        return out

    def answer(
        self, asking: Generator[list[Document], list[float | None], R], on_progress: OnProgress | None = None
    ) -> R:
        """Build all that ``asking`` (a hunt, sensitivities) wants; its result. Raises Stopped."""
        done = 0
        try:
            wanted = next(asking)
            while True:
                before, all_of_it = done, done + len(wanted)

                def tell(n: int, _all: int, before: int = before, all_of_it: int = all_of_it) -> None:
                    if on_progress is not None:
                        on_progress(before + n, all_of_it)

                answers = self.volumes(wanted, tell)
                done = all_of_it
                wanted = asking.send(answers)
        except StopIteration as found:
            return found.value

    def close(self) -> None:
        """End all workers."""
        for kernel in self._kernels:
            kernel.close()

    def __enter__(self) -> WorkerPool:
        return self

    def __exit__(self, kind: type[BaseException] | None, exc: BaseException | None, tb: TracebackType | None) -> None:
        self.close()
