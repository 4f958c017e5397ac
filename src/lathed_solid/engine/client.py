"""The window's side of the kernel: a worker process, and what came back.

Nothing here blocks but ``wait``: a caller watches ``fileno()`` and takes messages with ``poll()``. A worker
that dies or is cancelled is replaced at once; the request it was on is answered by ``Lost``.
This module does not import OCP, so the window's process can talk to a worker before it has loaded it.
"""

from __future__ import annotations

import contextlib
import logging
import os
import socket
import time
from collections.abc import Callable
from dataclasses import dataclass
from multiprocessing.connection import Connection
from pathlib import Path
from typing import Any, TypeVar

from pydantic import BaseModel

from lathed_solid.engine import protocol
from lathed_solid.engine.starter import Starter
from lathed_solid.kernel.errors import KernelFailed, WorkerLost

log = logging.getLogger(__name__)


#: how long a caller that blocks waits for an answer, s
PATIENCE = 600.0
#: how long a worker may take to start, and to be gone, s
START, GONE = 60.0, 5.0


@dataclass(frozen=True)
class Lost:
    """The worker died on the request (None: it was idle). Work goes on with a new one."""

    request: int | None
    message: str


A = TypeVar("A", bound=BaseModel)

Message = protocol.Answer | Lost


class _Worker:
    """One process and the pipe to it. Ready, and known by its ``pid``, once its first message has come."""

    def __init__(self, error_log: Path | None) -> None:
        ours, theirs = socket.socketpair()
        with theirs, _stderr(error_log) as errors:
            try:
                self._number = Starter.here().bear(theirs.fileno(), errors.fileno())
            except OSError as exc:
                ours.close()
                raise WorkerLost(
                    "the geometry worker cannot start",
                    rule=exc.strerror or "",
                    hint="free some memory and try again",
                ) from None
        self.connection = Connection(ours.detach())
        self.pid = 0

    def kill(self) -> None:
        """Have it ended."""
        Starter.here().end(self._number)

    def close(self) -> None:
        """End it; one that is ready is gone when this returns."""
        self.kill()
        if self.pid:
            self._drained()
        self.connection.close()

    def _drained(self) -> None:
        """Its pipe has an end once it is gone."""
        with contextlib.suppress(EOFError, OSError):
            while self.connection.poll(GONE):
                self.connection.recv_bytes()


def _stderr(error_log: Path | None) -> Any:
    return open(error_log or os.devnull, "ab")  # noqa: PTH123 - handed to the process


class KernelClient:
    """The kernel as seen from outside: ask, poll, cancel, close."""

    def __init__(self, *, error_log: Path | None = None, patience: float = PATIENCE) -> None:
        self._patience = patience
        self._error_log = error_log
        self._worker = _Worker(error_log)
        self._request = 0
        self._open: int | None = None
        #: what was seen of the open build ahead of its reply
        self._pictured: protocol.Pictured | None = None

    # state -------------------------------------------------------------------------------------
    def fileno(self) -> int:
        """Readable when ``poll`` has something. Changes when the worker is replaced."""
        return self._worker.connection.fileno()

    @property
    def connection(self) -> Connection:
        """What becomes readable when ``poll`` has something."""
        return self._worker.connection

    @property
    def pid(self) -> int:
        """Of the worker that is at work; 0 before it is ready."""
        return self._worker.pid

    @property
    def busy(self) -> bool:
        """Whether a request is open."""
        return self._open is not None

    # requests ----------------------------------------------------------------------------------
    def ask(self, request: protocol.Request) -> int:
        """Send a request; its number. A worker that is gone is replaced first."""
        self._request += 1
        self._open, self._pictured = self._request, None
        numbered = request.model_copy(update={"request": self._request})
        try:
            protocol.send(self._worker.connection, numbered)
        except OSError:
            self._replace()
            # one that dies at once too is told by poll, as lost
            with contextlib.suppress(OSError):
                protocol.send(self._worker.connection, numbered)
        return self._request

    def cancel(self) -> None:
        """Give up the open request: the worker ends, a new one takes over."""
        if self._open is not None:
            self._open = None
            self._replace()

    def drop(self) -> None:
        """Say that the open request is not wanted any more: it is answered soon, by ``Dropped`` or as it was asked."""
        if self._open is not None:
            with contextlib.suppress(OSError):  # a worker that is gone is told by poll
                protocol.send(self._worker.connection, protocol.Drop(request=self._open))

    # answers -----------------------------------------------------------------------------------
    def poll(self, timeout: float = 0.0) -> Message | None:
        """The next message, or None. A lost worker is replaced before ``Lost`` is returned."""
        try:
            while self._worker.connection.poll(timeout):
                answer = protocol.receive_answer(self._worker.connection)
                if isinstance(answer, protocol.Ready):
                    self._worker.pid = answer.pid
                elif answer.request == self._open:
                    if isinstance(answer, protocol.Pictured):
                        self._pictured = answer
                    elif not isinstance(answer, protocol.Progress):
                        self._open = None
                    if isinstance(answer, protocol.BuildReply):
                        return answer.with_picture(self._pictured)
                    return answer
        except (EOFError, OSError, ValueError):
            return self._lost()
        return None

    def _lost(self) -> Lost:
        request, self._open = self._open, None
        was_ready = self._worker.pid != 0
        self._replace()
        log.error("worker lost on request %s", request)
        if not was_ready:
            return Lost(request, "the geometry worker stopped before it was ready; a new one was started")
        return Lost(request, "the geometry worker stopped; nothing is lost, a new one has taken over")

    def _replace(self) -> None:
        self._worker.close()
        self._worker = _Worker(self._error_log)

    def wait(
        self,
        request: int,
        *,
        timeout: float | None = None,
        on_progress: Callable[[protocol.Progress], None] | None = None,
    ) -> Message:
        """Block until ``request`` is answered. Raises WorkerLost when it is lost, or ``timeout`` (s) passes once the
        worker has started.
        """
        timeout = self._patience if timeout is None else timeout
        started = time.monotonic() + START
        end = time.monotonic() + timeout
        while (left := end - time.monotonic()) > 0:
            message = self.poll(min(left, 0.5))
            if self._worker.pid == 0 and time.monotonic() < started:
                end = time.monotonic() + timeout
            if isinstance(message, protocol.Progress):
                if on_progress is not None:
                    on_progress(message)
            elif isinstance(message, Lost):
                raise WorkerLost(message.message)
            elif isinstance(message, protocol.Pictured):
                continue
            elif message is not None and message.request == request:
                return message
        self.cancel()
        raise WorkerLost(f"no answer within {timeout:g} s", hint="a simpler part, or more time")

    def answer(
        self, request: protocol.Request, of: type[A], on_progress: Callable[[protocol.Progress], None] | None = None
    ) -> A:
        """Ask and block until it is answered. Raises WorkerLost, and KernelFailed with the kernel's words."""
        message = self.wait(self.ask(request), on_progress=on_progress)
        if isinstance(message, of):
            return message
        raise KernelFailed(getattr(message, "message", "the kernel gave no answer"))

    def kill(self) -> None:
        """End what it is at, from any thread: who waits for it is told that it is lost."""
        self._worker.kill()

    def close(self) -> None:
        """End the process."""
        self._worker.close()

    def __enter__(self) -> KernelClient:
        return self

    def __exit__(self, *_: object) -> None:
        self.close()
